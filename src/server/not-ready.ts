import { againstLeaving } from '../core/readiness/check.ts';
import type { Db } from './db.ts';
import type { Job } from './jobs.ts';
import { programById } from './programs.ts';
import { readinessOf } from './readiness.ts';

/** Findings of a program that are told; its page has the rest. */
const TOLD = 3;

interface Queued {
  programId: number;
  parts: number;
  cut: number;
  isolated: boolean;
}

/** A program of the queue that is not ready, or cannot be told to be, whatever its tools have left. */
interface NotReady {
  programId: number;
  program: string;
  stops: boolean;
  /** The worst of it with what to do about it, and how much more there is. */
  told: { sentence: string; remedy: string }[];
  more: number;
}

/**
 * The programs of a queue that are not to be left to themselves as they stand.
 *
 * @param running the job that runs
 */
export async function notReady(
  db: Db,
  pallets: readonly Queued[],
  running: Pick<Job, 'programId'> | null,
): Promise<NotReady[]> {
  const cut = pallets.filter((pallet) => !pallet.isolated && pallet.cut < pallet.parts);
  const found: NotReady[] = [];
  for (const programId of new Set(cut.map((pallet) => pallet.programId))) {
    const program = (await programById(db, programId))!;
    const parts = cut
      .filter((pallet) => pallet.programId === programId)
      .reduce((sum, pallet) => sum + pallet.parts - pallet.cut, 0);
    const against = againstLeaving(
      await readinessOf(db, program, parts, []),
      running?.programId === programId,
    );
    const [first] = against;
    if (!first) continue;
    found.push({
      programId,
      program: program.number,
      stops: first.weight === 'stop',
      told: against.slice(0, TOLD).map(({ sentence, remedy }) => ({ sentence, remedy })),
      more: Math.max(0, against.length - TOLD),
    });
  }
  return found;
}
