import { createHash, randomBytes } from 'node:crypto';
import { isDeepStrictEqual } from 'node:util';
import { hash, verify } from '@node-rs/argon2';
import type { Person, Role } from '../core/people/roles.ts';
import { waitLeft, waitWords } from '../core/people/sign-in-wait.ts';
import { laidOver } from '../core/words/laid-over.ts';
import { pool, row, rows, transaction, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';

/** argon2id with the parameters that the OWASP password storage cheat sheet gives as its first choice (from memory). */
const ARGON = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;
const SESSION_HOURS = 12;
/** How exactly is known when a session was used last. */
const SEEN_MINUTES = 5;
/** Wrong tries that are free: of one badge from one place, of one badge by strangers anywhere, and by strangers from one address. */
const FREE = { place: 5, badge: 20, address: 50 } as const;
/** Tries longer ago than this do not count, minutes. */
const REMEMBERED = 60;
const UNKNOWN_BADGE_HASH = hash('no such person', ARGON);

export const hashPin = (pin: string) => hash(pin, ARGON);
export const tokenHash = (token: string) => createHash('sha256').update(token).digest();

/** Where a try comes from: the network's address, and the secret of the tablet when it has one. */
export interface From {
  address: string;
  tablet: string | null;
}

/**
 * Counts a try before it is looked at, one at a time for each badge; or says how long to wait, seconds. A tablet on which this badge
 * signed in before is counted by itself: what strangers try does not shut it out.
 */
async function countTry(
  badge: string,
  { address, tablet }: From,
): Promise<{ id: number } | { wait: number }> {
  return transaction(async (db) => {
    await db.query(`SELECT pg_advisory_xact_lock(hashtext('sign in'), hashtext($1))`, [badge]);
    const secret = tablet === null ? null : tokenHash(tablet);
    const counts = (await row<{
      known: boolean;
      place: number;
      placeAgo: number;
      badge: number;
      badgeAgo: number;
      address: number;
      addressAgo: number;
    }>(
      db,
      `WITH recent AS (
         SELECT *, extract(epoch FROM now() - at) AS ago,
           EXISTS (SELECT 1 FROM sign_in_attempt k WHERE k.good AND k.badge = a.badge AND k.tablet = a.tablet) AS known
         FROM sign_in_attempt a WHERE at > now() - make_interval(mins => $4) AND (badge = $1 OR address = $2)
       ), last_good AS (
         SELECT coalesce(max(id) FILTER (WHERE tablet = $3), 0) AS here, coalesce(max(id) FILTER (WHERE address = $2), 0) AS there
         FROM sign_in_attempt WHERE good AND badge = $1
       ), me AS (
         SELECT EXISTS (SELECT 1 FROM sign_in_attempt WHERE good AND badge = $1 AND tablet = $3) AS known
       )
       SELECT me.known,
         count(*) FILTER (WHERE here_too)::integer AS place, coalesce(min(ago) FILTER (WHERE here_too), 1e9)::float AS "placeAgo",
         count(*) FILTER (WHERE strange AND badge = $1)::integer AS badge,
         coalesce(min(ago) FILTER (WHERE strange AND badge = $1), 1e9)::float AS "badgeAgo",
         count(*) FILTER (WHERE strange AND address = $2)::integer AS address,
         coalesce(min(ago) FILTER (WHERE strange AND address = $2), 1e9)::float AS "addressAgo"
       FROM me LEFT JOIN (
         SELECT r.*, NOT good AND NOT r.known AS strange,
           NOT good AND badge = $1 AND CASE WHEN me.known THEN tablet = $3 AND r.id > here ELSE address = $2 AND NOT r.known AND r.id > there END AS here_too
         FROM recent r CROSS JOIN me CROSS JOIN last_good
       ) tries ON true GROUP BY me.known`,
      [badge, address, secret, REMEMBERED],
    ))!;
    const wait = Math.max(
      waitLeft(counts.place, FREE.place, counts.placeAgo),
      counts.known ? 0 : waitLeft(counts.badge, FREE.badge, counts.badgeAgo),
      counts.known ? 0 : waitLeft(counts.address, FREE.address, counts.addressAgo),
    );
    if (wait > 0) return { wait };
    return (await row<{ id: number }>(
      db,
      'INSERT INTO sign_in_attempt (badge, address, tablet, good) VALUES ($1, $2, $3, false) RETURNING id',
      [badge, address, secret],
    ))!;
  });
}

/** Whether a badge and a PIN belong together; throttled. The answer does not tell a wrong badge from a wrong PIN. */
export async function checkPin(badge: string, pin: string, from: From): Promise<Outcome<Person>> {
  const counted = await countTry(badge, from);
  if ('wait' in counted)
    return {
      ok: false,
      reason: `Too many wrong PINs. Wait ${waitWords(counted.wait)}, or ask the cell lead to open the badge again under People.`,
    };
  const db = pool();
  const person = await row<Person & { pinHash: string }>(
    db,
    'SELECT id, badge, name, role, pin_hash AS "pinHash" FROM person WHERE badge = $1 AND active',
    [badge],
  );
  const good = await verify(person?.pinHash ?? (await UNKNOWN_BADGE_HASH), pin).catch(() => false);
  if (!person || !good) return { ok: false, reason: 'Badge and PIN do not match.' };
  await db.query('UPDATE sign_in_attempt SET good = true WHERE id = $1', [counted.id]);
  return { ok: true, value: { id: person.id, badge: person.badge, name: person.name, role: person.role } };
}

/** Signs a person in: a session of theirs, for so many hours. */
export async function signIn(
  badge: string,
  pin: string,
  from: From,
  machineId: number | null = null,
): Promise<Outcome<{ token: string; person: Person }>> {
  const checked = await checkPin(badge, pin, from);
  if (!checked.ok) return checked;
  return {
    ok: true,
    value: { token: await openSession(checked.value, from, machineId, 'pin'), person: checked.value },
  };
}

/**
 * Opens a session of somebody who has shown who they are.
 *
 * @returns its token, which is kept nowhere here
 */
export async function openSession(
  person: Person,
  { address }: From,
  machineId: number | null,
  way: 'pin' | 'plant',
): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await transaction(async (db) => {
    await db.query(
      `INSERT INTO session (token_hash, person_id, expires_at, address, machine_id)
       VALUES ($1, $2, now() + make_interval(hours => $3), $4, (SELECT id FROM machine WHERE id = $5))`,
      [tokenHash(token), person.id, SESSION_HOURS, address.slice(0, 100), machineId],
    );
    // by the PIN it was counted before it was looked at
    if (way === 'plant')
      await db.query('INSERT INTO sign_in_attempt (badge, address, good, way) VALUES ($1, $2, true, $3)', [
        person.badge,
        address,
        way,
      ]);
  });
  return token;
}

/** What was refused, for the lead: to whom, from where. */
export interface Refusal {
  personId: number | null;
  address: string;
  what: string;
}
export const refused = ({ personId, address, what }: Refusal) =>
  pool().query('INSERT INTO refusal (person_id, address, what) VALUES ($1, $2, $3)', [
    personId,
    address.slice(0, 100),
    what.slice(0, 400),
  ]);

/** Remembers that a badge signed in on a tablet, whose secret is new. */
export const knowTablet = (badge: string, address: string, tablet: string) =>
  pool().query('INSERT INTO sign_in_attempt (badge, address, tablet, good) VALUES ($1, $2, $3, true)', [
    badge,
    address,
    tokenHash(tablet),
  ]);

/** Forgets the wrong tries of a badge, so that its next one is looked at. */
export function openBadge(asking: Asking, personId: number) {
  return once(asking, 'openBadge', { personId }, async (db) => {
    const person = await row<{ name: string; badge: string }>(
      db,
      'SELECT name, badge FROM person WHERE id = $1',
      [personId],
    );
    if (!person) throw new Refused('There is no such person.');
    await forgetTries(db, person.badge);
    await append(
      db,
      entry.people('changed', {
        personId: asking.personId,
        said: `The badge of ${person.name} was opened again after wrong PINs.`,
      }),
    );
  });
}

const forgetTries = (db: Db, badge: string) =>
  db.query('DELETE FROM sign_in_attempt WHERE badge = $1 AND NOT good', [badge]);

/** Who a session belongs to, or null. */
export async function personOf(token: string): Promise<Person | null> {
  const found = await row<Person & { stale: boolean }>(
    pool(),
    `SELECT p.id, p.badge, p.name, p.role, s.seen_at < now() - make_interval(mins => $2) AS stale FROM session s JOIN person p ON p.id = s.person_id
     WHERE s.token_hash = $1 AND s.expires_at > now() AND p.active`,
    [tokenHash(token), SEEN_MINUTES],
  );
  if (!found) return null;
  const { stale, ...person } = found;
  if (stale)
    await pool().query('UPDATE session SET seen_at = now() WHERE token_hash = $1', [tokenHash(token)]);
  return person;
}

/** Ends a session; pages that it has open hear of it. */
export async function signOut(token: string): Promise<void> {
  await pool().query('DELETE FROM session WHERE token_hash = $1', [tokenHash(token)]);
  await pool().query(SESSIONS_CHANGED);
}
export const SESSIONS_CHANGED = `SELECT pg_notify('tin', '{"kind":"session"}')`;

/** Removes what has run out; called now and then. */
export async function forgetOldSessions(): Promise<void> {
  await pool().query('DELETE FROM session WHERE expires_at < now()');
  await pool().query(
    `DELETE FROM sign_in_attempt WHERE at < now() - CASE WHEN good THEN interval '1 year' ELSE interval '30 days' END`,
  );
  await pool().query(`DELETE FROM refusal WHERE at < now() - interval '1 year'`);
  await pool().query(`DELETE FROM once WHERE at < now() - interval '30 days'`);
}

export interface PersonRow extends Person {
  active: boolean;
  /** Their number at the plant's identity provider; null: they sign in by PIN only. */
  plantNumber: string | null;
  /** Wrong PINs of the last hour. */
  wrong: number;
  /** Entries in the ledger, and the last of them. */
  lastSeen: Date | null;
}

export const people = (db: Db) =>
  rows<PersonRow>(
    db,
    `SELECT p.id, p.badge, p.name, p.role, p.active, p.plant_number AS "plantNumber",
       (SELECT count(*)::integer FROM sign_in_attempt a WHERE a.badge = p.badge AND NOT a.good AND a.at > now() - interval '1 hour') AS wrong,
       -- as a range of both columns, or the planner reads the whole ledger backwards for somebody who has written nothing for a year
       (SELECT l.at FROM ledger l WHERE (l.person_id, l.id) >= (p.id, 0) AND (l.person_id, l.id) < (p.id + 1, 0)
        ORDER BY l.person_id DESC, l.id DESC LIMIT 1) AS "lastSeen"
     FROM person p
     WHERE NOT EXISTS (SELECT 1 FROM api_token t WHERE t.person_id = p.id) ORDER BY p.active DESC, p.name`,
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
    await append(
      db,
      entry.people('added', {
        personId: asking.personId,
        said: `${fresh.name} (badge ${fresh.badge}) was added as ${fresh.role}.`,
      }),
    );
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
  /** What the page showed, and what was typed over it. */
  shown: PersonFields;
  typed: PersonFields;
  pin: string;
}

interface PersonFields {
  role: Role;
  active: boolean;
  /** At the plant's sign-in. Empty: none; left out: as it was. */
  plantNumber?: string | undefined;
}

/** Changes role, PIN, number at the plant or whether a person may sign in at all. The last active lead stays one. */
export async function changePerson(asking: Asking, change: PersonChange, keep: string | null = null) {
  const pinHash = change.pin === '' ? null : await hashPin(change.pin);
  return once(asking, 'changePerson', { ...change, pin: pinHash === null ? '' : 'new' }, (db) =>
    applyChange(db, asking, change, pinHash, keep),
  );
}

/** The fields that a form has. */
const given = ({ role, active, plantNumber }: PersonFields): Partial<Required<PersonFields>> => ({
  role,
  active,
  ...(plantNumber === undefined ? {} : { plantNumber: plantNumber.trim() }),
});

async function applyChange(
  db: Db,
  asking: Asking,
  change: PersonChange,
  pinHash: string | null,
  keep: string | null,
) {
  // one after the other: whether somebody is the last lead is asked of all. No row is held against entries, which name their person
  await db.query(`SELECT pg_advisory_xact_lock(hashtext('people'))`);
  const leads = await rows<{ id: number }>(db, `SELECT id FROM person WHERE role = 'lead' AND active`);
  const before = await row<{ name: string; role: Role; active: boolean; plantNumber: string | null }>(
    db,
    'SELECT name, role, active, plant_number AS "plantNumber" FROM person WHERE id = $1 FOR NO KEY UPDATE',
    [change.id],
  );
  if (!before) throw new Refused('There is no such person.');
  const stands = { role: before.role, active: before.active, plantNumber: before.plantNumber ?? '' };
  const { changed, clashes } = laidOver(given(change.shown), given(change.typed), stands);
  if (clashes.length > 0)
    throw new Refused(
      `Somebody else changed ${before.name} meanwhile: ${stands.active ? stands.role : 'no longer active'}. Look again; nothing was changed.`,
    );
  const as = { ...stands, ...changed };
  if (pinHash === null && isDeepStrictEqual(as, stands))
    throw new Refused(`${before.name} is that already. Nothing was changed.`);
  const { role, active } = as;
  const plantNumber = as.plantNumber || null;
  const isLastLead = leads.length === 1 && leads[0]!.id === change.id;
  if (isLastLead && (role !== 'lead' || !active))
    throw new Refused('This is the last cell lead: make somebody else a lead first.');
  const other =
    plantNumber === null
      ? null
      : await row<{ name: string }>(db, 'SELECT name FROM person WHERE plant_number = $1 AND id <> $2', [
          plantNumber,
          change.id,
        ]);
  if (other) throw new Refused(`${other.name} has that number at the plant’s sign-in.`);
  const person = (await row<{ name: string; badge: string }>(
    db,
    'UPDATE person SET role = $2, active = $3, pin_hash = coalesce($4, pin_hash), plant_number = $5 WHERE id = $1 RETURNING name, badge',
    [change.id, role, active, pinHash, plantNumber],
  ))!;
  // what somebody may no longer do, or is somebody else's by now, does not stay open on a tablet
  if (!active || pinHash || role !== before.role || plantNumber !== before.plantNumber) {
    // also what the person who changes their own PIN has open elsewhere: somebody may have seen the old one
    await db.query('DELETE FROM session WHERE person_id = $1 AND token_hash IS DISTINCT FROM $2', [
      change.id,
      keep === null ? null : tokenHash(keep),
    ]);
    await db.query(SESSIONS_CHANGED);
  }
  if (pinHash) await forgetTries(db, person.badge);
  await append(
    db,
    entry.people('changed', {
      personId: asking.personId,
      said: `${person.name} is ${active ? role : 'no longer active'}${pinHash ? ', with a new PIN' : ''}${plantNumber === before.plantNumber ? '' : plantNumber === null ? ', no longer by the plant’s sign-in' : `, with the plant’s number ${plantNumber}`}.`,
    }),
  );
}

/** A first cell lead for an empty database; null when there is anybody already. */
export async function firstLead(badge: string, pin: string): Promise<Person | null> {
  const pinHash = await hashPin(pin);
  return transaction(async (db) => {
    await db.query(`SELECT pg_advisory_xact_lock(hashtext('first lead'))`);
    if (await row(db, 'SELECT 1 FROM person LIMIT 1')) return null;
    const { id } = (await insertPerson(db, { badge, name: 'Cell lead', role: 'lead' }, pinHash))!;
    await append(
      db,
      entry.people('added', {
        personId: id,
        said: 'The first cell lead was created at the first start.',
      }),
    );
    return { id, badge, name: 'Cell lead', role: 'lead' };
  });
}
