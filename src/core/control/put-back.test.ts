import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { lengthOf, nanometres, type Length } from '../units/length.ts';
import { notPutBack, putBack, shownBefore } from './put-back.ts';

const mm = (value: number) => lengthOf(value, 'mm');
const registers = [
  { id: 1, kind: 'lengthGeometry', row: 1, value: mm(100) },
  { id: 2, kind: 'lengthWear', row: 1, value: mm(0.01) },
  { id: 3, kind: 'lengthGeometry', row: 2, value: mm(120) },
];

describe('putting a table back', () => {
  it('shows each register that changes before and after, at the control and on record', () => {
    const kept = [
      { kind: 'lengthGeometry', row: 2, value: mm(119) },
      { kind: 'lengthGeometry', row: 1, value: mm(100) },
    ];
    expect(putBack(kept, registers, new Map([[1, mm(100)]]))).toEqual({
      rows: [{ id: 3, kind: 'lengthGeometry', row: 2, control: null, record: mm(120), to: mm(119) }],
      same: 1,
      strange: [],
      left: [{ kind: 'lengthWear', row: 1 }],
    });
    // the record has it already, and the control has lost it
    expect(putBack(kept, registers, new Map([[1, mm(0)]])).rows[0]).toMatchObject({
      id: 1,
      control: 0,
      to: mm(100),
    });
  });
  it('a control that lost its table is given all of it, though the record has it already', () => {
    const kept = registers.map(({ kind, row, value }) => ({ kind, row, value }));
    const { rows, same } = putBack(kept, registers, new Map());
    expect([rows.map(({ id, to }) => [id, to]), same]).toEqual([
      [
        [1, mm(100)],
        [3, mm(120)],
        [2, mm(0.01)],
      ],
      0,
    ]);
    // a guard would hold the record against an empty control, and stop
    expect(rows.map((each) => shownBefore(each, true))).toEqual([null, null, null]);
  });
  it('is guarded by what the control was seen to hold, else by a record that is to change', () => {
    const row = { id: 1, kind: 'lengthGeometry', row: 1, to: mm(100) };
    expect(shownBefore({ ...row, control: mm(0), record: mm(100) }, false)).toBe(0);
    expect(shownBefore({ ...row, control: null, record: mm(99) }, false)).toBe(mm(99));
    expect(shownBefore({ ...row, control: null, record: mm(100) }, false)).toBeNull();
    expect(shownBefore({ ...row, control: mm(0), record: mm(99) }, true)).toBeNull();
  });
  it('names what this machine has not', () => {
    expect(
      putBack([{ kind: 'lengthWear', row: 99, value: mm(1) }], registers, new Map()).strange,
    ).toHaveLength(1);
  });
  it('is done only when the control holds every register of it', () => {
    const kept = [
      { kind: 'lengthGeometry', row: 1, value: mm(100) },
      { kind: 'lengthWear', row: 1, value: mm(0.02) },
    ];
    expect(notPutBack(kept, kept)).toEqual([]);
    expect(notPutBack(kept, [kept[0]!, { ...kept[1]!, value: mm(0.2) }])).toEqual([
      { kind: 'lengthWear', row: 1, to: mm(0.02), holds: mm(0.2) },
    ]);
    expect(notPutBack(kept, [kept[1]!])[0]).toMatchObject({ row: 1, holds: null });
  });
  it('run on a control that holds anything at all leaves it as the table has it, and nothing else touched', () => {
    const { next } = chance(5);
    const value = () => nanometres(Math.round(next() * 4) * 1000);
    for (let tried = 0; tried < 500; tried += 1) {
      const all = Array.from({ length: 8 }, (_, i) => ({
        id: i,
        kind: i % 2 ? 'lengthWear' : 'lengthGeometry',
        row: i >> 1,
        value: value(),
      }));
      const control = new Map<number, Length>(all.map(({ id }) => [id, value()]));
      const seen = new Map([...control].filter(() => next() < 0.7));
      const kept = all.filter(() => next() < 0.6).map(({ kind, row }) => ({ kind, row, value: value() }));
      const before = new Map(control);
      const { rows, same } = putBack(kept, all, seen);
      for (const { id, to } of rows) control.set(id, to);
      const read = all.map(({ id, kind, row }) => ({ kind, row, value: control.get(id)! }));
      expect(notPutBack(kept, read)).toEqual([]);
      expect(rows.length + same).toBe(kept.length);
      for (const { id, kind, row } of all)
        if (!kept.some((each) => each.kind === kind && each.row === row))
          expect(control.get(id)).toBe(before.get(id));
    }
  });
});
