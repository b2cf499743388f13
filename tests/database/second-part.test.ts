import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { lengthOf, nanometres, type Length } from '../../src/core/units/length.ts';
import { closePool, pool } from '../../src/server/db.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { readCopies, secondPart } from '../../src/server/second-part.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let curlew: Machine;
beforeEach(async () => {
  cell = await weirside();
  curlew = (await machineById(pool(), await cell.machine('Curlew')))!;
});
afterAll(closePool);

const inch = (value: number) => lengthOf(value, 'in');
const family = { rows: [1, 5], block: 30, partLength: inch(3.52), parting: inch(0.125), facing: inch(0.01) };
const copied = async () => {
  const found = await secondPart(pool(), curlew, family);
  if (!found.ok) throw new Error(found.reason);
  return found.copied;
};

describe('a second part on one bar', () => {
  it('is keyed row by row: what shows right is on record, what does not stays to be keyed', async () => {
    const [z1, z5] = (await copied()).filter(({ kind }) => kind === 'zGeometry');
    const source = await cell.register('Curlew', 1, 'zGeometry');
    expect(z1).toMatchObject({ row: 31, after: source.value - inch(3.655) });
    const answers = done(
      await readCopies(as(cell.setter), curlew, family, [
        { registerId: z1!.registerId, value: z1!.after },
        { registerId: z5!.registerId, value: nanometres(-z5!.after) },
      ]),
    );
    expect(answers).toMatchObject([
      { kept: true },
      { kept: false, said: expect.stringMatching(/sign/) as string },
    ]);
    expect((await cell.register('Curlew', 31, 'zGeometry')).value).toBe(z1!.after);
    expect((await cell.register('Curlew', 35, 'zGeometry')).value).toBe(z5!.before);
    // the row the first part is cut with has not moved
    expect((await cell.register('Curlew', 1, 'zGeometry')).value).toBe(source.value);
  });

  it('by two people at once, each row is entered once', async () => {
    const [z1] = (await copied()).filter(({ kind }) => kind === 'zGeometry');
    const shown = [{ registerId: z1!.registerId, value: z1!.after as Length }];
    const both = await Promise.all([
      readCopies(as(cell.setter), curlew, family, shown),
      readCopies(as(cell.operator), curlew, family, shown),
    ]);
    expect(both.map(done)).toMatchObject([[{ kept: true }], [{ kept: true }]]);
    expect(await cell.count('FROM ledger WHERE register_id = $1', z1!.registerId)).toBe(1);
  });

  it('refuses a block that tools own, and registers that are not in it', async () => {
    expect(
      refused(
        await readCopies(as(cell.setter), curlew, { ...family, block: 1 }, [
          { registerId: 1, value: inch(1) },
        ]),
      ),
    ).toMatch(/Row 2 belongs to the tool in station 2/);
    expect(
      refused(await readCopies(as(cell.setter), curlew, family, [{ registerId: 1, value: inch(1) }])),
    ).toMatch(/rows changed/);
  });
});
