import { readPocketTable, tangles, tangleWords } from '../core/control/pocket-map.ts';
import { entry } from '../core/ledger/entry.ts';
import { controlTools } from './control-link.ts';
import { pool, row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { POCKET_WORDS } from './load-steps.ts';
import { machineById, type Machine, heldMachine, lockMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';
import { placesOf, toolsStanding } from './places.ts';

/** Takes the pocket table of a control: all of it, or with what is wrong with it nothing. */
export const bringPockets = (
  asking: Asking,
  brought: { machineId: number; fileName: string; text: string },
) =>
  once(asking, 'bringPockets', brought, async (db): Promise<{ id: number }> => {
    const machine = await heldMachine(db, brought.machineId);
    const places = new Set((await placesOf(db, machine.id)).map(({ number }) => number));
    return keepPockets(db, asking.personId, machine, brought.fileName, readPocketTable(brought.text, places));
  });

/** Takes which T the machine's agent has in which place; a place that it does not name is empty. */
export async function bringPocketsFromAgent(
  asking: Asking,
  machineId: number,
): Promise<Outcome<{ id: number }>> {
  const machine = await machineById(pool(), machineId);
  const tools = machine && (await controlTools(machine));
  if (!machine || !tools) return { ok: false, reason: 'This machine has no agent that could be asked.' };
  if (!tools.ok) return { ok: false, reason: `Nothing was taken. ${tools.reason}` };
  const map = new Map(
    tools.tools.flatMap(({ tool, place }) => (place === null ? [] : [[place, tool] as const])),
  );
  const seen = (await placesOf(pool(), machine.id)).map(({ number }) => number);
  const problems =
    map.size === 0
      ? ['The agent does not say where its tools stand.']
      : [...map.keys()]
          .filter((place) => !seen.includes(place))
          .map((place) => `${machine.name} has no place ${place}.`);
  return once(asking, 'bringPocketsFromAgent', { machineId }, (db) =>
    keepPockets(db, asking.personId, machine, 'its agent', { map, seen, problems }),
  );
}

async function keepPockets(
  db: Db,
  personId: number,
  machine: Machine,
  fileName: string,
  { map, seen, problems }: ReturnType<typeof readPocketTable>,
): Promise<{ id: number }> {
  await lockMachine(db, machine.id);
  if (problems.length > 0) throw new Refused(`Nothing was taken.\n${problems.slice(0, 8).join('\n')}`);
  const look = (await row<{ id: number }>(
    db,
    `INSERT INTO pocket_look (machine_id, person_id, file_name, places, entry_id)
       SELECT $1, $2, $3, $4, coalesce(max(id), 0) FROM ledger RETURNING id`,
    [
      machine.id,
      personId,
      fileName,
      JSON.stringify(seen.map((place) => ({ place, tool: map.get(place) ?? 0 }))),
    ],
  ))!;
  await append(
    db,
    entry.machine('controlLooked', {
      personId: personId,
      machineId: machine.id,
      said: `${seen.length} places of ${machine.name} were read off its control.`,
      detail: { pocketLook: look.id },
    }),
  );
  return look;
}

export interface PocketLook {
  at: Date;
  person: string;
  /** Something was recorded of its magazine since: the look says nothing of it any more. */
  stale: boolean;
  /** Places that both accounts have alike. */
  agree: number;
  /** What differs, each with the one place to look into. */
  tangles: string[];
}

interface LookCells extends Pick<PocketLook, 'at' | 'person' | 'stale'> {
  of: number;
  places: { place: number; tool: number }[];
}

const newestLooks = gathered((db, ids: readonly number[]) =>
  rows<LookCells>(
    db,
    `SELECT k.machine_id AS "of", k.at, p.name AS person, k.places,
            EXISTS (SELECT 1 FROM ledger l WHERE l.machine_id = k.machine_id AND l.kind = 'placement' AND l.id > k.entry_id) AS stale
     FROM unnest($1::integer[]) AS m (id)
     CROSS JOIN LATERAL (SELECT * FROM pocket_look WHERE machine_id = m.id ORDER BY id DESC LIMIT 1) k JOIN person p ON p.id = k.person_id`,
    [ids],
  ),
);

/** The newest look at the pockets of a machine's control, beside the record. */
export async function pocketLookOf(db: Db, machine: Machine): Promise<PocketLook | null> {
  const [look] = await newestLooks(db, machine.id);
  if (!look) return null;
  const { seen, found } = beside(machine, look.places, await toolsStanding(db, machine.id));
  return {
    at: look.at,
    person: look.person,
    stale: look.stale,
    agree: seen - found.reduce((sum, { places }) => sum + places.length, 0),
    tangles: found.map(({ words }) => words),
  };
}

/** Where record and control did not agree when the pockets were last read off, as long as nothing of the magazine was recorded since. */
export async function openTangles(
  db: Db,
  machine: Machine,
  standing: readonly { tool: number; number: number }[],
): Promise<{ tools: number[]; words: string }[]> {
  const [look] = await newestLooks(db, machine.id);
  return !look || look.stale ? [] : beside(machine, look.places, standing).found;
}

function beside(
  machine: Machine,
  places: LookCells['places'],
  standing: readonly { tool: number; number: number }[],
) {
  const seen = new Set(places.map(({ place }) => place));
  const record = new Map(
    standing.flatMap(({ number, tool }) => (seen.has(number) ? [[number, tool] as const] : [])),
  );
  const control = new Map(places.flatMap(({ place, tool }) => (tool === 0 ? [] : [[place, tool] as const])));
  const word = POCKET_WORDS[machine.changerKind] ?? 'pocket';
  return {
    seen: seen.size,
    found: tangles(record, control).map((each) => ({
      ...each,
      words: tangleWords(each, record, control, word),
    })),
  };
}
