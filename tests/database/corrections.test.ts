import { randomUUID } from 'node:crypto';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { chaseWords } from '../../src/core/correction/chase.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { entry } from '../../src/core/ledger/entry.ts';
import {
  clearRow,
  correctionById,
  keyText,
  readBack,
  readBackAll,
  strayCorrections,
} from '../../src/server/corrections.ts';
import { approve, refuse } from '../../src/server/decided-corrections.ts';
import type { FirstPart } from '../../src/server/cut-until.ts';
import { bringRead, lastEntry } from '../../src/server/control-roads.ts';
import { takeReading } from '../../src/server/readings.ts';
import { foundAtControl } from '../../src/server/registers.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { machineById, machines } from '../../src/server/machines.ts';
import { featuresOn } from '../../src/server/programs.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { as, done, entered, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const mm = (value: number) => lengthOf(value, 'mm');
interface Over {
  confirmed?: boolean;
  firstOff?: boolean;
  part?: number;
  feature?: string;
  recut?: boolean;
}
/** A reading of Egret's hub: the height of its face answers to the length wear of row 1, which cuts nothing else. */
const reading = async (size: number, over: Over = {}) => ({
  featureId: await cell.feature('O5103', over.feature ?? 'Face height'),
  programId: await cell.program('O5103'),
  jobId: await cell.job('O5103'),
  part: over.part ?? 40,
  measured: mm(size),
  confirmed: over.confirmed ?? false,
  firstOff: over.firstOff ?? false,
  recut: over.recut ?? false,
});
const take = async (size: number, over: Over = {}, who = cell.operator) =>
  done(await takeReading(as(who), await reading(size, over)));
const proposed = async (size = 80.024, over: Over = {}) => (await take(size, over)).proposalIds[0]!;
const wear = () => cell.register('Egret', 1, 'lengthWear');
const keyed = async (id: number, first?: FirstPart) => {
  done(await approve(as(cell.lead), cell.lead, id));
  const { to } = (await correctionById(pool(), id))!;
  expect(done(await readBack(as(cell.operator), id, { shown: to, again: to, first }))).toEqual({
    kept: true,
  });
  return to;
};
/** Somebody moved the length wear of a row without a correction. */
async function move(of = 1) {
  const { id, value } = await cell.register('Egret', of, 'lengthWear');
  done(
    await foundAtControl(as(cell.setter), {
      registerId: id,
      before: value as Length,
      after: (value + 5000) as Length,
      why: 'the night shift nudged it',
    }),
  );
}
/** A tool of Egret has a new edge, by the ledger. */
async function renewed(tool: number, said: string) {
  const there = (await row<{ id: number; counter: number; value: number; machine: number }>(
    pool(),
    `SELECT a.id, c.id AS counter, c.value, m.id AS machine FROM placement s JOIN assembly a ON a.id = s.assembly_id JOIN machine m ON m.id = s.machine_id
     JOIN life_counter c ON c.assembly_id = a.id WHERE m.name = 'Egret' AND s.tool = $1`,
    [tool],
  ))!;
  await entered(
    entry.life('renewed', {
      personId: cell.setter.id,
      assemblyId: there.id,
      machineId: there.machine,
      tool,
      counterId: there.counter,
      before: there.value,
      after: there.value,
      said,
    }),
  );
}
/** The row's school: by all readings of its edge unless another is asked for. */
const school = (policy: string, name = 'Face height') =>
  cell.asOwner((client) => client.query('UPDATE feature SET policy = $1 WHERE name = $2', [policy, name]));

describe('from a reading to the register', () => {
  it('a face 0.024 mm too high: −0.024 approved, keyed, read back, and the next parts say that it took', async () => {
    const before = (await wear()).value;
    const id = await proposed(80.024);
    const correction = (await correctionById(pool(), id))!;
    expect(correction).toMatchObject({ state: 'proposed', change: mm(-0.024) - 0, from: before });
    expect(keyText((await machineById(pool(), correction.machineId))!, [correction])).toMatch(
      new RegExp(
        `^G21\nG90\nIF .* NE ${(before / 1e6).toFixed(3)}\\] GOTO 99\nG10 .* R-?${Math.abs((before - 24000) / 1e6).toFixed(3)}\nN99 M30$`,
      ),
    );
    const to = await keyed(id);
    expect((await wear()).value).toBe(to);
    let took = (await take(80.001, { part: 41 })).took;
    for (let part = 42; part < 52 && took?.verdict !== 'took'; part += 1)
      took = (await take(part % 2 ? 80.001 : 79.998, { part })).took ?? took;
    expect(took?.verdict).toBe('took');
    expect((await correctionById(pool(), id))!.took).toBe('took');
    expect(await disagreements(pool())).toEqual([]);
  });
  it('nothing moved: it is said once the parts can tell, the row is locked, and a read-back frees it', async () => {
    // of the two that come off together the second each time: how far the first stands off it is not known as well
    for (const part of [32, 34, 36]) await take(80.03, { part });
    const id = await proposed(80.031, { part: 38 });
    await keyed(id);
    // the first is questioned, since it should be lower by now: somebody measured again
    expect((await take(80.03, { part: 40 })).answer.verdict).toBe('measureAgain');
    let answer = await take(80.03, { part: 40, confirmed: true });
    for (const part of [42, 44, 46, 48]) answer = await take(80.031, { part, confirmed: true });
    expect(answer.took).toMatchObject({ verdict: 'notKeyed' });
    expect(answer.took!.sentence).toMatch(/rougher/);
    expect(answer.answer.verdict).toBe('locked');
    expect(answer.proposalIds).toEqual([]);
    const { to } = (await correctionById(pool(), id))!;
    expect(done(await clearRow(as(cell.operator), id, to))).toEqual({ asRecorded: true });
    expect((await take(80.03, { part: 50 })).answer.verdict).not.toBe('locked');
  });
  it('one part after a correction that likelier did nothing: nothing more is keyed before the row was read', async () => {
    const id = await proposed(80.039, { firstOff: true });
    await keyed(id);
    const answer = await take(80.038, { part: 42, confirmed: true });
    expect(answer).toMatchObject({
      proposalIds: [],
      took: { verdict: 'waiting' },
      answer: { verdict: 'locked' },
    });
    if (answer.answer.verdict !== 'locked') throw new Error();
    expect(answer.answer.reason).toMatch(
      /^Read length wear of row 1 off the control before anything more is keyed/,
    );
    expect((await correctionById(pool(), id))!.took).toBe('doubtful');
    const { to } = (await correctionById(pool(), id))!;
    expect(done(await clearRow(as(cell.operator), id, to))).toEqual({ asRecorded: true });
    expect((await take(80.038, { part: 44, confirmed: true })).answer.verdict).toBe('change');
  });
  it.each([
    ['one row read out', (to: number) => `${(to / 1e6).toFixed(3)}`],
    ['and a row that shows something else', (to: number) => `${(to / 1e6 - 0.03).toFixed(3)}`],
  ])('a look at the control frees a row that holds what is on record: %s', async (_, shows) => {
    for (const part of [36, 37, 38]) await take(80.03, { part });
    const id = await proposed(80.031, { part: 39 });
    const to = await keyed(id);
    for (const part of [40, 41, 42, 43, 44]) await take(80.031, { part, confirmed: true });
    const strays = async () => (await strayCorrections(pool(), new Date(0))).map((each) => each.id);
    const held = async () => (await take(80.03, { part: 45, confirmed: true })).answer.verdict === 'locked';
    const { took, registerId, machineId } = (await correctionById(pool(), id))!;
    expect(took).toBe('notKeyed');
    expect(await strays()).toContain(id);
    expect(await held()).toBe(true);
    const since = await lastEntry(pool());
    done(await bringRead(as(cell.setter), { machineId, read: { [registerId]: shows(to) }, since }));
    const asRecorded = Number(shows(to)) === to / 1e6;
    expect(await held()).toBe(!asRecorded);
    expect((await strays()).includes(id)).toBe(!asRecorded);
    expect((await correctionById(pool(), id))!.cleared).toBe(asRecorded);
  });
  it('a control that was seen to hold what was keyed is not accused by the parts', async () => {
    for (const part of [36, 37, 38]) await take(80.03, { part });
    const id = await proposed(80.031, { part: 39 });
    const to = await keyed(id);
    const { registerId, machineId } = (await correctionById(pool(), id))!;
    const since = await lastEntry(pool());
    const read = { [registerId]: (to / 1e6).toFixed(3) };
    done(await bringRead(as(cell.setter), { machineId, read, since }));
    for (const part of [40, 41, 42, 43, 44]) await take(80.031, { part, confirmed: true });
    expect((await correctionById(pool(), id))!.took).not.toBe('notKeyed');
  });
  it('says what moved the row on after a correction, by which no later part tells whether it took', async () => {
    const id = await proposed(80.024);
    await keyed(id);
    const told = async () => (await correctionById(pool(), id))!.movedOn;
    expect(await told()).toBeNull();
    // the row beside it, and an edge of another tool, are none of it
    await move(2);
    await renewed(2, 'T2 has a new edge.');
    await take(80.001, { part: 41 });
    expect(await told()).toBeNull();
    await renewed(1, 'T1 has a new edge.');
    expect(await told()).toBe('T1 has a new edge.');
    // what came first stands
    await move();
    expect(await told()).toBe('T1 has a new edge.');
  });
  it('of two that were keyed one after the other the first was moved on by the second', async () => {
    const first = await proposed(80.039, { firstOff: true });
    await keyed(first);
    const second = await proposed(80.012, { part: 41, firstOff: true, confirmed: true });
    await keyed(second);
    expect((await correctionById(pool(), first))!.movedOn).toBe(
      'Length wear of row 1 was keyed and read back.',
    );
    expect((await correctionById(pool(), second))!.movedOn).toBeNull();
  });
  it('a doubt that the next parts answer is gone by itself', async () => {
    const id = await proposed(80.039, { firstOff: true });
    await keyed(id);
    expect((await take(80.038, { part: 42, confirmed: true })).answer.verdict).toBe('locked');
    let answer = await take(80.001, { part: 44 });
    for (const part of [45, 46, 47, 48]) answer = await take(part % 2 ? 80.0 : 80.002, { part });
    expect(answer.answer.verdict).not.toBe('locked');
  });
  it('what waits for approval on a row that is locked is withdrawn', async () => {
    for (const part of [36, 37, 38]) await take(80.03, { part });
    await keyed(await proposed(80.031, { part: 39 }));
    const cards = new Set<number>();
    for (const part of [40, 41, 42, 43, 44])
      for (const each of (await take(80.031, { part, confirmed: true })).proposalIds) cards.add(each);
    for (const each of cards) expect((await correctionById(pool(), each))!.state).toBe('superseded');
    expect(
      await cell.count(
        `FROM proposal p JOIN proposal_state s USING (id) JOIN register g ON g.id = p.register_id JOIN machine m ON m.id = g.machine_id WHERE m.name = 'Egret' AND s.state IN ('proposed', 'approved')`,
      ),
    ).toBe(0);
  });
  it('a locked row that shows another number: it is written down, and what was known of its edge ends there', async () => {
    for (const part of [36, 37, 38]) await take(80.03, { part });
    const id = await proposed(80.031, { part: 39 });
    const { from } = (await correctionById(pool(), id))!;
    await keyed(id);
    for (const part of [40, 41, 42, 43]) await take(80.03, { part, confirmed: true });
    expect(done(await clearRow(as(cell.operator), id, from))).toEqual({ asRecorded: false });
    expect((await wear()).value).toBe(from);
    const answer = await take(80.03, { part: 44 });
    if (answer.answer.verdict !== 'change') throw new Error(answer.answer.reason);
    expect(answer.answer.rows[0]!.from).toBe(from);
    expect(Math.abs(answer.answer.rows[0]!.change + 30_000)).toBeLessThan(3000);
  });
  it('a mismatch is stopped, explained and recorded, and the register stays', async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    const { from, to } = (await correctionById(pool(), id))!;
    const turned = done(
      await readBack(as(cell.operator), id, {
        shown: (from - (to - from)) as Length,
        again: (from - (to - from)) as Length,
      }),
    );
    expect(turned).toMatchObject({ kept: false, reading: { fault: 'sign' } });
    expect((await wear()).value).toBe(from);
    expect((await correctionById(pool(), id))!.stops).toBe(1);
    expect(done(await readBack(as(cell.operator), id, { shown: to, again: to }))).toEqual({ kept: true });
  });
  it('a surprising reading is kept as typed, and counts for nothing until somebody stands behind it', async () => {
    const first = await take(80.5);
    expect(first).toMatchObject({ readingId: null, proposalIds: [], answer: { verdict: 'measureAgain' } });
    expect(first.answer.reason).toMatch(/thimble/);
    expect(await cell.count(`FROM reading WHERE measured = $1 AND doubt IS NOT NULL`, mm(80.5))).toBe(1);
    const second = await take(80.5, { confirmed: true });
    expect(second.answer).toMatchObject({ verdict: 'change', partOut: true });
  });
  it('a newer reading of the feature takes the place of a proposal that waits', async () => {
    const [old, fresh] = [await proposed(80.024), await proposed(80.026, { part: 41 })];
    expect((await correctionById(pool(), old))!.state).toBe('superseded');
    expect((await correctionById(pool(), fresh))!.state).toBe('proposed');
  });
  it('while an approved correction waits to be keyed, a reading leads to no second one', async () => {
    const id = await proposed();
    done(await approve(as(cell.lead), cell.lead, id));
    const next = await take(80.025, { part: 41 });
    expect(next).toMatchObject({ proposalIds: [id], answer: { verdict: 'leave' } });
    expect(next.answer.reason).toMatch(/Key it first/);
  });
  it('a reamed hole has no register and leads to no proposal', async () => {
    const answer = await take(16.03, { feature: 'Dowel bore' });
    expect(answer).toMatchObject({ proposalIds: [], answer: { verdict: 'noRegister', partOut: true } });
  });
  it('a register step finer than usual is shown, keyed and read back with all its digits', async () => {
    await cell.asOwner((client) => client.query("UPDATE machine SET increment = 100 WHERE name = 'Egret'"));
    const id = await proposed(80.0066, { firstOff: true });
    const correction = (await correctionById(pool(), id))!;
    expect(correction.change).toBe(mm(-0.0066));
    done(await approve(as(cell.lead), cell.lead, id));
    expect(keyText((await machineById(pool(), correction.machineId))!, [correction])).toMatch(
      /R-?\d\.\d{4}$/m,
    );
    const rounded = Math.round(correction.to / 1000) * 1000;
    expect(
      done(await readBack(as(cell.operator), id, { shown: rounded as Length, again: rounded as Length })),
    ).toMatchObject({ kept: false });
    expect(
      done(await readBack(as(cell.operator), id, { shown: correction.to, again: correction.to })),
    ).toEqual({ kept: true });
  });
});

describe('which readings count: what a part was cut with', () => {
  it('a part cut before the correction was keyed is not corrected a second time, and proves nothing about it', async () => {
    const id = await proposed(80.024, { part: 40 });
    await keyed(id);
    // measured late: it lay in the bin while the row was keyed
    const late = await take(80.025, { part: 39 });
    expect(late.took).toBeNull();
    expect(late.answer.verdict).not.toBe('change');
    expect(late.proposalIds).toEqual([]);
    expect((await correctionById(pool(), id))!.took).toBeNull();
  });
  it.each(['everyPart', 'deadBand', 'average'])('nor by the school "%s"', async (policy) => {
    await school(policy);
    const id = await proposed(80.03, { part: 40, firstOff: true });
    await keyed(id);
    const late = await take(80.031, { part: 39 });
    expect(late.proposalIds).toEqual([]);
    expect(late.answer.reason).toMatch(/already answered/);
  });
  it('nor of parts that the control had counted by then and nobody had recorded', async () => {
    const id = await proposed(80.024, { part: 40 });
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    done(await readBack(as(cell.operator), id, { shown: to, again: to, first: 'unsure', until: 44 }));
    // both that were on the pallet in the machine
    for (const part of [41, 44, 46])
      expect((await take(80.024, { part, confirmed: true })).answer.reason).toMatch(
        /nobody knows with which offset/,
      );
    expect((await take(80.001, { part: 47, confirmed: true })).answer.reason).not.toMatch(/nobody knows/);
  });
  it('of parts that may have been cut with either, nothing is concluded', async () => {
    const id = await proposed(80.024, { part: 40 });
    await keyed(id, 'unsure');
    const between = await take(80.024, { part: 41 });
    expect(between.answer.reason).toMatch(/nobody knows with which offset/);
    expect(between.proposalIds).toEqual([]);
    expect(between.took).toBeNull();
    expect((await take(80.0, { part: 43 })).took).not.toBeNull();
  });
  it('the first part cut with it is said at keying: what was cut before stays before', async () => {
    await keyed(await proposed(80.024, { part: 40 }), 46);
    expect((await take(80.024, { part: 45 })).proposalIds).toEqual([]);
    expect((await take(80.001, { part: 46 })).took).not.toBeNull();
  });
  it('a first part that was cut before what it was worked out from, or that cannot have been cut by now, is no first part', async () => {
    const id = await proposed(80.024, { part: 40 });
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    const say = async (first: FirstPart) =>
      refused(await readBack(as(cell.operator), id, { shown: to, again: to, first }));
    expect(await say(40)).toMatch(/worked out from part 40/);
    expect(await say(410)).toMatch(/Part 410\?/);
    expect((await correctionById(pool(), id))!.state).toBe('approved');
    expect(await say(41)).toBeNull();
  });
  it('a part that was cut again after the correction is judged by it', async () => {
    await keyed(await proposed(80.024, { part: 40 }));
    expect((await take(80.001, { part: 40, recut: true })).took).not.toBeNull();
  });
  it('first-offs: two parts measured before keying give their mean, not a half of the second', async () => {
    await take(80.02, { part: 40, firstOff: true });
    const second = await take(80.02, { part: 41, firstOff: true });
    expect(second.answer).toMatchObject({ verdict: 'change', rows: [{ change: mm(-0.02) - 0 }] });
  });
  it('a third first-off out of its limits is not left out by taking a third of it', async () => {
    await keyed(await proposed(80.03, { part: 40, firstOff: true }));
    await keyed(await proposed(80.02, { part: 41, firstOff: true, confirmed: true }));
    const third = await take(80.06, { part: 42, firstOff: true, confirmed: true });
    if (third.answer.verdict !== 'change') throw new Error(third.answer.reason);
    expect(third.answer.partOut).toBe(true);
    expect(Math.abs(third.answer.expectedSize - mm(80))).toBeLessThan(mm(0.04));
  });
  it('a renewed edge begins anew: proposals end with the old one, and its readings are not averaged in', async () => {
    const id = await proposed(80.03);
    await renewed(1, 'The life of the face mill was set.');
    const closed = (await correctionById(pool(), id))!;
    expect(closed).toMatchObject({ state: 'superseded' });
    expect(closed.withdrawn).toMatch(/The life of the face mill was set/);
    const fresh = await take(79.99, { part: 41, firstOff: true });
    if (fresh.answer.verdict !== 'change') throw new Error(fresh.answer.reason);
    expect(Math.abs(fresh.answer.rows[0]!.change - 10_000)).toBeLessThan(3000);
  });
  it('two readings at the same moment after a keyed correction are both kept', async () => {
    await keyed(await proposed(80.024, { part: 40 }));
    const answers = await Promise.all([
      takeReading(as(cell.operator), await reading(80.001, { part: 41 })),
      takeReading(as(cell.inspector), await reading(80.002, { part: 42 })),
    ]);
    expect(answers.map(refused)).toEqual([null, null]);
    expect(await cell.count('FROM reading WHERE part IN (41, 42) AND doubt IS NULL')).toBe(2);
  });
});

describe('a size lies between two boundaries, and a row may cut several sizes', () => {
  const onPin = async (feature: string, program: string, size: number, part: number, over: Over = {}) =>
    done(
      await takeReading(as(cell.inspector), {
        ...(await reading(80, over)),
        featureId: await cell.feature(program, feature),
        programId: await cell.program(program),
        jobId: await cell.job(program),
        part,
        measured: lengthOf(size, 'in'),
      }),
    );
  it('a length between two faces that one row cuts is no matter of that row', async () => {
    const answer = await onPin('Flange face', 'O1421', 0.7512, 3);
    expect(answer.answer.verdict).toBe('noRegister');
    expect(answer.answer.reason).toMatch(/cuts both ends/);
  });
  it('the parted end moves the other way: a part too long moves the parting tool to minus, away from nothing but itself', async () => {
    const answer = await onPin('Overall length', 'O1402', 3.5215, 160, { firstOff: true, confirmed: true });
    if (answer.answer.verdict !== 'change') throw new Error(answer.answer.reason);
    // longer by +0.0015: either the front face goes minus or the parted face goes plus
    for (const { row, change } of answer.answer.rows) expect(Math.sign(change)).toBe(row === 8 ? 1 : -1);
  });
  it('two sizes of one row are answered together: what would put the other out is not proposed', async () => {
    // the width is at its small end, the depth at its large one: plus in row 3 would mend the one and spoil the other
    let answer = await take(287.556, { feature: 'Body width', part: 40, firstOff: true, confirmed: true });
    for (const part of [41, 42, 43, 44]) {
      await take(207.644, { feature: 'Body depth', part, firstOff: true, confirmed: true });
      answer = await take(287.556, { feature: 'Body width', part, firstOff: true, confirmed: true });
    }
    // alone the width would ask for +0.022; together it goes as far as brings it in, and no further
    if (answer.answer.verdict === 'change') {
      expect(answer.answer.rows[0]!.change).toBeLessThanOrEqual(6000);
      // one step less would leave it out
      const [width] = answer.answer.foretold;
      expect(width!.size - 2 * 1000).toBeLessThan(287_560_000);
      expect(answer.answer.foretold.map((each) => each.in)).toEqual([true, true]);
    }
    expect(answer.answer.reason).toMatch(/Body depth/);
    const { id } = await cell.register('Egret', 3, 'cutterWear');
    expect(
      await cell.count(
        "FROM proposal p JOIN proposal_state s ON s.id = p.id WHERE p.register_id = $1 AND s.state IN ('proposed', 'approved')",
        id,
      ),
    ).toBe(answer.proposalIds.length);
  });
});

it('a drift is reckoned with the gaps as parts feel them, and said with the usual one', async () => {
  for (const part of [40, 41, 42, 54, 55]) await take(80, { part });
  const machine = (await machines(pool())).find(({ name }) => name === 'Egret')!;
  const feature = (await featuresOn(pool(), machine.id)).find(({ name }) => name === 'Face height')!;
  const { readings, every, measured } = await evidenceOf(pool(), machine, feature);
  const at = readings.map((each) => each.at).sort((a, b) => a - b);
  const gaps = at.slice(1).flatMap((each, i) => (each > at[i]! ? [each - at[i]!] : []));
  const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1]!;
  const felt = gaps.map((gap) => Math.min(gap, 5 * usual));
  const sum = (list: number[]) => list.reduce((all, each) => all + each, 0);
  expect(measured).toBe(usual);
  expect(every).toBeCloseTo(sum(felt.map((gap) => gap ** 2)) / sum(felt), 9);
  expect(every).toBeGreaterThan(usual);
});

describe('several rows read back together', () => {
  it('one wrong number keeps none of the others from being taken', async () => {
    const face = await proposed(80.024, { firstOff: true });
    const width = (await take(287.64, { feature: 'Body width', firstOff: true })).proposalIds[0]!;
    for (const id of [face, width]) done(await approve(as(cell.lead), cell.lead, id));
    const [one, two] = [(await correctionById(pool(), face))!, (await correctionById(pool(), width))!];
    const answers = done(
      await readBackAll(as(cell.operator), [
        { proposalId: width, shown: two.from, again: two.from },
        { proposalId: face, shown: one.to, again: one.to },
      ]),
    );
    expect(answers).toMatchObject([
      { proposalId: face, kept: true },
      { proposalId: width, kept: false, reading: { fault: 'notKeyed' } },
    ]);
    expect((await wear()).value).toBe(one.to);
    expect((await correctionById(pool(), width))!.state).toBe('approved');
  });
  it('a row that moves far is typed twice, both times the same', async () => {
    const id = await proposed(80.024, { firstOff: true });
    await cell.asOwner((client) =>
      client.query("UPDATE feature SET operator_limit = 1000 WHERE name = 'Face height'"),
    );
    done(await approve(as(cell.lead), cell.lead, id));
    const { to } = (await correctionById(pool(), id))!;
    expect(refused(await readBack(as(cell.operator), id, { shown: to }))).toMatch(/a second time/);
    expect(
      refused(await readBack(as(cell.operator), id, { shown: to, again: (to + 1000) as Length })),
    ).toMatch(/two numbers/);
    expect(done(await readBack(as(cell.operator), id, { shown: to, again: to }))).toEqual({ kept: true });
  });
  it('is chased after three parts cut with the old value', async () => {
    const id = await proposed(80.024, { part: 40, firstOff: true });
    done(await approve(as(cell.lead), cell.lead, id));
    expect(chaseWords((await correctionById(pool(), id))!)).toBeNull();
    await cell.asOwner(async (client) =>
      client.query('UPDATE job SET made = 43 WHERE id = $1', [await cell.job('O5103')]),
    );
    expect(chaseWords((await correctionById(pool(), id))!)).toMatch(/^3 parts were cut since part 40/);
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
    const answers = await Promise.all(
      Array.from({ length: 10 }, () => readBack(asking, id, { shown: to, again: to })),
    );
    expect(answers.map(done)).toEqual(Array.from({ length: 10 }, () => ({ kept: true })));
    expect(await keyedTimes(id)).toBe(1);
  });
  it('by a retry after a lost answer', async () => {
    const { id, to } = await approved();
    const key = randomUUID();
    done(await readBack(as(cell.operator, key), id, { shown: to, again: to }));
    expect(done(await readBack(as(cell.operator, key), id, { shown: to, again: to }))).toEqual({
      kept: true,
    });
    expect(await keyedTimes(id)).toBe(1);
  });
  it('by two tablets with keys of their own: one is told that it was made', async () => {
    const { id, to } = await approved();
    const answers = await Promise.all([
      readBack(as(cell.operator), id, { shown: to, again: to }),
      readBack(as(cell.setter), id, { shown: to, again: to }),
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
    done(
      await readBack(as(cell.operator, key), id, {
        shown: (to + 1000) as Length,
        again: (to + 1000) as Length,
      }),
    );
    expect(refused(await readBack(as(cell.operator, key), id, { shown: to, again: to }))).toMatch(
      /different/,
    );
    expect(refused(await readBack(as(cell.setter, key), id, { shown: to, again: to }))).toMatch(/different/);
  });
  it('and underneath the database refuses a second entry for a proposal, whatever the code does', async () => {
    const { id, to } = await approved();
    done(await readBack(as(cell.operator), id, { shown: to, again: to }));
    const { id: registerId } = await wear();
    const again = `INSERT INTO ledger (kind, stage, person_id, register_id, proposal_id, before_value, change_value, after_value, said) VALUES ('register', 'corrected', 1, $1, $2, $3::bigint, 1000, $3::bigint + 1000, 'again')`;
    await expect(pool().query(again, [registerId, id, to])).rejects.toMatchObject({
      constraint: 'a_proposal_is_applied_once',
    });
  });
});

describe('a proposal whose register has moved since', () => {
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
    expect(done(await readBack(as(cell.operator), id, { shown: to, again: to }))).toMatchObject({
      kept: false,
      overtaken: expect.stringContaining('Ilya Brandt') as string,
    });
    expect((await wear()).value).toBe(held);
  });
});

describe('who may', () => {
  it('an operator approves up to the limit of the feature, not past it', async () => {
    const small = await proposed(80.024);
    done(await approve(as(cell.operator), cell.operator, small));
    done(await refuse(as(cell.lead), small, 'tried'));
    const large = await proposed(80.036, { part: 41, confirmed: true });
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

describe('several readings of one size', () => {
  it('count as their mean and are kept as they were typed; far apart they count for nothing', async () => {
    const given = async (values: number[], part: number, confirmed = false) =>
      done(
        await takeReading(as(cell.operator), {
          ...(await reading(values.reduce((sum, each) => sum + each, 0) / values.length, {
            part,
            confirmed,
          })),
          several: values.map(mm),
        }),
      );
    const taken = await given([80.001, 80.003, 80.002], 40);
    const kept = await row<{ measured: Length; typed: number[] }>(
      pool(),
      'SELECT measured, to_jsonb(typed) AS typed FROM reading WHERE id = $1',
      [taken.readingId],
    );
    expect(kept).toEqual({ measured: mm(80.002), typed: [80.001, 80.003, 80.002].map(mm) });
    const apart = await given([80.0, 80.024], 41);
    expect(apart).toMatchObject({ readingId: null, answer: { verdict: 'measureAgain' } });
    expect(apart.answer.reason).toMatch(/differ by 0.024 mm/);
    expect(await cell.count('FROM reading WHERE part = 41 AND doubt IS NOT NULL AND typed IS NOT NULL')).toBe(
      1,
    );
    expect((await given([80.0, 80.024], 41, true)).readingId).not.toBeNull();
  });
});

describe('a gauge that is not what it was', () => {
  /** Height and width by one gauge, on two rows; eight parts that differ by a few micrometres. */
  async function before() {
    await cell.asOwner((client) =>
      client.query(
        `UPDATE feature SET gauge = 'bench gauge' WHERE name IN ('Face height', 'Body width') AND program_number = 'O5103'`,
      ),
    );
    // two come off together: neither place stands off the other
    const offs = [0.002, -0.002, -0.003, 0.001, 0.003, -0.001, -0.002, 0.002];
    for (let part = 10; part < 34; part += 1) {
      const off = offs[part % offs.length]!;
      await take(80 + off, { part, confirmed: true });
      await take(287.6 - off, { feature: 'Body width', part, confirmed: true });
    }
  }
  it('two sizes of one part that are off alike: its zero is asked about, though neither is a surprise', async () => {
    await before();
    expect((await take(80.0105, { part: 34 })).readingId).not.toBeNull();
    const asked = await take(287.6105, { feature: 'Body width', part: 34 });
    expect(asked).toMatchObject({ readingId: null, proposalIds: [], answer: { verdict: 'measureAgain' } });
    expect(asked.answer.reason).toMatch(
      /Body width and Face height of this part all lie about \+0.01\d mm off .* zero of bench gauge/,
    );
    expect(await cell.count(`FROM reading WHERE doubt LIKE '%zero of bench gauge%'`)).toBe(1);
    expect(
      (await take(287.6105, { feature: 'Body width', part: 34, confirmed: true })).readingId,
    ).not.toBeNull();
  });
  it('one size alone is no matter of the gauge', async () => {
    await before();
    expect((await take(80.0105, { part: 34 })).readingId).not.toBeNull();
    expect((await take(287.601, { feature: 'Body width', part: 34 })).readingId).not.toBeNull();
  });
  it('the same digits part after part are asked about once chance does not do that', async () => {
    await before();
    const answers = [];
    for (const part of [50, 51, 52, 53, 54, 55]) answers.push(await take(80.001, { part }));
    const asked = answers.find(({ readingId }) => readingId === null);
    expect(asked!.answer.reason).toMatch(/80.001 mm is what the last \d parts showed too/);
    expect(answers.slice(0, 3).every(({ readingId }) => readingId !== null)).toBe(true);
  });
});
