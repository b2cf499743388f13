import { row, type Db } from './db.ts';

/** Seconds since the last backup was made; where there was none, since 1970. */
export const backupAge = async (db: Db): Promise<number> =>
  (await row<{ age: number }>(
    db,
    `SELECT extract(epoch FROM now() - coalesce(max(at), 'epoch'))::float8 AS age FROM backup`,
  ))!.age;

/**
 * Seconds for which changes could not be written to the history that the cell can be gone back in; nought where they can, or where none is kept.
 */
export const historyBehind = async (db: Db): Promise<number> =>
  (await row<{ behind: number }>(
    db,
    `SELECT CASE WHEN current_setting('archive_mode') <> 'off' AND coalesce(last_failed_time, 'epoch') > coalesce(last_archived_time, 'epoch')
       THEN extract(epoch FROM now() - coalesce(last_archived_time, stats_reset, now()))::float8 ELSE 0 END AS behind
     FROM pg_stat_archiver`,
  ))!.behind;
