import { explainReadBack } from '../core/correction/read-back.ts';
import { registerDecimals } from '../core/correction/register-text.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { entry } from '../core/ledger/entry.ts';
import {
  copyFamily,
  familyFault,
  shiftOf,
  type Copied,
  type CopyAnswer,
  type SecondPart,
} from '../core/length/second-part.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { type Db } from './db.ts';
import { append } from './ledger.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { placesOf } from './places.ts';
import { registersOf } from './registers.ts';

export interface Family extends SecondPart {
  rows: readonly number[];
  block: number;
}

/** What the block of the second part holds and is to hold; or why these rows cannot be copied. */
export async function secondPart(
  db: Db,
  machine: Machine,
  family: Family,
): Promise<{ ok: true; copied: Copied[] } | { ok: false; reason: string }> {
  const [registers, places] = await Promise.all([registersOf(db, machine.id), placesOf(db, machine.id)]);
  const fault = familyFault(
    family.rows,
    family.block,
    [...new Set(registers.map(({ row }) => row))],
    places.flatMap(({ tool, assembly }) => (assembly && tool !== null ? [tool] : [])),
  );
  if (fault) return { ok: false, reason: fault };
  return { ok: true, copied: copyFamily(registers, family.rows, family.block, shiftOf(family)) };
}

/** Takes what the rows of the block show after keying: each that shows what it should is on record from then on. */
export function readCopies(
  asking: Asking,
  machine: Machine,
  family: Family,
  shown: readonly { registerId: number; value: Length }[],
) {
  return once(
    asking,
    'readCopies',
    { machineId: machine.id, family, shown },
    async (db): Promise<CopyAnswer[]> => {
      await lockMachine(db, machine.id);
      const found = await secondPart(db, machine, family);
      if (!found.ok) throw new Refused(found.reason);
      const answers: CopyAnswer[] = [];
      for (const { registerId, value } of shown) {
        const copy = found.copied.find((each) => each.registerId === registerId);
        if (!copy) throw new Refused('The rows changed meanwhile. Look at the table again.');
        const reading = explainReadBack(value, {
          row: copy.row,
          from: copy.before,
          to: copy.after,
          unit: machine.unit,
          decimals: registerDecimals(machine.unit, machine.increment),
          neighbours: found.copied
            .filter((each) => each.kind === copy.kind && Math.abs(each.row - copy.row) === 1)
            .map((each) => ({ row: each.row, value: each.after })),
        });
        if (!reading.matches) {
          answers.push({ registerId, kept: false, said: `${reading.reason} ${reading.remedy}` });
          continue;
        }
        if (copy.before !== copy.after)
          await append(
            db,
            entry.register('found', {
              personId: asking.personId,
              machineId: machine.id,
              assemblyId: null,
              tool: null,
              registerId,
              before: copy.before,
              after: copy.after,
              said: `${REGISTER_WORDS[copy.kind]} of row ${copy.row} was keyed for a second part and read back.`,
              why: `Copied from row ${copy.from}${copy.kind === 'zGeometry' ? `, ${formatWithUnit(shiftOf(family), machine.unit, { sign: 'always' })} towards the chuck` : ''}.`,
            }),
          );
        answers.push({ registerId, kept: true, said: '' });
      }
      return answers;
    },
  );
}
