/** What the programs that are still to run on a machine take its registers for. */
import { assumed, type Assumed } from '../core/control/assumed.ts';
import { definitionsOf } from './definitions.ts';
import type { Db } from './db.ts';
import { jobsOf } from './jobs.ts';
import type { Machine } from './machines.ts';
import { callsOf, linesOf, programById } from './programs.ts';

export async function assumedAt(db: Db, machine: Machine): Promise<Assumed[]> {
  const ids = new Set((await jobsOf(db, machine.id)).map(({ programId }) => programId));
  const found: Assumed[] = [];
  // one after the other: within a transaction there is one line to the database
  for (const id of ids) {
    const program = await programById(db, id);
    if (!program) continue;
    const asked = await definitionsOf(db, program, machine);
    const text = new Map<number, string>();
    for (const { code, line } of program.remarks)
      if (code === 'writes') text.set(line, (await linesOf(db, id, line, 1))[0] ?? '');
    found.push(
      ...assumed(
        {
          ...program,
          calls: await callsOf(db, id),
          asked: new Map(asked.flatMap(({ tool, definition }) => (definition ? [[tool, definition]] : []))),
          text,
        },
        machine,
      ),
    );
  }
  return found;
}
