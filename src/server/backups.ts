import { row, type Db } from './db.ts';

/** Seconds since the last backup was made; where there was none, since 1970. */
export const backupAge = async (db: Db): Promise<number> =>
  (await row<{ age: number }>(
    db,
    `SELECT extract(epoch FROM now() - coalesce(max(at), 'epoch'))::float8 AS age FROM backup`,
  ))!.age;
