import { closePool } from '../src/server/db.ts';
import { playBoth } from '../sim/play/both.ts';
import { tallyLines, total, type Tally } from '../sim/play/tally.ts';
import { dropDatabases, freshDatabase } from '../tests/support/databases.ts';
import type { Row } from './row.ts';

const SEEDS = Number(process.env.PLAY_SEEDS ?? 20);

/** The made-up cell played for a shift, once with the application's answers and once without, from each seed; what is true beside both. */
export async function playing(): Promise<Row[]> {
  const ours: Tally[] = [];
  const byHand: Tally[] = [];
  for (let seed = 1; seed <= SEEDS; seed += 1) {
    await closePool();
    const database = await freshDatabase('tin_demo');
    const both = await playBoth(seed, database.ownerUrl);
    ours.push(both.ours);
    byHand.push(both.byHand);
    await closePool();
    await dropDatabases();
  }
  const theirs = tallyLines(total(byHand));
  return tallyLines(total(ours)).map(({ what, count }, i) => ({
    what: `a shift of the cell, ${SEEDS} seeds: ${what}`,
    ours: String(count),
    reference: `${theirs[i]!.count} by a crew that corrects every part by hand, without the answers`,
    ratio: `${(count / Math.max(1, theirs[i]!.count)).toFixed(2)} ×`,
  }));
}
