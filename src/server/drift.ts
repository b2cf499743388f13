import { capability, indices, shareOut, type Capability } from '../core/chart/capability.ts';
import { averages, ewma, individuals, type ControlChart } from '../core/chart/control-chart.ts';
import { seriesOf } from '../core/correction/cut-with.ts';
import {
  byEndOfEdge,
  driftOf,
  measureEvery,
  type Drift,
  type DriftQuestion,
} from '../core/correction/drift.ts';
import { byPlace } from '../core/correction/by-place.ts';
import { edgeState } from '../core/correction/edge-state.ts';
import { modelOf, nearestToLimit } from '../core/correction/judge-question.ts';
import type { LabHistory, LabProcess, LabSize } from '../core/correction/lab.ts';
import { placeKey, type InCycle } from '../core/inspection/cycle-place.ts';
import { largest, smallest } from '../core/inspection/feature.ts';
import { suspectsByPlace, type SuspectInPlace } from '../core/inspection/quarantine.ts';
import type { Length } from '../core/units/length.ts';
import { broughtIn } from './brought-in.ts';
import { placesCut } from './cycle-places.ts';
import { rows, type Db } from './db.ts';
import { gaugeNamed } from './gauges.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf, type Evidence } from './evidence.ts';
import type { Machine } from './machines.ts';
import { cutNow } from './members.ts';
import type { Feature } from './programs.ts';

interface Read {
  id: number;
  jobId: number | null;
  programId: number;
  part: number;
  measured: Length;
  at: Date;
  person: string;
  place: InCycle | null;
}

/** A step on the chart: where it lies in the row of parts, and what happened there. */
export interface ChartStep {
  at: number;
  words: string;
  kind: 'correction' | 'edge' | 'jump';
}

export interface DriftPage {
  points: { at: number; part: number; deviation: number; uncorrected: number }[];
  drift: Drift;
  steps: ChartStep[];
  /** It was set up anew since it was measured: all that is told is of the set-up before. */
  setUpSince: boolean;
  /** Another edge is in since it was measured: where it stands is where such edges began. */
  edgeSince: boolean;
  /** Its row is kept away on purpose while a first part is brought to size. */
  broughtIn: boolean;
  /** The last time it jumped, as no wear does: between these two parts measured, by how much, and how likely it did. */
  jump: { after: number; before: number; by: number; error: number; likely: number } | null;
  /** Parts between two readings that hold the risk; and between two that were typed. */
  every: number;
  measured: number;
  /** The spread of single parts alone puts more out than the risk that was asked for. */
  spreads: boolean;
  charts: {
    x: ControlChart;
    ranges: ControlChart;
    ewma: ControlChart;
    groups: { x: ControlChart; ranges: ControlChart } | null;
  } | null;
  /** What the parts as cut make of their limits, and what they would without what was corrected. */
  cut: Capability | null;
  within: { cp: number; cpk: number } | null;
  suspects: SuspectInPlace[];
  /** The places of the cycle that it was measured in, where those are several, and which of them all this is of. */
  places: string[];
  place: number | null;
  /** Parts that the edge of its own tool has left, and what becomes of the size by then; null: nobody counts it. */
  end: (ReturnType<typeof byEndOfEdge> & { left: number }) | null;
  lab: { size: LabSize; process: LabProcess; history: LabHistory } | null;
}

/** Fewer readings than this have no chart. */
const CHARTED = 5;
/** Weight of the newest in the EWMA that is drawn. Source: NIST/SEMATECH e-Handbook 6.3.2.4: 0.2 to 0.3 (memory). */
const LAMBDA = 0.3;
/** Parts of a group on the chart of averages. */
const GROUP = 5;

/**
 * Where one size stands and goes, as the model is asked it, of the place that stands nearest to a limit or the one that is asked for.
 *
 * @returns null where no register holds it, or nothing was measured
 */
export async function sizeQuestion(db: Db, machine: Machine, planned: Feature, asked: number | null = null) {
  const [feature] = (await cutNow(db, machine.id, [planned])) as [Feature];
  const evidence = byPlace(await evidenceOf(db, machine, feature));
  const itself = evidence.features.findIndex(({ id }) => id === feature.id);
  const places = evidence.sizes.flatMap(({ place }, i) => (place?.of === itself ? [i] : []));
  const place =
    places.length === 0
      ? null
      : (places.find((_, i) => i === asked) ?? nearestToLimit(evidence, stateOf(evidence), places));
  const index = place ?? itself;
  const own = evidence.readings.filter((reading) => reading.size === index && reading.held !== null);
  // before a first reading in the newest set-up all that is known of the size is of the one before
  const lately = evidence.setUps.filter(({ size, at }) => size === index && at > (own.at(-1)?.at ?? 0));
  const told = evidence.setUps.filter((each) => !lately.includes(each));
  const setUps = told.filter(({ size }) => size === index);
  const question: DriftQuestion = {
    model: modelOf({ ...evidence, setUps: told }),
    size: index,
    held: evidence.registers.map(({ value }) => value),
    lower: smallest(feature) - feature.target,
    upper: largest(feature) - feature.target,
  };
  if (question.model.sizes[index]!.moves.length === 0 || own.length === 0) return null;
  return { feature, evidence, places, place, index, own, lately, setUps, question };
}

/** Where a size has been and where it goes; null where no register holds it, or nothing was measured. */
export async function driftPage(
  db: Db,
  machine: Machine,
  planned: Feature,
  risk: number,
  left: number | null,
  /** Which of its places; null: the one that stands nearest to a limit. */
  asked: number | null = null,
): Promise<DriftPage | null> {
  const asksOf = await sizeQuestion(db, machine, planned, asked);
  if (!asksOf) return null;
  const { feature, evidence, places, place, index, own, lately, setUps, question } = asksOf;
  // what is set aside is told of all its places
  const ids = evidence.readings
    .filter(({ size, held }) => held !== null && (size === index || places.includes(size)))
    .map(({ id }) => id);
  const all = await readOf(db, ids);
  const read = all.filter(({ id }) => own.some((each) => each.id === id));
  const byId = new Map(read.map((each) => [each.id, each]));
  const first = await broughtIn(db, machine.id);
  const ahead = Math.max(10, Math.min(200, Math.ceil((own.at(-1)!.at - own[0]!.at) / 6)));
  const drift = driftOf(question, ahead);
  const points = drift.points.map((point, i) => ({ ...point, part: byId.get(own[i]!.id)!.part }));
  const edges = evidence.edges
    .filter(({ register }) => question.model.sizes[index]!.moves.some((each) => each.register === register))
    .map(({ at }) => at);
  const beginnings = [...new Set([...edges, ...setUps.map(({ at }) => at)])].sort((a, b) => a - b);
  const jump = jumpOf(drift, question, points);
  const [values, within] = [points.map(({ deviation }) => deviation), rangesWithin(points, beginnings)];
  const charted = values.length >= CHARTED && within.length > 0;
  const single = charted ? individuals(values, within) : null;
  const spread = Math.sqrt(
    values.reduce((sum, each) => sum + (each - mean(values)) ** 2, 0) / Math.max(1, values.length - 1),
  );
  return {
    points,
    drift,
    steps: [
      ...edges.map((at): ChartStep => ({ at, kind: 'edge', words: 'new edge, or its row set anew' })),
      ...setUps.map(({ at }): ChartStep => ({ at, kind: 'edge', words: 'set up anew' })),
      ...correctionsOf(evidence, question),
      ...(jump ? [jump.step] : []),
    ].sort((a, b) => a.at - b.at),
    setUpSince: lately.length > 0,
    broughtIn: question.model.sizes[index]!.moves.some(({ register }) =>
      first?.registers.includes(evidence.registers[register]!.id),
    ),
    edgeSince: edges.some((at) => at > own.at(-1)!.at),
    jump: jump && jump.told,
    every: measureEvery(question, risk),
    measured: evidence.measured,
    spreads: shareOut(0, drift.state.noise, question.lower, question.upper) > risk,
    charts: single && {
      x: single.x,
      ranges: single.ranges,
      ewma: ewma(values, { lambda: LAMBDA, target: 0, sigma: single.sigma }),
      groups: values.length >= 2 * GROUP ? averages(values, GROUP) : null,
    },
    cut: capability(
      { mean: mean(values), sigma: spread, parts: values.length },
      question.lower,
      question.upper,
    ),
    within:
      single && single.sigma > 0 ? indices(mean(values), single.sigma, question.lower, question.upper) : null,
    suspects: await suspectsOf(
      db,
      all,
      feature,
      beginnings,
      evidence.readings.find(({ id }) => id === all.at(-1)!.id)!.at,
    ),
    places: places.map((each) => evidence.sizes[each]!.place!.words ?? 'place not known'),
    place: place === null ? null : places.indexOf(place),
    end: left === null ? null : { left, ...byEndOfEdge(question, left) },
    lab: labOf(evidence, question, drift, feature, beginnings, machine),
  };
}

const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;

const readOf = (db: Db, ids: readonly number[]) =>
  rows<Read>(
    db,
    `SELECT r.id, r.job_id AS "jobId", r.program_id AS "programId", r.part, r.measured, r.at, p.name AS person,
            CASE WHEN coalesce(r.place, r.pallet) IS NOT NULL THEN json_build_object('place', coalesce(r.place, 1), 'parts', coalesce(r.places, 1), 'pallet', r.pallet) END AS place
     FROM reading r JOIN person p ON p.id = r.person_id WHERE r.id = ANY($1) ORDER BY r.id`,
    [ids],
  );

/** Ranges between neighbours with what was corrected taken out; none across a new edge or set-up. */
const rangesWithin = (
  points: readonly { at: number; uncorrected: number }[],
  beginnings: readonly number[],
) =>
  points
    .slice(1)
    .flatMap((point, i) =>
      beginnings.some((at) => at > points[i]!.at && at <= point.at)
        ? []
        : [Math.abs(point.uncorrected - points[i]!.uncorrected)],
    );

/** Where the size jumped, by the parts of it that were measured. */
function jumpOf(
  { jump }: Drift,
  { model, size }: DriftQuestion,
  points: readonly { at: number; part: number }[],
): { told: DriftPage['jump']; step: ChartStep } | null {
  const move = model.sizes[size]!.moves.find(({ register }) => register === jump?.register);
  if (!jump || !move) return null;
  const after = points.findLast(({ at }) => at <= jump.after);
  const before = points.find(({ at }) => at >= jump.before);
  if (!after || !before) return null;
  const { by, error, likely } = jump;
  return {
    told: {
      after: after.part,
      before: before.part,
      by: by * move.by,
      error: error * Math.abs(move.by),
      likely,
    },
    step: { at: (after.at + before.at) / 2, kind: 'jump', words: 'it jumped' },
  };
}

/** Corrections of the rows of a size, each between the last part cut before it and the first after. */
const correctionsOf = (evidence: Evidence, { model, size }: DriftQuestion): ChartStep[] =>
  evidence.keyed.flatMap((keyed): ChartStep[] => {
    if (!model.sizes[size]!.moves.some(({ register }) => register === keyed.register)) return [];
    const first = keyed.since.map((i) => evidence.readings[i]!.at);
    const { row } = evidence.registers[keyed.register]!;
    return [
      {
        at: first.length > 0 ? Math.min(...first) - 0.5 : evidence.next - 0.5,
        kind: 'correction',
        words: `row ${row} by ${(keyed.to - keyed.from) / 1000} µm`,
      },
    ];
  });

/**
 * What to set aside, of the newest series that was measured.
 *
 * @param beginnings of edges and set-ups, in the row of all parts
 * @param place of the newest reading in that row
 */
async function suspectsOf(
  db: Db,
  read: readonly Read[],
  feature: Feature,
  beginnings: readonly number[],
  place: number,
): Promise<SuspectInPlace[]> {
  const newest = read.at(-1)!;
  // two readings of one part: the later is the one that counts
  const parts = new Map(
    read
      .filter((each) => seriesOf(each) === seriesOf(newest))
      .map(({ part, measured, place }) => [part, { part, measured, place }]),
  );
  const measured = new Set([...parts.values()].map((each) => placeKey(each.place)));
  const all = newest.jobId === null ? [] : await placesCut(db, newest.jobId, feature);
  const gauge = feature.gauge === '' ? null : await gaugeNamed(db, feature.gauge);
  return suspectsByPlace(
    [...parts.values()].sort((a, b) => a.part - b.part),
    { ...feature, uncertainty: gauge?.uncertainty ?? 0 },
    beginnings.map((at) => Math.ceil(at) - place + newest.part),
    all.some((each) => !measured.has(placeKey(each))),
  );
}

/** A mean, and a line, takes so many at least. */
const FEW = 3;
/** Parts an edge cuts where nobody knows. */
const EDGE_PARTS = 200;

/** What the lab is told; null for a size that answers to several rows, or to one that other sizes share. */
function labOf(
  evidence: Evidence,
  question: DriftQuestion,
  drift: Drift,
  feature: Feature,
  beginnings: readonly number[],
  machine: Machine,
): DriftPage['lab'] {
  const [only, ...more] = question.model.sizes[question.size]!.moves;
  if (!only || more.length > 0) return null;
  const { noise, drift: slope, driftError } = drift.state;
  const begins = [drift.points[0]!.at, ...beginnings];
  const lengths = begins.slice(1).map((at, i) => at - begins[i]!);
  const zero = -only.by * evidence.registers[only.register]!.value;
  const firsts = begins.flatMap((at) => {
    const point = drift.points.find((each) => each.at >= at);
    return point ? [point.uncorrected + zero] : [];
  });
  return {
    size: {
      lower: question.lower,
      upper: question.upper,
      deadBand: feature.deadBand,
      averageOf: Math.max(FEW, feature.averageOf),
      increment: machine.increment,
      by: only.by,
    },
    process: {
      noise,
      // as far off as each was from what the readings before it foretold, in parts' spreads
      residuals: edgeState(question.model)
        .innovations.filter((_, i) => question.model.readings[i]!.size === question.size)
        .slice(1)
        .map(({ off, deviation }) => (off / deviation) * noise),
      drift: slope,
      driftError,
      first: firsts.length > 1 ? Math.hypot(...firsts) / Math.sqrt(firsts.length) : 3 * noise,
      edgeParts: Math.max(10, Math.round(lengths.length > 0 ? mean(lengths) : EDGE_PARTS)),
      every: evidence.measured,
    },
    history: {
      parts: drift.points.map(({ at, uncorrected }) => ({ at, uncorrected: uncorrected + zero })),
      edges: [...beginnings],
    },
  };
}
