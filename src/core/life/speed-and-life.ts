/** F. W. Taylor's v · T^n = C: speed and life. v in metres, T in minutes in cut. */
export interface Taylor {
  n: number;
  constant: number;
  /** Speeds that were run: beyond them it says nothing. */
  from: number;
  to: number;
}

/** Speeds nearer than this, over each other, tell nothing about a slope. */
const APART = 1.05;

/**
 * The line through speeds and lives on logarithmic scales, by least squares. @returns null where it cannot be told: fewer than two
 * speeds that differ, or lives that do not fall with speed.
 */
export function fitTaylor(points: readonly { speed: number; minutes: number }[]): Taylor | null {
  const known = points.filter(({ speed, minutes }) => speed > 0 && minutes > 0);
  if (known.length < 2) return null;
  const speeds = known.map(({ speed }) => speed);
  const [from, to] = [Math.min(...speeds), Math.max(...speeds)];
  if (to < from * APART) return null;
  const [x, y] = [known.map(({ speed }) => Math.log(speed)), known.map(({ minutes }) => Math.log(minutes))];
  const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;
  const [mx, my] = [mean(x), mean(y)];
  // lives scatter, speeds are set: log T over log v has the slope −1/n
  const slope =
    x.reduce((sum, each, i) => sum + (each - mx) * (y[i]! - my), 0) /
    x.reduce((sum, each) => sum + (each - mx) ** 2, 0);
  if (slope >= 0) return null;
  const n = -1 / slope;
  return { n, constant: Math.exp(mx + n * my), from, to };
}

export const lifeAt = ({ n, constant }: Taylor, speed: number) => (constant / speed) ** (1 / n);
export const speedFor = ({ n, constant }: Taylor, minutes: number) => constant / minutes ** n;

export interface BestSpeed {
  speed: number;
  minutes: number;
  /** Within the speeds that were run; else it is a guess that must be tried. */
  run: boolean;
}

/**
 * The speed that makes a part cheapest, and the one that makes it fastest (W. W. Gilbert, economics of machining; textbook, memory): the
 * life at which (1/n − 1) times what a change costs, or takes, is spent.
 *
 * @param change minutes of a change; what an edge costs; what a minute of the machine costs
 */
export function bestSpeeds(
  taylor: Taylor,
  { minutes, edge, perMinute }: { minutes: number; edge: number; perMinute: number },
): { cheapest: BestSpeed; fastest: BestSpeed } {
  const at = (worth: number): BestSpeed => {
    const life = (1 / taylor.n - 1) * worth;
    const speed = speedFor(taylor, life);
    return { speed, minutes: life, run: speed >= taylor.from && speed <= taylor.to };
  };
  return { cheapest: at(minutes + edge / perMinute), fastest: at(minutes) };
}
