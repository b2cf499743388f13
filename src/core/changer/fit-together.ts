import { strikes, withinReach } from './clearance.ts';
import { deal } from './deal-pockets.ts';
import type { ChangerShape } from './layout.ts';
import { neighbours } from './neighbours.ts';
import { fitAround } from './fit-around.ts';

/** A tool that wants a pocket. */
export interface FitTool {
  /** Half its largest width, millimetres. */
  radius: number;
  /** Both neighbours must stay empty (H5). */
  wide: boolean;
  /** Pockets whose cell is too small for it. */
  barred: readonly number[];
}

/** What is given: pockets that may be used, and tools that stand and stay. */
export interface FitGround {
  shape: ChangerShape;
  usable: readonly number[];
  fixed: readonly { pocket: number; radius: number; wide: boolean }[];
}

/** A pocket for each tool in their order; or that there is none, `proven` when that was shown. */
export type FitAnswer = { fits: true; pockets: number[] } | { fits: false; proven: boolean };

/** Tools that may be taken for one another: how many there are, and the pockets that each may have. */
export interface FitClass {
  radius: number;
  wide: boolean;
  count: number;
  mayHave: readonly boolean[];
}

/** Tools by kinds, and which two may not stand in two pockets at once. */
export interface FitProblem {
  shape: ChangerShape;
  classes: readonly FitClass[];
  /** For each pocket the others that matter to what stands in it. */
  near: ReadonlyMap<number, readonly number[]>;
  clash: (kind: number, pocket: number, otherKind: number, otherPocket: number) => boolean;
}

/** Placings tried before a search gives up: a few for what is easy, many where no closed count serves. */
const FEW = 2_000;
const MANY = 60_000;

/**
 * Whether so many tools can stand together at all (H4, H5): a pocket each, none in a cell too small for it, wide ones with their
 * neighbours empty, none where it would strike. The one rule for planner, switching and load plan. First counted as if none
 * were in another's way, which proves that there are too many; then tried; then, along a ring, chain or rack, counted pocket by
 * pocket over every choice, which proves it either way.
 */
export function fitTogether(ground: FitGround, tools: readonly FitTool[]): FitAnswer {
  const { problem, kindOf } = problemOf(ground, tools);
  const { classes } = problem;
  const dealt = deal(tools.map((_, i) => kindOf[i]!).map((kind) => pocketsOf(classes[kind]!)));
  if (dealt === null) return { fits: false, proven: true };
  if (!anyClash(problem)) return { fits: true, pockets: dealt };
  const named = (byKind: readonly number[][]): FitAnswer => {
    const next = classes.map(() => 0);
    return { fits: true, pockets: kindOf.map((kind) => byKind[kind]![next[kind]!++]!) };
  };
  const quick = tried(problem, FEW);
  if (quick.found) return named(quick.found);
  if (quick.whole) return { fits: false, proven: true };
  const counted = fitAround(problem);
  if (counted !== 'cannot tell') return counted === null ? { fits: false, proven: true } : named(counted);
  const long = tried(problem, MANY);
  return long.found ? named(long.found) : { fits: false, proven: long.whole };
}

const pocketsOf = ({ mayHave }: FitClass) => mayHave.flatMap((may, pocket) => (may ? [pocket] : []));

/** Equal tools put together, and held against what stays. */
function problemOf({ shape, usable, fixed }: FitGround, tools: readonly FitTool[]) {
  const radii = [...tools, ...fixed].map((tool) => tool.radius);
  const reach = withinReach(shape, Math.max(0, ...radii), 0);
  const beside = neighbours(shape);
  const apart = new Map(
    [...beside.keys()].map((pocket) => [
      pocket,
      new Map((reach.get(pocket) ?? []).map((other) => [other.number, other.apart])),
    ]),
  );
  const isBeside = new Map([...beside].map(([pocket, others]) => [pocket, new Set(others)]));
  type Standing = Pick<FitTool, 'radius' | 'wide'>;
  const clashOf = (a: Standing, pocket: number, b: Standing, other: number): boolean => {
    if ((a.wide || b.wide) && isBeside.get(pocket)?.has(other)) return true;
    const distance = apart.get(pocket)?.get(other);
    return distance !== undefined && strikes(distance, a.radius, b.radius);
  };
  const kinds = new Map<string, number>();
  const classes: (FitClass & { count: number })[] = [];
  const kindOf = tools.map((tool) => {
    const barred = new Set(tool.barred);
    const key = `${tool.radius} ${tool.wide} ${[...barred].sort((a, b) => a - b).join()}`;
    const known = kinds.get(key);
    if (known !== undefined) {
      classes[known]!.count += 1;
      return known;
    }
    const mayHave = Array.from({ length: shape.places + 1 }, () => false);
    for (const pocket of usable)
      mayHave[pocket] =
        !barred.has(pocket) &&
        fixed.every((stays) => stays.pocket !== pocket && !clashOf(tool, pocket, stays, stays.pocket));
    kinds.set(key, classes.length);
    classes.push({ radius: tool.radius, wide: tool.wide, count: 1, mayHave });
    return classes.length - 1;
  });
  const near = new Map(
    [...beside].map(([pocket, others]) => [
      pocket,
      [...new Set([...others, ...(reach.get(pocket) ?? []).map((other) => other.number)])],
    ]),
  );
  const problem: FitProblem = {
    shape,
    classes,
    near,
    clash: (kind, pocket, otherKind, other) => clashOf(classes[kind]!, pocket, classes[otherKind]!, other),
  };
  return { problem, kindOf };
}

/** Whether any two of the tools could be in each other's way at all. */
const anyClash = ({ classes, near, clash }: FitProblem): boolean =>
  classes.some((one, a) =>
    classes.some(
      (other, b) =>
        (a !== b || one.count > 1) &&
        [...near].some(
          ([pocket, others]) =>
            one.mayHave[pocket] &&
            others.some((beside) => other.mayHave[beside] && clash(a, pocket, b, beside)),
        ),
    ),
  );

/**
 * Tries placings: next a tool of the kind that has the fewest pockets to spare, in the pocket that takes the fewest from the
 * others. Equal tools stand in rising order, so that no placing is tried twice. `whole`: every placing was.
 */
function tried(problem: FitProblem, most: number): { found: number[][] | null; whole: boolean } {
  const { classes, near, clash } = problem;
  const left = classes.map((kind) => kind.count);
  const placed: number[][] = classes.map(() => []);
  /** How many of the placed tools keep a kind out of a pocket. */
  const kept = classes.map((kind) => Int16Array.from(kind.mayHave, (may) => (may ? 0 : 1)));
  let tries = most;
  const change = (kind: number, pocket: number, by: 1 | -1) => {
    for (const [other] of classes.entries()) {
      kept[other]![pocket]! += by;
      for (const beside of near.get(pocket)!)
        if (clash(kind, pocket, other, beside)) kept[other]![beside]! += by;
    }
  };
  const open = (kind: number) => {
    const last = placed[kind]!.at(-1) ?? 0;
    const pockets: number[] = [];
    kept[kind]!.forEach((count, pocket) => {
      if (count === 0 && pocket > last) pockets.push(pocket);
    });
    return pockets;
  };
  const takes = (kind: number, pocket: number) =>
    classes.reduce(
      (sum, _, other) =>
        left[other] === 0
          ? sum
          : sum +
            near
              .get(pocket)!
              .filter((beside) => kept[other]![beside] === 0 && clash(kind, pocket, other, beside)).length,
      0,
    );
  function place(): boolean {
    let [next, pockets, spare] = [-1, [] as number[], Infinity];
    for (const [kind, count] of left.entries()) {
      if (count === 0) continue;
      const free = open(kind);
      if (free.length < count) return false;
      if (free.length - count < spare) [next, pockets, spare] = [kind, free, free.length - count];
    }
    if (next < 0) return true;
    const ordered = pockets
      // enough must be left behind it for the rest of its kind
      .slice(0, pockets.length - left[next]! + 1)
      .map((pocket) => ({ pocket, takes: takes(next, pocket) }))
      .sort((a, b) => a.takes - b.takes);
    for (const { pocket } of ordered) {
      if ((tries -= 1) < 0) return false;
      left[next]! -= 1;
      placed[next]!.push(pocket);
      change(next, pocket, 1);
      if (place()) return true;
      change(next, pocket, -1);
      placed[next]!.pop();
      left[next]! += 1;
    }
    return false;
  }
  const found = place();
  return { found: found ? placed : null, whole: tries >= 0 };
}
