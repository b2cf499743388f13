import { nanometres, type Length } from '../units/length.ts';

/** Where a fork of a linear rack was captured, machine coordinates (H16). */
export interface ForkSpot {
  fork: number;
  x: Length;
  y: Length;
  z: Length;
}
export const AXES = ['x', 'y', 'z'] as const;
export type RackAxis = (typeof AXES)[number];

/** How far the carriage slides until the flange is clear of the fork: |clear − in|, and never less (H16). */
export const slideDistance = (inFork: Length, clear: Length): Length => nanometres(Math.abs(clear - inFork));

/** The straight line at even pitch through the forks: for each axis where fork 0 would be, and the step to the next. */
export type ForkLine = Record<RackAxis, { start: number; step: number }>;

/** Least squares over the fork numbers; null when fewer than two different forks are known. */
export function forkLine(forks: readonly ForkSpot[]): ForkLine | null {
  const n = forks.length;
  const mean = forks.reduce((sum, each) => sum + each.fork, 0) / n;
  const spread = forks.reduce((sum, each) => sum + (each.fork - mean) ** 2, 0);
  if (n < 2 || spread === 0) return null;
  const along = (axis: RackAxis) => {
    const middle = forks.reduce((sum, each) => sum + each[axis], 0) / n;
    const step = forks.reduce((sum, each) => sum + (each.fork - mean) * (each[axis] - middle), 0) / spread;
    return { start: middle - step * mean, step };
  };
  return { x: along('x'), y: along('y'), z: along('z') };
}

/** Where the line has a fork. */
export const onLine = (line: ForkLine, fork: number): ForkSpot => ({
  fork,
  x: nanometres(Math.round(line.x.start + fork * line.x.step)),
  y: nanometres(Math.round(line.y.start + fork * line.y.step)),
  z: nanometres(Math.round(line.z.start + fork * line.z.step)),
});

/** A fork off the line of the others by more than this is a mistake to look at, nanometres (common practice, no source). */
export const ODD_FORK = 500_000;

export interface OddFork {
  fork: number;
  axis: RackAxis;
  /** Captured less where the others say it is. */
  off: Length;
}

/**
 * The fork that stands off the line of all the others, with the axis and by how much. Each fork is held against the line
 * without it, so one that is far off does not bend the line it is judged by. At least four forks are needed: of three, any may be
 * the odd one.
 */
export function oddFork(forks: readonly ForkSpot[], tolerance = ODD_FORK): OddFork | null {
  if (forks.length < 4) return null;
  const judged = forks.map((each) => {
    const others = forks.filter((other) => other !== each);
    const line = forkLine(others);
    if (!line) return null;
    const there = onLine(line, each.fork);
    const axis = AXES.reduce((worst, next) =>
      Math.abs(each[next] - there[next]) > Math.abs(each[worst] - there[worst]) ? next : worst,
    );
    return { fork: each.fork, axis, off: nanometres(each[axis] - there[axis]), left: worstOff(others, line) };
  });
  const odd = judged.filter((each) => each !== null).sort((a, b) => a.left - b.left)[0];
  return odd && Math.abs(odd.off) > tolerance ? { fork: odd.fork, axis: odd.axis, off: odd.off } : null;
}

const worstOff = (forks: readonly ForkSpot[], line: ForkLine) =>
  Math.max(
    ...forks.map((each) => {
      const there = onLine(line, each.fork);
      return Math.max(...AXES.map((axis) => Math.abs(each[axis] - there[axis])));
    }),
  );

/** The largest distance of a fork from the line through all of them. */
export function straightness(forks: readonly ForkSpot[]): Length | null {
  const line = forkLine(forks);
  return line && nanometres(worstOff(forks, line));
}

/** Which way the forks open, seen from the front. */
export const OPENINGS = ['X+', 'X-', 'Y+', 'Y-'] as const;

/** What is confirmed before and while the rack is proved, in order (H16). */
export const RACK_STEPS = [
  { name: 'backup', words: 'The control’s configuration is backed up, and the copy has been opened once.' },
  { name: 'home', words: 'The machine is homed.' },
  {
    name: 'opening',
    words: 'Which way the forks open was read from the front, with the machine’s axes in mind.',
  },
  { name: 'air', words: 'The air-pressure check is connected and trips when the air is off.' },
  { name: 'spindleStop', words: 'The spindle’s stop time is long at first: 12 to 15 s.' },
  { name: 'empty', words: 'Every fork and the spindle are empty for the dry run.' },
  { name: 'slow', words: 'Rapids are turned right down, and a hand is at the emergency stop.' },
  {
    name: 'fetch',
    words: 'Each fork was fetched from and put back to in turn: right place, drawbar, slide, lift.',
  },
  { name: 'labels', words: 'Forks are labelled permanently, tools with labels that peel off.' },
] as const;
export type RackStep = (typeof RACK_STEPS)[number]['name'];
