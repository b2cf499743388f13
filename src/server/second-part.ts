import {
  copyFamily,
  familyFault,
  shiftOf,
  type Copied,
  type SecondPart,
} from '../core/length/second-part.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Db } from './db.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { toolsStanding } from './places.ts';
import type { RowRead } from '../core/correction/read-back.ts';
import { readRows, type RowShown } from './read-rows.ts';
import { registersOf } from './registers.ts';

export interface Family extends SecondPart {
  rows: readonly number[];
  block: number;
}

/** What the block of the second part holds and is to hold; or why these rows cannot be copied. */
export async function secondPart(
  db: Db,
  machine: Machine,
  family: Family,
): Promise<{ ok: true; copied: Copied[] } | { ok: false; reason: string }> {
  const [registers, standing] = await Promise.all([
    registersOf(db, machine.id),
    toolsStanding(db, machine.id),
  ]);
  const fault = familyFault(
    family.rows,
    family.block,
    [...new Set(registers.map(({ row }) => row))],
    standing.map(({ tool }) => tool),
  );
  if (fault) return { ok: false, reason: fault };
  return { ok: true, copied: copyFamily(registers, family.rows, family.block, shiftOf(family)) };
}

/** Takes what the rows of the block show after keying: each that shows what it should is on record from then on. */
export function readCopies(asking: Asking, machine: Machine, family: Family, shown: readonly RowShown[]) {
  return once(
    asking,
    'readCopies',
    { machineId: machine.id, family, shown },
    async (db): Promise<RowRead[]> => {
      await lockMachine(db, machine.id);
      const found = await secondPart(db, machine, family);
      if (!found.ok) throw new Refused(found.reason);
      const from = new Map(found.copied.map((each) => [each.registerId, each.from]));
      const shift = formatWithUnit(shiftOf(family), machine.unit, { sign: 'always' });
      return readRows(
        db,
        asking.personId,
        machine,
        found.copied.map(({ registerId, row, kind, before, after }) => ({
          registerId,
          row,
          registerKind: kind,
          from: before,
          to: after,
        })),
        shown,
        {
          stage: 'found',
          copiedFrom: (registerId) => from.get(registerId)!,
          said: 'was keyed for a second part and read back.',
          why: ({ registerId, registerKind }) =>
            `Copied from row ${from.get(registerId)}${registerKind === 'zGeometry' ? `, ${shift} towards the chuck` : ''}.`,
        },
      );
    },
  );
}
