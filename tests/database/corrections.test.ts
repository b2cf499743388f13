import { randomUUID } from 'node:crypto';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { approve, correctionById, keyText, readBack, refuse } from '../../src/server/corrections.ts';
import { takeReading } from '../../src/server/readings.ts';
import { foundAtControl } from '../../src/server/registers.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
const reading = async (
  feature: string,
  size: Length,
  over: { confirmed?: boolean; firstOff?: boolean; part?: number } = {},
) => ({
  featureId: await cell.feature('O2301', feature),
  programId: await cell.program('O2301'),
  jobId: await cell.job('O2301'),
  part: over.part ?? 52,
  measured: size,
  confirmed: over.confirmed ?? false,
  firstOff: over.firstOff ?? false,
});
/** A proposal for the bearing pocket of the carrier: its milled width answers to D3. */
const proposed = async (size = 40.024) =>
  done(await takeReading(as(cell.operator), await reading('Bearing pocket', mm(size)))).proposalId!;
const wear = () => cell.register('Avocet', 3, 'cutterWear');

describe('from a reading to the register', () => {
  it('a pocket 0.0115 mm too wide, a radius register: +0.006 approved, keyed, read back, and the next reading says that it took', async () => {
    const before = (await wear()).value;
    const id = await proposed(40.024);
    const correction = (await correctionById(pool(), id))!;
    expect(correction).toMatchObject({ state: 'proposed', change: mm(0.006) - 0, from: before });
    done(await approve(as(cell.lead), cell.lead, id));
    expect(await keyText(pool(), correction)).toBe(`G10 L13 P3 R${((before + 6000) / 1e6).toFixed(3)}`);
    expect(done(await readBack(as(cell.operator), id, correction.to))).toEqual({ kept: true });
    expect((await wear()).value).toBe(correction.to);
    const next = done(
      await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.012), { part: 53 })),
    );
    expect(next.took?.verdict).toBe('took');
    expect((await correctionById(pool(), id))!.took).toBe('took');
    expect(await disagreements(pool())).toEqual([]);
  });
  it('nothing moved: the next reading says so and names the rougher', async () => {
    const id = await proposed(40.03);
    done(await approve(as(cell.lead), cell.lead, id));
    done(await readBack(as(cell.operator), id, (await correctionById(pool(), id))!.to));
    const next = done(
      await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.03), { part: 53 })),
    );
    expect(next.took).toMatchObject({ verdict: 'notKeyed' });
    expect(next.took!.sentence).toMatch(/rougher/);
  });
  it('a mismatch is stopped, explained and recorded, and the register stays', async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    const { from, to } = (await correctionById(pool(), id))!;
    const turned = done(await readBack(as(cell.operator), id, (from - (to - from)) as Length));
    expect(turned).toMatchObject({ kept: false, reading: { fault: 'sign' } });
    expect((await wear()).value).toBe(from);
    expect((await correctionById(pool(), id))!.stops).toBe(1);
    expect(done(await readBack(as(cell.operator), id, to))).toEqual({ kept: true });
  });
  it('a surprising reading is not recorded until somebody stands behind it', async () => {
    const before = await cell.count('FROM reading');
    const first = done(await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.3))));
    expect(first).toMatchObject({ readingId: null, proposalId: null, answer: { verdict: 'measureAgain' } });
    expect(await cell.count('FROM reading')).toBe(before);
    const second = done(
      await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.3), { confirmed: true })),
    );
    expect(second.answer).toMatchObject({ verdict: 'change', partOut: true });
  });
  it('a newer reading of the feature takes the place of a proposal that waits', async () => {
    const [old, fresh] = [await proposed(40.024), await proposed(40.026)];
    expect((await correctionById(pool(), old))!.state).toBe('superseded');
    expect((await correctionById(pool(), fresh))!.state).toBe('proposed');
  });
  it('a reading made before an approved correction was keyed leads to no second one', async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    const next = done(
      await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.025), { part: 53 })),
    );
    expect(next).toMatchObject({ proposalId: id, answer: { verdict: 'leave' } });
    expect(next.answer.reason).toMatch(/Key it first/);
  });
  it('first-offs after a set-up are taken out by shares: whole, then a half', async () => {
    const first = done(
      await takeReading(as(cell.inspector), await reading('Bearing pocket', mm(40.0165), { firstOff: true })),
    );
    const second = done(
      await takeReading(as(cell.inspector), await reading('Bearing pocket', mm(40.0205), { firstOff: true })),
    );
    expect(first.answer).toMatchObject({ verdict: 'change', change: mm(0.002) });
    expect(second.answer).toMatchObject({ verdict: 'change', change: mm(0.002) });
  });
  it('a reamed hole has no register and leads to no proposal', async () => {
    const answer = done(await takeReading(as(cell.operator), await reading('Reamed bore', mm(12.02))));
    expect(answer).toMatchObject({ proposalId: null, answer: { verdict: 'noRegister', partOut: true } });
  });
});

describe('the same correction is never made twice', () => {
  const keyedTimes = (id: number) =>
    cell.count(`FROM ledger WHERE kind = 'register' AND proposal_id = $1`, id);
  const approved = async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    return { id, to: (await correctionById(pool(), id))!.to };
  };
  it('by a double click: one key, ten requests at once, one entry, ten same answers', async () => {
    const { id, to } = await approved();
    const asking = as(cell.operator);
    const answers = await Promise.all(Array.from({ length: 10 }, () => readBack(asking, id, to)));
    expect(answers.map(done)).toEqual(Array.from({ length: 10 }, () => ({ kept: true })));
    expect(await keyedTimes(id)).toBe(1);
  });
  it('by a retry after a lost answer', async () => {
    const { id, to } = await approved();
    const key = randomUUID();
    done(await readBack(as(cell.operator, key), id, to));
    expect(done(await readBack(as(cell.operator, key), id, to))).toEqual({ kept: true });
    expect(await keyedTimes(id)).toBe(1);
  });
  it('by two tablets with keys of their own: one is told that it was made', async () => {
    const { id, to } = await approved();
    const answers = await Promise.all([
      readBack(as(cell.operator), id, to),
      readBack(as(cell.setter), id, to),
    ]);
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
    expect(answers.map(refused).join()).toMatch(/not made twice by (Dede|Ilya)/);
    expect(await keyedTimes(id)).toBe(1);
  });
  it('by two who approve at once', async () => {
    const id = await proposed();
    const answers = await Promise.all([
      approve(as(cell.lead), cell.lead, id),
      approve(as(cell.operator), cell.operator, id),
    ]);
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
    expect(await cell.count(`FROM ledger WHERE proposal_id = $1 AND stage = 'approved'`, id)).toBe(1);
  });
  it('a key that comes back with other contents is refused', async () => {
    const { id, to } = await approved();
    const key = randomUUID();
    done(await readBack(as(cell.operator, key), id, (to + 1000) as Length));
    expect(refused(await readBack(as(cell.operator, key), id, to))).toMatch(/different/);
    expect(refused(await readBack(as(cell.setter, key), id, to))).toMatch(/different/);
  });
  it('and underneath the database refuses a second entry for a proposal, whatever the code does', async () => {
    const { id, to } = await approved();
    done(await readBack(as(cell.operator), id, to));
    const { id: registerId } = await wear();
    const again = `INSERT INTO ledger (kind, stage, person_id, register_id, proposal_id, before_value, change_value, after_value, said) VALUES ('register', 'corrected', 1, $1, $2, $3::bigint, 1000, $3::bigint + 1000, 'again')`;
    await expect(pool().query(again, [registerId, id, to])).rejects.toMatchObject({
      constraint: 'a_proposal_is_applied_once',
    });
  });
});

describe('a proposal whose register has moved since', () => {
  const move = async () => {
    const { id, value } = await wear();
    done(
      await foundAtControl(as(cell.setter), {
        registerId: id,
        before: value as Length,
        after: (value + 5000) as Length,
        why: 'the night shift nudged it',
      }),
    );
  };
  it('is closed instead of approved, and says who moved it', async () => {
    const id = await proposed();
    await move();
    const answer = done(await approve(as(cell.lead), cell.lead, id));
    expect(answer).toMatchObject({ done: false });
    expect(JSON.stringify(answer)).toContain('Ilya Brandt');
    expect((await correctionById(pool(), id))!.state).toBe('superseded');
  });
  it('is closed instead of keyed, when it moved after the approval', async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    await move();
    const held = (await wear()).value;
    expect(done(await readBack(as(cell.operator), id, to))).toMatchObject({
      kept: false,
      overtaken: expect.stringContaining('Ilya Brandt') as string,
    });
    expect((await wear()).value).toBe(held);
  });
});

describe('who may', () => {
  it('an operator approves up to the limit of the feature, not past it', async () => {
    const small = await proposed(40.024);
    done(await approve(as(cell.operator), cell.operator, small));
    done(await refuse(as(cell.lead), small, 'tried'));
    const large = done(
      await takeReading(as(cell.operator), await reading('Bearing pocket', mm(40.06), { confirmed: true })),
    ).proposalId!;
    expect(refused(await approve(as(cell.operator), cell.operator, large))).toMatch(/Ask the cell lead/);
    done(await approve(as(cell.lead), cell.lead, large));
  });
  it('a refused correction stays closed, and a refusal needs a reason', async () => {
    const id = await proposed();
    expect(refused(await refuse(as(cell.lead), id, ' '))).toMatch(/Say why/);
    done(await refuse(as(cell.lead), id, 'the part was warm'));
    expect(refused(await approve(as(cell.lead), cell.lead, id))).toMatch(/was refused/);
    expect(refused(await refuse(as(cell.lead), id, 'again'))).toMatch(/was refused/);
  });
});
