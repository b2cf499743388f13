import { formatLength } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import { registerDecimals } from '../units/register-decimals.ts';
import { mostUrgent } from './run-out.ts';
import { toolList, type LeafData, type LeafNote } from './leaf.ts';

/** What was done at a machine in a shift, as far as it is worth a word. */
export interface Change {
  machine: string;
  what: 'corrected' | 'byHand' | 'renewed' | 'broken' | 'started' | 'finished' | 'set up';
  tool: number | null;
  /** Of a correction: by how much, and the size it was for; of what was set by hand: why. */
  change: Length | null;
  unit: LengthUnit | null;
  increment: Length | null;
  /** The size that was corrected, the reason of what was set by hand, the program of a job; of one that was set up anew in its middle also what was changed. */
  of: string;
}

export interface HandoverFacts {
  changes: Change[];
  /** Parts counted, less those taken back, and how many were found to be scrap. */
  made: { machine: string; parts: number; scrapped: number }[];
  leaf: Pick<
    LeafData,
    | 'forecast'
    | 'waiting'
    | 'stray'
    | 'controls'
    | 'crossed'
    | 'questions'
    | 'promises'
    | 'renewals'
    | 'toMeasure'
    | 'lacking'
    | 'firstParts'
    | 'heldBack'
  >;
  /** Until when what runs out is told: the end of the next shift. */
  until: Date;
}

/** What is read aloud in a minute: newsreaders speak about so many words (common practice, no source). */
export const MINUTE = 150;
/** Words of one reason, one question, one promise; what is longer is told as far as that. */
const SAID = 14;

/** A subject of the handover, from the shortest way of telling it to the whole. */
interface Subject {
  short: string;
  some: string;
  whole: string;
}

export const wordsOf = (text: string) => text.split(/\s+/).filter((word) => word !== '').length;

const count = (n: number, one: string, more = `${one}s`) => `${n} ${n === 1 ? one : more}`;
const whole = (text: string) => text.trim().replace(/[.;:,]+$/, '');
function cut(text: string): string {
  const words = text.trim().split(/\s+/);
  return whole(words.length <= SAID ? words.join(' ') : `${words.slice(0, SAID).join(' ')} …`);
}

/** Told whole, or the first two and how many more, or how many. */
function subject(
  items: readonly string[],
  head: string,
  short: string,
  inFull: readonly string[] = items,
): Subject[] {
  if (items.length === 0) return [];
  const end = (text: string) => (/[.?!…]$/.test(text) ? text : `${text}.`);
  const two = items.slice(0, 2).join('; ');
  return [
    {
      short: end(short),
      some: end(`${head} ${items.length <= 2 ? two : `${two}; and ${items.length - 2} more`}`),
      whole: end(`${head} ${inFull.join('; ')}`),
    },
  ];
}

const note =
  (said: (text: string) => string) =>
  ({ machine, text }: LeafNote) =>
    `${machine === null ? '' : `${machine}: `}${said(text)}`;

const by = ({ change, unit, increment }: Change) =>
  change === null || unit === null || increment === null
    ? ''
    : ` ${formatLength(nanometres(change), unit, { sign: 'always', decimals: registerDecimals(unit, increment) })}`;

/** Changes of one kind, machine by machine. */
const of = (changes: readonly Change[], what: Change['what']) => changes.filter((each) => each.what === what);
const tools = (changes: readonly Change[]) =>
  [...new Set(changes.map(({ machine }) => machine))].map(
    (machine) =>
      `${machine} ${[...new Set(changes.filter((each) => each.machine === machine).map(({ tool }) => `T${tool}`))].join(', ')}`,
  );

/** Subjects in the order in which they matter to whoever comes. */
function subjects({ changes, made, leaf, until }: HandoverFacts, when: (at: Date) => string): Subject[] {
  const held = leaf.heldBack.map(
    (each) =>
      `${each.machine === null ? each.number : `${each.machine} T${each.tool}`} ${each.verdict === 'broken' ? 'broke' : 'pulled out'}, ${each.open > 0 ? `${count(each.open, 'part')} to inspect` : 'not cleared yet'}`,
  );
  const heldTools = new Set(leaf.heldBack.map(({ machine, tool }) => `${machine} ${tool}`));
  const out = leaf.forecast
    .flatMap(({ machine, runsOut }) => runsOut.map((tool) => ({ ...tool, machine })))
    .filter((tool) => !heldTools.has(`${tool.machine} ${tool.tool}`))
    .sort(mostUrgent);
  const stopped = out.filter(({ flag }) => flag !== null);
  const soon = out.filter(({ flag, at }) => flag === null && at !== null && at <= until);
  const toKey = leaf.waiting.filter(({ state, held }) => state === 'approved' && held === null);
  const toRead = leaf.waiting.filter(({ held }) => held !== null);
  const toApprove = leaf.waiting.filter(({ state }) => state !== 'approved');
  // what was put right since is history
  const crossed = leaf.crossed.filter((register) =>
    register.crossed.some((each) => each.kind === 'nudged' || each.righted === null),
  );
  const corrected = of(changes, 'corrected');
  const byHand = of(changes, 'byHand');
  return [
    ...subject(held, 'Broken:', `${count(held.length, 'broken tool')} with parts held back.`),
    ...subject(
      stopped.map(({ machine, tool, flag }) => `${machine} T${tool}${flag === 'broken' ? ', broken' : ''}`),
      'Not to be used:',
      `${count(stopped.length, 'tool')} not to be used.`,
    ),
    ...subject(
      leaf.lacking.map(({ machine, program, tools }) => `${machine} ${toolList(tools)} for ${program}`),
      'Not in the machine, and called by what runs:',
      `${count(leaf.lacking.length, 'job')} begun and without all of its tools.`,
    ),
    ...subject(
      leaf.questions.map(note(cut)),
      'Not understood:',
      `${count(leaf.questions.length, 'open question')}.`,
      leaf.questions.map(note(whole)),
    ),
    ...subject(
      leaf.controls.map(({ machine, differing }) => `${machine} in ${count(differing, 'register')}`),
      'The control holds something else than the record at',
      `${count(leaf.controls.length, 'control differs', 'controls differ')} from the record.`,
    ),
    ...subject(
      crossed.map(({ machine, row }) => `${machine} row ${row}`),
      'Moved by both shifts:',
      `${count(crossed.length, 'register')} moved by both shifts.`,
    ),
    ...subject(
      leaf.stray.map(({ machine, tool, feature }) => `${machine} T${tool} for ${feature}`),
      'Corrected and did not do what was asked:',
      `${count(leaf.stray.length, 'correction')} did not do what was asked.`,
    ),
    ...subject(
      toKey.map(({ machine, tool, feature }) => `${machine} T${tool} for ${feature}`),
      'Approved and not keyed:',
      `${count(toKey.length, 'correction')} to key.`,
    ),
    ...subject(
      toRead.map(({ machine, tool, row }) => `${machine} row ${row} (T${tool})`),
      'Held back by newer parts, to be read off the control:',
      `${count(toRead.length, 'row')} to read off the control before anything is keyed.`,
    ),
    ...subject(
      soon.map(
        ({ machine, tool, at, byNow, gone, sister }) =>
          `${machine} T${tool} ${byNow ? 'by now, if it ran on' : `at ${when(at!)}`}${gone === null ? '' : ' with nobody here'}${sister === null ? ', no sister built' : ''}`,
      ),
      'Running out:',
      `${count(soon.length, 'tool')} running out by ${when(until)}.`,
    ),
    ...subject(
      leaf.promises.map(note(cut)),
      'Promised:',
      `${count(leaf.promises.length, 'promise')} to keep.`,
      leaf.promises.map(note(whole)),
    ),
    ...subject(
      toApprove.map(({ machine, tool, feature }) => `${machine} T${tool} for ${feature}`),
      'Waiting for approval:',
      `${count(toApprove.length, 'correction waits', 'corrections wait')} for approval.`,
    ),
    ...subject(
      leaf.firstParts.map(({ machine, program }) => `${program} on ${machine}`),
      'First part not to size yet:',
      `${count(leaf.firstParts.length, 'first part')} not to size yet.`,
    ),
    ...subject(
      leaf.toMeasure.map(({ machine, tool }) => `${machine} T${tool}`),
      'Loaded and not measured:',
      `${count(leaf.toMeasure.length, 'tool')} loaded and not measured.`,
    ),
    ...subject(
      leaf.renewals.map(({ machine, tool, number }) =>
        machine === null || tool === null ? number : `${machine} T${tool}`,
      ),
      'Half renewed:',
      `${count(leaf.renewals.length, 'tool')} half renewed.`,
    ),
    ...subject(
      byHand.map((each) => `${each.machine} T${each.tool ?? '?'}${by(each)}, ${cut(each.of)}`),
      'Found changed by hand:',
      `${count(byHand.length, 'register')} found changed by hand.`,
    ),
    ...subject(
      of(changes, 'set up').map((each) => `${each.machine} ${cut(each.of)}`),
      'Set up anew while it ran:',
      `${count(of(changes, 'set up').length, 'job')} set up anew.`,
    ),
    ...subject(
      corrected.map((each) => `${each.machine} T${each.tool ?? '?'}${by(each)} for ${each.of}`),
      'Corrected:',
      `${count(corrected.length, 'correction')} made.`,
    ),
    ...subject(
      tools(of(changes, 'broken').filter(({ machine, tool }) => !heldTools.has(`${machine} ${tool}`))),
      'Broke, and was dealt with:',
      `${count(of(changes, 'broken').length, 'tool')} broke.`,
    ),
    ...subject(
      tools(of(changes, 'renewed')),
      'Renewed:',
      `${count(of(changes, 'renewed').length, 'tool')} renewed.`,
    ),
    ...subject(
      [...of(changes, 'finished'), ...of(changes, 'started')].map(
        (each) => `${each.machine} ${each.what} ${each.of}`,
      ),
      'Jobs:',
      `${count(of(changes, 'finished').length, 'job')} finished, ${of(changes, 'started').length} started.`,
    ),
    ...subject(
      made.map(({ machine, parts, scrapped }) => {
        if (scrapped <= 0) return `${machine} ${parts}`;
        return parts > 0 ? `${machine} ${parts}, ${scrapped} scrapped` : `${machine} ${scrapped} scrapped`;
      }),
      'Made:',
      `${count(
        made.reduce((sum, { parts }) => sum + parts, 0),
        'part',
      )} made.`,
    ),
  ];
}

/**
 * A handover that writes itself (H18): what is broken, not understood, waiting, running out, promised, and what was changed and
 * why, in words that can be read aloud in a minute. Every subject is told; where all would be too long, those that matter least
 * are told in fewer words, with how many there are.
 *
 * @param when writes an instant as it is said at the machines.
 */
export function handoverWords(facts: HandoverFacts, when: (at: Date) => string): string[] {
  const all = subjects(facts, when);
  if (all.length === 0) return ['Nothing was changed, and at the machines nothing is broken or waits.'];
  const told = all.map(({ short }) => short);
  let spoken = told.reduce((sum, each) => sum + wordsOf(each), 0);
  for (const way of ['some', 'whole'] as const)
    for (const [i, each] of all.entries()) {
      const longer = spoken + wordsOf(each[way]) - wordsOf(told[i]!);
      if (longer > MINUTE) continue;
      told[i] = each[way];
      spoken = longer;
    }
  return told;
}
