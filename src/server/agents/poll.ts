import { askOf, follow, gapWords, type Ask, type Followed } from '../../core/agent/follow.ts';
import { clockOff, stateAfter, UNKNOWN } from '../../core/agent/machine-state.ts';
import type { StreamsRead } from '../../core/agent/streams.ts';
import { AT_ONCE } from './ask.ts';
import type { Heard } from './states.ts';

/** Answers that one poll may take: after a gap, or where much was said. */
const ROUNDS = 6;

export const unheard = (machineId: number, now: Date): Heard => ({
  machineId,
  instance: null,
  next: null,
  state: UNKNOWN,
  problem: null,
  gap: null,
  gapAt: null,
  clockOff: null,
  seenAt: now,
});

const followedIn = ({ instance, next }: Heard): Followed | null =>
  instance === null || next === null ? null : { instance, next };

/**
 * Asks an agent until nothing more is to be had, and says what is known then. A control that does not answer is a sentence; what
 * it did last stays what is known.
 */
export async function pollOnce(
  heard: Heard,
  answer: (ask: Ask) => Promise<StreamsRead>,
  now: () => Date,
): Promise<Heard> {
  let known = heard;
  let ask = askOf(followedIn(known));
  for (let round = 0; round < ROUNDS; round += 1) {
    const read = await answer(ask);
    const step = follow(followedIn(known), ask, read);
    if (step.again) {
      ask = { what: 'current' };
      continue;
    }
    if (!read.ok) return { ...known, problem: read.reason, seenAt: now() };
    // what a control that was started anew does not say, nobody knows
    const from = step.gap?.kind === 'restarted' || known.instance === null ? UNKNOWN : known.state;
    known = {
      ...known,
      instance: step.followed!.instance,
      next: step.followed!.next,
      state: stateAfter(from, step.observed),
      problem: null,
      gap: step.gap ? gapWords(step.gap) : known.gap,
      gapAt: step.gap ? now() : known.gapAt,
      clockOff: clockOff(read.at, now()),
      seenAt: now(),
    };
    if (step.gap === null && read.observed.length < AT_ONCE) return known;
    ask = askOf(followedIn(known));
  }
  return known;
}

/** Whether people would see a difference. */
export const looksOther = (a: Heard, b: Heard): boolean =>
  a.problem !== b.problem || a.gap !== b.gap || JSON.stringify(a.state) !== JSON.stringify(b.state);
