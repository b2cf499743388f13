import { ONE_SPEED } from '../program/cutting-speed.ts';
import { failed, type EdgeLife } from './edge-lives.ts';
import {
  bestSpeeds,
  fitTaylor,
  isTold,
  metreCosts,
  type BestSpeed,
  type SpeedCosts,
  type SpeedEdge,
  type Taylor,
} from './speed-and-life.ts';
import type { ShapePrior } from './weibull.ts';

/** An edge as it is on record. */
export interface RunEdge extends EdgeLife {
  program: string | null;
  speed: number | null;
  /** Minutes in cut. */
  minutes: number | null;
}

/** What edges of one program say about its speed. */
export interface SpeedsRun {
  program: string;
  edges: (SpeedEdge & { failed: boolean })[];
  /** Speeds at which they ran, from the slowest; those within a twentieth are one. */
  speeds: { speed: number; edges: number; ends: number }[];
  /** At which the newest of them ran. */
  present: number;
  taylor: Taylor | null;
  /** Null: it cannot be told how life falls with speed. */
  best: {
    cheapest: BestSpeed;
    fastest: BestSpeed;
    /** The cheapest of the speeds that were run or lie between them; and its cost a metre over that of the present one. */
    within: { speed: number; costs: number };
  } | null;
}

/**
 * Speed and life by the edges of one program: another program is another cut, and often another material, so that a difference between
 * two of them is not of the speed. It is the program whose edges ran at the most speeds; of those, the one with the most edges.
 *
 * @param edges the newest last
 * @returns null where the speed of no edge is known
 */
export function speedsRun(edges: readonly RunEdge[], prior: ShapePrior, costs: SpeedCosts): SpeedsRun | null {
  const byProgram = new Map<string, SpeedsRun['edges']>();
  for (const edge of edges) {
    const { program, speed, minutes, end } = edge;
    if (program === null || speed === null || minutes === null || minutes <= 0) continue;
    const known = byProgram.get(program) ?? [];
    known.push({ speed, life: minutes, end, failed: failed(edge) });
    byProgram.set(program, known);
  }
  const [most] = [...byProgram]
    .map(([program, own]) => ({ program, own, speeds: together(own) }))
    .sort((a, b) => b.speeds.length - a.speeds.length || b.own.length - a.own.length);
  if (!most) return null;
  const { program, own, speeds } = most;
  const present = own.at(-1)!.speed;
  const taylor = speeds.length < 2 ? null : fitTaylor(own, prior);
  return { program, edges: own, speeds, present, taylor, best: taylor && bestOf(taylor, costs, present) };
}

function bestOf(taylor: Taylor, costs: SpeedCosts, present: number): SpeedsRun['best'] {
  if (!isTold(taylor)) return null;
  const best = bestSpeeds(taylor, costs);
  const cost = metreCosts(taylor, costs);
  const speed = Math.min(taylor.to, Math.max(taylor.from, best.cheapest.speed));
  return { ...best, within: { speed, costs: cost(speed) / cost(present) } };
}

function together(edges: SpeedsRun['edges']): SpeedsRun['speeds'] {
  const found: { speeds: number[]; ends: number }[] = [];
  for (const edge of [...edges].sort((a, b) => a.speed - b.speed)) {
    let last = found.at(-1);
    if (!last || edge.speed > last.speeds[0]! * ONE_SPEED) found.push((last = { speeds: [], ends: 0 }));
    last.speeds.push(edge.speed);
    if (edge.failed) last.ends += 1;
  }
  return found.map(({ speeds, ends }) => ({
    speed: speeds.reduce((sum, each) => sum + each, 0) / speeds.length,
    edges: speeds.length,
    ends,
  }));
}

/**
 * Edges that ran as they run now: within a twentieth of the speed at which their program runs, which is that of the newest of its edges,
 * or what is known of the one that is cut; or at one that nobody knows. A limit is for the speed that is run; edges that were tried at
 * another say how life falls with speed, not when to change these.
 *
 * @param edges the newest last
 * @param now the program that is cut, and the speed of its calls as it stands; null: nobody knows
 */
export function atPresentSpeed<E extends { program: string | null; speed: number | null }>(
  edges: readonly E[],
  now: { program: string | null; speed: number | null } | null = null,
): E[] {
  const present = new Map<string | null, number>();
  for (const { program, speed } of edges) if (speed !== null) present.set(program, speed);
  if (now && now.program !== null && now.speed !== null) present.set(now.program, now.speed);
  return edges.filter(({ program, speed }) => {
    const runs = present.get(program) ?? null;
    return speed === null || runs === null || Math.max(speed, runs) <= ONE_SPEED * Math.min(speed, runs);
  });
}
