/**
 * What to do with the registers of a set-up, all at once: the whole increments that leave the least expected loss over all sizes
 * they touch. A size a tolerance away from its target loses one. First of all as few sizes as can be are foretold outside their
 * limits, and those as little as can be. Lengths in nanometres.
 */

export interface DecidedRow {
  /** What the register holds. */
  held: number;
  increment: number;
  /** The largest change somebody at the machine may be asked to make at once, and the largest value the register may come to. */
  largest: number;
  limit: number;
}

export interface DecidedSize {
  /** Expected deviation of the next part, with the registers as they stand. */
  mean: number;
  /** Standard error of that, spread of single parts, and drift a part with the standard error of that. */
  error: number;
  noise: number;
  drift: number;
  driftError: number;
  /** Limits less the target. */
  lower: number;
  upper: number;
  moves: readonly { register: number; by: number }[];
}

export interface DecisionQuestion {
  rows: readonly DecidedRow[];
  sizes: readonly DecidedSize[];
  /** Parts until the next reading. */
  every: number;
}

export interface Decision {
  /** Change of each register. */
  changes: number[];
  /** Expected deviation of each size after it. */
  after: number[];
  /** By how much sizes are foretold outside their limits even so, added up; 0: all in. */
  outside: number;
  /** Whether nothing better exists, or the search was cut short. */
  proven: boolean;
}

/** How far a process must be taken to stand off before it is worth a move, in standard deviations of a part. */
export const DEAD_BAND = 0.43;
/** And by what share of its standard error, where that is more. Both are set by the bench: few moves for hardly any spread. */
const UNKNOWN = 0.85;
/** How far beyond the middle a drifting size is set, as a share of the dead band: it comes back by itself. */
const BEYOND = 0.7;
/** Arrangements looked at before a search is cut short. */
const MOST = 400_000;

/** How sure a drift is: 1 when its error is small beside it. */
const surely = ({ drift, driftError }: DecidedSize) =>
  drift === 0 ? 0 : drift ** 2 / (drift ** 2 + 2 * driftError ** 2);

/** What a size must be taken to stand off before it is worth a move: by a share of its spread, and by more than is not known of it. */
export const bandOf = ({ noise, error }: Pick<DecidedSize, 'noise' | 'error'>) =>
  Math.max(DEAD_BAND * noise, UNKNOWN * error);

/** Where a size will be on average until the next reading, and where the best setting would have it. */
export function aimsOf(size: DecidedSize, every: number): { ahead: number; best: number; waiting: number } {
  const sure = surely(size);
  const ahead = size.mean + (size.drift * (every - 1)) / 2;
  const band = bandOf(size);
  const best = -Math.sign(size.drift) * sure * BEYOND * Math.max(0, band - Math.abs(size.drift) * every);
  return { ahead, best, waiting: ahead + size.drift * every * sure };
}

/** The best changes of all registers together. */
export function decide(question: DecisionQuestion): Decision {
  const { rows, sizes } = question;
  const changes = rows.map(() => 0);
  let proven = true;
  for (const together of groups(question)) {
    const found = decideGroup(question, together);
    together.forEach((row, i) => (changes[row] = found.changes[i]!));
    proven &&= found.proven;
  }
  const after = sizes.map(
    (size) => size.mean + size.moves.reduce((sum, { register, by }) => sum + by * changes[register]!, 0),
  );
  return { changes, after, outside: outsideBy(sizes, after), proven };
}

/** What a size outside its limits weighs: first that it is out at all, then by how much of its tolerance. */
const OUT = 1000;
const outsideOf = (size: DecidedSize, at: number) => {
  const far = Math.max(0, size.lower - at, at - size.upper);
  return far === 0 ? 0 : OUT + far / (size.upper - size.lower || 1);
};

const outsideBy = (sizes: readonly DecidedSize[], at: readonly number[]) =>
  sizes.reduce((sum, size, i) => sum + Math.max(0, size.lower - at[i]!, at[i]! - size.upper), 0);

/** Registers that share a size, and those that share one with these: each group is decided by itself. */
function groups({ rows, sizes }: DecisionQuestion): number[][] {
  const root = rows.map((_, i) => i);
  const find = (i: number): number => (root[i] === i ? i : (root[i] = find(root[i]!)));
  for (const { moves } of sizes)
    for (const { register } of moves.slice(1)) root[find(register)] = find(moves[0]!.register);
  const byRoot = new Map<number, number[]>();
  rows.forEach((_, i) => byRoot.set(find(i), [...(byRoot.get(find(i)) ?? []), i]));
  return [...byRoot.values()];
}

interface Placed {
  changes: number[];
  proven: boolean;
}

/**
 * One group, row by row: every whole step of a row that could still lead to something better. What is left is bounded below by
 * the loss of the sizes whose registers are all set, and the sizes are taken up as soon as their last register is.
 */
function decideGroup(question: DecisionQuestion, group: readonly number[]): Placed {
  const { rows, every } = question;
  const place = new Map(group.map((row, i) => [row, i]));
  const touched = question.sizes.filter(({ moves }) => moves.some(({ register }) => place.has(register)));
  if (touched.length === 0) return { changes: group.map(() => 0), proven: true };
  const aims = touched.map((size) => aimsOf(size, every));
  const weight = touched.map((size) => 1 / (size.upper - size.lower || 1) ** 2);
  const by = touched.map((size) =>
    group.map((row) => size.moves.reduce((sum, each) => sum + (each.register === row ? each.by : 0), 0)),
  );
  // moving a row is worth it when more is saved than one size at the edge of its dead band would lose
  const cost = group.map((_, i) =>
    Math.max(0, ...touched.map((size, s) => (by[s]![i] === 0 ? 0 : weight[s]! * bandOf(size) ** 2))),
  );
  const last = by.map((each) => each.reduce((found, b, i) => (b === 0 ? found : i), -1));
  // standing still is judged where the sizes will be by the next reading, moving by how far from the best setting
  const judge = (changes: readonly number[], upTo: number, all: boolean) => {
    let [outside, loss] = [0, 0];
    touched.forEach((size, s) => {
      if (!all && last[s] !== upTo) return;
      const moved = by[s]!.reduce((sum, b, i) => sum + b * changes[i]!, 0);
      const still = by[s]!.every((b, i) => b === 0 || changes[i] === 0);
      const at = still ? aims[s]!.waiting : aims[s]!.ahead + moved - aims[s]!.best;
      loss += weight[s]! * at ** 2;
      const next = size.mean + moved;
      outside += outsideOf(size, next);
    });
    return { outside, loss };
  };
  interface Best {
    outside: number;
    loss: number;
    moved: number;
    far: number;
    changes: number[];
  }
  const still = judge(
    group.map(() => 0),
    0,
    true,
  );
  let best: Best = { ...still, moved: 0, far: 0, changes: group.map(() => 0) };
  const better = (a: Omit<Best, 'changes'>) =>
    a.outside < best.outside - 1e-9 ||
    (a.outside < best.outside + 1e-9 &&
      (a.loss < best.loss - 1e-15 ||
        (a.loss < best.loss + 1e-15 &&
          (a.moved < best.moved || (a.moved === best.moved && a.far < best.far)))));
  const changes = group.map(() => 0);
  const steps = group.map((row) => stepsOf(rows[row]!, touched, aims, by));
  const value = (at: readonly number[]) => {
    const { outside, loss } = judge(at, 0, true);
    const moved = at.filter((step) => step !== 0).length;
    return {
      outside,
      loss: loss + at.reduce((sum, step, i) => sum + (step === 0 ? 0 : cost[i]!), 0),
      moved,
      far: at.reduce((sum, step) => sum + Math.abs(step), 0),
    };
  };
  // one row after the other is set to its best until none can be bettered: what is found so is hard to beat, and cuts the search short
  for (let again = true; again;) {
    again = false;
    for (let i = 0; i < group.length; i += 1) {
      const tried = [...best.changes];
      for (const step of steps[i]!) {
        tried[i] = step;
        const found = value(tried);
        if (!better(found)) continue;
        best = { ...found, changes: [...tried] };
        again = true;
      }
    }
  }
  let looked = 0;
  const go = (depth: number, outside: number, loss: number, moved: number, far: number): void => {
    if (depth === group.length) {
      const found = { outside, loss, moved, far };
      if (better(found)) best = { ...found, changes: [...changes] };
      return;
    }
    const tried = steps[depth]!.map((step) => {
      changes[depth] = step;
      const part = judge(changes, depth, false);
      return { step, outside: part.outside, loss: part.loss + (step === 0 ? 0 : cost[depth]!) };
    }).sort((a, b) => a.outside - b.outside || a.loss - b.loss);
    for (const each of tried) {
      if ((looked += 1) > MOST) return;
      const [o, l] = [outside + each.outside, loss + each.loss];
      if (o > best.outside + 1e-9 || (o > best.outside - 1e-9 && l > best.loss + 1e-15)) continue;
      changes[depth] = each.step;
      go(depth + 1, o, l, moved + (each.step === 0 ? 0 : 1), far + Math.abs(each.step));
    }
    changes[depth] = 0;
  };
  go(0, 0, 0, 0, 0);
  return { changes: best.changes, proven: looked <= MOST };
}

/** The whole steps of a row that can matter: as far as any of its sizes lies from where it should be, and no further than is allowed. */
function stepsOf(
  row: DecidedRow,
  touched: readonly DecidedSize[],
  aims: readonly { ahead: number; best: number }[],
  by: readonly (readonly number[])[],
): number[] {
  const own = touched.map((size, s) =>
    by[s]!.every((b) => b === 0)
      ? 0
      : Math.abs(aims[s]!.ahead - aims[s]!.best) + (size.upper - size.lower) / 2,
  );
  // a register that moves for one size may need another to go after it: as far as all of them together
  const least = Math.min(...by.flatMap((each) => each.filter((b) => b !== 0).map(Math.abs)));
  const reach = own.reduce((sum, each) => sum + each, 0) / least;
  const most = Math.floor(Math.min(reach + row.increment, row.largest) / row.increment);
  const found = [0];
  for (let k = 1; k <= most; k += 1)
    for (const change of [k * row.increment, -k * row.increment])
      if (Math.abs(row.held + change) <= Math.max(row.limit, Math.abs(row.held))) found.push(change);
  return found;
}
