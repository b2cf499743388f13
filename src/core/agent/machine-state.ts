import { best, COUNTS, PROGRAMS, wholeIn, type Said } from './best-said.ts';
import type { Observation } from './streams.ts';

/** What a machine does, as its control says. Null everywhere: the control does not say. */
export interface MachineState {
  execution: string | null;
  /** Since when that is so, by the agent's clock. */
  since: string | null;
  mode: string | null;
  program: string | null;
  /** The T in the spindle. */
  tool: number | null;
  parts: number | null;
  /** Since when its count is that, by the agent's clock; null or undefined: it does not say. */
  countedAt?: string | null;
  /** What it said last of its counts and of its programs, by data item; undefined: heard before that was kept. */
  said?: { counts: Said[]; programs: Said[] };
  pallet: string | null;
  emergency: boolean;
  /** Conditions that are not normal, by data item. */
  alarms: { id: string; level: 'Fault' | 'Warning'; text: string }[];
}

export const UNKNOWN: MachineState = {
  execution: null,
  since: null,
  mode: null,
  program: null,
  tool: null,
  parts: null,
  countedAt: null,
  pallet: null,
  emergency: false,
  alarms: [],
};

/** Data items of a kind that are kept. */
const MOST_SAID = 20;
/** Longest text of an alarm or a program's name that is kept. */
const TEXT = 200;
const short = (text: string | null) => (text === null || text === '' ? null : text.slice(0, TEXT));

/** What a control said at one moment, line by line: what it did, its program, its count, its pallet, its alarms. */
export const stateLines = (state: MachineState): string[] => [
  stateWords(state),
  ...(state.program ? [`Program ${state.program}`] : []),
  ...(state.parts === null ? [] : [`${state.parts} parts by its count`]),
  ...(state.pallet ? [`Pallet ${state.pallet}`] : []),
  ...state.alarms.map(({ level, text }) => `${level === 'Fault' ? 'Alarm' : 'Warning'}: ${text}`),
];

/** What a machine does after what its control said, in its order. */
export const stateAfter = (state: MachineState, observed: readonly Observation[]): MachineState =>
  observed.reduce(one, state);

function one(state: MachineState, said: Observation): MachineState {
  if (said.level !== null) return { ...state, alarms: alarmsAfter(state.alarms, said) };
  switch (said.type) {
    case 'Execution':
      return state.execution === said.value
        ? state
        : { ...state, execution: said.value, since: said.at || null };
    case 'ControllerMode':
      return { ...state, mode: short(said.value) };
    case 'Program':
      return named(state, said);
    case 'ToolNumber':
      return { ...state, tool: wholeIn(said.value) };
    case 'PartCount':
      return counted(state, said);
    case 'PalletId':
      return { ...state, pallet: short(said.value) };
    case 'EmergencyStop':
      return { ...state, emergency: said.value === 'TRIGGERED' };
    case 'Availability':
      // a control that was switched off says nothing of what it did
      return said.value === 'AVAILABLE' ? state : UNKNOWN;
    default:
      return state;
  }
}

/** What was said last, data item by data item, with one more. */
function heard(before: readonly Said[], { id, subType, value, at }: Observation): Said[] {
  const others = before.filter((each) => each.id !== id);
  return [...others, { id, subType, value: short(value), at }].slice(-MOST_SAID);
}

/** Its count after one more was said: two of one kind that differ are none. */
function counted(state: MachineState, one: Observation): MachineState {
  const said = { programs: [], ...state.said, counts: heard(state.said?.counts ?? [], one) };
  const counts = best(said.counts, COUNTS).map(({ value, at }) => ({ parts: wholeIn(value), at }));
  const parts = counts.every((each) => each.parts === counts[0]!.parts) ? (counts[0]?.parts ?? null) : null;
  if (parts === state.parts) return { ...state, said };
  return { ...state, said, parts, countedAt: counts.at(-1)?.at || null };
}

/** Its program after one more was said: the one that was started, whatever it calls. */
function named(state: MachineState, one: Observation): MachineState {
  const said = { counts: [], ...state.said, programs: heard(state.said?.programs ?? [], one) };
  return { ...state, said, program: best(said.programs, PROGRAMS).at(-1)?.value ?? null };
}

function alarmsAfter(alarms: MachineState['alarms'], said: Observation): MachineState['alarms'] {
  const others = alarms.filter(({ id }) => id !== said.id);
  if (said.level !== 'Fault' && said.level !== 'Warning') return others;
  return [...others, { id: said.id, level: said.level, text: short(said.value) ?? said.type }];
}

export type Doing = 'cutting' | 'waiting' | 'stopped' | 'ready' | 'unknown';

/** Executions by what they mean at the machine (ANSI/MTC1.4 part 3, from memory). */
const DOING: Readonly<Record<string, Doing>> = {
  ACTIVE: 'cutting',
  WAIT: 'waiting',
  INTERRUPTED: 'waiting',
  FEED_HOLD: 'waiting',
  OPTIONAL_STOP: 'waiting',
  PROGRAM_OPTIONAL_STOP: 'waiting',
  PROGRAM_STOPPED: 'waiting',
  STOPPED: 'stopped',
  PROGRAM_COMPLETED: 'ready',
  READY: 'ready',
};

/** What it does, in one word: an alarm stops it, whatever it says it executes. */
export function doing(state: MachineState): Doing {
  if (state.emergency || state.alarms.some(({ level }) => level === 'Fault')) return 'stopped';
  return meaning(state.execution);
}
const meaning = (execution: string | null): Doing =>
  execution === null ? 'unknown' : (DOING[execution] ?? 'unknown');

/**
 * Since when a machine stands, by our clock, where its control says that it does not execute anything; null: it runs, or does not say since when.
 *
 * @param clockOff milliseconds by which the control's clock is ahead
 */
export function standsSince({ execution, since }: MachineState, clockOff: number): Date | null {
  const what = meaning(execution);
  return what === 'cutting' || what === 'unknown' ? null : byOurClock(since, clockOff);
}

/** When a machine's counter came to where it stands, by our clock; null: its control does not say. */
export const countedAt = (state: MachineState, clockOff: number): Date | null =>
  byOurClock(state.countedAt ?? null, clockOff);

function byOurClock(said: string | null, clockOff: number): Date | null {
  const at = said === null ? NaN : Date.parse(said);
  return Number.isNaN(at) ? null : new Date(at - clockOff);
}

/** What it does and whom it waits for, as one would say it at the machine. */
export function stateWords(state: MachineState): string {
  const fault = state.alarms.find(({ level }) => level === 'Fault');
  if (state.emergency) return 'Emergency stop.';
  if (fault) return `Stopped: ${fault.text}`;
  const tool = state.tool === null ? '' : state.tool === 0 ? ', no tool in the spindle' : `, T${state.tool}`;
  switch (doing(state)) {
    case 'cutting':
      return `Runs${tool}`;
    case 'waiting':
      return state.execution === 'FEED_HOLD'
        ? `Held${tool}: waits for somebody at the machine`
        : `Waits${tool}: for somebody at the machine`;
    case 'stopped':
      return `Stopped${tool}`;
    case 'ready':
      return 'Ready: waits for cycle start';
    case 'unknown':
      return 'Its control does not say what it does';
  }
}

/** Milliseconds that an agent's clock is off; null: it says no time. Above `CLOCK_OFF` it is worth a word. */
export function clockOff(agentTime: string, now: Date): number | null {
  const at = Date.parse(agentTime);
  return Number.isNaN(at) ? null : at - now.getTime();
}
export const CLOCK_OFF = 60_000;
