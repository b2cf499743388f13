import type { Dialect } from './dialect.ts';
import { ProgramRun, type Beyond } from './program-run.ts';
import type { Remark } from './reading.ts';
import { isUnknown, unknown } from './expression.ts';
import { FRAMES } from './frame.ts';
import type { CallOf, ModesNow, Stand } from './stand.ts';

/** What makes a place one where nobody starts again in the middle (H15). */
export const DANGERS = {
  compensation: 'radius compensation is on: it must begin on a straight line outside the part',
  cycle: 'a canned cycle is in force: its depth and its retract plane stand before the line',
  thread: 'a thread or a tap is being cut: it is not met again',
  incremental: 'moves count from where it stands (G91), and it does not stand there any more',
  frame: 'the coordinates are moved: that must be in force again, once',
  rotary: 'rotary axes were turned: nobody comes down beside a part that may stand at another angle',
  variables: 'variables were set before it: what they hold now, nobody knows',
  inverse: 'feed is by inverse time (G93): each block has one of its own',
  place: 'where it stands, the program has not said before it',
  sub: 'it stands in a subprogram or a loop: which of its rounds it was, a line does not say',
  change: 'another tool is staged than the one that is in: the next change takes what is staged then',
  unknown: 'what came before it could not be read for certain',
  writes: 'registers were written before it: run once more they are written once more',
  lathe: 'on a lathe a tool goes back in the order that its shape and the part allow: only from its call',
  motion: 'an arc begins where the block before it ended',
} as const;
export type Danger = keyof typeof DANGERS;

export interface Restart {
  /** Line asked for, from 1. */
  line: number;
  tool: number;
  stand: Stand;
  dangers: Danger[];
  /** The tool's call: where it is safe to begin again, what is cut once more by that, and the modes to have in force there. */
  back: { line: number; seconds: number; holes: number; text: string[] } | null;
  /** Why there is no way from the call; null: there is. */
  notBack: string | null;
  /** Text that leads to the line itself; null: nobody should. */
  here: string[] | null;
  /** Lines before it that write registers. */
  writes: number[];
  doubts: Remark[];
}

export type RestartResult = { ok: true; restart: Restart } | { ok: false; reason: string };

/**
 * Where and how a program may be begun again after it stopped before a line: how everything stands there, what is dangerous about the
 * place, the call of the tool that was in, what is cut once more from there, and text that brings the modes back. In the middle only where
 * nothing speaks against it, on a mill, and never by a row or a speed that is not known.
 *
 * @param line from 1, in the file itself
 */
export function restartAt(text: string, dialect: Dialect, line: number, beyond: Beyond = {}): RestartResult {
  const run = new ProgramRun(text, dialect, beyond);
  const stand = run.upTo(line - 1);
  const { remarks, calls, number } = run.result();
  if (!stand) return { ok: false, reason: `The run never comes to line ${line}.` };
  if (!stand.soFar || !stand.call)
    return { ok: false, reason: `No tool is in before line ${line}: begin the program at its top.` };
  const { soFar, call } = stand;
  const doubts = remarks.filter((doubt) => doubt.line < line);
  const writes = calls.flatMap((each) => each.writes ?? []).filter((at) => at < line);
  const dangers = dangersOf(stand, dialect, doubts, writes);
  const notBack = whyNotBack(stand, call, soFar.tool, dialect);
  return {
    ok: true,
    restart: {
      line,
      tool: soFar.tool,
      stand,
      dangers,
      notBack,
      back:
        notBack === null
          ? {
              line: call.line,
              seconds: soFar.seconds,
              holes: soFar.holes,
              text: [
                `(${number} AGAIN FROM LINE ${call.line}, T${soFar.tool})`,
                ...safeLines(call.before, dialect),
                ...heldLines(call.before, stand, dialect),
                ...(call.staged ? [`T${soFar.tool}`] : []),
              ],
            }
          : null,
      here: dangers.length === 0 ? hereLines(stand, dialect, number, line) : null,
      writes,
      doubts,
    },
  };
}

function dangersOf(
  stand: Stand,
  dialect: Dialect,
  doubts: readonly Remark[],
  writes: readonly number[],
): Danger[] {
  const found: Danger[] = [];
  if (dialect.kind === 'lathe') found.push('lathe');
  if (stand.radius.on) found.push('compensation');
  if (stand.cycle !== null) found.push('cycle');
  if (stand.cycle === 84 || stand.cycle === 74 || stand.motion === 92) found.push('thread');
  if (!stand.absolute) found.push('incremental');
  if (stand.frames.length > 0) found.push('frame');
  if (stand.angles.length > 0) found.push('rotary');
  if (stand.variables.length > 0) found.push('variables');
  if (stand.feedBy === 'inverse') found.push('inverse');
  if (dialect.kind === 'mill' && stand.unplaced.length > 0) found.push('place');
  if (stand.depth > 0) found.push('sub');
  if (stand.staged !== null && dialect.toolCallCodes.length > 0 && stand.staged !== stand.soFar!.tool)
    found.push('change');
  if ((stand.motion === 2 || stand.motion === 3) && !stand.own) found.push('motion');
  if (writes.length > 0) found.push('writes');
  const row = stand.lengthRow;
  const noSpeed = stand.spindle !== 'off' && !(stand.speed > 0);
  if (stand.perhaps || doubts.length > 0 || row === null || Number.isNaN(row) || noSpeed)
    found.push('unknown');
  return found;
}

/** Why nobody begins again at the call of the tool; null: one may. */
function whyNotBack(stand: Stand, call: CallOf, tool: number, dialect: Dialect): string | null {
  if (!call.alone) return `T${tool} was called within a subprogram`;
  if (Number.isNaN(call.before.staged ?? 0)) return 'which tool was staged is not known';
  // nothing of the family takes that back for certain
  const set = stand.frames.find(({ code }) => FRAMES[code] === null);
  if (set) return `the zero was set where the tool stood (G${set.code}, line ${set.line})`;
  if (dialect.kind === 'lathe') return null;
  const [moved] = call.before.frames;
  if (moved)
    return `the coordinates were moved when T${tool} was called (G${moved.code}, line ${moved.line})`;
  const { unplaced } = call.before;
  if (stand.cutUnsaid && unplaced.some((axis) => axis !== 'Z'))
    return `where X and Y stood when T${tool} was called, the program has not said`;
  return null;
}

const degrees = (value: number) => plain(value).replace(/\.$/, '');

/** What else is to be as it was at a place: coordinates that were moved behind it, variables, rotary axes. What no word brings back is said. */
function heldLines(then: ModesNow, now: Stand, dialect: Dialect): string[] {
  const values = new Map(then.variables.map(({ number, value }) => [number, value]));
  const variables = now.variables.map(({ number }) => {
    // set behind the place for the first time: what stood there before is not known
    const value = values.has(number) ? values.get(number)! : unknown('');
    return isUnknown(value)
      ? `(#${number} WAS SET BEHIND IT: PUT IT BACK)`
      : `#${number}=${value === null ? '#0' : Number(value.toPrecision(12))}`;
  });
  if (dialect.kind === 'lathe') return variables;
  const angles = now.angles.map(({ letter }) => {
    const there = then.angles.find((each) => each.letter === letter);
    const where =
      there === undefined
        ? 'AS AT THE BEGINNING'
        : Number.isNaN(there.degrees)
          ? 'AT HOME'
          : `AT ${degrees(there.degrees)}`;
    return `(${letter} IS TO STAND ${where})`;
  });
  const ends = now.framesBefore.flatMap((code) => FRAMES[code] ?? []);
  return [...ends, ...variables, ...angles, ...(now.unsaid ? [stoodLine(then)] : [])];
}

/** Where the program counts on X and Y to be; it may have sent them home. */
function stoodLine({ at: { x, y }, unplaced }: ModesNow): string {
  return unplaced.some((axis) => axis !== 'Z')
    ? '(X AND Y ARE TO STAND AS THEY DID AT THE CALL)'
    : `(X AND Y ARE TO STAND AT X${plain(x)} Y${plain(y)})`;
}

/** Modes that were in force when the tool was called, one after the other: units first. Nothing moves by them. */
function safeLines(modes: ModesNow, dialect: Dialect): string[] {
  const { mm, in: inch } = dialect.unitCodes;
  const first = [modes.metric ? mm : inch, `G${modes.plane}`, 'G40', 'G80'];
  if (dialect.kind === 'mill') first.push('G49', modes.absolute ? 'G90' : 'G91');
  const feeds =
    dialect.kind === 'lathe' && dialect.turningCycles
      ? { minute: 'G98', revolution: 'G99', inverse: 'G93' }
      : { minute: 'G94', revolution: 'G95', inverse: 'G93' };
  const second = [feeds[modes.feedBy], modes.workOffset, modes.motion <= 3 ? `G${modes.motion}` : ''];
  const speed = modes.speed > 0 ? `S${Math.round(modes.speed)}` : '';
  const spindle =
    dialect.kind === 'mill'
      ? speed
      : modes.surface > 0
        ? `G96 S${Math.round(modes.surface)}`
        : speed && `G97 ${speed}`;
  const feed = modes.feed > 0 && modes.feedBy !== 'inverse' ? `F${plain(modes.feed)}` : '';
  const ceiling = modes.ceiling === null ? '' : `G${modes.ceilingBy} S${Math.round(modes.ceiling)}`;
  return [first, second, [ceiling], [spindle, feed]]
    .map((words) => words.filter(Boolean).join(' '))
    .filter(Boolean);
}

const plain = (value: number) => {
  const text = (Math.round(value * 10_000) / 10_000).toString();
  return text.includes('.') ? text : `${text}.`;
};

/** The way to a block on a mill: tool, modes, spindle, X and Y high up, then Z. */
function hereLines(stand: Stand, dialect: Dialect, number: string, line: number): string[] {
  const { soFar, at, highest } = stand;
  const [change] = dialect.toolCallCodes;
  const [length] = dialect.lengthCodes;
  const turns = { off: 'M5', cw: 'M3', ccw: 'M4' }[stand.spindle];
  const high = Math.max(highest ?? at.z, at.z);
  const row =
    stand.lengthRow === soFar!.tool && dialect.automaticRow !== null ? dialect.automaticRow : stand.lengthRow;
  return [
    `(${number} AGAIN FROM LINE ${line}, T${soFar!.tool})`,
    ...safeLines(stand, dialect),
    ...stand.framesBefore.flatMap((code) => FRAMES[code] ?? []),
    change === undefined && dialect.toolCallMacro !== null
      ? `G65 P${dialect.toolCallMacro} T${soFar!.tool}.`
      : `T${soFar!.tool} ${change ?? ''}`.trim(),
    `S${Math.round(stand.speed)} ${turns}`,
    `G0 X${plain(at.x)} Y${plain(at.y)}`,
    length ? `${length} H${row} Z${plain(high)}` : `Z${plain(high)}`,
    ...stand.coolant.map((code) => `M${code}`),
    ...(at.z < high ? [`G1 Z${plain(at.z)} F${plain(stand.feed)}`] : []),
    `G${stand.motion}${stand.feed > 0 ? ` F${plain(stand.feed)}` : ''}`,
  ];
}
