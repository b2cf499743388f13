import {
  cyclePlaces,
  partsWith,
  placeOfPart,
  placeWords,
  sameCycle,
  type InCycle,
} from '../core/inspection/cycle-place.ts';
import { rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { palletsCut } from './pallet-counts.ts';
import { callsOf, featuresOf, type Feature } from './programs.ts';

type Size = Pick<Feature, 'tool' | 'row'>;

/** The parts that come off together in a job. */
export interface Cycle {
  /** How many; one: nothing is told apart. */
  parts: number;
  /** The parts that come off together with one; that alone where nobody can tell. */
  with: (part: number) => number[];
  /** Which of them a size is of, where rows of their own tell them apart; null: any of them, or nobody can tell. */
  rowOf: (size: Size) => InCycle | null;
  /** In which of the places that are cut with the same rows a part was cut, told by who has it in the hand: which; undefined: by its number; null: not known. Null: in the only one, or nobody can tell. */
  told: (size: Size, part: number, place: number | null | undefined) => InCycle | null;
  /** In how many places the same rows cut it. */
  sameRows: (size: Size) => number;
  /** The same; one as well where nobody can tell which part was cut where. */
  placesOf: (size: Size) => number;
}

const ALONE: Cycle = {
  parts: 1,
  with: (part) => [part],
  rowOf: () => null,
  told: () => null,
  sameRows: () => 1,
  placesOf: () => 1,
};

const cycleOfJob = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; programId: number; made: number; parts: number }>(
    db,
    'SELECT j.id AS "of", j.program_id AS "programId", j.made, g.parts_per_cycle AS parts FROM job j JOIN program g ON g.id = j.program_id WHERE j.id = ANY($1)',
    [ids],
  ),
);

/** Which of the parts that come off together is which: by rows of their own, and by their numbers where the parts are counted by whole cycles. */
export async function cycleOf(db: Db, jobId: number | null): Promise<Cycle> {
  const [job] = jobId === null ? [] : await cycleOfJob(db, jobId);
  if (!job || job.parts < 2) return ALONE;
  const { parts } = job;
  const places = cyclePlaces(await callsOf(db, job.programId), parts);
  // after half a cycle nobody knows which part of it the next number is
  const whole = job.made % parts === 0;
  const own = ({ tool, row: size }: Size) => places?.(tool, size) ?? null;
  const placeOf = (size: Size, part: number) =>
    whole && part > 0 && own(size) === null ? { place: placeOfPart(part, parts), parts } : null;
  return {
    parts,
    with: (part) => (whole && part > 0 ? partsWith(part, parts) : [part]),
    rowOf: (size) => {
      const place = own(size);
      return whole && place !== null ? { place, parts } : null;
    },
    told: (size, part, place) => {
      if (place === undefined) return placeOf(size, part);
      return place === null || place > parts || own(size) !== null ? null : { place, parts };
    },
    sameRows: (size) => (own(size) === null ? parts : 1),
    placesOf: (size) => (whole && own(size) === null ? parts : 1),
  };
}

/** All places that the parts of a job made until now were cut in with the rows of a size, on whichever pallet. */
export async function placesCut(db: Db, jobId: number, size: Size): Promise<InCycle[]> {
  const [job] = await cycleOfJob(db, jobId);
  const parts = (await cycleOf(db, jobId)).sameRows(size);
  const cut = (await palletsCut(db, jobId)).filter(({ first }) => first <= (job?.made ?? 0));
  const pallets = [...new Set(cut.map(({ pallet }) => pallet))];
  return Array.from({ length: parts }, (_, i) => ({ place: i + 1, parts })).flatMap((place) =>
    pallets.length === 0 ? [place] : pallets.map((pallet) => ({ ...place, pallet })),
  );
}

/** Why a part of a job cannot be the one that a size was measured on: another row cut it. Null: nothing speaks against it. */
export function placeDoubts(
  db: Db,
  { rowOf }: Cycle,
): (size: Feature, part: number) => Promise<string | null> {
  return async (size, part) => {
    const own = rowOf(size);
    if (own === null || part < 1) return null;
    const is = placeOfPart(part, own.parts);
    if (is === own.place) return null;
    const alike = (await featuresOf(db, size.machineId, size.programNumber)).find(
      (each) =>
        each.tool === size.tool &&
        each.kind === size.kind &&
        each.nominal === size.nominal &&
        rowOf(each)?.place === is,
    );
    return `Part ${part} is the ${placeWords(is, own.parts)} that come off together, which T${size.tool} cuts with another row${alike ? ` (${alike.row})` : ''}; "${size.name}" is of row ${size.row}, on the ${placeWords(own.place, own.parts)}. Is it part ${sameCycle(part, own)}${alike ? `, or "${alike.name}"` : ''}?`;
  };
}
