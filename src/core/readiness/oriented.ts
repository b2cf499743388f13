import { directionOf, PLENTY, shiftWords, tipFor, type Shift } from '../program/boring-shift.ts';
import type { ToolCall } from '../program/reading.ts';
import { formatWithUnit } from '../units/format-length.ts';
import type { LengthUnit } from '../units/length.ts';
import type { Finding } from './question.ts';

/** The machine's own of fine boring: which way Q shifts, and the unit for the words. */
export interface ShiftSetting {
  boringShift: Shift;
  unit: LengthUnit;
}

/**
 * What a fine boring tool must be looked at for before its job (H10): which way its tip must point, a shift that two lines
 * give two ways, I and J that Q overrides, and a shift that is longer than needed.
 */
export function orientedFindings(
  calls: readonly ToolCall[],
  setting: ShiftSetting,
  tip: { way: Shift; person: string } | null = null,
): Finding[] {
  const shifts = calls.flatMap((call) => call.boringShifts);
  const first = shifts[0];
  if (!first) return [];
  const { tool } = calls[0]!;
  const show = (value: (typeof first)['shift']) => formatWithUnit(value, setting.unit);
  const at = { code: 'boringShift' as const, tool, line: first.line };
  const ways = [...new Set(shifts.map((shift) => directionOf(shift, setting.boringShift)))];
  const found: Finding[] = [];
  if (ways.length > 1 || ways[0] === null)
    found.push({
      ...at,
      weight: 'stop',
      sentence:
        ways.length > 1
          ? `T${tool} is shifted ${ways.map((way) => (way ? shiftWords(way) : 'along both axes')).join(' and ')}: one bar cannot point both ways.`
          : `T${tool} is shifted along both axes, or not at all, on line ${first.line}: no tip can be set to that.`,
      remedy: 'Give the program back to the programmer: one shift, straight away from the tip.',
    });
  else {
    const way = ways[0]!;
    const shifted = `T${tool} is shifted ${shiftWords(way)} by ${show(first.shift)} on line ${first.line}`;
    const wall = tip !== null && tip.way !== tipFor(way);
    found.push({
      ...at,
      weight: tip === null ? 'look' : wall ? 'stop' : 'settled',
      sentence: wall
        ? `${shifted}, and its tip points ${shiftWords(tip.way)}: it would be driven into the wall.`
        : `${shifted}: its tip must point ${shiftWords(tipFor(way))}.`,
      remedy:
        tip === null
          ? 'Orient the spindle, watch it stop, and look at the tip. Put in the other way round, it is driven into the wall.'
          : wall
            ? 'Put it in the other way round, or give the program back: see the bore from above.'
            : `It points so: ${tip.person} looked since it was put there.`,
    });
  }
  const overridden = shifts.find((shift) => shift.overridden);
  if (overridden)
    found.push({
      ...at,
      line: overridden.line,
      weight: 'stop',
      sentence: `I or J on line ${overridden.line} has no effect: Q overrides it, and T${tool} is shifted ${shiftWords(setting.boringShift)}.`,
      remedy: 'For a bar that faces another way it is not enough to add I or J: the Q must go.',
    });
  const longest = shifts.reduce((most, each) => (each.shift > most.shift ? each : most));
  if (longest.shift > PLENTY)
    found.push({
      ...at,
      line: longest.line,
      weight: 'look',
      sentence: `T${tool} is shifted by ${show(longest.shift)} on line ${longest.line}; ${show(PLENTY)} is plenty.`,
      remedy: 'A long shift takes the back of the bar into the wall: check the room behind it.',
    });
  return found;
}
