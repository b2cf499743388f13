import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { groupsOf, initialiseGroup, writeGroup } from '../../src/server/groups.ts';
import { pool } from '../../src/server/db.ts';
import type { Machine } from '../../src/server/machines.ts';
import { setRunsOn } from '../../src/server/machine-hours.ts';
import { putPallet } from '../../src/server/pallets.ts';
import { must } from './files.ts';

/** Sisters: two drills that the hub's program calls as one on the mill; a finisher and its spare on the lathe, the spare new to the control. */
export async function groups(setter: Person, mill: Machine, lathe: Machine): Promise<void> {
  const as = () => ({ key: randomUUID(), personId: setter.id });
  await must(
    writeGroup(as(), mill, {
      id: null,
      seen: '',
      group: {
        number: 4,
        purpose: 'Drill 14',
        next: 'lowest',
        renewed: 'atOnce',
        spares: true,
        initialise: true,
        members: [
          { tool: 4, role: 'original', lengthRows: [4], radiusRows: [] },
          { tool: 24, role: 'spare', lengthRows: [24], radiusRows: [] },
        ],
      },
    }),
  );
  const [drills] = await groupsOf(pool(), mill.id);
  await must(initialiseGroup(as(), mill, { id: drills!.id, tools: [4, 24] }));
  await must(
    writeGroup(as(), lathe, {
      id: null,
      seen: '',
      group: {
        number: 52,
        purpose: 'OD finisher, both parts of the bar',
        next: 'mostUsed',
        renewed: 'spareRuns',
        spares: true,
        initialise: true,
        members: [
          { tool: 2, role: 'original', lengthRows: [2, 22], radiusRows: [] },
          { tool: 11, role: 'spare', lengthRows: [11, 31], radiusRows: [] },
        ],
      },
    }),
  );
}

/** A queue for the night that does not last as it stands, of a machine that runs on when the people have gone. */
export async function nightQueue(setter: Person, mill: Machine, programId: number): Promise<void> {
  for (const [number, parts] of [
    [3, 2],
    [1, 4],
    [5, 2],
    [2, 6],
    [6, 2],
    [4, 8],
  ] as const)
    await must(putPallet({ key: randomUUID(), personId: setter.id }, mill, { number, programId, parts }));
  await must(setRunsOn({ key: randomUUID(), personId: setter.id }, mill, { hours: 8 }));
}
