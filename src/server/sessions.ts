import type { Role } from '../core/people/roles.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { SESSIONS_CHANGED, tokenHash } from './people.ts';

export interface Session {
  id: number;
  personId: number;
  name: string;
  role: Role;
  /** The machine that the tablet stands at; null: nobody said. */
  machine: string | null;
  address: string;
  startedAt: Date;
  seenAt: Date;
  /** The one that asks. */
  own: boolean;
}

/** Who is signed in, whoever was seen last first. */
export const sessions = (db: Db, token: string) =>
  rows<Session>(
    db,
    `SELECT s.id, s.person_id AS "personId", p.name, p.role, m.name AS machine, s.address, s.started_at AS "startedAt", s.seen_at AS "seenAt",
       s.token_hash = $1 AS own
     FROM session s JOIN person p ON p.id = s.person_id LEFT JOIN machine m ON m.id = s.machine_id
     WHERE s.expires_at > now() AND p.active ORDER BY s.seen_at DESC, s.id DESC`,
    [tokenHash(token)],
  );

/** Ends somebody's session; the pages that it has open hear of it, and go to signing in. */
export function endSession(asking: Asking, id: number) {
  return once(asking, 'endSession', { id }, async (db) => {
    const ended = await row<{ name: string }>(
      db,
      'DELETE FROM session s USING person p WHERE p.id = s.person_id AND s.id = $1 RETURNING p.name',
      [id],
    );
    if (!ended) throw new Refused('This session is over already.');
    await db.query(SESSIONS_CHANGED);
    await append(
      db,
      entry.people('changed', {
        personId: asking.personId,
        said: `A session of ${ended.name} was ended.`,
      }),
    );
  });
}

export interface RefusalRow {
  at: Date;
  /** Null: nobody that is known here. */
  name: string | null;
  address: string;
  what: string;
}

/** What was refused last: acts of people whose role does not allow them, and strangers whom the plant let in. */
export const lastRefusals = (db: Db, most: number) =>
  rows<RefusalRow>(
    db,
    `SELECT r.at, p.name, r.address, r.what FROM refusal r LEFT JOIN person p ON p.id = r.person_id ORDER BY r.id DESC LIMIT $1`,
    [most],
  );

export interface Try {
  at: Date;
  badge: string;
  /** Whose badge it is; null: nobody's. */
  name: string | null;
  address: string;
  good: boolean;
  /** By badge and PIN, or by the plant's sign-in. */
  way: 'pin' | 'plant';
  /** On a tablet on which this badge signed in before. */
  known: boolean;
}

/** The last tries to sign in. A tablet that is new to a badge is noted a second time in the same moment, which is no second try. */
export const lastTries = (db: Db, most: number) =>
  rows<Try>(
    db,
    `SELECT a.at, a.badge, p.name, a.address, a.good, a.way,
       EXISTS (SELECT 1 FROM sign_in_attempt k WHERE k.good AND k.badge = a.badge AND k.tablet = a.tablet AND k.id < a.id) AS known
     FROM sign_in_attempt a LEFT JOIN person p ON p.badge = a.badge
     WHERE NOT EXISTS (SELECT 1 FROM sign_in_attempt t WHERE t.badge = a.badge AND t.address = a.address AND t.good AND a.good
                         AND t.id < a.id AND t.tablet IS NULL AND t.at > a.at - interval '5 s')
     ORDER BY a.id DESC LIMIT $1`,
    [most],
  );
