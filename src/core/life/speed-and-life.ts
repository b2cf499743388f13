import { bestLimit, type ChangeCosts } from './age-replacement.ts';
import { failed, type EdgeLife } from './edge-lives.ts';
import {
  fitWeibull,
  highest,
  logLikelihood,
  WILKS,
  type Between,
  type ShapePrior,
  type Weibull,
} from './weibull.ts';

/** An edge that ran at one cutting speed all its life. Speed in metres a minute, life in minutes in cut. */
export interface SpeedEdge extends EdgeLife {
  speed: number;
}

/** F. W. Taylor's v · T^n = C: speed and life. v in metres a minute, T in minutes in cut. */
export interface Taylor {
  n: number;
  constant: number;
  /** How lives scatter at one speed: the shape of a Weibull whose scale is the T above. */
  shape: number;
  /** 1/n, the steepness: by how many per cent life falls for each per cent of speed; its limits of 95 in 100. */
  steepness: Between;
  /** Speeds that were run: beyond them it says nothing. */
  from: number;
  to: number;
  /** Edges that came to an end, which is what it hangs on. */
  ends: number;
}

/** Speeds nearer than this, over each other, tell nothing about a slope. */
const APART = 1.05;
/** Steepnesses that are looked for. Tool materials lie at 1/n of about 1.4 to 10 (handbooks, memory). */
const [LEAST, MOST] = [-10, 40];

/** All lives as they would have been at one speed, were life to fall with so much steepness. */
const atOneSpeed = (edges: readonly SpeedEdge[], speed: number, steepness: number): EdgeLife[] =>
  edges.map((edge) => ({ end: edge.end, life: edge.life * (edge.speed / speed) ** steepness }));

/**
 * Speed and life of edges some of which were taken out before they were worn: Taylor's line with lives that scatter about it as a
 * Weibull, by maximum likelihood (J. F. Lawless, Statistical Models and Methods for Lifetime Data: accelerated lives). An edge that was
 * still good says that it lasts longer, not how long.
 *
 * @returns null where nothing can be fitted: speeds that do not differ, or edges of only one of them that came to an end
 */
export function fitTaylor(all: readonly SpeedEdge[], prior: ShapePrior): Taylor | null {
  const edges = all.filter(({ speed, life }) => speed > 0 && life > 0);
  const ends = edges.filter(failed);
  const ended = ends.map(({ speed }) => speed);
  if (ended.length < 2 || Math.max(...ended) < Math.min(...ended) * APART) return null;
  const speeds = edges.map(({ speed }) => speed);
  const middle = Math.exp(ended.reduce((sum, speed) => sum + Math.log(speed), 0) / ended.length);
  const stretch = ended.reduce((sum, speed) => sum + Math.log(speed / middle), 0);
  const fitted = (steepness: number): Weibull => fitWeibull(atOneSpeed(edges, middle, steepness), prior)!;
  const worth = (steepness: number) =>
    logLikelihood(atOneSpeed(edges, middle, steepness), fitted(steepness), prior) + steepness * stretch;
  const best = highest(worth, LEAST, MOST, 1e-4);
  const top = worth(best);
  const rim = (end: number) => {
    if (top - worth(end) < WILKS) return end;
    let [inside, outside] = [best, end];
    for (let i = 0; i < 40; i += 1) {
      const between = (inside + outside) / 2;
      if (top - worth(between) < WILKS) inside = between;
      else outside = between;
    }
    return inside;
  };
  const { shape, scale } = fitted(best);
  return {
    n: 1 / best,
    constant: middle * scale ** (1 / best),
    shape,
    steepness: { low: rim(LEAST), high: rim(MOST) },
    from: Math.min(...speeds),
    to: Math.max(...speeds),
    ends: ends.length,
  };
}

/** Fewer ends lie on a line by themselves: what is left of their scatter says nothing of how sure it is. */
const FEWEST_ENDS = 6;

/**
 * Whether the line says anything: life falls faster than speed rises, and surely so. Where it falls slower, faster is always cheaper,
 * which no tool does for long.
 */
export const isTold = ({ steepness, ends }: Taylor) => ends >= FEWEST_ENDS && steepness.low > 1;

export const lifeAt = ({ n, constant }: Pick<Taylor, 'n' | 'constant'>, speed: number) =>
  (constant / speed) ** (1 / n);
export const speedFor = ({ n, constant }: Pick<Taylor, 'n' | 'constant'>, minutes: number) =>
  constant / minutes ** n;

export interface BestSpeed {
  speed: number;
  /** Minutes in cut that an edge is worth there: the scale of its lives. */
  minutes: number;
  /** Within the speeds that were run; else it is a guess that must be tried. */
  run: boolean;
  /** Where it may lie, by the steepness that may be supposed. */
  between: Between;
}

/** What a change costs, by itself and after a failure, in cents; its minutes; and what a minute of the machine costs. */
export interface SpeedCosts extends ChangeCosts {
  minutes: number;
  perMinute: number;
}

/** Changes that a scale of life costs, where each edge is changed when that is cheapest; edges that never vary make one. */
const changesALife = (shape: number, costs: ChangeCosts) => bestLimit({ shape, scale: 1 }, costs).cost;

/** Cents that a metre of cut costs by its speed: the machine's time, and the edges. */
export function metreCosts(taylor: Taylor, costs: SpeedCosts): (speed: number) => number {
  const changes = changesALife(taylor.shape, costs);
  return (speed) => (costs.perMinute + changes / lifeAt(taylor, speed)) / speed;
}

/**
 * The speed that makes a part cheapest, and the one that makes it fastest: the life at which (1/n − 1) times what a life of changes costs,
 * or takes, is spent (W. W. Gilbert, economics of machining; textbook, memory). Lives that scatter make each cost more than one change:
 * edges are changed before they fail, or fail (age replacement).
 *
 * @param taylor one that is told: `isTold`
 */
export function bestSpeeds(taylor: Taylor, costs: SpeedCosts): { cheapest: BestSpeed; fastest: BestSpeed } {
  const at = (worth: number): BestSpeed => {
    const of = (steepness: number) => {
      // every line that may be supposed goes through the middle of what was run
      const middle = Math.sqrt(taylor.from * taylor.to);
      const line = { n: 1 / steepness, constant: middle * lifeAt(taylor, middle) ** (1 / steepness) };
      const minutes = (steepness - 1) * worth;
      return { minutes, speed: speedFor(line, minutes) };
    };
    const best = of(1 / taylor.n);
    const rims = [taylor.steepness.low, taylor.steepness.high].map((steepness) => of(steepness).speed);
    return {
      ...best,
      run: best.speed >= taylor.from && best.speed <= taylor.to,
      between: { low: Math.min(best.speed, ...rims), high: Math.max(best.speed, ...rims) },
    };
  };
  const timed = { planned: costs.minutes, failure: costs.minutes };
  return {
    cheapest: at(changesALife(taylor.shape, costs) / costs.perMinute),
    fastest: at(changesALife(taylor.shape, timed)),
  };
}
