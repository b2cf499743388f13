import { createHmac, randomBytes } from 'node:crypto';
import type { LedgerKind } from '../../core/ledger/entry.ts';
import { entry } from '../../core/ledger/entry.ts';
import { pool, row, rows, transaction, type Db } from '../db.ts';
import { append } from '../ledger.ts';
import { log } from '../log.ts';
import { once, type Asking } from '../once.ts';
import { Refused } from '../outcome.ts';
import { ENTRY, entryOut } from './endpoints.ts';
import { settled } from './settled.ts';

export interface WebhookListed {
  id: number;
  url: string;
  kinds: LedgerKind[];
  madeBy: string;
  told: number;
  tries: number;
  problem: string | null;
  endedAt: Date | null;
}

export const webhooks = (db: Db) =>
  rows<WebhookListed>(
    db,
    `SELECT w.id, w.url, w.kinds, p.name AS "madeBy", w.told, w.tries, w.problem, w.ended_at AS "endedAt"
     FROM webhook w JOIN person p ON p.id = w.made_by ORDER BY w.ended_at IS NOT NULL, w.id`,
  );

/** Tells another system of entries from now on. The secret by which it knows our signature is told this once. */
export async function makeWebhook(asking: Asking, made: { url: string; kinds: LedgerKind[] }) {
  const secret = randomBytes(24).toString('base64url');
  const outcome = await once(asking, 'makeWebhook', made, async (db) => {
    const { id } = (await row<{ id: number }>(
      db,
      `INSERT INTO webhook (url, kinds, secret, made_by, told) SELECT $1, $2, $3, $4, coalesce(max(id), 0) FROM ledger RETURNING id`,
      [made.url, made.kinds, secret, asking.personId],
    ))!;
    await append(
      db,
      entry.people('added', {
        personId: asking.personId,
        said: `${made.url} is told of entries: ${made.kinds.join(', ')}.`,
      }),
    );
    return { id };
  });
  if (!outcome.ok) return outcome;
  const kept = await row(pool(), 'SELECT 1 FROM webhook WHERE secret = $1', [secret]);
  return { ok: true as const, value: { secret: kept ? secret : null } };
}

export const endWebhook = (asking: Asking, id: number) =>
  once(asking, 'endWebhook', { id }, async (db) => {
    const ended = await row<{ url: string }>(
      db,
      'UPDATE webhook SET ended_at = now() WHERE id = $1 AND ended_at IS NULL RETURNING url',
      [id],
    );
    if (!ended) throw new Refused('Nothing is told there any more.');
    await append(
      db,
      entry.people('changed', { personId: asking.personId, said: `${ended.url} is told nothing any more.` }),
    );
  });

/** What stands in the header by which the receiver knows that it comes from here and when: HMAC-SHA256 (RFC 2104) over time and body. */
export const signatureOf = (secret: string, time: number, body: string): string =>
  `t=${time},v1=${createHmac('sha256', secret).update(`${time}.${body}`).digest('hex')}`;

/** How long one entry may take. */
const PATIENCE = 5000;
const EVERY = 1000;
/** After so many tries it is tried once in a quarter of an hour; it is never given up. */
const LONGEST = 900;

interface Due {
  id: number;
  url: string;
  kinds: string[];
  secret: string;
  told: number;
  tries: number;
}

/**
 * Tells one webhook the next entry that is due: in their order, each again until it is taken. The row is held meanwhile, so that of
 * several processes one tells; one that dies leaves it to the next, which may tell that entry twice.
 *
 * @returns whether anything was due
 */
export async function tellOne(until: number): Promise<boolean> {
  return transaction(async (db) => {
    const due = await row<Due>(
      db,
      `SELECT id, url, kinds, secret, told, tries FROM webhook
       WHERE ended_at IS NULL AND next_at <= now() AND told < $1 ORDER BY next_at, id LIMIT 1 FOR UPDATE SKIP LOCKED`,
      [until],
    );
    if (!due) return false;
    const next = await row<Parameters<typeof entryOut>[0]>(
      db,
      `${ENTRY} WHERE l.id > $1 AND l.id <= $2 AND l.kind = ANY($3) ORDER BY l.id LIMIT 1`,
      [due.told, until, due.kinds],
    );
    const problem = next && (await send(due, entryOut(next)));
    if (problem !== null)
      await db.query(
        `UPDATE webhook SET tries = tries + 1, problem = $2, next_at = now() + make_interval(secs => $3) WHERE id = $1`,
        [due.id, problem, Math.min(LONGEST, 2 ** Math.min(due.tries, 10))],
      );
    else
      await db.query(
        'UPDATE webhook SET told = $2, tries = 0, problem = NULL, next_at = now() WHERE id = $1',
        [due.id, next?.id ?? until],
      );
    return true;
  });
}

async function send({ url, secret }: Due, said: object): Promise<string | null> {
  const body = JSON.stringify(said);
  const time = Math.floor(Date.now() / 1000);
  try {
    const response = await fetch(url, {
      method: 'POST',
      body,
      headers: {
        'content-type': 'application/json',
        'tin-signature': signatureOf(secret, time, body),
      },
      signal: AbortSignal.timeout(PATIENCE),
      redirect: 'error',
    });
    await response.body?.cancel();
    return response.ok ? null : `It answered with status ${response.status}.`;
  } catch (error) {
    return (error as Error).name === 'TimeoutError'
      ? `It does not answer within ${PATIENCE / 1000} s.`
      : 'It does not answer.';
  }
}

let wanted = false;
let timer: ReturnType<typeof setTimeout> | undefined;

/** Begins to tell other systems what happens, every second. */
export function tellOthers(): void {
  if (wanted) return;
  wanted = true;
  const again = async () => {
    try {
      if (await row(pool(), 'SELECT 1 FROM webhook WHERE ended_at IS NULL LIMIT 1')) {
        const until = await settled(pool());
        while (wanted && (await tellOne(until)));
      }
    } catch (error) {
      log.warn({ reason: (error as Error).message }, 'webhooks: nothing could be told');
    }
    if (wanted) timer = setTimeout(() => void again(), EVERY).unref();
  };
  void again();
}

export function stopTelling(): void {
  wanted = false;
  clearTimeout(timer);
}
