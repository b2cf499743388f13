import { nanometres, type Length } from '../units/length.ts';

/** Ways that a fine boring cycle shifts the tool off the wall, in the machine's axes. */
export const SHIFTS = ['X+', 'X-', 'Y+', 'Y-'] as const;
export type Shift = (typeof SHIFTS)[number];

export interface BoringShift {
  line: number;
  /** Q gives the length, and the machine's setting the direction. */
  byMachine: boolean;
  /** What I and J say; null: along both axes at once, not at all, or by the machine. */
  direction: Shift | null;
  shift: Length;
  /** I or J stand in the block and count for nothing, because Q overrides them. */
  overridden: boolean;
}

/**
 * The shift at the bottom of a fine bore (H10): Q in the machine's own direction, else I along X and J along Y, signed. Q
 * overrides I and J. Null when the block says none of the three.
 * @param words what the block says, millimetres; null where a letter is not there
 */
export function boringShift({
  q,
  i,
  j,
}: {
  q: number | null;
  i: number | null;
  j: number | null;
}): Omit<BoringShift, 'line'> | null {
  if (q === null && i === null && j === null) return null;
  const [x, y] = [i ?? 0, j ?? 0];
  const inNanometres = (value: number) => nanometres(Math.round(Math.abs(value) * 1e6));
  if (q !== null && q !== 0)
    return { byMachine: true, direction: null, shift: inNanometres(q), overridden: x !== 0 || y !== 0 };
  return {
    byMachine: false,
    direction: along(x, y),
    shift: inNanometres(Math.hypot(x, y)),
    overridden: false,
  };
}

const along = (x: number, y: number): Shift | null => {
  if ((x === 0) === (y === 0)) return null;
  return x !== 0 ? (x > 0 ? 'X+' : 'X-') : y > 0 ? 'Y+' : 'Y-';
};

/** The direction of a shift on a machine whose setting gives Q this one; null when it is none of the four. */
export const directionOf = ({ byMachine, direction }: BoringShift, machine: Shift): Shift | null =>
  byMachine ? machine : direction;

/** Where the tip must point so that the shift takes it off the wall: the other way. */
export const tipFor = (shift: Shift): Shift => `${shift[0]}${shift[1] === '+' ? '-' : '+'}` as Shift;

/** As it is written for people: X−, with a real minus. */
export const shiftWords = (shift: Shift): string => shift.replace('-', '−');

/** Plenty to come off the wall: 0.010 in, 0.25 mm (common practice, no source: H10). */
export const PLENTY: Length = nanometres(254_000);
