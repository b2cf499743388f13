import { transaction, row, rows, type Db } from './db.ts';
import { log } from './log.ts';
import { attempt, isWorded, Refused, type Outcome } from './outcome.ts';

/** Who asks for a write, and under which key. */
export interface Asking {
  key: string;
  personId: number;
  /** The entry of the ledger up to which the page of the form knew everything; nought or undefined: not known. */
  seen?: number;
  /** It was asked about what somebody else wrote meanwhile, and is meant all the same. */
  meant?: boolean;
}

/**
 * In one transaction. Where it was undone because somebody wrote the same number at that moment, or waited crosswise, it is done anew: it finds
 * then what the other wrote, and says so. Crosswise waiting is a fault of ours all the same, and tests are to see it.
 */
async function atLast<T>(work: (db: Db) => Promise<T>): Promise<T> {
  try {
    return await transaction(work);
  } catch (error) {
    const { code, constraint } = error as { code?: string; constraint?: string };
    const again = code === '23505' ? !isWorded(constraint) : code === '40P01' && !process.env.TIN_STRICT;
    if (!again) throw error;
    log.warn({ code, constraint }, 'an act was undone by another one at the same moment, and is done anew');
    return transaction(work);
  }
}

/**
 * Does a write once, however often the request arrives: the key and the answer are kept in the same transaction
 * as the write. A second request with the key waits for the first and gets its answer. A key that comes back
 * with other contents is refused. What is told of its entries is told with the key's first eight signs.
 */
export function once<T>(
  asking: Asking,
  act: string,
  request: unknown,
  work: (db: Db) => Promise<T>,
): Promise<Outcome<T>> {
  const written = JSON.stringify(request);
  return attempt(() =>
    atLast(async (db) => {
      const first = await db.query(
        `INSERT INTO once (key, person_id, act, request, answer) VALUES ($1, $2, $3, $4, 'null') ON CONFLICT DO NOTHING
         RETURNING set_config('tin.act', left(key::text, 8), true)`,
        [asking.key, asking.personId, act, written],
      );
      if (first.rowCount === 0) {
        const kept = await row<{ person: number; act: string; request: string; answer: T }>(
          db,
          'SELECT person_id AS person, act, request, answer FROM once WHERE key = $1',
          [asking.key],
        );
        if (!kept || kept.person !== asking.personId || kept.act !== act || kept.request !== written)
          throw new Refused('This form was already sent with different contents. Reload the page.');
        return kept.answer;
      }
      const value = await work(db);
      await db.query('UPDATE once SET answer = $2 WHERE key = $1', [
        asking.key,
        JSON.stringify(value ?? null),
      ]);
      return value;
    }),
  );
}

/** Those of some keys whose write was done: their answer may have been lost on its way. */
export const recordedOf = async (db: Db, keys: readonly string[]): Promise<string[]> =>
  (await rows<{ key: string }>(db, 'SELECT key::text FROM once WHERE key = ANY($1::uuid[])', [keys])).map(
    ({ key }) => key,
  );
