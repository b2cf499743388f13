import { beyond, mean, normals, run, SCENARIOS, SELDOM } from './correcting.ts';
import { seeded, type Row } from './row.ts';

/**
 * What the best of all rules comes to, of a filter that is told the process. A rule that is to serve several processes without being
 * told which it has before it is, on some of them, at least as much worse than the told filter as on the weighted average of them
 * all, whatever the weights. And on a weighted average nobody does better than who keeps the posterior over them and sets the row to
 * what loses least by it until the next reading: what a register holds is known and is taken out, so nothing is learnt by moving it.
 * So each choice of weights gives a bound that no rule can pass; the weights are turned to where the bound is highest. This one
 * besides knows the noise and how far first errors lie, moves a register by any fraction, and pays nothing for a move.
 */

const PARTS = 200;
const RUNS = 80;
const TURNS = 10;
const CP = 1.33;

interface Process {
  drift: number;
  /** How far an edge begins off, both in standard deviations of a part. */
  first: number;
}
interface Processes {
  named: string;
  all: Process[];
}
const eitherWay = (drifts: readonly number[], first: number): Process[] =>
  drifts.flatMap((drift) => [drift, -drift].map((each) => ({ drift: each, first })));
/** Those of the scenarios: whoever knows them knows of an edge that begins off that it drifts. */
const NAMED: Processes = {
  named: 'no drift and edges that begin right, 0.03 and 0.3 σ a part and edges that begin off',
  all: [{ drift: 0, first: 0 }, ...eitherWay([0.03, 0.3], 3)],
};
/** And for whoever knows neither how fast an edge drifts nor how it begins. */
const ANY: Processes = {
  named: 'any drift to 0.3 σ a part, edges that begin right or off',
  all: [0, 3].flatMap((first) => [
    { drift: 0, first },
    ...eitherWay([0.01, 0.03, 0.06, 0.1, 0.2, 0.3], first),
  ]),
};

type Loss = 'square' | 'bad';

/** Parts that are cut until the next reading, each by how likely it comes before that. */
const waitOf = (every: number): number[] =>
  every === 0 ? Array.from({ length: 20 }, (_, k) => (1 - SELDOM) ** k) : new Array<number>(every).fill(1);

const out = (stands: number, spread: number) =>
  beyond((3 * CP - stands) / spread) + beyond((3 * CP + stands) / spread);

interface Followed {
  mean: number;
  variance: number;
  told: number;
}

/** The setting that loses least until the next reading: by the square closed; by bad parts on a grid, then by golden section. */
function setting(
  all: readonly Process[],
  states: readonly Followed[],
  shares: readonly number[],
  waits: readonly number[],
  loss: Loss,
): number {
  const whole = waits.reduce((sum, each) => sum + each, 0);
  const half = waits.reduce((sum, each, k) => sum + each * k, 0) / whole;
  const middles = states.map(({ mean: at }, i) => at + all[i]!.drift * half);
  const least = -middles.reduce((sum, middle, i) => sum + shares[i]! * middle, 0);
  if (loss === 'square') return least;
  const likely = states.map((_, i) => i).filter((i) => shares[i]! > 1e-9);
  const bad = (by: number) => {
    let sum = 0;
    for (const i of likely) {
      const spread = Math.sqrt(1 + states[i]!.variance);
      for (let k = 0; k < waits.length; k += 1)
        sum += waits[k]! * shares[i]! * out(states[i]!.mean + all[i]!.drift * k + by, spread);
    }
    return sum;
  };
  const ends = likely.map((i) => -middles[i]!);
  const [low, high] = [Math.min(...ends) - 0.01, Math.max(...ends) + 0.01];
  const step = (high - low) / 16;
  const tried = Array.from({ length: 17 }, (_, i) => low + step * i).concat(least);
  const best = tried.reduce((a, b) => (bad(b) < bad(a) ? b : a));
  let [from, to] = [best - step, best + step];
  for (let i = 0; i < 12; i += 1) {
    const [a, b] = [from + 0.382 * (to - from), from + 0.618 * (to - from)];
    if (bad(a) < bad(b)) to = b;
    else from = a;
  }
  return (from + to) / 2;
}

/** What one run loses; `prior` null: who corrects is told the process, and centres it. */
function lost(
  all: readonly Process[],
  truth: number,
  prior: readonly number[] | null,
  { every, loss, seed }: { every: number; loss: Loss; seed: number },
): number {
  const random = seeded(seed * 7919 + truth * 101 + 13);
  const normal = normals(random);
  const waits = waitOf(every);
  let error = normal() * all[truth]!.first;
  let held = 0;
  let states = all.map(({ first }, i) => ({
    mean: 0,
    variance: first ** 2,
    told: prior ? Math.log(prior[i]!) : i === truth ? 0 : -Infinity,
  }));
  let sum = 0;
  for (let at = 0; at < PARTS; at += 1) {
    const stands = error + held;
    const noise = normal();
    const looked = every === 0 ? random() < SELDOM : at % every === 0;
    sum += loss === 'bad' ? out(stands, 1) : 1 + stands ** 2;
    if (looked)
      states = states.map(({ mean: at, variance, told }) => {
        const [spread, off] = [variance + 1, error + noise - at];
        return {
          mean: at + (variance / spread) * off,
          variance: variance / spread,
          told: told - off ** 2 / spread / 2 - Math.log(spread) / 2,
        };
      });
    error += all[truth]!.drift;
    states = states.map((each, i) => ({ ...each, mean: each.mean + all[i]!.drift }));
    if (!looked) continue;
    const top = Math.max(...states.map(({ told }) => told));
    const weights = states.map(({ told }) => Math.exp(told - top));
    const whole = weights.reduce((total, each) => total + each, 0);
    const shares = weights.map((each) => each / whole);
    held = setting(all, states, shares, waits, prior === null ? 'square' : loss);
  }
  return sum;
}

/** The highest bound that was found. */
function bound({ all }: Processes, every: number, loss: Loss): number {
  const mirrored = all.map(({ drift, first }) =>
    all.findIndex((each) => each.first === first && each.drift === -drift),
  );
  const average = (truth: number, prior: readonly number[] | null) =>
    Array.from({ length: RUNS }, (_, seed) => lost(all, truth, prior, { every, loss, seed })).reduce(
      (sum, each) => sum + each / RUNS,
      0,
    );
  const told = all.map((_, i) => average(i, null));
  let weights = all.map(() => 1 / all.length);
  let highest = 1;
  for (let turn = 0; turn < TURNS; turn += 1) {
    const prior = weights.map((weight, i) => weight / told[i]!);
    const whole = prior.reduce((sum, each) => sum + each, 0);
    const shares = prior.map((each) => each / whole);
    const ratios = all.map((_, i) => average(i, shares) / told[i]!);
    const found = ratios.reduce((sum, ratio, i) => sum + weights[i]! * ratio, 0);
    highest = Math.max(highest, found);
    // what fares worse than the average weighs more; a drift as much as the same one the other way
    const raw = weights.map(
      (weight, i) => weight * Math.exp((0.6 * (ratios[i]! - found)) / Math.sqrt(1 + turn / 4) / (found - 1)),
    );
    const even = raw.map((each, i) => (each + raw[mirrored[i]!]!) / 2);
    const sum = even.reduce((total, each) => total + each, 0);
    weights = even.map((each) => each / sum);
  }
  return highest;
}

/** How near to the told filter any rule can come, and how near ours does. */
export function least(): Row[] {
  const found: Row[] = [];
  for (const every of [1, 5, 0])
    for (const [loss, processes] of [
      ['square', NAMED],
      ['square', ANY],
      ['bad', NAMED],
      ['bad', ANY],
    ] as const) {
      const ours = SCENARIOS.slice(0, 3).map((scenario) => {
        const [model, told] = (['model', 'told'] as const).map((who) =>
          mean((seed) => run(scenario, who, { sigma: 2000, cp: CP, every, seed })),
        );
        return loss === 'bad' ? model!.bad / told!.bad : model!.square / told!.square;
      });
      const nobody = bound(processes, every, loss);
      const worst = Math.max(...ours);
      found.push({
        what: `${loss === 'bad' ? 'bad parts' : 'square error'} of the told filter's, ${PARTS} parts, measured ${every === 0 ? 'now and then' : every === 1 ? 'every part' : `every ${every}th`}, for ${processes.named}`,
        ours: `at most ${worst.toFixed(2)} × (centred, slow, fast: ${ours.map((each) => each.toFixed(2)).join(', ')})`,
        reference: `no rule is under ${nobody.toFixed(2)} × on all of them`,
        ratio: (worst / nobody).toFixed(2),
      });
    }
  return found;
}
