import { allowances, keptAway, type FirstPlan } from '../correction/first-part-plan.ts';
import type { FirstEvent } from '../correction/first-part-state.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatWithUnit } from '../units/format-length.ts';
import type { Length } from '../units/length.ts';
import { capital } from '../words/capital.ts';
import { calledRows } from './called-rows.ts';
import type { Finder } from './question.ts';

/** A row that stands away from the part by the allowance of a first part that was not brought to its end (H13). */
export interface KeptAway {
  row: number;
  kind: string;
  change: Length;
  /** Of which program. */
  program: string;
  /** It is still being brought to size. */
  open: boolean;
}

/** Registers of a first part, by their place in its plan, that stand away from the part for it and were not moved by it since. */
export function stillAway(
  plan: FirstPlan,
  events: readonly FirstEvent[],
): { register: number; change: Length }[] {
  const keyed = events.flatMap((event) => (event.what === 'keyed' ? event.changes : []));
  const first = keptAway(plan);
  const times = (list: readonly { register: number }[], register: number) =>
    list.filter((each) => each.register === register).length;
  return [...allowances(plan)]
    .filter(([register]) => times(keyed, register) === times(first, register))
    .map(([register, change]) => ({ register, change }));
}

/** An allowance that nobody took back: its tool cuts away from the part by as much, and nobody remembers why (H13, H19). */
export const keptAwayLeft: Finder = ({ tool, calls }, { machine, program, keptAway: left }) => {
  const { lineOf } = calledRows(calls);
  return (left ?? []).flatMap(({ row, kind, change, program: of, open }) => {
    const line = lineOf({ row, kind });
    // of the program itself it is meant so
    if (line === undefined || (open && of === program.name)) return [];
    return [
      {
        weight: 'look' as const,
        code: 'keptAway' as const,
        tool,
        line,
        sentence: `${capital(REGISTER_WORDS[kind] ?? kind)} of row ${row}, which T${tool} uses on line ${line}, still holds ${formatWithUnit(change, machine.unit, { sign: 'always' })} of allowance from the first part of ${of}, which ${open ? 'is not brought to size yet' : 'was dropped'}.`,
        remedy: open
          ? 'Bring that first part to its end, or take the allowance back.'
          : 'Take the allowance back before a part is cut to size.',
      },
    ];
  });
};
