import { readThread, tapDrill, threadEngagement, formingDrill, type Thread } from '../component/thread.ts';
import { readDefinition } from '../definition/read-definition.ts';
import type { ToolCall } from '../program/reading.ts';
import { inUnit, type Length } from '../units/length.ts';
import type { Finding, ReadinessQuestion } from './question.ts';

/** A feed that is off by more than this breaks the thread or the tap. */
const OFF = 0.01;
/** A holder that gives in length is fed a little behind its pitch, on purpose (common practice, no source: 93 to 99 in 100). */
const BEHIND = 0.93;
/** Shares of a full thread that a drilled hole may leave a cutting tap (common practice, no source: 55 to 85 in 100, with room). */
const [LEAST, MOST] = [0.5, 0.9];
/** How far a hole may lie from the one for a forming tap, over the pitch. */
const FORMED = 0.1;

interface Asked {
  call: ToolCall;
  thread: Thread;
}

/**
 * Taps as the program itself names them (H9, H17): the feed is pitch times speed, and a drill that leaves the thread its metal has been
 * there before. A thread that is not named says nothing.
 */
export function tapping({ program, machine }: ReadinessQuestion): Finding[] {
  const named = program.calls.map((call) => ({
    call,
    definition: readDefinition(call.remark, machine.unit, machine.kind),
  }));
  return named.flatMap(({ call, definition }, i): Finding[] => {
    const read = definition?.kind === 'tap' && definition.thread ? readThread(definition.thread) : null;
    if (!read?.ok) return [];
    const asked = { call, thread: read.thread };
    const drills = named
      .slice(0, i)
      .flatMap((before) =>
        before.definition?.kind === 'drill' && before.definition.diameter !== null
          ? [before.definition.diameter]
          : [],
      );
    return [...wrongFeed(asked, machine.unit), ...wrongDrill(asked, drills, machine.unit)];
  });
}

const shown = (value: number, unit: 'mm' | 'in') =>
  `${Number(value.toFixed(unit === 'mm' ? 3 : 4))}${unit === 'mm' ? ' mm' : ' in'}`;

function wrongFeed({ call, thread }: Asked, unit: 'mm' | 'in'): Finding[] {
  const speed = call.speeds;
  const [feed, more] = call.feeds;
  if (!speed || speed.least !== speed.most || !feed || more || feed.least !== feed.most || feed.most <= 0)
    return [];
  const pitch = inUnit(thread.pitch, 'mm');
  const right = feed.per === 'revolution' ? pitch : pitch * speed.most;
  if (Math.abs(feed.most / right - 1) <= OFF) return [];
  const ratio = feed.most / right;
  const behind = ratio >= BEHIND && ratio < 1;
  const inOwn = (value: number) =>
    Number((unit === 'mm' ? value : value / 25.4).toFixed(feed.per === 'revolution' ? 4 : 2));
  return [
    {
      weight: behind ? 'look' : 'stop',
      code: 'tapFeed',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} taps ${thread.name} with F${inOwn(feed.most)}${feed.per === 'revolution' ? '' : ` at S${speed.most}`}: its pitch of ${shown(inUnit(thread.pitch, unit), unit)} asks for F${inOwn(right)}.`,
      remedy: behind
        ? 'Right in a holder that gives in length; in a rigid one the tap would tear the thread, or break.'
        : 'Correct feed or speed: the tap would tear the thread, or break.',
    },
  ];
}

function wrongDrill({ call, thread }: Asked, drills: readonly Length[], unit: 'mm' | 'in'): Finding[] {
  const suits = (drill: Length) => {
    const share = threadEngagement(thread, drill);
    return (
      (share >= LEAST && share <= MOST) || Math.abs(drill - formingDrill(thread)) <= FORMED * thread.pitch
    );
  };
  if (drills.some(suits)) return [];
  const right = tapDrill(thread);
  // a tapered hole is reamed, or not: no drill can be held against it
  if (!right) return [];
  const usual = `${shown(inUnit(right.diameter, unit), unit)} is usual`;
  const before = [...new Set(drills)].map((drill) => shown(inUnit(drill, unit), unit));
  return [
    {
      weight: 'look',
      code: 'tapDrill',
      tool: call.tool,
      line: call.line,
      sentence:
        before.length === 0
          ? `T${call.tool} taps ${thread.name}, and this program drills no hole for it (${usual}).`
          : `T${call.tool} taps ${thread.name} (${usual}), and the drills before it are ${before.join(', ')}.`,
      remedy:
        'Right where the hole was made in another operation; otherwise a drill is missing, or the wrong one.',
    },
  ];
}
