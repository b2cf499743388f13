import type { RowUse } from '../program/reading.ts';

/** A call of a tool, with the rows that it is called with. */
export interface PlacingCall {
  tool: number;
  lengthRows: readonly RowUse[];
}

/** Which of the parts that come off together, from 1, and how many those are. */
export interface InCycle {
  place: number;
  parts: number;
  /** The number of the pallet that it was clamped on; null or left out: on none, or nobody knows. */
  pallet?: number | null;
}

/** Parts of a job that were cut on one pallet, the first to the last of them. */
export interface OnPallet {
  first: number;
  last: number;
  pallet: number;
}

/** Which of the parts that one cycle makes, from 1, a tool cuts with a row; null: any of them. */
export type CyclePlaces = (tool: number, row: number) => number | null;

/**
 * Two parts from one bar, or from one clamping, cut one after the other with rows of their own each (H8): which row cuts which of them.
 * A tool that is called with as many rows as parts come off cuts the first with the row that comes first, and so on. That a single
 * tool is called with two rows may be for two sizes of the same part: it takes two tools, and all calls for one part before any for
 * the next.
 *
 * @param calls of the program, in any order
 * @param parts that come off together
 * @returns null where rows do not tell parts apart
 */
export function cyclePlaces(calls: readonly PlacingCall[], parts: number): CyclePlaces | null {
  if (parts < 2) return null;
  const byTool = new Map<number, Map<number, { first: number; last: number }>>();
  for (const { tool, lengthRows } of calls)
    for (const { row, line } of lengthRows) {
      const uses = byTool.get(tool) ?? new Map<number, { first: number; last: number }>();
      const known = uses.get(row) ?? { first: line, last: line };
      uses.set(row, { first: Math.min(known.first, line), last: Math.max(known.last, line) });
      byTool.set(tool, uses);
    }
  const placed = new Map(
    [...byTool].flatMap(([tool, uses]) =>
      uses.size === parts ? [[tool, [...uses].sort(([, a], [, b]) => a.first - b.first)] as const] : [],
    ),
  );
  if (placed.size < 2) return null;
  const tools = [...placed.values()];
  for (let place = 1; place < parts; place += 1) {
    const ends = Math.max(...tools.map((uses) => uses[place - 1]![1].last));
    const begins = Math.min(...tools.map((uses) => uses[place]![1].first));
    if (ends >= begins) return null;
  }
  return (tool, row) => {
    const at = placed.get(tool)?.findIndex(([own]) => own === row) ?? -1;
    return at < 0 ? null : at + 1;
  };
}

/** Which of the parts of its cycle a part is, from 1, where parts are counted as they come off. */
export const placeOfPart = (part: number, parts: number): number => ((part - 1) % parts) + 1;

/** The last part up to this one that is so many-th of its cycle; the first of them where none is. */
export function lastOfPlace(part: number, place: number, parts: number): number {
  const back = (placeOfPart(Math.max(1, part), parts) - place + parts) % parts;
  return part - back >= 1 ? part - back : place;
}

/** The first part from this one on that is so many-th of its cycle. */
export const nextOfPlace = (part: number, place: number, parts: number): number =>
  part + ((place - placeOfPart(part, parts) + parts) % parts);

/** The part of the same cycle that is so many-th of it. */
export const sameCycle = (part: number, { place, parts }: InCycle): number =>
  part - placeOfPart(part, parts) + place;

/** All parts of the cycle that a part came off with, itself among them. */
export const partsWith = (part: number, parts: number): number[] =>
  Array.from({ length: parts }, (_, i) => sameCycle(part, { place: i + 1, parts }));

/** The last part up to this one that a size is of, but none before `least`: then the first from there on. Null: it is of each. */
export function lastWith(part: number, of: InCycle | null, least = 1): number {
  if (of === null) return Math.max(part, least);
  const last = lastOfPlace(part, of.place, of.parts);
  return last >= least ? last : nextOfPlace(least, of.place, of.parts);
}

/**
 * The place whose part is measured next, of as many as are cut with the same rows: the one that was measured longest ago; of those that
 * never were the last, whose part is at hand. Whether a correction took is told by the place it was worked out from: how far another
 * stands off that one is not known as well.
 *
 * @param measured the places measured so far, that of the newest part last
 */
export function placeInTurn(measured: readonly number[], places: number, afterCorrection = false): number {
  if (afterCorrection && measured.length > 0) return measured.at(-1)!;
  const last = Array.from({ length: places }, (_, i) => measured.lastIndexOf(i + 1));
  return last.lastIndexOf(Math.min(...last)) + 1;
}

/** Where a size was measured, as far as is known: in which place of the cycle, and on which pallet. */
export interface MeasuredIn {
  place: number | null;
  pallet: number | null;
}

/** The places that a size was measured in on a pallet, the newest last; null: it is on none, or nobody knows. */
export const placesOn = (measured: readonly MeasuredIn[], pallet: number | null): number[] =>
  measured.flatMap((each) =>
    (pallet === null || each.pallet === pallet) && each.place !== null ? [each.place] : [],
  );

/** Whether a size was measured on a job in one place of the cycle, but not in each, or not on the pallet that is cut now. Null: neither. */
export function placesLeft(
  measured: readonly MeasuredIn[],
  { places, pallet }: { places: number; pallet: number | null },
): 'pallet' | 'place' | null {
  const all = placesOn(measured, null);
  if (all.length > 0 && new Set(all).size < places) return 'place';
  return pallet !== null && measured.length > 0 && measured.every((each) => each.pallet !== pallet)
    ? 'pallet'
    : null;
}

/** A name for a place of a cycle, and a pallet, by which it is told from others; one for those of which nobody knows. */
export const placeKey = (place: InCycle | null): string =>
  place === null ? 'unknown' : `${place.pallet ?? ''} ${place.place}/${place.parts}`;

/** The pallet that a part was cut on; null: on none, or nobody knows. */
export const palletOf = (on: readonly OnPallet[], part: number): number | null =>
  on.find(({ first, last }) => first <= part && part <= last)?.pallet ?? null;

/**
 * Where a part was cut, of what is known of its place and its pallet; null where nothing is.
 *
 * @param place among those that come off together; null: it comes off alone, or nobody can tell
 */
export const onPallet = (place: InCycle | null, pallet: number | null): InCycle | null =>
  pallet === null ? place : { place: 1, parts: 1, ...place, pallet };

/** Whether a part came off in a later cycle than another. */
export const inLaterCycle = (part: number, other: number, parts: number): boolean =>
  Math.ceil(part / parts) > Math.ceil(other / parts);

/** The part that most sizes are asked for on; of several the first. Null: none. */
export const mostAsked = (parts: readonly number[]): number | null =>
  [...new Set(parts)]
    .map((part) => ({ part, sizes: parts.filter((each) => each === part).length }))
    .sort((a, b) => b.sizes - a.sizes || a.part - b.part)[0]?.part ?? null;

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];
/** "second of two", as a place in a cycle is said. */
export const placeWords = (place: number, parts: number): string =>
  `${ORDINALS[place - 1] ?? `${place}th`} of ${parts === 2 ? 'the two' : `the ${parts}`}`;

/** "second of the two on pallet 3", of what is known of it. */
export const whereCut = ({ place, parts, pallet }: InCycle): string =>
  [
    ...(parts === 1 ? [] : [placeWords(place, parts)]),
    ...(typeof pallet === 'number' ? [`pallet ${pallet}`] : []),
  ].join(' on ');
