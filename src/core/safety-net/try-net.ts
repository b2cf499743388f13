import { Expression, isUnknown } from '../program/expression.ts';
import type { Dialect } from '../program/dialect.ts';
import type { NetProfile } from '../program/net-profile.ts';
import { ProgramRun } from '../program/program-run.ts';
import { NM_PER, type Length, type LengthUnit } from '../units/length.ts';
import { shownAs, writeNet, type Net, type NetTool } from './net.ts';

/** What a control holds when the net is called: the T that is in, and its rows. */
export interface Control {
  /** What the variable of the last T shows. */
  shown: number;
  registers: readonly { kind: string; row: number; value: Length }[];
  /** Unit that registers are shown in just now. */
  unit: LengthUnit;
}

/** The variable that a template means for a row; null where it is none. */
export function variableOf(template: string, row: number): number | null {
  const text = template.replaceAll('{row}', String(row));
  const at = text.indexOf('#');
  if (at < 0) return null;
  const value = new Expression(text, at + 1, text.length, () => null).value();
  return value === null || isUnknown(value) || !Number.isInteger(value) ? null : value;
}

/**
 * Runs a net with the reader's own macro evaluator, on a control that is thought up.
 * @returns the text of the alarm; null: none; 'unknown': it hangs on what was not said
 */
export function tryNet(
  lines: readonly string[],
  dialect: Dialect & { net: NetProfile },
  control: Control,
): string | null {
  const { net } = dialect;
  const known = control.registers.flatMap(({ kind, row, value }) => {
    const variable = variableOf(net.registers[kind] ?? '', row);
    return variable === null ? [] : [{ variable, value: value / NM_PER[control.unit] }];
  });
  known.push({ variable: Number(net.activeTool.slice(1)), value: control.shown });
  const unit = /^#(\d+) EQ (\d+)$/.exec(net.inches ?? '');
  if (unit) known.push({ variable: Number(unit[1]), value: control.unit === 'in' ? Number(unit[2]) : -1 });
  // what runs it does not call it
  const run = new ProgramRun(lines.join('\n'), { ...dialect, net: null }, { known });
  run.main();
  if (run.alarm !== null) return /\(([^()]*)\)\s*$/.exec(run.alarm)?.[1] ?? run.alarm;
  return run.result().remarks.length > 0 ? 'unknown' : null;
}

/** A mistake of H1 as it would stand at the control. */
interface Slip {
  words: string;
  /** What it does to a register; null: it cannot be made with this value. */
  make: (value: Length, next: Length | null) => Length | null;
}

export const SLIPS: readonly Slip[] = [
  { words: 'left at zero', make: () => 0 as Length },
  { words: 'sign turned', make: (value) => -value as Length },
  { words: 'another tool’s length', make: (_, next) => next },
  { words: 'typed in the other unit', make: (value) => Math.round(value / 25.4) as Length },
  { words: 'decimal point one place off', make: (value) => (value * 10) as Length },
];

export interface Tried {
  words: string;
  caught: number;
  /** T whose mistake stays within the tolerance, or cannot be seen. */
  missed: number[];
}

/**
 * Tries a net against the record it was written from: every tool as it is must pass or be stopped by its flag, and each mistake must be
 * stopped on each tool.
 * @returns what was stopped that is right, and for each mistake how often it was caught
 */
export function tryAll(
  dialect: Dialect & { net: NetProfile },
  net: Net,
): { wrongly: number[]; slips: Tried[] } | null {
  const written = writeNet(dialect.net, net);
  if (!written.ok) return null;
  const run = (tool: NetTool, registers: Control['registers']) =>
    tryNet(written.lines, dialect, { shown: shownAs(tool, net.rowDigits), registers, unit: net.unit });
  const all = net.tools.flatMap(({ row, lengths }) => lengths.map((each) => ({ ...each, row })));
  const wrongly = net.tools.flatMap((tool) =>
    !tool.flag &&
    tool.lengths.every(({ value, zeroIsRight }) => value !== 0 || zeroIsRight) &&
    run(tool, all) !== null
      ? [tool.tool]
      : [],
  );
  const slips = SLIPS.map(({ words, make }): Tried => {
    let caught = 0;
    const missed = new Set<number>();
    for (const [i, tool] of net.tools.entries())
      for (const { kind, value } of tool.lengths) {
        const next = net.tools[(i + 1) % net.tools.length]?.lengths.find((each) => each.kind === kind);
        const wrong = make(value, next?.value ?? null);
        if (wrong === null || wrong === value || tool.flag) continue;
        const held = all.map((each) =>
          each.kind === kind && each.row === tool.row ? { ...each, value: wrong } : each,
        );
        if (run(tool, held) === null) missed.add(tool.tool);
        else caught += 1;
      }
    return { words, caught, missed: [...missed] };
  });
  return { wrongly: [...new Set(wrongly)], slips };
}
