import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { correctionById, readBack } from '../../src/server/corrections.ts';
import { approve } from '../../src/server/decided-corrections.ts';
import type { FirstPart } from '../../src/server/cut-until.ts';
import { bringTable } from '../../src/server/control-looks.ts';
import { closePool, pool, rows } from '../../src/server/db.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { takeReading } from '../../src/server/readings.ts';
import { as, done, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** A reading of Egret's hub: the height of its face answers to the length wear of row 1, which cuts nothing else. */
const take = async (size: number, part: number, over: { confirmed?: boolean } = {}) =>
  done(
    await takeReading(as(cell.operator), {
      featureId: await cell.feature('O5103', 'Face height'),
      programId: await cell.program('O5103'),
      jobId: await cell.job('O5103'),
      part,
      measured: lengthOf(size, 'mm'),
      confirmed: over.confirmed ?? true,
      firstOff: false,
    }),
  );
/** A part 0.024 too high leads to a correction, and the lead approves it. */
async function approved() {
  const id = (await take(80.024, 40)).proposalIds[0]!;
  done(await approve(as(cell.lead), cell.lead, id));
  return (await correctionById(pool(), id))!;
}
/** Parts since that come to target by themselves. */
async function onTarget() {
  await take(80.001, 41);
  await take(79.999, 42);
  return take(80, 43);
}
const read = async (id: number, shown: Length, first?: FirstPart) =>
  done(await readBack(as(cell.operator), id, { shown, again: shown, first }));
const stages = async (id: number) =>
  (
    await rows<{ stage: string }>(
      pool(),
      "SELECT stage FROM ledger WHERE proposal_id = $1 AND kind = 'correction' ORDER BY id",
      [id],
    )
  ).map(({ stage }) => stage);

describe('an approved correction that later parts speak against', () => {
  it('is held back until its row was read, once, and says what it would do', async () => {
    const { id } = await approved();
    const said = await onTarget();
    expect(said).toMatchObject({ proposalIds: [id], answer: { verdict: 'leave' } });
    expect(said.answer.reason).toMatch(/^Key nothing yet: read length wear of row 1 off the control first/i);
    await take(80.001, 44);
    expect((await stages(id)).filter((stage) => stage === 'held')).toHaveLength(1);
    expect((await correctionById(pool(), id))!.held).toMatch(/read length wear of row 1/i);
  });
  it('was not keyed: it is withdrawn, and the row stays as it was', async () => {
    const { id, from } = await approved();
    await onTarget();
    expect(await read(id, from)).toMatchObject({
      kept: false,
      overtaken: expect.stringMatching(/not needed/),
    });
    const after = (await correctionById(pool(), id))!;
    expect(after).toMatchObject({ state: 'superseded', present: from, held: null });
    // and the next part is answered by itself
    expect((await take(80.001, 45)).answer.reason).not.toMatch(/Key/);
    expect(await disagreements(pool())).toEqual([]);
  });
  it('was not keyed, by a table that was read off the control: it is withdrawn as well', async () => {
    const { id, from, row, machineId } = await approved();
    const table = () =>
      bringTable(as(cell.setter), {
        machineId,
        fileName: 'wear.txt',
        text: `${row} ${(from / 1e6).toFixed(3)}`,
        kind: 'lengthWear',
        mapping: null,
        part: true,
      });
    done(await table());
    expect((await correctionById(pool(), id))!.state).toBe('approved');
    await onTarget();
    done(await table());
    expect(await correctionById(pool(), id)).toMatchObject({ state: 'superseded', present: from });
  });
  it('was keyed and nobody had said so: the record follows, and the row is not locked', async () => {
    const { id, to } = await approved();
    await onTarget();
    expect(await read(id, to, 41)).toEqual({ kept: true });
    expect(await correctionById(pool(), id)).toMatchObject({ state: 'applied', present: to, held: null });
    const next = await take(80.001, 44);
    expect(next.answer).toMatchObject({ verdict: 'leave' });
    expect(next.took?.verdict).toBe('took');
    expect(await disagreements(pool())).toEqual([]);
  });
  it('shows neither: a slip is named as ever, and it stays held back', async () => {
    const { id, from } = await approved();
    await onTarget();
    expect(await read(id, (from + 7000) as Length)).toMatchObject({
      kept: false,
      reading: { matches: false },
    });
    expect((await correctionById(pool(), id))!.held).not.toBeNull();
  });
  it('is to be keyed after all where further parts need it again', async () => {
    const { id } = await approved();
    await onTarget();
    let said = '';
    for (let part = 44; part < 60 && !said.includes('Key it first'); part += 1)
      said = (await take(80.024, part)).answer.reason;
    expect(said).toMatch(/Key it first/);
    expect((await correctionById(pool(), id))!.held).toBeNull();
    expect((await stages(id)).slice(-2)).toEqual(['held', 'released']);
  });
  it('what it shows in place of what was to be keyed is a slip as long as it is not held back', async () => {
    const { id, from } = await approved();
    expect(await read(id, from)).toMatchObject({ kept: false, reading: { fault: 'notKeyed' } });
    expect((await correctionById(pool(), id))!.state).toBe('approved');
  });
  it('one surprising part that measures as if it were keyed is asked about as that', async () => {
    for (const [i, size] of [80.079, 80.081, 80.08].entries()) await take(size, 37 + i);
    const id = (await take(80.08, 40)).proposalIds[0]!;
    done(await approve(as(cell.lead), cell.lead, id));
    const said = await take(80.0, 41, { confirmed: false });
    expect(said.answer).toMatchObject({
      verdict: 'measureAgain',
      reason: expect.stringMatching(/had been keyed before it was cut/),
    });
    expect((await correctionById(pool(), id))!.held).toBeNull();
  });
});
