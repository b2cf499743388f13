import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { nanometres, type Length } from '../../src/core/units/length.ts';
import { pool } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { checksOf, takeCheck } from '../../src/server/tool-checks.ts';
import { must } from './files.ts';

/** Somebody checks a tool on the setter, which has changed by so much. */
export async function checkedBy(who: Person, machineId: number, tool: number, change: Length, lastPart: number | null) {
  const machine = (await machineById(pool(), machineId))!;
  const there = (await checksOf(pool(), machine)).find((each) => each.tool === tool)!;
  await must(
    takeCheck({ key: randomUUID(), personId: who.id }, machine, {
      tool,
      assemblyId: there.assemblyId,
      method: 'setter',
      measured: nanometres(there.reference! + change),
      lastPart,
      source: 'typed',
    }),
  );
}
