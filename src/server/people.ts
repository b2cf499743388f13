import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Person, Role } from '../core/people/roles.ts';
import { pool, row, rows, transaction, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';

/** argon2id with the parameters that the OWASP password storage cheat sheet gives as its first choice (from memory). */
const ARGON = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;
const SESSION_HOURS = 12;
const WINDOW_MINUTES = 10;
const MOST_WRONG_PINS = 5;
const MOST_WRONG_FROM_ONE_ADDRESS = 30;
const UNKNOWN_BADGE_HASH = hash('no such person', ARGON);

export const hashPin = (pin: string) => hash(pin, ARGON);
const tokenHash = (token: string) => createHash('sha256').update(token).digest();

/**
 * Signs a person in by badge and PIN. Wrong tries are counted by badge and by address; past the limit even the
 * right PIN waits. The answer does not tell a wrong badge from a wrong PIN.
 */
export async function signIn(
  badge: string,
  pin: string,
  address: string,
): Promise<Outcome<{ token: string; person: Person }>> {
  const db = pool();
  const wrong = await row<{ badge: number; address: number }>(
    db,
    `SELECT count(*) FILTER (WHERE badge = $1)::integer AS badge, count(*) FILTER (WHERE address = $2)::integer AS address
     FROM sign_in_attempt WHERE NOT good AND at > now() - make_interval(mins => $3) AND (badge = $1 OR address = $2)
       AND at > coalesce((SELECT max(at) FROM sign_in_attempt WHERE good AND badge = $1), '-infinity')`,
    [badge, address, WINDOW_MINUTES],
  );
  if (wrong!.badge >= MOST_WRONG_PINS || wrong!.address >= MOST_WRONG_FROM_ONE_ADDRESS)
    return {
      ok: false,
      reason: `Too many wrong tries. Wait ${WINDOW_MINUTES} minutes, or ask the cell lead.`,
    };
  const person = await row<Person & { pinHash: string }>(
    db,
    'SELECT id, badge, name, role, pin_hash AS "pinHash" FROM person WHERE badge = $1 AND active',
    [badge],
  );
  const good = await verify(person?.pinHash ?? (await UNKNOWN_BADGE_HASH), pin).catch(() => false);
  await db.query('INSERT INTO sign_in_attempt (badge, address, good) VALUES ($1, $2, $3)', [
    badge,
    address,
    good && person !== null,
  ]);
  if (!person || !good) return { ok: false, reason: 'Badge and PIN do not match.' };
  const token = randomBytes(32).toString('base64url');
  await db.query(
    `INSERT INTO session (token_hash, person_id, expires_at) VALUES ($1, $2, now() + make_interval(hours => $3))`,
    [tokenHash(token), person.id, SESSION_HOURS],
  );
  return {
    ok: true,
    value: { token, person: { id: person.id, badge: person.badge, name: person.name, role: person.role } },
  };
}

/** Who a session belongs to, or null. */
export function personOf(token: string): Promise<Person | null> {
  return row<Person>(
    pool(),
    `SELECT p.id, p.badge, p.name, p.role FROM session s JOIN person p ON p.id = s.person_id
     WHERE s.token_hash = $1 AND s.expires_at > now() AND p.active`,
    [tokenHash(token)],
  );
}

export const signOut = (token: string) =>
  pool().query('DELETE FROM session WHERE token_hash = $1', [tokenHash(token)]);

/** Whether a PIN is this person's; for a signature on somebody else's tablet. Throttled like a sign-in. */
export const checkPin = async (badge: string, pin: string, address: string): Promise<Outcome<Person>> => {
  const signed = await signIn(badge, pin, address);
  if (!signed.ok) return signed;
  await signOut(signed.value.token);
  return { ok: true, value: signed.value.person };
};

/** Removes what has run out; called now and then. */
export async function forgetOldSessions(): Promise<void> {
  await pool().query('DELETE FROM session WHERE expires_at < now()');
  await pool().query(`DELETE FROM sign_in_attempt WHERE at < now() - interval '30 days'`);
  await pool().query(`DELETE FROM once WHERE at < now() - interval '30 days'`);
}

export interface PersonRow extends Person {
  active: boolean;
  /** Entries in the ledger, and the last of them. */
  entries: number;
  lastSeen: Date | null;
}

export const people = (db: Db) =>
  rows<PersonRow>(
    db,
    `SELECT p.id, p.badge, p.name, p.role, p.active, count(l.id)::integer AS entries, max(l.at) AS "lastSeen"
     FROM person p LEFT JOIN ledger l ON l.person_id = p.id GROUP BY p.id ORDER BY p.active DESC, p.name`,
  );

export interface NewPerson {
  badge: string;
  name: string;
  role: Role;
  pin: string;
}

export async function addPerson(asking: Asking, fresh: NewPerson) {
  const pinHash = await hashPin(fresh.pin);
  return once(asking, 'addPerson', { ...fresh, pin: '' }, async (db) => {
    const { id } = (await insertPerson(db, fresh, pinHash))!;
    await append(db, {
      kind: 'people',
      stage: 'added',
      personId: asking.personId,
      said: `${fresh.name} (badge ${fresh.badge}) was added as ${fresh.role}.`,
    });
    return id;
  });
}

export const insertPerson = (db: Db, fresh: Omit<NewPerson, 'pin'>, pinHash: string) =>
  row<{ id: number }>(
    db,
    'INSERT INTO person (badge, name, role, pin_hash) VALUES ($1, $2, $3, $4) RETURNING id',
    [fresh.badge, fresh.name, fresh.role, pinHash],
  );

export interface PersonChange {
  id: number;
  role: Role;
  active: boolean;
  pin: string;
}

/** Changes role, PIN or whether a person may sign in at all. The last active lead stays one. */
export async function changePerson(asking: Asking, change: PersonChange) {
  const pinHash = change.pin === '' ? null : await hashPin(change.pin);
  return once(asking, 'changePerson', { ...change, pin: pinHash === null ? '' : 'new' }, (db) =>
    applyChange(db, asking, change, pinHash),
  );
}

async function applyChange(db: Db, asking: Asking, change: PersonChange, pinHash: string | null) {
  const leads = await rows<{ id: number }>(
    db,
    `SELECT id FROM person WHERE role = 'lead' AND active FOR UPDATE`,
  );
  const isLastLead = leads.length === 1 && leads[0]!.id === change.id;
  if (isLastLead && (change.role !== 'lead' || !change.active))
    throw new Refused('This is the last cell lead: make somebody else lead first.');
  const person = await row<{ name: string }>(
    db,
    'UPDATE person SET role = $2, active = $3, pin_hash = coalesce($4, pin_hash) WHERE id = $1 RETURNING name',
    [change.id, change.role, change.active, pinHash],
  );
  if (!person) throw new Refused('There is no such person.');
  if (!change.active || pinHash)
    await db.query('DELETE FROM session WHERE person_id = $1 AND person_id <> $2', [
      change.id,
      asking.personId,
    ]);
  await append(db, {
    kind: 'people',
    stage: 'changed',
    personId: asking.personId,
    said: `${person.name} is ${change.active ? change.role : 'no longer active'}${pinHash ? ', with a new PIN' : ''}.`,
  });
}

/** A first cell lead for an empty database; null when there is anybody already. */
export async function firstLead(badge: string, pin: string): Promise<Person | null> {
  const pinHash = await hashPin(pin);
  return transaction(async (db) => {
    await db.query(`SELECT pg_advisory_xact_lock(hashtext('first lead'))`);
    if (await row(db, 'SELECT 1 FROM person LIMIT 1')) return null;
    const { id } = (await insertPerson(db, { badge, name: 'Cell lead', role: 'lead' }, pinHash))!;
    await append(db, {
      kind: 'people',
      stage: 'added',
      personId: id,
      said: 'The first cell lead was made at start.',
    });
    return { id, badge, name: 'Cell lead', role: 'lead' };
  });
}
