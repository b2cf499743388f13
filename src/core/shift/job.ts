/** How a job of a machine's list stands. One runs at a time; a paused one has parts made and waits to be taken up again. */
export type JobState = 'waiting' | 'running' | 'paused' | 'done' | 'removed';
export type JobMove = 'start' | 'pause' | 'finish' | 'remove';

export interface JobStanding {
  number: string;
  state: JobState;
  made: number;
  quantity: number;
}

const FROM: Readonly<Record<JobMove, readonly JobState[]>> = {
  start: ['waiting', 'paused'],
  pause: ['running'],
  finish: ['running', 'paused'],
  remove: ['waiting'],
};
const TO: Readonly<Record<JobMove, JobState>> = {
  start: 'running',
  pause: 'paused',
  finish: 'done',
  remove: 'removed',
};
const NOT_FROM: Readonly<Record<JobState, string>> = {
  waiting: 'has not been started',
  running: 'is running',
  paused: 'is paused',
  done: 'is already finished',
  removed: 'was taken off the list',
};

/** How fast a job runs: by the cycle time that somebody typed, and as its parts were counted lately; null: too little to say. */
export interface JobPace {
  cycleMilliseconds: number;
  partsPerCycle: number;
  pace: number | null;
}

/** Milliseconds from cycle to cycle: what was typed, or less, where it was counted faster: what is told is told for the earliest. */
export const cycleOf = ({ cycleMilliseconds, pace }: Omit<JobPace, 'partsPerCycle'>): number =>
  Math.min(cycleMilliseconds, pace ?? Infinity);

/** Milliseconds from part to part: of a bar that carries two, half of its cycle. */
export const perPart = (job: JobPace): number => cycleOf(job) / Math.max(1, job.partsPerCycle);

/** A move that stops work short of what was ordered is written down with its reason. */
export const asksWhy = (job: Pick<JobStanding, 'made' | 'quantity'>, move: JobMove): boolean =>
  move === 'pause' || move === 'remove' || (move === 'finish' && job.made < job.quantity);

/**
 * What becomes of a job by a move, or why it does not. `running` is the job that runs on the machine now, of which there is one at
 * most. A job of which parts were made is not taken off the list: it is stopped, so that its parts stay counted.
 */
export function movedJob(
  job: JobStanding,
  move: JobMove,
  running: Pick<JobStanding, 'number'> | null,
  why: string,
): { ok: true; to: JobState } | { ok: false; reason: string } {
  if (move === 'remove' && job.made > 0)
    return {
      ok: false,
      reason: `${job.made} of ${job.number} were made: stop the job instead of taking it off the list.`,
    };
  if (!FROM[move].includes(job.state))
    return { ok: false, reason: `${job.number} ${NOT_FROM[job.state]}. Look again.` };
  if (move === 'start' && running)
    return { ok: false, reason: `${running.number} is running: pause or finish it first.` };
  if (asksWhy(job, move) && why.trim() === '')
    return {
      ok: false,
      reason:
        move === 'finish'
          ? `${job.made} of ${job.quantity} were made: say why it stops short.`
          : 'Say why, for whoever comes next.',
    };
  return { ok: true, to: TO[move] };
}

/**
 * Parts that a control has counted since a job was started: its counter goes on from the job before, unless somebody set it back, and then
 * it shows less than it did at the start.
 *
 * @param from what it showed when the job was started, less what was made of it by then; null: nobody asked it
 */
export const countedSince = (count: number, from: number | null) =>
  from !== null && count >= from ? count - from : count;

/** How much faster than its cycle a job may run, before a number of its parts is doubted. */
export const FASTER = 2;
/** How many parts nobody may have recorded, before the number of a part is. */
const UNRECORDED = 20;

interface CountedJob extends Pick<JobStanding, 'made' | 'quantity'> {
  countFrom: number | null;
}

/**
 * Parts of a job by its control's count; null: it says nothing of them. A count beyond what is ordered may be of the job before, and is not
 * believed; nor, where nobody asked the control as the job was started, one before any part is on record, or far from what is. One that stands
 * where it stood at the start may be of a program that does not turn it.
 */
export function countBelieved({ made, quantity, countFrom }: CountedJob, count: number): number | null {
  const counted = countedSince(count, countFrom);
  const most = countFrom !== null ? quantity : made === 0 ? 0 : Math.min(quantity, made + UNRECORDED);
  return counted === 0 || counted > most ? null : counted;
}

/** Whether a control that was asked just now says how many parts are made: then nobody has to reckon. */
export const controlCounts = (job: CountedJob, count: number | null): boolean =>
  count !== null && (countBelieved(job, count) ?? -1) >= job.made;

/**
 * Parts made by now: those on record, or what the control has counted where that is more, since what nobody has recorded yet was cut all the
 * same.
 *
 * @param count what the control shows; null: nobody asked it, or it did not answer
 */
export const madeByNow = (job: CountedJob, count: number | null): number =>
  Math.max(job.made, (count === null ? null : countBelieved(job, count)) ?? 0);

/**
 * The highest number that a part of a job can have by now: what was cut when it was last told, what the machine can have cut since, and what
 * may have been forgotten (common practice, no source).
 *
 * @param since milliseconds since the job was last told of; below nought where a clock was set back: then nothing was cut since
 */
export const mostByNow = (
  {
    known,
    quantity,
    partsPerCycle,
    cycleMilliseconds,
  }: { known: number; quantity: number; partsPerCycle: number; cycleMilliseconds: number },
  since: number,
): number => {
  const cut = Math.ceil((FASTER * Math.max(0, since)) / Math.max(1, cycleMilliseconds)) * partsPerCycle;
  // more than were ordered is a few that went wrong
  return Math.min(known + cut + UNRECORDED, Math.max(known, quantity) + UNRECORDED);
};
