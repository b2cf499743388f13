import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';

/**
 * Brings a database up to the newest migration; forward only. Two at once wait for each other.
 *
 * All that are new are taken together, or none of them.
 *
 * @param as whose the new tables are, where that is not who signs in
 * @param dir where the migrations lie, where that is not here
 */
export async function migrate(
  databaseUrl: string,
  as?: string,
  dir = fileURLToPath(new URL('../migrations', import.meta.url)),
): Promise<number> {
  const done = await runner({
    databaseUrl: as ? { connectionString: databaseUrl, options: `-c role=${as}` } : databaseUrl,
    dir,
    direction: 'up',
    singleTransaction: true,
    migrationsTable: 'migration',
    log: () => undefined,
    verbose: false,
  });
  return done.length;
}
