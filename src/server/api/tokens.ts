import { createHash, randomBytes, randomInt } from 'node:crypto';
import type { Scope } from '../../core/api/contract.ts';
import { entry } from '../../core/ledger/entry.ts';
import { pool, row, rows, type Db } from '../db.ts';
import { append } from '../ledger.ts';
import { once, type Asking } from '../once.ts';
import { Refused } from '../outcome.ts';

const hashOf = (token: string) => createHash('sha256').update(token).digest();

export interface Token {
  id: number;
  personId: number;
  name: string;
  scopes: Scope[];
}

export interface TokenListed extends Token {
  madeBy: string;
  madeAt: Date;
  usedAt: Date | null;
  endedAt: Date | null;
}

export const tokens = (db: Db) =>
  rows<TokenListed>(
    db,
    `SELECT t.id, t.person_id AS "personId", p.name, t.scopes, m.name AS "madeBy", t.made_at AS "madeAt", t.used_at AS "usedAt", t.ended_at AS "endedAt"
     FROM api_token t JOIN person p ON p.id = t.person_id JOIN person m ON m.id = t.made_by ORDER BY t.ended_at IS NOT NULL, p.name`,
  );

/** Makes a token: its text is told this once and kept as a hash only. What it writes stands in the ledger under its name. */
export async function makeToken(asking: Asking, made: { name: string; scopes: Scope[] }) {
  const text = `tin_${randomBytes(24).toString('base64url')}`;
  const outcome = await once(asking, 'makeToken', made, async (db) => {
    const person = (await row<{ id: number }>(
      db,
      // a badge that nobody carries and a PIN that nothing verifies against: it cannot sign in
      `INSERT INTO person (badge, name, role, pin_hash, active) VALUES ($1, $2, 'viewer', 'none', false) RETURNING id`,
      [`9${String(randomInt(10_000_000_000)).padStart(11, '0')}`, made.name],
    ))!;
    const { id } = (await row<{ id: number }>(
      db,
      'INSERT INTO api_token (person_id, hash, scopes, made_by) VALUES ($1, $2, $3, $4) RETURNING id',
      [person.id, hashOf(text), made.scopes, asking.personId],
    ))!;
    await append(
      db,
      entry.people('added', {
        personId: asking.personId,
        said: `A token for ${made.name} was made: ${made.scopes.join(', ')}.`,
      }),
    );
    return { id };
  });
  if (!outcome.ok) return outcome;
  // a form that came twice made one token, whose text was told the first time
  const kept = await row(pool(), 'SELECT 1 FROM api_token WHERE hash = $1', [hashOf(text)]);
  return { ok: true as const, value: { token: kept ? text : null } };
}

export const endToken = (asking: Asking, id: number) =>
  once(asking, 'endToken', { id }, async (db) => {
    const ended = await row<{ name: string }>(
      db,
      `UPDATE api_token t SET ended_at = now() FROM person p WHERE t.id = $1 AND t.ended_at IS NULL AND p.id = t.person_id RETURNING p.name`,
      [id],
    );
    if (!ended) throw new Refused('This token has ended already.');
    await append(
      db,
      entry.people('changed', { personId: asking.personId, said: `The token for ${ended.name} was ended.` }),
    );
  });

/** Whose a token is; null: nobody's, or it has ended. */
export async function tokenOf(header: string | null): Promise<Token | null> {
  const text = /^Bearer (tin_[\w-]{20,60})$/.exec(header ?? '')?.[1];
  if (!text) return null;
  return row<Token>(
    pool(),
    `WITH found AS (SELECT id FROM api_token WHERE hash = $1 AND ended_at IS NULL),
          used AS (UPDATE api_token SET used_at = now() WHERE id = (SELECT id FROM found) AND (used_at IS NULL OR used_at < now() - interval '1 minute'))
     SELECT t.id, t.person_id AS "personId", p.name, t.scopes FROM api_token t JOIN person p ON p.id = t.person_id WHERE t.id = (SELECT id FROM found)`,
    [hashOf(text)],
  );
}
