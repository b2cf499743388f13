import { easiestFirst, elsewhere, type Elsewhere, type ToolThere } from '../core/program/elsewhere.ts';
import { row, type Db } from './db.ts';
import { askedTools, type AskedTool } from './definitions.ts';
import { forEach } from './gather.ts';
import { machineById, machines, type Machine } from './machines.ts';
import { readWhole } from './program-reading.ts';
import { programText, type Program } from './programs.ts';

/** What of the tools on record serves a T on a machine. */
function served({ tool, comment, definition, fulfilments }: AskedTool, machine: Machine): ToolThere {
  const words = comment || 'not described';
  if (!definition) return { tool, words, state: 'unknown', serves: null };
  const fit = fulfilments.filter(({ misses }) => misses.length === 0).map(({ candidate }) => candidate);
  const here = fit.filter((each) => each.machine === machine.name);
  const best =
    here.find((each) => each.tool === tool) ?? here[0] ?? fit.find((each) => !each.machine) ?? fit[0];
  if (!best) return { tool, words, state: 'none', serves: null };
  if (best.machine === machine.name)
    return {
      tool,
      words,
      state: best.tool === tool ? 'there' : 'otherT',
      serves: `${best.number}, T${best.tool}`,
    };
  return best.machine
    ? { tool, words, state: 'elsewhere', serves: `${best.number} in ${best.machine}` }
    : { tool, words, state: 'free', serves: best.number };
}

/** Every other machine with what a program would find there, the easiest first. */
export async function elsewhereOf(
  db: Db,
  program: Program,
): Promise<{ id: number; name: string; found: Elsewhere }[]> {
  const home = (await machineById(db, program.machineId))!;
  const text = await programText(db, program.id);
  const others = (await machines(db)).filter(({ id }) => id !== home.id);
  return easiestFirst(
    await forEach(db, others, async (machine) => ({
      id: machine.id,
      name: machine.name,
      found: await elsewhereOn(db, program, home, machine, text),
    })),
  );
}

/** What a program would find on one machine. */
export async function elsewhereOn(
  db: Db,
  program: Program,
  home: Machine,
  machine: Machine,
  text: string,
): Promise<Elsewhere> {
  const { lastRow } = (await row<{ lastRow: number }>(
    db,
    'SELECT coalesce(max(row), 0)::integer AS "lastRow" FROM register WHERE machine_id = $1',
    [machine.id],
  ))!;
  const same = machine.kind === home.kind;
  const read = same ? await readWhole(db, machine, text) : ({ ok: false, reason: '' } as const);
  const tools = same ? (await askedTools(db, program, machine)).map((each) => served(each, machine)) : [];
  return elsewhere(
    home.kind,
    program.remarks,
    { ...machine, lastRow, travel: { x: machine.travelX, y: machine.travelY } },
    read,
    tools,
  );
}
