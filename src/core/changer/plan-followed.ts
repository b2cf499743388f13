import { indexSteps, neighbours } from './neighbours.ts';
import type { PlanQuestion } from './plan-layout.ts';
import { armSeconds, FOLLOWED, isSlow, isTied, type FollowedRun } from './plan-time.ts';

/** The pocket of each tool; a list of numbers of any kind. */
type Pockets = ArrayLike<number>;

/** A change of a layout: a tool from one pocket to another, and the tool that stood there (−1: none) into its place. */
export interface LayoutChange {
  tool: number;
  from: number;
  to: number;
  other: number;
}

/** The followed runs of a layout that changes: each is gone through anew only when a change can matter to it. */
export interface KeptRuns {
  seconds: () => number;
  /** The least that all runs can take after a change, without going through any. */
  least: (change: LayoutChange) => number;
  /** What they would take after a change; the layout given is the changed one. Infinity: more than `most`, and not gone through to the end. */
  ask: (layout: Pockets, change: LayoutChange, most: number) => number;
  /** The change is done. */
  take: (layout: Pockets, change: LayoutChange) => void;
}

export interface RunFollower {
  /** Seconds of all runs on a layout. */
  all: (layout: Pockets) => number;
  keep: (layout: Pockets) => KeptRuns;
}

/** The tools change places; the one in the spindle goes home; or it is hung where there is room, and the other is fetched from home. */
const [BOTH_GO, GOES_HOME, HUNG] = [0, 1, 2];

/** The changes of one round of a run: which tools, how, and how long was cut before each, which is the same for every layout. */
interface Round {
  from: Uint16Array;
  to: Uint16Array;
  kinds: Uint8Array;
  cut: Float64Array;
  /** The arm's seconds of a round. */
  arm: number;
  hangs: boolean;
}

function roundOf({ calls }: FollowedRun, of: { tied: readonly boolean[]; arms: readonly number[] }): Round {
  const changes: { from: number; to: number; kind: number; cut: number }[] = [];
  let spindle = calls.at(-1)!.tool;
  let { cutting } = calls.at(-1)!;
  let arm = 0;
  for (const call of calls) {
    if (call.tool === spindle) {
      cutting += call.cutting;
      continue;
    }
    const kind = of.tied[spindle]! ? GOES_HOME : of.tied[call.tool]! ? HUNG : BOTH_GO;
    const [away, fetched] = [of.arms[spindle]!, of.arms[call.tool]!];
    arm += kind === BOTH_GO ? Math.max(away, fetched) : away + fetched;
    changes.push({ from: spindle, to: call.tool, kind, cut: cutting });
    spindle = call.tool;
    cutting = call.cutting;
  }
  return {
    from: Uint16Array.from(changes, (each) => each.from),
    to: Uint16Array.from(changes, (each) => each.to),
    kinds: Uint8Array.from(changes, (each) => each.kind),
    cut: Float64Array.from(changes, (each) => each.cut),
    arm,
    hangs: changes.some(({ kind }) => kind === HUNG),
  };
}

/** A follower of runs for one question; it keeps its tables between layouts. */
export function followRuns(
  { shape, times, tools, usable }: Omit<PlanQuestion, 'weights' | 'runs'>,
  runs: readonly FollowedRun[],
): RunFollower {
  const row = shape.places + 1;
  const slow = tools.map(isSlow);
  const tied = tools.map(isTied);
  const wide = tools.flatMap((tool, i) => (tool.wide ? [i] : []));
  const beside = neighbours(shape);
  const around = Array.from({ length: row }, (_, pocket) => beside.get(pocket) ?? []);
  const steps = Uint16Array.from({ length: row * row }, (_, i) =>
    indexSteps(shape, Math.floor(i / row), i % row),
  );
  const seconds = Float64Array.from(steps, (each) => each * times.perPocket);
  const nearest = Array.from({ length: row }, (_, near) =>
    Uint16Array.from([...usable].sort((a, b) => steps[near * row + a]! - steps[near * row + b]! || a - b)),
  );
  const at = new Uint16Array(tools.length);
  const taken = new Uint8Array(row);
  const kept = new Uint8Array(row);
  const [quick, slowly] = [armSeconds(times, false), armSeconds(times, true)];

  /** The empty pocket nearest to one where the arm may hang a tool: none beside a wide tool's. Marks those it looked at. */
  function emptyNear(near: number, looked: Uint8Array): number {
    const list = nearest[near]!;
    for (let nth = 0; nth < list.length; nth += 1) {
      const pocket = list[nth]!;
      looked[pocket] = 1;
      if (taken[pocket] === 0 && kept[pocket] === 0) return pocket;
    }
    return near;
  }

  const indexed = (from: number, to: number, hidden: number) => {
    const over = seconds[from * row + to]! - hidden;
    return over > 0 ? over : 0;
  };
  const rounds = runs.map((run) => roundOf(run, { tied, arms: slow.map((each) => (each ? slowly : quick)) }));
  const hidden = rounds.map(({ cut }) => (times.preStaging ? cut : new Float64Array(cut.length)));

  /**
   * Seconds of one run, change by change: only tied tools go home, by a motion of their own. `looked`: pockets that mattered by being empty or
   * not. Infinity as soon as it is more than `most`.
   */
  function secondsOf(layout: Pockets, run: number, looked: Uint8Array, most = Infinity): number {
    const { from, to, kinds, arm, hangs } = rounds[run]!;
    const meanwhile = hidden[run]!;
    const { cycles } = runs[run]!;
    const gone = Math.min(cycles, FOLLOWED);
    looked.fill(0);
    for (let i = 0; i < from.length; i += 1) at[from[i]!] = layout[from[i]!]!;
    let place = from.length > 0 ? at[from[0]!]! : 0;
    if (hangs) {
      taken.fill(0);
      for (let i = 0; i < layout.length; i += 1) taken[layout[i]!] = 1;
      taken[place] = 0;
    }
    let sum = gone * arm;
    const enough = (most * gone) / cycles;
    for (let round = 0; round < gone; round += 1) {
      for (let nth = 0; nth < from.length; nth += 1) {
        const spindle = from[nth]!;
        const fetched = at[to[nth]!]!;
        const kind = kinds[nth]!;
        if (kind === BOTH_GO) {
          sum += indexed(place, fetched, meanwhile[nth]!);
          at[spindle] = fetched;
        } else {
          const away = kind === GOES_HOME ? layout[spindle]! : emptyNear(fetched, looked);
          sum += indexed(place, away, meanwhile[nth]!) + indexed(away, fetched, 0);
          at[spindle] = away;
          taken[away] = 1;
          taken[fetched] = 0;
        }
        place = fetched;
        if (sum > enough) return Infinity;
      }
    }
    return (sum * cycles) / gone;
  }

  function keepFree(layout: Pockets): void {
    kept.fill(0);
    for (const i of wide) if (layout[i]! > 0) for (const pocket of around[layout[i]!]!) kept[pocket] = 1;
  }

  function all(layout: Pockets): number {
    keepFree(layout);
    const looked = new Uint8Array(row);
    let sum = 0;
    for (let i = 0; i < runs.length; i += 1) sum += secondsOf(layout, i, looked);
    return sum;
  }

  function keep(layout: Pockets): KeptRuns {
    keepFree(layout);
    const called = runs.map(({ calls }) => {
      const own = new Uint8Array(tools.length);
      for (const { tool } of calls) own[tool] = 1;
      return own;
    });
    const standing = runs.map((_, i) => {
      const looked = new Uint8Array(row);
      return { looked, seconds: secondsOf(layout, i, looked) };
    });
    const asked = runs.map(() => ({ looked: new Uint8Array(row), seconds: 0, anew: false }));
    let last: LayoutChange | null = null;

    const looksAt = (looked: Uint8Array, pocket: number, besides: boolean) =>
      pocket > 0 && (looked[pocket] === 1 || (besides && around[pocket]!.some((each) => looked[each] === 1)));
    /** Whether a change can matter to a run: it calls what is moved, or looked at a pocket that is empty now, or is no more. */
    const matters = (run: number, { tool, from, to, other }: LayoutChange) => {
      if (called[run]![tool] === 1 || (other >= 0 && called[run]![other] === 1)) return true;
      const { looked } = standing[run]!;
      const keeps = tools[tool]!.wide || (other >= 0 && tools[other]!.wide);
      return looksAt(looked, from, keeps) || looksAt(looked, to, keeps);
    };

    function ask(changed: Pockets, change: LayoutChange, most = Infinity): number {
      keepFree(changed);
      last = null;
      // with each run at its least until it was gone through
      let sum = 0;
      for (let i = 0; i < runs.length; i += 1) {
        asked[i]!.anew = matters(i, change);
        sum += asked[i]!.anew ? runs[i]!.least : standing[i]!.seconds;
      }
      for (let i = 0; i < runs.length; i += 1) {
        const own = asked[i]!;
        if (!own.anew) continue;
        const { least } = runs[i]!;
        own.seconds = secondsOf(changed, i, own.looked, most - sum + least);
        sum += own.seconds - least;
        if (sum > most) return Infinity;
      }
      last = change;
      return sum;
    }
    const same = (a: LayoutChange | null, b: LayoutChange) =>
      a !== null && a.tool === b.tool && a.from === b.from && a.to === b.to && a.other === b.other;
    return {
      seconds: () => standing.reduce((sum, each) => sum + each.seconds, 0),
      least: (change) =>
        runs.reduce((sum, run, i) => sum + (matters(i, change) ? run.least : standing[i]!.seconds), 0),
      ask,
      take: (changed, change) => {
        if (!same(last, change)) ask(changed, change);
        asked.forEach((own, i) => {
          const stands = standing[i]!;
          if (!own.anew) return;
          [stands.looked, own.looked] = [own.looked, stands.looked];
          stands.seconds = own.seconds;
        });
        last = null;
      },
    };
  }
  return { all, keep };
}
