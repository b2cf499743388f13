import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { neighbours, shiftAt } from '../../src/core/shift/calendar.ts';
import { nanometres } from '../../src/core/units/length.ts';
import { cellOf } from '../../src/server/cell.ts';
import { pool } from '../../src/server/db.ts';
import { writeNote } from '../../src/server/leaf-notes.ts';
import { signLeaf } from '../../src/server/leaf.ts';
import { foundAtControl, registersOf } from '../../src/server/registers.ts';
import { must } from './files.ts';

/** The leaf of the shift in which something happened. */
export const shiftKey = async (at: Date) => {
  const cell = await cellOf(pool());
  return shiftAt(at, cell.patterns, cell.timeZone)!.key;
};

/** The shift before the present one was handed over by two signatures. */
export async function pageTurns(
  now: Date,
  leaver: Person,
  comer: Person,
  lead: Person,
  at: (hours: number) => Promise<unknown>,
) {
  const cell = await cellOf(pool());
  const present = shiftAt(now, cell.patterns, cell.timeZone)!;
  const { before } = neighbours(present, cell.patterns, cell.timeZone);
  if (!before) return;
  const hoursAgo = (now.getTime() - present.start.getTime()) / 3_600_000 + 0.05;
  if (hoursAgo > 8.9) return;
  await at(Math.max(hoursAgo, 6.1));
  for (const [side, person] of [
    ['leaving', leaver],
    ['coming', comer],
  ] as const)
    await must(signLeaf({ key: randomUUID(), personId: lead.id }, person, before.key, side, now));
}

/** What the shift does not understand, what it wants known, and what was promised to it. */
export async function promises(
  operator: Person,
  setter: Person,
  machine: ReadonlyMap<string, number>,
  leaf: string,
): Promise<void> {
  for (const [who, kind, name, text] of [
    [
      operator,
      'question',
      'Curlew',
      'Row 22 held −0.0004 X wear when the second part was set. Nobody remembers keying it.',
    ],
    [
      setter,
      'note',
      'Avocet',
      'Pocket 17 is out of service: the gripper finger is bent, spares are ordered.',
    ],
    [setter, 'promise', 'Bittern', 'The soft jaws are bored to the new diameter before the ring runs again.'],
  ] as const)
    await must(
      writeNote(
        { key: randomUUID(), personId: who.id },
        { leaf, kind, machineId: machine.get(name)!, text },
      ),
    );
}

/**
 * The late shift corrected a row; the night, who saw only parts from before, keyed the change once more and said nothing. Whoever
 * comes reads it off.
 */
export async function foundTwice(finder: Person, machineId: number, tool: number): Promise<void> {
  const wear = (await registersOf(pool(), machineId)).find(
    ({ row, kind }) => row === tool && kind === 'lengthWear',
  )!;
  await must(
    foundAtControl(
      { key: randomUUID(), personId: finder.id },
      {
        registerId: wear.id,
        before: wear.value,
        after: nanometres(2 * wear.value),
        why: 'read off at the start of the shift: the change is in it twice',
      },
    ),
  );
}
