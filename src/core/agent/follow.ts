import type { Observation, StreamsRead } from './streams.ts';

/** How far an agent was followed. */
export interface Followed {
  instance: string;
  /** The sequence to ask for next. */
  next: number;
}

/** What to ask an agent for: everything as it is, or what it said since. */
export type Ask = { what: 'current' } | { what: 'sample'; from: number };

/** Why something may have been missed. */
export type Gap =
  /** The agent was started anew: what it said after the last answer and before that is gone. */
  | { kind: 'restarted' }
  /** Its buffer ran over: so many things were said and are gone. */
  | { kind: 'ranOver'; lost: number };

export interface Step {
  followed: Followed | null;
  /** What is new, in the order in which it was said, none of it twice. */
  observed: Observation[];
  gap: Gap | null;
  /** The answer is no use: it is to be asked for what is so now. */
  again: boolean;
}

export const askOf = (followed: Followed | null): Ask =>
  followed === null ? { what: 'current' } : { what: 'sample', from: followed.next };

/**
 * Takes an agent's answer (ANSI/MTC1.4 part 1: sequence numbers, instance ids and the buffer, from memory). Nothing is missed
 * unsaid: what the buffer lost and what a restart took are told, and what was told before is dropped.
 *
 * After a gap the state is asked for as a whole; `before` is then what was followed until the gap.
 */
export function follow(before: Followed | null, ask: Ask, answer: StreamsRead): Step {
  if (!answer.ok) {
    // where it stands now, a whole answer will say
    if (answer.outOfRange && before !== null)
      return { followed: before, observed: [], gap: null, again: true };
    return { followed: before, observed: [], gap: null, again: false };
  }
  const { instance, first, next, observed } = answer;
  const restarted = before !== null && before.instance !== instance;
  if (ask.what === 'sample' && restarted) return { followed: before, observed: [], gap: null, again: true };
  if (before === null) return { followed: { instance, next }, observed, gap: null, again: false };
  const from = restarted ? 0 : before.next;
  const lost = Math.max(0, first - from);
  const unheard = observed.filter(({ sequence }) => sequence >= from);
  if (ask.what === 'sample')
    return {
      followed: { instance, next },
      observed: unheard,
      gap: lost > 0 ? { kind: 'ranOver', lost } : null,
      again: false,
    };
  // what is so now stands partly in the buffer still: that is asked for in its order, and only what is older is taken from here
  return {
    followed: { instance, next: Math.max(from, first) },
    observed: unheard.filter(({ sequence }) => sequence < first),
    gap: restarted ? { kind: 'restarted' } : lost > 0 ? { kind: 'ranOver', lost } : null,
    again: false,
  };
}

/** A gap in words, for whoever reads a state. */
export const gapWords = (gap: Gap): string =>
  gap.kind === 'restarted'
    ? 'The agent was started anew: what it said before is gone.'
    : `${gap.lost} things that the control said are gone: its buffer ran over before it was asked.`;
