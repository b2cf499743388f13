import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { componentById, componentsByNumber, stockMoved } from '../../src/server/components.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { disagreements } from '../../src/server/ledger.ts';
import {
  cameBack,
  linesToOrder,
  openOrders,
  orderCame,
  recordOrder,
  sendToRegrind,
} from '../../src/server/orders.ts';
import { cellsOf, freeNumber, writeRecord } from '../../src/server/records.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(async () => {
  expect(await disagreements(pool())).toEqual([]);
  await closePool();
});

const mm = (value: number) => lengthOf(value, 'mm');
const item = async (number: string) => (await componentsByNumber(pool(), [number]))[0]!;
const none = { pieces: 0, same: 0, scrapped: 0, diameter: 0, overall: 0 };

describe('what is ordered', () => {
  it('lines below their minimum, filled up; once ordered nobody orders them again', async () => {
    const [line] = await linesToOrder(pool());
    expect(line!.pieces).toBe(2 * line!.minimum - line!.stock);
    const order = {
      lines: [{ id: line!.id, pieces: line!.pieces, coming: line!.coming }],
      place: 'the usual',
    };
    const outcomes = await Promise.all([
      recordOrder(as(cell.crib), order),
      recordOrder(as(cell.lead), order),
    ]);
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect((await linesToOrder(pool())).map((each) => each.id)).not.toContain(line!.id);
    const [open] = await openOrders(pool(), line!.id);
    done(await orderCame(as(cell.crib), { orderId: open!.id, came: 0, pieces: 1, rest: true }));
    expect(await componentById(pool(), line!.id)).toMatchObject({ stock: line!.stock + 1 });
    expect(await openOrders(pool(), line!.id)).toMatchObject([{ came: 1 }]);
    done(await orderCame(as(cell.crib), { orderId: open!.id, came: 1, pieces: 0, rest: false }));
    expect(await openOrders(pool(), line!.id)).toEqual([]);
    expect(
      refused(await orderCame(as(cell.crib), { orderId: open!.id, came: 1, pieces: 1, rest: true })),
    ).toMatch(/no longer open/);
    // the rest never came: it is to be ordered again
    const again = (await linesToOrder(pool())).find((each) => each.id === line!.id);
    expect(again?.pieces).toBe(line!.stock + 1 < line!.minimum ? line!.pieces - 1 : undefined);
  });
});

describe('away for regrinding', () => {
  it('pieces leave the shelf, and come back in parts: smaller, as they went, or not at all', async () => {
    const { id, stock: before, regrinds } = await item('EM-10R02');
    done(await sendToRegrind(as(cell.crib), { componentId: id, before, pieces: 3, place: 'the grinder' }));
    expect(await item('EM-10R02')).toMatchObject({ stock: before - 3 });
    const [order] = await openOrders(pool(), id);
    expect(order).toMatchObject({ kind: 'regrind', pieces: 3, place: 'the grinder' });
    const back = (change: object) =>
      cameBack(as(cell.crib), { orderId: order!.id, came: 0, ...none, ...change });
    expect(refused(await back({}))).toMatch(/how many/);
    expect(refused(await back({ same: 4 }))).toMatch(/3 are away/);
    expect(refused(await back({ pieces: 1, diameter: mm(10.5), overall: mm(70) }))).toMatch(/never larger/);
    expect(await openOrders(pool(), id)).toMatchObject([{ came: 0 }]);
    const smaller = done(await back({ pieces: 1, scrapped: 1, diameter: mm(9.7), overall: mm(71) }))!;
    expect(await componentById(pool(), smaller.id)).toMatchObject({
      number: 'EM-10R02-R1',
      stock: 1,
      regrinds: regrinds! - 1,
      regroundFrom: id,
    });
    expect(await openOrders(pool(), id)).toMatchObject([{ came: 2 }]);
    expect(refused(await back({ same: 1 }))).toMatch(/2 of this order are here already/);
    done(await back({ same: 1, came: 2 }));
    expect(await openOrders(pool(), id)).toEqual([]);
    expect(await item('EM-10R02')).toMatchObject({ stock: before - 2 });
  });
  it('two people send the last ones at once: they go once', async () => {
    const { id, stock } = await item('EM-10R02');
    const sent = { componentId: id, before: stock, pieces: stock, place: '' };
    const outcomes = await Promise.all([
      sendToRegrind(as(cell.crib), sent),
      sendToRegrind(as(cell.lead), sent),
    ]);
    expect(outcomes.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(await item('EM-10R02')).toMatchObject({ stock: 0 });
  });
});

describe('a tool written down by hand', () => {
  const fresh = {
    number: 'H-900',
    name: 'Drill 5 by hand',
    kind: 'drill',
    interface: 'steep 40',
    diameter: '5',
    stick_out: '60',
    gauge_length: '130',
    holder_diameter: '40',
    life_basis: 'holes',
    life_limit: '300',
  };
  const write = (cells: object, shown: Record<string, string> | null, who = cell.crib) =>
    writeRecord(as(who), { kind: 'assemblies', cells: cells as Record<string, string>, shown });
  it('is put on record with its life, once; what is wrong is told by its field', async () => {
    expect(refused(await write({ ...fresh, diameter: '', kind: 'hammer' }, null))).toMatch(
      /Kind: .*\nDiameter: /,
    );
    done(await write(fresh, null));
    expect(refused(await write(fresh, null))).toMatch(/already on record/);
    expect((await cellsOf(pool(), 'assemblies', 'H-900'))!.cells).toMatchObject({
      diameter: '5.000',
      life_limit: '300',
    });
    expect(await freeNumber(pool(), 'assemblies')).toBe('H-901');
  });
  it('is changed by what the form showed; two people do not undo one another', async () => {
    const shown = (await cellsOf(pool(), 'assemblies', 'A-141'))!.cells;
    const change = (cells: object, who = cell.crib) => write({ ...shown, ...cells }, shown, who);
    expect(refused(await change({}))).toMatch(/Nothing/);
    const both = await Promise.all([change({ name: 'One name' }), change({ name: 'Another' }, cell.lead)]);
    expect(both.filter((outcome) => outcome.ok)).toHaveLength(1);
    expect(refused(await change({ teeth: '9' }))).toMatch(/changed it meanwhile: name is now/);
    // life is not a form's to change here
    const now = (await cellsOf(pool(), 'assemblies', 'A-141'))!.cells;
    done(await write({ ...now, life_limit: '1', teeth: '3' }, now));
    expect((await cellsOf(pool(), 'assemblies', 'A-141'))!.cells.life_limit).toBe(now.life_limit);
  });
  it('what stands in a machine may have another name, and no other size', async () => {
    const { cells } = (await cellsOf(pool(), 'assemblies', 'A-103'))!;
    expect(refused(await write({ ...cells, diameter: '12' }, cells))).toMatch(/stands in Avocet.*diameter/);
    done(await write({ ...cells, name: 'Finisher' }, cells));
    expect((await cellsOf(pool(), 'assemblies', 'A-103'))!.cells.name).toBe('Finisher');
  });
  it('a component too, with its own needs; stock stays what was counted', async () => {
    const { cells } = (await cellsOf(pool(), 'components', 'EM-10R02'))!;
    const change = { ...cells, shelf: 'Z-09', minimum: '4', maximum: '12', stock: '999' };
    done(await writeRecord(as(cell.crib), { kind: 'components', cells: change, shown: cells }));
    const after = await item('EM-10R02');
    expect(after).toMatchObject({ shelf: 'Z-09', minimum: 4, maximum: 12 });
    expect(String(after.stock)).toBe(cells.stock);
    expect(
      refused(
        await writeRecord(as(cell.crib), {
          kind: 'components',
          cells: { number: 'NEW-1', name: 'x', kind: 'end mill, sharp corner', dc: '8' },
          shown: null,
        }),
      ),
    ).toMatch(/needs OAL/);
    done(
      await stockMoved(as(cell.crib), {
        componentId: after.id,
        before: after.stock,
        move: 'bought',
        pieces: 1,
        why: '',
      }),
    );
  });
});
