import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { Role } from '../../src/core/people/roles.ts';
import { closePool, pool } from '../../src/server/db.ts';
import {
  changePerson,
  checkPin,
  knowTablet,
  openBadge,
  people,
  personOf,
  signIn,
} from '../../src/server/people.ts';
import { as, done, refused, weirside } from '../support/cell.ts';
import { PINS } from '../support/server.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const from = (address: string, tablet: string | null = null) => ({ address, tablet });
const wrong = (times: number, address: string, badge = '1002') =>
  Promise.all(Array.from({ length: times }, (_, i) => checkPin(badge, String(1000 + i), from(address))));
const looked = () => cell.count('FROM sign_in_attempt WHERE badge = $1 AND NOT good', '1002');

const still = (role: Role) => ({ shown: { role, active: true }, typed: { role, active: true } });

describe('wrong PINs', () => {
  it('of two hundred tried at once five are looked at, and the right one among them does not get in', async () => {
    const tries = Array.from({ length: 200 }, (_, i) => (i === 150 ? '1470' : String(2000 + i)));
    const answers = await Promise.all(tries.map((pin) => checkPin('1002', pin, from('10.0.0.9'))));
    expect(answers.filter((answer) => answer.ok)).toHaveLength(0);
    expect(await looked()).toBe(5);
    expect(refused(answers[199]!)).toMatch(/Wait \d+ seconds, or ask the cell lead/);
  });
  it('strangers do not shut out the tablet where the badge signed in before', async () => {
    await knowTablet('1002', '10.0.0.1', 'secret of the tablet');
    for (let address = 1; address <= 6; address += 1) await wrong(5, `10.0.1.${address}`);
    // as if the last try were still to come: the machine of a test may stand still for longer than the wait, and its clock go on
    await cell.asOwner((client) =>
      client.query(`UPDATE sign_in_attempt SET at = now() + interval '10 minutes'`),
    );
    expect(refused(await signIn('1002', '1470', from('10.0.2.1')))).toMatch(/Too many wrong PINs/);
    expect((await signIn('1002', '1470', from('10.0.2.1', 'secret of the tablet'))).ok).toBe(true);
  });
  it('one address does not shut out another, nor a badge the next one', async () => {
    await wrong(8, '10.0.0.9');
    expect((await signIn('1002', '1470', from('10.0.0.10'))).ok).toBe(true);
    expect((await signIn('1003', '3690', from('10.0.0.9'))).ok).toBe(true);
  });
  it('a lead opens the badge again, and so does a new PIN', async () => {
    await wrong(8, '10.0.0.9');
    // as if the last try were still to come: the machine of a test may stand still for longer than the wait, and its clock go on
    await cell.asOwner((client) =>
      client.query(`UPDATE sign_in_attempt SET at = now() + interval '10 minutes'`),
    );
    expect(refused(await signIn('1002', '1470', from('10.0.0.9')))).toMatch(/Too many/);
    done(await openBadge(as(cell.lead), cell.setter.id));
    expect((await signIn('1002', '1470', from('10.0.0.9'))).ok).toBe(true);
    await wrong(8, '10.0.0.9');
    done(await changePerson(as(cell.lead), { id: cell.setter.id, ...still('setter'), pin: '5151' }));
    expect((await signIn('1002', '5151', from('10.0.0.9'))).ok).toBe(true);
  });
  it('who signs in at the same moment as others, on the same badge or behind the same address, is let in', async () => {
    // the other's try is counted before it is looked at, and may stand a little later than what is "now" for this one
    await cell.asOwner((client) =>
      client.query(
        `INSERT INTO sign_in_attempt (badge, address, good, at) VALUES ('1002', '10.0.0.9', false, now() + interval '3 s')`,
      ),
    );
    expect((await signIn('1002', '1470', from('10.0.0.9'))).ok).toBe(true);
    expect((await signIn('1003', '3690', from('10.0.0.9'))).ok).toBe(true);
    for (let round = 0; round < 4; round += 1) {
      const people = Object.values(PINS).flatMap((pair) => [pair, pair]);
      const all = await Promise.all(people.map(([badge, pin]) => signIn(badge, pin, from('10.0.0.9'))));
      expect(all.filter(({ ok }) => !ok)).toEqual([]);
    }
  });
  it('the wait is over after its time, and counts from the last try', async () => {
    await wrong(6, '10.0.0.9');
    await cell.asOwner((client) =>
      client.query(`UPDATE sign_in_attempt SET at = at - interval '20 seconds' WHERE NOT good`),
    );
    expect((await signIn('1002', '1470', from('10.0.0.9'))).ok).toBe(true);
  });
});

describe('two leads who change one person', () => {
  const fields = (role: Role, active: boolean) => ({ role, active });
  it('what one left as it was shown stays as the other changed it; the same changed by both is refused', async () => {
    const shown = fields('operator', true);
    const { id } = cell.operator;
    done(await changePerson(as(cell.lead), { id, shown, typed: fields('operator', false), pin: '' }));
    // the page of the second still says that he may sign in
    done(await changePerson(as(cell.lead), { id, shown, typed: fields('operator', true), pin: '6161' }));
    expect((await people(pool())).find((each) => each.id === id)).toMatchObject({ active: false });
    done(await changePerson(as(cell.lead), { id, shown, typed: fields('setter', true), pin: '' }));
    expect(
      refused(await changePerson(as(cell.lead), { id, shown, typed: fields('inspector', true), pin: '' })),
    ).toMatch(/Somebody else changed .* no longer active/);
    expect((await people(pool())).find((each) => each.id === id)).toMatchObject({
      active: false,
      role: 'setter',
    });
  });
});

describe('a changed PIN', () => {
  it('ends the person’s other sessions, also when they change it themselves; this one stays', async () => {
    const here = done(await signIn('1001', '2580', from('10.0.0.1')));
    const there = done(await signIn('1001', '2580', from('10.0.0.2')));
    done(await changePerson(as(cell.lead), { id: cell.lead.id, ...still('lead'), pin: '9090' }, here.token));
    expect(await personOf(here.token)).not.toBeNull();
    expect(await personOf(there.token)).toBeNull();
    expect(await pool().query('SELECT 1')).toBeTruthy();
  });
});
