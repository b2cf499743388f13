import { entry } from '../core/ledger/entry.ts';
import { minutesAndSeconds } from '../core/shift/clock.ts';
import { pool, rows, type Db } from './db.ts';
import { runningJob } from './jobs.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { type Outcome } from './outcome.ts';
import { restartOf } from './program-reading.ts';
import { heldProgram } from './programs.ts';
import { askIfDoubled } from './told-meanwhile.ts';

export interface Interrupting {
  programId: number;
  /** The line before which it stopped. */
  line: number;
  why: string;
  /** The part that was in the machine is not known to be good. */
  doubt: boolean;
}

/** Notes where a program stopped: the tool that was in, what it had cut by then, why, and whether its part is in doubt. */
export async function logInterruption(asking: Asking, given: Interrupting): Promise<Outcome<void>> {
  // worked out before anything is held
  const answer = await restartOf(pool(), given.programId, given.line);
  if (!answer.ok) return answer;
  const { tool, stand } = answer.restart;
  const cut = stand.soFar!;
  return once(asking, 'logInterruption', given, async (db) => {
    const program = await heldProgram(db, given.programId);
    await askIfDoubled(
      db,
      asking,
      ['program', 'interrupted', { programId: program.id }],
      'It stopped once more',
    );
    const running = await runningJob(db, program.machineId);
    const job = running?.programId === given.programId ? running : null;
    const part = job ? job.made + 1 : null;
    const holes = cut.holes > 0 ? `, ${cut.holes} ${cut.holes === 1 ? 'hole' : 'holes'}` : '';
    await append(
      db,
      entry.program('interrupted', {
        personId: asking.personId,
        machineId: program.machineId,
        programId: given.programId,
        jobId: job?.id ?? null,
        tool,
        said: `${program.number} stopped before line ${given.line}, T${tool} in: ${minutesAndSeconds(Math.round(cut.seconds * 1000))} of its cut${holes} done.${given.doubt ? ` ${part === null ? 'The part in the machine' : `Part ${part}`} is in doubt.` : ''}`,
        why: given.why,
        detail: { line: given.line, doubt: given.doubt, part },
      }),
    );
  });
}

/** Where a program stopped before, the newest first. */
export const interruptionsOf = (db: Db, programId: number) =>
  rows<{ id: number; said: string; why: string; person: string; at: Date; line: number }>(
    db,
    `SELECT l.id, l.said, coalesce(l.why, '') AS why, p.name AS person, l.at, coalesce((l.detail ->> 'line')::integer, 0) AS line
     FROM ledger l JOIN person p ON p.id = l.person_id WHERE l.program_id = $1 AND l.kind = 'program' AND l.stage = 'interrupted'
     ORDER BY l.id DESC LIMIT 12`,
    [programId],
  );
