/**
 * What stands in the spindle (place 0) and in each pocket, by numbers of the caller's own: 0 is empty, and tools that may be taken
 * for one another have the same number.
 */
export type Stand = Uint16Array;

/** A row of calls that is looked for. */
export interface CallProblem {
  start: Stand;
  /** Never more than the calls that are left; 0 only where nothing is. */
  leastLeft: (stand: Stand) => number;
  /** Whether a pocket may be called: the spindle's content may go there and hang there, and something changes. */
  mayCall: (stand: Stand, pocket: number) => boolean;
  /** Of calls that promise the same, the one with the least comes first. */
  order: (pocket: number, before: number | null) => number;
}

/** How many arrangements may still be reached; counted down by every search that shares it. */
export interface Patience {
  left: number;
}

interface Reached {
  stand: Stand;
  calls: number;
  least: number;
  /** `least` was told from this arrangement, not handed down. */
  told: boolean;
  pocket: number;
  from: Reached | null;
}

export interface CallSearch {
  /** Looks on, as far as rows of so many calls go: the pockets of the first that was found, in order; null when there is none so short. */
  upTo: (most: number) => number[] | null;
  /** Every arrangement that can be reached was looked at: there is no row of calls at all. */
  exhausted: () => boolean;
}

/**
 * The fewest pocket calls to an aim, best first (P. E. Hart, N. J. Nilsson, B. Raphael 1968): of all arrangements reached, the one
 * that the bound makes the shortest row is gone on from, the deepest of equals; one met again is gone on from only when it was
 * reached with fewer calls. A found row is a proof that none is shorter, as long as patience lasts. `eager` above one makes it
 * look for any row soon, not for the shortest.
 */
export function searchCalls(problem: CallProblem, patience: Patience, eager = 1): CallSearch {
  const { leastLeft, mayCall, order } = problem;
  const keyOf = (stand: Stand) => String.fromCharCode(...stand);
  const waiting: Reached[][] = [];
  const fewest = new Map<string, number>();
  let shortest = 0;
  let count = 0;
  const add = (reached: Reached) => {
    const length = Math.floor(reached.calls + eager * reached.least);
    (waiting[length] ??= []).push(reached);
    shortest = count === 0 ? length : Math.min(shortest, length);
    count += 1;
  };
  const next = (): Reached => {
    while (!waiting[shortest] || waiting[shortest]!.length === 0) shortest += 1;
    count -= 1;
    return waiting[shortest]!.pop()!;
  };
  const rowTo = (reached: Reached) => {
    const pockets: number[] = [];
    for (let at: Reached | null = reached; at?.from; at = at.from) pockets.unshift(at.pocket);
    return pockets;
  };
  fewest.set(keyOf(problem.start), 0);
  add({ stand: problem.start, calls: 0, least: 0, told: false, pocket: 0, from: null });

  function upTo(most: number): number[] | null {
    while (count > 0) {
      const at = next();
      if (at.calls + at.least > most && eager === 1) {
        add(at);
        return null;
      }
      if (fewest.get(keyOf(at.stand))! < at.calls) continue;
      if (!at.told) {
        at.told = true;
        const least = Math.max(at.least, leastLeft(at.stand));
        if (least === Infinity) continue;
        if (least > at.least) {
          at.least = least;
          add(at);
          continue;
        }
      }
      if (at.least === 0) return rowTo(at);
      if (patience.left < 0) {
        add(at);
        return null;
      }
      const last = at.from ? at.pocket : null;
      const found: { reached: Reached; rank: number }[] = [];
      for (let pocket = 1; pocket < at.stand.length; pocket += 1) {
        if (pocket === last || at.stand[0] === at.stand[pocket] || !mayCall(at.stand, pocket)) continue;
        const stand = at.stand.slice();
        stand[0] = at.stand[pocket]!;
        stand[pocket] = at.stand[0]!;
        const key = keyOf(stand);
        const calls = at.calls + 1;
        if ((fewest.get(key) ?? Infinity) <= calls) continue;
        fewest.set(key, calls);
        // one call brings at most one call less
        const reached = { stand, calls, least: Math.max(0, at.least - 1), told: false, pocket, from: at };
        found.push({ reached, rank: order(pocket, last) });
      }
      patience.left -= found.length;
      // the last that is added is the first that is gone on from
      for (const { reached } of found.sort((a, b) => b.rank - a.rank)) add(reached);
    }
    return null;
  }
  return { upTo, exhausted: () => count === 0 };
}
