import { decide } from '../src/core/correction/decide.ts';
import { edgeState, type ModelEdge, type ModelReading } from '../src/core/correction/edge-state.ts';
import { gapsOf } from '../src/core/correction/gaps.ts';
import { didItTake, HARMLESS, slipsOf } from '../src/core/correction/took.ts';
import { nanometres } from '../src/core/units/length.ts';
import { seeded, timed, type Row } from './row.ts';

/** Parts of a run, and runs of each scenario. */
const PARTS = 200;
const RUNS = 24;

/** What may be supposed of a drift that nobody knows, standard deviations of a part. */
const ANY_DRIFT = 0.2;

/** How likely a part is to be measured where that is now and then. */
export const SELDOM = 0.3;

/** The drifts of this bench, either way, each as likely as another. */
const DRIFTS: readonly { drift: number; share: number }[] = [
  { drift: 0, share: 1 / 3 },
  ...[0.03, 0.3].flatMap((drift) => [drift, -drift].map((each) => ({ drift: each, share: 1 / 6 }))),
];

/** Share of a normal distribution beyond so many standard deviations (W. J. Cody's rational form would be finer: 1e-7 is enough here; from memory, after Abramowitz and Stegun 26.2.17). */
export function beyond(deviations: number): number {
  if (deviations < 0) return 1 - beyond(-deviations);
  const t = 1 / (1 + 0.2316419 * deviations);
  const series = [0.31938153, -0.356563782, 1.781477937, -1.821255978, 1.330274429];
  const sum = series.reduceRight((tail, each) => t * (each + tail), 0);
  return (Math.exp(-(deviations ** 2) / 2) / Math.sqrt(2 * Math.PI)) * sum;
}

interface Scenario {
  name: string;
  /** Drift a part, spread of the first error of an edge, in standard deviations of a part. */
  drift: number;
  first: number;
  /** Parts at which the edge is renewed. */
  edges: number[];
  /** Sizes of the one row, with what each stands off by itself. */
  own: number[];
}
export const SCENARIOS: readonly Scenario[] = [
  { name: 'centred', drift: 0, first: 0, edges: [], own: [0] },
  { name: 'slow drift, 0.03 σ a part', drift: 0.03, first: 3, edges: [], own: [0] },
  { name: 'fast drift, 0.3 σ a part', drift: 0.3, first: 3, edges: [], own: [0] },
  { name: 'steps at renewal', drift: 0.03, first: 4, edges: [50, 100, 150], own: [0] },
  { name: 'two sizes a row', drift: 0.03, first: 3, edges: [], own: [0.8, -0.8] },
];

export const normals = (random: () => number) => () =>
  Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());

/** From this part on an edge is set up, and its drift is all that is left to follow. */
const SETTLED = 10;

interface Outcome {
  square: number;
  /** The same from the eleventh part on. */
  settled: number;
  /** Parts outside their limits, counted by how likely each was to be: a few thousand hold too few of them. */
  bad: number;
  settledBad: number;
  moves: number;
}

/**
 * Who corrects: our model, which knows nothing; a filter that is told noise, drift and the spread of first errors; one that is told
 * all but the drift; one that is told besides that the drift is one of this bench, but not which (the exact posterior: nobody can do
 * better on all of these scenarios together); and whoever corrects by every part measured.
 */
const WHO = ['model', 'told', 'learns', 'oneOf', 'everyPart'] as const;
type Who = (typeof WHO)[number];

/** One run: parts are cut, every so many are measured (0: now and then), and one of them corrects. */
export function run(
  scenario: Scenario,
  who: Who,
  { sigma, cp, every, seed }: { sigma: number; cp: number; every: number; seed: number },
): Outcome {
  const random = seeded(seed * 7919 + 13);
  const normal = normals(random);
  const tolerance = 6 * cp * sigma;
  const increment = 1000 * Math.min(1, sigma / 5000);
  const noise = Array.from({ length: PARTS }, normal);
  const firsts = [0, ...scenario.edges].map(() => normal() * scenario.first);
  const looks = Array.from({ length: PARTS }, (_, at) =>
    every === 0 ? random() < SELDOM : at % every === 0,
  );
  const readings: ModelReading[] = [];
  // parts that lie ahead, on average, until the next reading: of chances of 0.3 as of a steady gap
  const wait = every === 0 ? (1 - SELDOM) / SELDOM : (every - 1) / 2;
  const edges: ModelEdge[] = [];
  const moves = [{ register: 0, by: 1 }];
  let [edge, error, held] = [0, firsts[0]!, 0];
  // the told filter's mean and variance of the edge's error, in σ; what each size stands off by itself it is told too
  let [mean, variance] = [0, scenario.first ** 2];
  // the same of one that has the drift to learn: its error, its drift, and how well each is known
  let line = { x: 0, d: 0, xx: scenario.first ** 2, xd: 0, dd: ANY_DRIFT ** 2 };
  // and of one that knows which drifts there are: where the edge stands under each, and how likely each is
  let each = DRIFTS.map(({ drift, share }) => ({ drift, likely: Math.log(share), at: 0 }));
  const outcome: Outcome = { square: 0, settled: 0, bad: 0, settledBad: 0, moves: 0 };
  const move = (change: number) => {
    const whole = Math.round(change / increment) * increment;
    if (whole === 0) return;
    held += whole;
    outcome.moves += 1;
  };
  for (let at = 0; at < PARTS; at += 1) {
    if (scenario.edges.includes(at)) {
      error = firsts[(edge += 1)]!;
      edges.push({ register: 0, at });
      [held, mean, variance] = [0, 0, scenario.first ** 2];
      each = each.map((supposed) => ({ ...supposed, at: 0 }));
      // the next edge drifts as the last
      line = { ...line, x: 0, xx: scenario.first ** 2, xd: 0 };
    }
    const size = at % scenario.own.length;
    const deviations = scenario.own.map((own) => (error + own) * sigma + held + noise[at]! * sigma);
    for (const deviation of deviations) {
      const square = (deviation / sigma) ** 2 / deviations.length;
      outcome.square += square;
      if (at >= SETTLED) outcome.settled += square;
    }
    for (const own of scenario.own) {
      const stands = error + own + held / sigma;
      const bad = (beyond(3 * cp - stands) + beyond(3 * cp + stands)) / scenario.own.length;
      outcome.bad += bad;
      if (at >= SETTLED) outcome.settledBad += bad;
    }
    const deviation = deviations[size]!;
    if (looks[at]) {
      if (who === 'everyPart') move(-deviation);
      const spread = variance + 1;
      if (who === 'oneOf')
        each = each.map(({ drift, likely, at: stands }) => {
          const off = (deviation - held) / sigma - scenario.own[size]! - stands;
          return { drift, likely: likely - off ** 2 / (2 * spread), at: stands + (variance / spread) * off };
        });
      if (who === 'told' || who === 'oneOf') {
        const gain = variance / (variance + 1);
        mean += gain * ((deviation - held) / sigma - scenario.own[size]! - mean);
        variance *= 1 - gain;
      }
      if (who === 'learns') {
        const { x, d, xx, xd, dd } = line;
        const off = (deviation - held) / sigma - scenario.own[size]! - x;
        const [gx, gd] = [xx / (xx + 1), xd / (xx + 1)];
        line = { x: x + gx * off, d: d + gd * off, xx: xx - gx * xx, xd: xd - gx * xd, dd: dd - gd * xd };
      }
      if (who === 'model') {
        readings.push({ size, at, deviation, held: [held] });
        const state = edgeState({
          registers: 1,
          sizes: scenario.own.map(() => ({ tolerance, moves })),
          readings: readings.slice(-120),
          edges,
          next: at + 1,
        });
        const { changes } = decide({
          rows: [{ held, increment, largest: Infinity, limit: Infinity }],
          sizes: state.sizes.map((each, i) => ({
            ...each,
            mean: each.mean + held,
            lower: -tolerance / 2,
            upper: tolerance / 2,
            moves: readings.some((reading) => reading.size === i) ? moves : [],
          })),
          every: gapsOf(readings.map((reading) => reading.at)).felt,
        });
        move(changes[0]!);
      }
    }
    error += scenario.drift;
    mean += scenario.drift;
    each = each.map((supposed) => ({ ...supposed, at: supposed.at + supposed.drift }));
    line = {
      ...line,
      x: line.x + line.d,
      xx: line.xx + 2 * line.xd + line.dd,
      xd: line.xd + line.dd,
    };
    if (who === 'learns' && looks[at]) move(-line.x * sigma - held - line.d * sigma * wait);
    if (who === 'oneOf' && looks[at]) {
      const top = Math.max(...each.map(({ likely }) => likely));
      const weights = each.map(({ likely }) => Math.exp(likely - top));
      const whole = weights.reduce((sum, weight) => sum + weight, 0);
      const stands = each.reduce(
        (sum, { at: x, drift }, i) => sum + (weights[i]! / whole) * (x + drift * wait),
        0,
      );
      move(-stands * sigma - held);
    }
    if (who === 'told' && looks[at]) move(-mean * sigma - held - scenario.drift * sigma * wait);
  }
  return {
    square: outcome.square / PARTS,
    settled: outcome.settled / (PARTS - SETTLED),
    bad: outcome.bad,
    settledBad: outcome.settledBad,
    moves: (100 * outcome.moves) / PARTS,
  };
}

export function mean(of: (seed: number) => Outcome): Outcome {
  const all = Array.from({ length: RUNS }, (_, i) => of(i + 1));
  const middle = (pick: (each: Outcome) => number) =>
    all.reduce((sum, each) => sum + pick(each), 0) / all.length;
  return {
    square: middle((o) => o.square),
    settled: middle((o) => o.settled),
    bad: middle((o) => o.bad),
    settledBad: middle((o) => o.settledBad),
    moves: middle((o) => o.moves),
  };
}

const said = ({ square, bad, settled, settledBad }: Outcome) =>
  `${square.toFixed(3)} σ², ${bad.toPrecision(2)} bad (set up ${settled.toFixed(3)} σ², ${settledBad.toPrecision(2)} bad)`;
/** Square error, and bad parts: fewer than one in ten thousand parts are none. */
const ratios = (a: Outcome, b: Outcome) =>
  `${(a.square / b.square).toFixed(2)} σ², ${a.bad < PARTS / 10_000 ? 'no' : (a.bad / b.bad).toFixed(2)} bad`;

/** Our corrections against a filter that is told what ours has to learn, and against correcting by every part. */
export function correcting(): Row[] {
  const rows: Row[] = [];
  for (const [sigma, cp, every] of [
    [2000, 1.33, 1],
    [500, 0.8, 1],
    [5000, 2, 1],
    [2000, 1.33, 5],
    [2000, 1.33, 0],
  ] as const)
    for (const scenario of SCENARIOS) {
      const [model, told, learns, oneOf, everyPart] = WHO.map((who) =>
        mean((seed) => run(scenario, who, { sigma, cp, every, seed })),
      );
      rows.push({
        what: `corrections, ${scenario.name}, σ ${sigma / 1000} µm, Cp ${cp}, measured ${every === 1 ? 'every part' : every === 0 ? 'now and then' : `every ${every}th`}`,
        ours: `${said(model!)}, ${model!.moves.toFixed(1)} moves in 100`,
        reference: `told: ${said(told!)}; told all but the drift: ${said(learns!)}; told which drifts there are: ${said(oneOf!)}; every part: ${said(everyPart!)}`,
        ratio: `of told: ${ratios(model!, told!)}; of told all but the drift: ${ratios(model!, learns!)}; of told which drifts there are: ${ratios(model!, oneOf!)}, which is ${ratios(oneOf!, told!)} of told`,
      });
    }
  return [...rows, tookRow(), decisionRow()];
}

/** Whether a correction took: how often correct keying is accused, and how often a slip that can be told is named right. */
function tookRow(): Row {
  const random = seeded(77);
  const normal = normals(random);
  let [correct, accused, tellable, named, first] = [0, 0, 0, 0, 0];
  for (let round = 0; round < 600; round += 1) {
    const sigma = 1000 + random() * 3000;
    const drift = random() < 0.5 ? 0 : 0.03 * sigma;
    const from = Math.round((random() - 0.5) * 20) * 1000;
    const to =
      from +
      (random() < 0.5 ? -1 : 1) * Math.max(1000, Math.round((sigma * (1 + random() * 5)) / 1000) * 1000);
    const slips = slipsOf(nanometres(from), nanometres(to), 'mm', 3);
    const slip = random() < 0.5 ? null : slips[Math.floor(random() * Math.min(6, slips.length))]!;
    const before = 2 + Math.floor(random() * 8);
    const readings: ModelReading[] = [];
    const cut = (holds: number, told: number) =>
      readings.push({
        size: 0,
        at: readings.length,
        deviation: -to + holds + drift * readings.length + sigma * normal(),
        held: [told],
      });
    for (let i = 0; i < before; i += 1) cut(from, from);
    let answer = null;
    for (let after = 1; after <= 6; after += 1) {
      cut(slip?.holds ?? to, to);
      answer = didItTake({
        model: {
          registers: 1,
          sizes: [{ tolerance: 8 * sigma, moves: [{ register: 0, by: 1 }] }],
          readings: [...readings],
          edges: [],
          next: readings.length,
        },
        register: 0,
        since: readings.map(({ at }) => at).slice(before),
        from: nanometres(from),
        to: nanometres(to),
        by: 1,
        noise: sigma,
        unit: 'mm',
        decimals: 3,
      });
      if (!HARMLESS.includes(answer.verdict)) break;
    }
    const said = !HARMLESS.includes(answer!.verdict);
    if (!slip) {
      correct += 1;
      if (said) accused += 1;
      continue;
    }
    // what somebody who is told the noise could tell from the right value, and from every other slip, at one in a hundred
    const apart = (a: number, b: number) =>
      (a - b) ** 2 / (sigma ** 2 * (1 / 6 + 1 / before)) > 2 * Math.log(100) * 1.3;
    if (
      !apart(slip.holds, to) ||
      slips.some((other) => other.slip !== slip.slip && !apart(slip.holds, other.holds))
    )
      continue;
    tellable += 1;
    if (said) named += 1;
    if (answer!.verdict === slip.slip) first += 1;
  }
  return {
    what: 'did it take, 600 corrections, six parts each',
    ours: `${accused} of ${correct} right ones accused; of ${tellable} slips that can be told ${named} found, ${first} by their name`,
    reference: 'told the noise: all of them',
    ratio: (first / tellable).toFixed(3),
  };
}

/** A hundred sizes on forty rows, decided at once. */
/** Runs after which the engine has made code of it, as a server that has stood for a minute has. */
const WARM = 150;

function decisionRow(): Row {
  const random = seeded(5);
  const rows = Array.from({ length: 40 }, () => ({
    held: 0,
    increment: 1000,
    largest: Infinity,
    limit: 50_000,
  }));
  const sizes = Array.from({ length: 100 }, (_, i) => ({
    mean: (random() - 0.5) * 12_000,
    error: 300,
    noise: 1500,
    drift: 0,
    driftError: 0,
    lower: -10_000,
    upper: 10_000,
    moves: [
      { register: i % 40, by: 1 },
      ...(i % 10 === 0 && i % 40 < 39 ? [{ register: (i % 40) + 1, by: -1 }] : []),
    ],
  }));
  const took = timed(() => void decide({ rows, sizes, every: 1 }), WARM);
  const alone = timed(() => {
    for (let i = 0; i < 40; i += 1)
      decide({
        rows: [rows[0]!],
        sizes: sizes
          .filter((_, s) => s % 40 === i)
          .map((each) => ({ ...each, moves: [{ register: 0, by: 1 }] })),
        every: 1,
      });
  }, WARM);
  return {
    what: '100 sizes on 40 rows decided',
    ours: `${took.toFixed(1)} ms`,
    reference: `row by row ${alone.toFixed(1)} ms`,
    ratio: (took / alone).toFixed(2),
  };
}
