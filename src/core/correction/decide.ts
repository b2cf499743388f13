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
  /** Which share of the parts it is of, where it stands for one of several places that parts are cut in; none: all. */
  share?: number;
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

/** What a size loses by the square of how far it is off. */
const weightOf = ({ lower, upper, share = 1 }: DecidedSize) => share / (upper - lower || 1) ** 2;

/** What a size outside its limits weighs: first that it is out at all, then by how much of its tolerance. */
const OUT = 1000;
const outsideOf = (size: DecidedSize, at: number) => {
  const far = Math.max(0, size.lower - at, at - size.upper);
  return far === 0 ? 0 : OUT + far / (size.upper - size.lower || 1);
};

const outsideBy = (sizes: readonly DecidedSize[], at: readonly number[]) =>
  sizes.reduce((sum, size, i) => sum + Math.max(0, size.lower - at[i]!, at[i]! - size.upper), 0);

/**
 * What changes of the rows lose over the sizes they touch until the next reading, by the measure that decides them: sizes foretold
 * outside their limits first. A size whose rows all stand still is judged where it will be by then.
 */
export function lossOf(
  sizes: readonly DecidedSize[],
  changes: readonly number[],
  every: number,
): { outside: number; loss: number; bySize: number[] } {
  const found = sizes.map((size) => {
    const moved = size.moves.reduce((sum, { register, by }) => sum + by * changes[register]!, 0);
    const { ahead, best, waiting } = aimsOf(size, every);
    const at = size.moves.every(({ register }) => changes[register] === 0) ? waiting : ahead + moved - best;
    return {
      outside: outsideOf(size, size.mean + moved),
      loss: weightOf(size) * at ** 2,
    };
  });
  return {
    outside: found.reduce((sum, each) => sum + each.outside, 0),
    loss: found.reduce((sum, each) => sum + each.loss, 0),
    bySize: found.map(({ outside, loss }) => outside + loss),
  };
}

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
  const weight = touched.map(weightOf);
  const by = touched.map((size) =>
    group.map((row) => size.moves.reduce((sum, each) => sum + (each.register === row ? each.by : 0), 0)),
  );
  // moving a row is worth it when more is saved than one size at the edge of its dead band would lose
  const cost = group.map((_, i) =>
    Math.max(
      0,
      ...touched.map((size, s) =>
        by[s]![i] === 0 ? 0 : (weight[s]! / (size.share ?? 1)) * bandOf(size) ** 2,
      ),
    ),
  );
  // rows that cut sizes of their own are set first: what they lose cuts the search short
  const ofOwn = (i: number) => by.filter((each) => each.every((b, k) => (b === 0) === (k !== i))).length;
  const order = group.map((_, i) => i).sort((a, b) => ofOwn(b) - ofOwn(a) || a - b);
  const last = by.map((each) => order.reduce((found, row, depth) => (each[row] === 0 ? found : depth), -1));
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
  const steps = group.map((row) => stepsOf(rows[row]!, touched, aims, by, group.length));
  /**
   * Steps of one row that can be the best, the others being set: to stand still; the least of the loss, which is a parabola; and the
   * last steps on either side of where a size crosses a limit or the row its own. Between two of these what is outside goes one way.
   */
  const bestSteps = (i: number, at: readonly number[]): number[] => {
    const { held, increment, largest, limit } = rows[group[i]!]!;
    const most = Math.max(limit, Math.abs(held));
    const low = Math.max(-largest, -most - held);
    const high = Math.min(largest, most - held);
    let [slope, curve] = [0, 0];
    const turns: number[] = [low, high];
    touched.forEach((size, s) => {
      const b = by[s]![i]!;
      if (b === 0) return;
      const moved = by[s]!.reduce((sum, each, k) => (k === i ? sum : sum + each * at[k]!), 0);
      slope += weight[s]! * b * (aims[s]!.ahead + moved - aims[s]!.best);
      curve += weight[s]! * b * b;
      turns.push((size.lower - size.mean - moved) / b, (size.upper - size.mean - moved) / b);
    });
    if (curve > 0) turns.push(-slope / curve);
    const found = new Set([0]);
    for (const turn of turns) {
      if (!Number.isFinite(turn)) continue;
      const whole = Math.floor(turn / increment);
      for (const step of [whole - 1, whole, whole + 1, whole + 2].map((each) => each * increment))
        if (step >= low - 1e-6 && step <= high + 1e-6) found.add(step);
    }
    return [...found];
  };
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
  for (let again = group.length > 1; again;) {
    again = false;
    for (let i = 0; i < group.length; i += 1) {
      const tried = [...best.changes];
      for (const step of bestSteps(i, best.changes)) {
        tried[i] = step;
        const found = value(tried);
        if (!better(found)) continue;
        best = { ...found, changes: [...tried] };
        again = true;
      }
    }
  }
  // what the rows not set yet will lose at least, by the sizes that they alone cut
  const least = group.map((_, i) => {
    const alone = touched.flatMap((_size, s) => (by[s]!.every((b, k) => (b === 0) === (k !== i)) ? [s] : []));
    const at = steps[i]!.map((step) => {
      let [outside, loss] = [0, step === 0 ? 0 : cost[i]!];
      for (const s of alone) {
        const moved = by[s]![i]! * step;
        const stands = step === 0 ? aims[s]!.waiting : aims[s]!.ahead + moved - aims[s]!.best;
        loss += weight[s]! * stands ** 2;
        outside += outsideOf(touched[s]!, touched[s]!.mean + moved);
      }
      return { outside, loss };
    });
    return {
      outside: Math.min(...at.map((each) => each.outside)),
      loss: Math.min(...at.map((each) => each.loss)),
    };
  });
  const rest = (depth: number) =>
    order
      .slice(depth)
      .map((row) => least[row]!)
      .reduce((sum, each) => ({ outside: sum.outside + each.outside, loss: sum.loss + each.loss }), {
        outside: 0,
        loss: 0,
      });
  const after = group.map((_, i) => rest(i + 1));
  let looked = 0;
  const go = (depth: number, outside: number, loss: number, moved: number, far: number): void => {
    if (depth === group.length) {
      const found = { outside, loss, moved, far };
      if (better(found)) best = { ...found, changes: [...changes] };
      return;
    }
    const row = order[depth]!;
    // with all other rows set, few steps of the last one can be the best
    const tried = (depth === group.length - 1 ? bestSteps(row, changes) : steps[row]!)
      .map((step) => {
        changes[row] = step;
        const part = judge(changes, depth, false);
        return { step, outside: part.outside, loss: part.loss + (step === 0 ? 0 : cost[row]!) };
      })
      .sort((a, b) => a.outside - b.outside || a.loss - b.loss);
    for (const each of tried) {
      if ((looked += 1) > MOST) return;
      const [o, l] = [outside + each.outside, loss + each.loss];
      const [leastOut, leastLoss] = [o + after[depth]!.outside, l + after[depth]!.loss];
      // they are sorted: what follows is no better
      if (leastOut > best.outside + 1e-9 || (leastOut > best.outside - 1e-9 && leastLoss > best.loss + 1e-12))
        break;
      changes[row] = each.step;
      go(depth + 1, o, l, moved + (each.step === 0 ? 0 : 1), far + Math.abs(each.step));
    }
    changes[row] = 0;
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
  together: number,
): number[] {
  const own = touched.map((size, s) =>
    by[s]!.every((b) => b === 0)
      ? 0
      : Math.abs(aims[s]!.ahead - aims[s]!.best) + (size.upper - size.lower) / 2,
  );
  // a register that moves for one size may need another to go after it: as far as all of them together
  const least = Math.min(...by.flatMap((each) => each.filter((b) => b !== 0).map(Math.abs)));
  const reach = (together === 1 ? Math.max(...own) : own.reduce((sum, each) => sum + each, 0)) / least;
  const most = Math.floor(Math.min(reach + row.increment, row.largest) / row.increment);
  const found = [0];
  for (let k = 1; k <= most; k += 1)
    for (const change of [k * row.increment, -k * row.increment])
      if (Math.abs(row.held + change) <= Math.max(row.limit, Math.abs(row.held))) found.push(change);
  return found;
}
