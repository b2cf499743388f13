import { fileURLToPath } from 'node:url';
import { runner } from 'node-pg-migrate';

/**
 * Brings a database up to the newest migration; forward only. Two at once wait for each other.
 *
 * @param as whose the new tables are, where that is not who signs in
 */
export async function migrate(databaseUrl: string, as?: string): Promise<number> {
  const done = await runner({
    databaseUrl: as ? { connectionString: databaseUrl, options: `-c role=${as}` } : databaseUrl,
    dir: fileURLToPath(new URL('../migrations', import.meta.url)),
    direction: 'up',
    migrationsTable: 'migration',
    log: () => undefined,
    verbose: false,
  });
  return done.length;
}
