import { absoluteWords } from '../../src/core/correction/register-text.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nanometres } from '../../src/core/units/length.ts';
import { differingControls } from '../../src/server/control-differing.ts';
import {
  answerLook,
  bringTable,
  compareLook,
  lookAtControl,
  looksAt,
  recordText,
} from '../../src/server/control-looks.ts';
import { askedRows, bringRead, lastEntry } from '../../src/server/control-roads.ts';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { addJob } from '../../src/server/jobs.ts';
import { keepPutBack, lookAtKept } from '../../src/server/put-back.ts';
import { disagreements } from '../../src/server/ledger.ts';
import { machines, type Machine } from '../../src/server/machines.ts';
import { importProgram } from '../../src/server/programs.ts';
import { foundAtControl, registersOf } from '../../src/server/registers.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let machine: Machine;
let other: Machine;
beforeAll(async () => {
  cell = await weirside();
  [machine, other] = (await machines(pool())).filter(({ kind }) => kind === 'mill') as [Machine, Machine];
});
afterAll(async () => {
  expect(await disagreements(pool())).toEqual([]);
  await closePool();
});

/** The record as the control would punch it out, with some lengths made otherwise. */
async function punched(of: Machine, changes: readonly [row: number, by: number][] = []) {
  const { text } = await recordText(pool(), of, new Date());
  const values = await registersOf(pool(), of.id);
  return changes
    .reduce((lines, [row, by]) => {
      const template = of.dialect.setRegister.lengthGeometry!;
      const held = values.find((each) => each.kind === 'lengthGeometry' && each.row === row)!.value;
      const line = template.replaceAll('{row}', String(row));
      const begin = line.slice(0, line.indexOf('{value}'));
      return lines.replace(
        new RegExp(`^${begin.replaceAll(/[.*+?^$()|[\]\\]/g, String.raw`\$&`)}.*$`, 'm'),
        `${begin}${((held + by) / (of.unit === 'mm' ? 1_000_000 : 25_400_000)).toFixed(of.unit === 'mm' ? 3 : 4)}`,
      );
    }, text)
    .replace(/^\(.*\)\n/gm, '');
}
const bring = (text: string, of = machine, more: { kind?: string; part?: boolean; mapping?: number } = {}) =>
  bringTable(as(cell.setter), {
    machineId: of.id,
    fileName: 'x.nc',
    text,
    kind: more.kind ?? null,
    mapping: more.mapping ?? null,
    part: more.part ?? false,
  });
const tools = async (of = machine) =>
  (await registersOf(pool(), of.id))
    .filter(({ kind, value }) => kind === 'lengthGeometry' && value !== 0)
    .map(({ id, row, value }) => ({ id, row, value }));
const step = () => machine.increment;
const answer = (
  person: typeof cell.lead,
  lookId: number,
  registers: number[],
  which: 'control' | 'record' | 'open',
) => answerLook(as(person), { machineId: machine.id, lookId, registers, answer: which, why: 'looked at it' });

describe('what programs take for granted', () => {
  it('a register that a program writes itself is explained by it, and one that is not as it must be stands apart', async () => {
    const program = (number: number, rows: string) =>
      transaction((db) =>
        importProgram(db, cell.lead.id, {
          machineId: machine.id,
          fileName: `o${number}.nc`,
          text: `%\nO${number}\nG21 G90\n${rows}M30\n%\n`,
          partsPerCycle: 1,
        }),
      );
    const queue = async (programId: number) =>
      done(await addJob(as(cell.lead), { programId, quantity: 5, cycleMilliseconds: 60_000 }));
    const [row, away] = (await registersOf(pool(), machine.id))
      .filter(({ kind, value }) => kind === 'lengthGeometry' && value !== 0)
      .map((each) => each.row);
    const line = machine.dialect.setRegister.cutterWear!.replace('{row}', String(row));
    await queue(
      await program(7161, `T${row} M6\nS900 M3\nG43 H${row} Z50.\n${line.replace('{value}', '0.031')}\n`),
    );
    const text = await punched(machine);
    const shown = text.replace(line.replace('{value}', '0.000'), line.replace('{value}', '0.031'));
    expect(shown).not.toBe(text);
    const lookOf = async (table: string) => {
      done(await bring(table));
      return compareLook(pool(), machine, (await lookAtControl(pool(), machine.id, null))!);
    };
    const [wrote] = (await lookOf(shown)).differences;
    expect(wrote).toMatchObject({ register: { kind: 'cutterWear', row }, told: true });
    expect(wrote!.explanations[0]).toMatchObject({ code: 'programWrote' });
    // the record holds what the program does not leave there: it runs with something else, whoever is right
    const plain = await lookOf(text);
    expect(plain.differences).toEqual([]);
    const names = ({ apart }: typeof plain) => apart.map(({ kind, row: at }) => `${kind} ${at}`);
    expect(names(plain)).toContain(`cutterWear ${row}`);
    // a program that needs a length where none is, only while it is still to run
    const empty = (await registersOf(pool(), machine.id)).find(
      ({ kind, value, row: at }) => kind === 'lengthGeometry' && value === 0 && at > 40,
    )!;
    const second = await program(7162, `T${away} M6\nS900 M3\nG43 H${empty.row} Z50.\nG1 Z0. F100.\n`);
    expect(names(await lookOf(text))).toEqual(names(plain));
    await queue(second);
    const after = await lookOf(text);
    expect(names(after)).toContain(`lengthGeometry ${empty.row}`);
    expect(after.assumed.filter(({ program: by }) => by === 'O7162').map(({ code }) => code)).toEqual([
      'length',
      'used',
    ]);
  });
});

describe('a control’s table beside the record', () => {
  it('is answered once: of two people one is told that the other was quicker, and the record moves once', async () => {
    const [first] = await tools();
    const look = done(await bring(await punched(machine, [[first!.row, 12 * step()]])));
    const answers = await Promise.all([
      answer(cell.lead, look.id, [first!.id], 'control'),
      answer(cell.setter, look.id, [first!.id], 'record'),
    ]);
    expect(answers.filter(({ ok }) => ok)).toHaveLength(1);
    const now = (await tools()).find(({ id }) => id === first!.id)!.value;
    expect([first!.value, first!.value + 12 * step()]).toContain(now);
    // the same table again: what the answer left differing still does, and nothing else
    const again = (await lookAtControl(pool(), machine.id, null))!;
    const compared = await compareLook(pool(), machine, again);
    expect(compared.differences.length + compared.moved.length).toBe(1);
  });

  it('what was recorded after a look is not held against it, nor answered by it', async () => {
    const [, second, third] = await tools();
    const look = done(
      await bring(
        await punched(machine, [
          [second!.row, 7 * step()],
          [third!.row, -9 * step()],
        ]),
      ),
    );
    done(
      await foundAtControl(as(cell.setter), {
        registerId: second!.id,
        before: second!.value,
        after: nanometres(second!.value + 3 * step()),
        why: 'measured again',
      }),
    );
    const seen = (await lookAtControl(pool(), machine.id, look.id))!;
    const compared = await compareLook(pool(), machine, seen);
    expect(compared.moved).toEqual([{ kind: 'lengthGeometry', row: second!.row }]);
    expect(compared.differences.map(({ register }) => register.id)).toEqual([third!.id]);
    expect(refused(await answer(cell.lead, look.id, [second!.id, third!.id], 'control'))).toContain(
      'has moved since this look',
    );
    // all of them or none: the other one was not taken either
    expect((await tools()).find(({ id }) => id === third!.id)!.value).toBe(third!.value);
    expect((await differingControls(pool())).find(({ machineId }) => machineId === machine.id)).toMatchObject(
      {
        differing: 1,
      },
    );
    done(await answer(cell.lead, look.id, [third!.id], 'open'));
    expect(await differingControls(pool())).toEqual(
      (await differingControls(pool())).filter(({ machineId }) => machineId !== machine.id),
    );
  });

  it('a length that was measured and not read back may not have been keyed; once a look has agreed it was taken back', async () => {
    const [, , , fourth] = await tools();
    const id = fourth!.id;
    const before = fourth!.value;
    done(await bring(await punched(machine)));
    const look = done(await bring(await punched(machine, [[fourth!.row, 5 * step()]])));
    const told = async () =>
      (
        await compareLook(pool(), machine, (await lookAtControl(pool(), machine.id, look.id))!)
      ).differences.find(({ register }) => register.id === id)!.register;
    expect(await told()).toMatchObject({ seen: true, record: before });
  });

  it('the table of another machine is named, and nothing of it becomes the record', async () => {
    const foreign = await registersOf(pool(), other.id);
    const own = new Map(
      (await registersOf(pool(), machine.id)).map((each) => [`${each.kind} ${each.row}`, each]),
    );
    const lines = foreign
      .filter(({ kind, row, value }) => kind === 'lengthGeometry' && value !== 0 && own.has(`${kind} ${row}`))
      .map(
        ({ row, value }) => `${row} ${(value / (machine.unit === 'mm' ? 1_000_000 : 25_400_000)).toFixed(6)}`,
      );
    expect(lines.length).toBeGreaterThan(3);
    const look = done(await bring(lines.join('\n'), machine, { kind: 'lengthGeometry', part: true }));
    const compared = await compareLook(pool(), machine, (await lookAtControl(pool(), machine.id, look.id))!);
    expect(compared.whole).toMatchObject({ code: 'otherMachine', machine: other.name });
    const [any] = await tools();
    expect(refused(await answer(cell.lead, look.id, [any!.id], 'control'))).toContain(
      `This is the table of ${other.name}`,
    );
  });

  it('what was read row by row is a part of the table, and tells nothing of rows that were recorded while it was read', async () => {
    const asked = await askedRows(pool(), machine.id);
    const [one, two] = await tools();
    // in the order of the screen: the lengths before their wear
    expect(asked[0]!.kind).toBe('lengthGeometry');
    expect(asked.map(({ id }) => id)).toEqual(expect.arrayContaining([one!.id, two!.id]));
    const since = await lastEntry(pool());
    const text = (value: number) => `${value / (machine.unit === 'mm' ? 1e6 : 25.4e6)}`;
    // somebody else records the second of them while the first is being read
    done(
      await foundAtControl(as(cell.lead), {
        registerId: two!.id,
        before: two!.value,
        after: nanometres(two!.value + 7 * step()),
        why: 'Touched off again.',
      }),
    );
    const read = { [one!.id]: text(one!.value + 3 * step()), [two!.id]: text(two!.value) };
    const { id } = done(await bringRead(as(cell.operator), { machineId: machine.id, read, since }));
    const look = (await lookAtControl(pool(), machine.id, id))!;
    const compared = await compareLook(pool(), machine, look);
    expect(compared.differences.map(({ register }) => register.id)).toEqual([one!.id]);
    expect(compared.moved.map(({ row }) => row)).toEqual([two!.row]);
    expect(
      refused(
        await bringRead(as(cell.operator), { machineId: machine.id, read: { [one!.id]: '1,5' }, since }),
      ),
    ).toMatch(/Nothing was taken\.\nlength geometry of row \d+: "1,5" has a comma/);
    done(
      await foundAtControl(as(cell.lead), {
        registerId: two!.id,
        before: nanometres(two!.value + 7 * step()),
        after: two!.value,
        why: 'Back.',
      }),
    );
  });
  it('every look is kept, with its table as it was', async () => {
    const looks = await looksAt(pool(), machine.id);
    expect(looks.length).toBeGreaterThanOrEqual(5);
    const oldest = (await lookAtControl(pool(), machine.id, looks.at(-1)!.id))!;
    expect(oldest.held.length).toBeGreaterThan(100);
    expect(refused(await bring('1 5.0', machine, { kind: 'lengthGeometry' }))).toContain(
      'perhaps it was cut off',
    );
    expect(refused(await bring('999 5.0', machine, { kind: 'lengthGeometry', part: true }))).toContain(
      'has no length geometry of row 999',
    );
    expect(await looksAt(pool(), machine.id)).toHaveLength(looks.length);
  });
});

describe('a table that is put back', () => {
  const given = (text: string, lost = false) => ({ machineId: machine.id, text, lost });
  it('is shown before and after, refused where it is another machine’s, has no head or was changed', async () => {
    const { text } = await recordText(pool(), machine, new Date('2026-03-01T06:00:00Z'));
    const looked = done(await lookAtKept(as(cell.setter), given(text)));
    expect(looked.at).toBe('2026-03-01T06:00:00.000Z');
    const theirs = (await recordText(pool(), other, new Date())).text;
    expect(refused(await lookAtKept(as(cell.setter), given(theirs)))).toMatch(
      `This is the table of ${other.name.toUpperCase()}, not of ${machine.name}.`,
    );
    expect(refused(await lookAtKept(as(cell.setter), given(text.replace(/^\(.*\)\n/gm, ''))))).toMatch(
      /has no head/,
    );
    const [first] = await tools();
    // the record says nothing of what the control holds
    const all = done(await lookAtKept(as(cell.setter), given(text, true)));
    expect([all.rows.length, all.same, all.seen]).toEqual([looked.rows.length + looked.same, 0, null]);
    const setting = all.lines!.filter((each) => text.split('\n').includes(each));
    expect(setting).toHaveLength(all.rows.length + absoluteWords(machine.dialect, machine.unit).length);
    // no guard: it would hold the record against an empty control, and stop
    expect(setting).toEqual(all.lines);
    const line = machine.dialect.setRegister.lengthGeometry!.replaceAll('{row}', String(first!.row));
    const changed = text.replace(new RegExp(`^${line.slice(0, 6)}.*$`, 'm'), (found) => `${found}1`);
    expect(refused(await lookAtKept(as(cell.setter), given(changed)))).toMatch(/was changed, or cut off/);
  });

  it('becomes the record once the control was read and holds all of it, and not over what somebody recorded meanwhile', async () => {
    const { text } = await recordText(pool(), machine, new Date());
    const [one, two] = await tools();
    const found = async (id: number, before: number, by: number) =>
      done(
        await foundAtControl(as(cell.lead), {
          registerId: id,
          before: nanometres(before),
          after: nanometres(before + by),
          why: 'Another set-up.',
        }),
      );
    await found(one!.id, one!.value, 40 * step());
    const looked = done(await lookAtKept(as(cell.setter), given(text)));
    expect(looked.rows.map(({ id, record, to }) => [id, record, to])).toContainEqual([
      one!.id,
      one!.value + 40 * step(),
      one!.value,
    ]);
    const keep = (shown: string, entry = looked.entry) =>
      keepPutBack(as(cell.setter), { ...given(text), shown, entry });
    // not all of it was run
    const half = await punched(machine);
    expect(refused(await keep(half))).toMatch(
      new RegExp(`length geometry of row ${one!.row} is to hold .* and holds `),
    );
    // somebody records another register of it meanwhile
    await found(two!.id, two!.value, 9 * step());
    expect(refused(await keep(text))).toMatch(
      `somebody recorded length geometry of row ${two!.row} since you looked`,
    );
    const anew = done(await lookAtKept(as(cell.setter), given(text)));
    expect(done(await keep(text, anew.entry))).toEqual({ moved: 2 });
    for (const each of [one!, two!])
      expect((await tools()).find(({ id }) => id === each.id)!.value).toBe(each.value);
    // what was read back is a look like any other
    const look = (await lookAtControl(pool(), machine.id, null))!;
    expect(look.fileName).toMatch(/^put back, as of \d{4}-/);
    // nobody asked its agent what it did then
    expect([look.state, look.lives]).toEqual([null, null]);
    expect((await compareLook(pool(), machine, look)).differences).toEqual([]);
  });
});
