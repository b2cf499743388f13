import { traitsOf } from './traits.ts';
import type { FitProblem } from './fit-together.ts';

/** States that the count may hold at once, and over all pockets: beyond them it would take too long. */
const MOST_STATES = 60_000;
const MOST_HELD = 6_000_000;

/** Where a state came from: the state before, and what was put into the pocket. */
interface Counted {
  best: Int16Array;
  from: Int32Array;
}

/**
 * Whether tools of a few kinds fit along a ring, chain or rack, counted pocket by pocket over every choice: of all ways to fill
 * the pockets so far that end alike and hold as many of each rarer kind, only the one with the most of the commonest kind
 * matters. Round a ring it is begun once for each way to fill the first pockets. Pockets by kind, null when there is no way,
 * `cannot tell` where pockets are no row (a tray), or the states would be too many.
 */
export function fitAround(problem: FitProblem): number[][] | null | 'cannot tell' {
  const { shape, classes } = problem;
  if (traitsOf(shape).order === 'grid') return 'cannot tell';
  const order = rotated(problem);
  const span = widestSpan(problem, order);
  const kinds = classes.length + 1;
  const windows = kinds ** span;
  const main = classes.reduce((best, kind, i) => (kind.count > classes[best]!.count ? i : best), 0);
  const radix: number[] = [];
  let counts = 1;
  for (const [i, { count }] of classes.entries()) {
    radix.push(i === main ? 0 : counts);
    if (i !== main) counts *= count + 1;
  }
  const states = windows * counts;
  if (span * 2 > order.length || states > MOST_STATES || states * order.length > MOST_HELD)
    return 'cannot tell';

  const allows = (kind: number, at: number) => kind === 0 || classes[kind - 1]!.mayHave[order[at]!]!;
  const clear = (kind: number, at: number, other: number, there: number) =>
    kind === 0 || other === 0 || !problem.clash(kind - 1, order[at]!, other - 1, order[there]!);
  /** The kind in a window at so many pockets back, from one. */
  const back = (window: number, steps: number) => Math.floor(window / kinds ** (steps - 1)) % kinds;
  const countOf = (index: number, kind: number) =>
    Math.floor(index / radix[kind]!) % (classes[kind]!.count + 1);
  const all = classes.reduce((sum, { count }, i) => (i === main ? sum : sum + count * radix[i]!), 0);

  /** Fills the pockets from a beginning; the first so many are given. */
  function filled(first: readonly number[]): number[][] | null {
    const held: Counted[] = [];
    let now = new Map<number, number>([[0, 0]]);
    for (let at = 0; at < order.length; at += 1) {
      const next: Counted = { best: new Int16Array(states).fill(-1), from: new Int32Array(states) };
      const reached = new Map<number, number>();
      for (const [state, most] of now) {
        const [window, index] = [state % windows, Math.floor(state / windows)];
        const choices = at < first.length ? [first[at]!] : Array.from({ length: kinds }, (_, kind) => kind);
        for (const kind of choices) {
          if (!allows(kind, at)) continue;
          let good = true;
          for (let steps = 1; steps <= Math.min(span, at) && good; steps += 1)
            good = clear(kind, at, back(window, steps), at - steps);
          if (!good) continue;
          let [count, value] = [index, most];
          if (kind > 0) {
            if (kind - 1 === main) value += 1;
            else if (countOf(index, kind - 1) === classes[kind - 1]!.count) continue;
            else count += radix[kind - 1]!;
          }
          const after = ((window * kinds + kind) % windows) + count * windows;
          if (next.best[after]! >= value) continue;
          next.best[after] = value;
          next.from[after] = state * kinds + kind;
          reached.set(after, value);
        }
      }
      held.push(next);
      now = reached;
    }
    for (const [state, value] of now) {
      const [window, index] = [state % windows, Math.floor(state / windows)];
      if (index !== all || value < classes[main]!.count || !closes(window, first)) continue;
      return unrolled(held, state);
    }
    return null;
  }
  /** Whether the last pockets clear the first, where the row is a ring. */
  function closes(window: number, first: readonly number[]): boolean {
    for (let steps = 1; steps <= span; steps += 1)
      for (const [at, kind] of first.entries())
        if (!clear(back(window, steps), order.length - steps, kind, at)) return false;
    return true;
  }
  function unrolled(held: readonly Counted[], last: number): number[][] {
    const byKind: number[][] = classes.map(() => []);
    let state = last;
    for (let at = order.length - 1; at >= 0; at -= 1) {
      const from = held[at]!.from[state]!;
      const kind = from % kinds;
      if (kind > 0 && byKind[kind - 1]!.length < classes[kind - 1]!.count) byKind[kind - 1]!.push(order[at]!);
      state = Math.floor(from / kinds);
    }
    return byKind.map((pockets) => pockets.reverse());
  }

  const given = traitsOf(shape).order === 'line' ? 0 : span;
  for (const first of beginnings(given, kinds)) {
    if (!first.every((kind, at) => allows(kind, at))) continue;
    const found = filled(first);
    if (found) return found;
  }
  return null;
}

/** Every way to fill so many pockets, emptiest first. */
function* beginnings(length: number, kinds: number): Generator<number[]> {
  for (let number = 0; number < kinds ** length; number += 1)
    yield Array.from({ length }, (_, at) => Math.floor(number / kinds ** at) % kinds);
}

/** The pockets in their order, round a ring from where the longest row that nothing may use begins: it has the fewest beginnings. */
function rotated({ shape, classes }: FitProblem): number[] {
  const pockets = Array.from({ length: shape.places }, (_, i) => i + 1);
  if (traitsOf(shape).order === 'line') return pockets;
  const shut = pockets.map((pocket) => classes.every((kind) => !kind.mayHave[pocket]));
  let [begin, longest] = [0, 0];
  for (const start of pockets.keys()) {
    let length = 0;
    while (length < pockets.length && shut[(start + length) % pockets.length]) length += 1;
    if (length > longest) [begin, longest] = [start, length];
  }
  return [...pockets.slice(begin), ...pockets.slice(0, begin)];
}

/** Over how many pockets along the row two of the tools could be in each other's way. */
function widestSpan({ shape, classes, near, clash }: FitProblem, order: readonly number[]): number {
  const at = new Map(order.map((pocket, i) => [pocket, i]));
  let span = 0;
  for (const [pocket, others] of near)
    for (const other of others) {
      const apart = Math.abs(at.get(pocket)! - at.get(other)!);
      const along = traitsOf(shape).order === 'line' ? apart : Math.min(apart, order.length - apart);
      if (along <= span) continue;
      const meet = classes.some(
        (a, i) => a.mayHave[pocket] && classes.some((b, j) => b.mayHave[other] && clash(i, pocket, j, other)),
      );
      if (meet) span = along;
    }
  return span;
}
