import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { neighbours, shiftAt } from '../../src/core/shift/calendar.ts';
import { cellOf } from '../../src/server/cell.ts';
import { crossedSince } from '../../src/server/crossed-moves.ts';
import { closePool, pool, row, rows } from '../../src/server/db.ts';
import { addEndCheck, dropEndCheck, endChecksOf, tickEndCheck } from '../../src/server/end-checks.ts';
import { lastWorked, spokenOf } from '../../src/server/handover.ts';
import { leafOf, signLeaf } from '../../src/server/leaf.ts';
import { answerNote, openNotes, writeNote } from '../../src/server/leaf-notes.ts';
import { foundAtControl, registersOf } from '../../src/server/registers.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const now = () => new Date();
const daysAgo = (days: number) => new Date(Date.now() - days * 86_400_000);
const present = async () => {
  const { patterns, timeZone } = await cellOf(pool());
  const shift = shiftAt(now(), patterns, timeZone)!;
  return { shift, ...neighbours(shift, patterns, timeZone) };
};

describe('moves that cross each other', () => {
  it('the change that the night keyed once more is found, with what the face did', async () => {
    const found = await crossedSince(pool(), daysAgo(4));
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ machine: 'Dunlin', row: 2, kind: 'lengthWear' });
    expect(found[0]!.crossed).toMatchObject([
      {
        kind: 'twice',
        needless: 'second',
        second: { person: null },
        did: [{ name: 'Pocket depth', before: { parts: 2 }, between: null, after: { parts: 1 } }],
      },
    ]);
    expect(await crossedSince(pool(), now())).toEqual([]);
  });

  it('what one hand sets and the next takes back is shown, though nothing was measured', async () => {
    const { id, value } = (await registersOf(pool(), 6)).find(
      ({ row: n, kind }) => n === 5 && kind === 'lengthWear',
    )!;
    const set = async (before: number, after: number) =>
      done(
        await foundAtControl(as(cell.setter), {
          registerId: id,
          before: before as typeof value,
          after: after as typeof value,
          why: 'seen at the control',
        }),
      );
    await set(value, value + 12_000);
    await set(value + 12_000, value);
    const own = (await crossedSince(pool(), daysAgo(1))).find(({ registerId }) => registerId === id)!;
    expect(own.crossed).toMatchObject([{ kind: 'undone', needless: null }]);
    expect(own.crossed[0]!.kind === 'undone' && own.crossed[0]!.did).toEqual([]);
  });
});

describe('the handover', () => {
  it('is kept as it was read out, and a promise stays until it is kept', async () => {
    const { shift, after } = await present();
    done(
      await writeNote(as(cell.setter), {
        leaf: shift.key,
        kind: 'promise',
        machineId: null,
        text: 'new coolant on Thursday',
      }),
    );
    const spoken = await spokenOf(pool(), await cellOf(pool()), shift, now());
    expect(spoken.join(' ')).toContain('new coolant on Thursday');
    expect(spoken.join(' ')).toContain('Moved by both shifts: Dunlin row 2.');
    done(await signLeaf(as(cell.lead), cell.lead, shift.key, 'leaving', now()));
    const kept = (await openNotes(pool())).find(({ text }) => text === 'new coolant on Thursday')!;
    expect(kept.kind).toBe('promise');
    // two people say at once that it was kept: one does
    const both = await Promise.all(
      [cell.lead, cell.setter].map((person) => answerNote(as(person), kept.id, 'done')),
    );
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    // what was read out does not change by what came after it
    const later = new Date(after!.end.getTime() + 60_000);
    const [date, name] = shift.key.split('/') as [string, string];
    expect((await leafOf(date, name, later))!.leaf.spoken.join(' ')).toContain('new coolant on Thursday');
  });

  it('of a shift that ended just now and was not handed over is told as things stand, of an older one no more', async () => {
    const { shift, after } = await present();
    const [date, name] = shift.key.split('/') as [string, string];
    const at = async (instant: Date) =>
      (await leafOf(date, name, new Date(instant.getTime() + 60_000)))!.leaf;
    expect(await at(shift.end)).toMatchObject({ standing: 'past', signatures: [] });
    expect((await at(shift.end)).spoken.join(' ')).toContain('Moved by both shifts: Dunlin row 2.');
    expect((await at(after!.end)).spoken).toEqual([]);
  });

  it('"since you left" begins with the last entry before hours without one', async () => {
    const left = await lastWorked(pool(), cell.operator.id, now());
    const entries = await rows<{ at: Date }>(
      pool(),
      'SELECT at FROM ledger WHERE person_id = $1 ORDER BY id',
      [cell.operator.id],
    );
    const at = entries.map((each) => each.at.getTime()).sort((a, b) => a - b);
    const i = at.lastIndexOf(left!.getTime());
    expect((at[i + 1] ?? Date.now()) - at[i]!).toBeGreaterThanOrEqual(4 * 3_600_000);
    // nothing after it has such a gap
    for (let k = i + 1; k < at.length; k += 1)
      expect((at[k + 1] ?? Date.now()) - at[k]!).toBeLessThan(4 * 3_600_000);
    const nobody = await row<{ id: number }>(pool(), 'SELECT max(id) + 1 AS id FROM person');
    expect(await lastWorked(pool(), nobody!.id, now())).toBeNull();
  });
});

describe('how the machines are left', () => {
  const machine = async (name: string, leaf: string) =>
    (await endChecksOf(pool(), leaf)).find((each) => each.name === name)!;
  const look = (
    person: typeof cell.lead,
    leaf: string,
    machineId: number,
    checkIds: number[],
    otherwise = '',
    seen = '',
  ) => tickEndCheck(as(person), { leaf, machineId, checkIds, otherwise, seen }, now());

  it('is ticked line by line or all at once, and what is not so stands there until it is put right', async () => {
    const { shift, after } = await present();
    const avocet = await machine('Avocet', shift.key);
    expect(avocet.checks.map(({ about }) => about)).toContain('spindle');
    // a turret has no spindle to leave a tool in
    expect((await machine('Curlew', shift.key)).checks.map(({ about }) => about)).not.toContain('spindle');
    const [first, ...rest] = avocet.checks.map(({ id }) => id);
    done(await look(cell.operator, shift.key, avocet.id, [first!], 'T5 is stuck in it'));
    done(await look(cell.operator, shift.key, avocet.id, rest));
    expect((await machine('Avocet', shift.key)).checks.map(({ by, otherwise }) => [by, otherwise])).toEqual([
      [cell.operator.name, 'T5 is stuck in it'],
      ...rest.map(() => [cell.operator.name, null]),
    ]);
    // whoever has a page from before it was found does not tick it away, nor the rest with it
    const all = [first!, ...rest];
    expect(refused(await look(cell.setter, shift.key, avocet.id, all))).toMatch(
      /found meanwhile.*T5 is stuck/,
    );
    // two who tick the same say it once
    const entries = await cell.count(`FROM ledger WHERE stage = 'checked'`);
    done(await look(cell.setter, shift.key, avocet.id, rest));
    expect(await cell.count(`FROM ledger WHERE stage = 'checked'`)).toBe(entries);
    done(await look(cell.setter, shift.key, avocet.id, [first!], '', 'T5 is stuck in it'));
    expect((await machine('Avocet', shift.key)).checks[0]).toMatchObject({
      by: cell.setter.name,
      otherwise: null,
    });
    // another shift begins with nothing ticked, and one that has not begun is not left
    expect((await machine('Avocet', after!.key)).checks.every(({ by }) => by === null)).toBe(true);
    expect(refused(await look(cell.operator, after!.key, avocet.id, [first!]))).toMatch(/not begun/);
    expect(refused(await look(cell.operator, '2026-01-01/brunch', avocet.id, [first!]))).toMatch(
      /no such leaf/,
    );
  });

  it('says where the tool in the spindle can be put', async () => {
    const { shift } = await present();
    const avocet = await machine('Avocet', shift.key);
    expect(avocet.spindle).toEqual({ sure: true, tool: null, name: '', pocket: null });
  });

  it('the list is the lead’s: a line for one machine, and one that goes while somebody ticks it', async () => {
    const { shift } = await present();
    done(await addEndCheck(as(cell.lead), { machineId: 4, text: 'The vacuum pump is off.' }));
    const dunlin = await machine('Dunlin', shift.key);
    const line = dunlin.checks.find(({ text }) => text === 'The vacuum pump is off.')!;
    expect(line.own).toBe(true);
    expect((await machine('Avocet', shift.key)).checks.map(({ text }) => text)).not.toContain(line.text);
    expect(refused(await look(cell.operator, shift.key, 1, [line.id]))).toMatch(/changed meanwhile/);
    done(await dropEndCheck(as(cell.lead), line.id));
    expect(refused(await dropEndCheck(as(cell.lead), line.id))).toMatch(/no longer/);
    expect(refused(await look(cell.operator, shift.key, 4, [dunlin.checks[0]!.id, line.id]))).toMatch(
      /changed meanwhile/,
    );
    // nothing of that was half taken
    expect((await machine('Dunlin', shift.key)).checks.every(({ by }) => by === null)).toBe(true);
  });
});
