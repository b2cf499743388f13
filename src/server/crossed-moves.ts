import { byPlace } from '../core/correction/by-place.ts';
import {
  crossedMoves,
  type CrossedRegister,
  type CrossedSize,
  type RegisterStep,
} from '../core/correction/crossed-moves.ts';
import { movesOf } from '../core/inspection/feature.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { forEach } from './gather.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf } from './evidence.ts';
import { groupsOf } from './groups.ts';
import { machineById } from './machines.ts';
import { cutNow } from './members.ts';
import { featuresOn } from './programs.ts';

interface Suspected {
  registerId: number;
  machineId: number;
  row: number;
  kind: string;
}

/**
 * Wear registers that were moved by somebody else shortly after a move, the same way by about as much, or back by exactly as
 * much; and those moved to and fro. What is to be made of it the parts tell.
 */
const suspected = (db: Db, since: Date) =>
  rows<Suspected>(
    db,
    `SELECT DISTINCT g.id AS "registerId", g.machine_id AS "machineId", g.row, g.kind FROM (
       SELECT l.register_id, l.person_id, l.stage, l.at, l.change_value AS change,
              lag(l.change_value) OVER w AS change_before, lag(l.person_id) OVER w AS person_before,
              lag(l.at) OVER w AS at_before, lag(l.stage) OVER w AS stage_before
       FROM ledger l WHERE l.kind = 'register' AND l.at >= $1
       WINDOW w AS (PARTITION BY l.register_id ORDER BY l.id)) moved
     JOIN register g ON g.id = moved.register_id
     WHERE g.kind LIKE '%Wear' AND stage IN ('corrected', 'found') AND stage_before IN ('corrected', 'found')
       AND (person_id <> person_before OR stage = 'found' OR stage_before = 'found')
       AND at - at_before <= interval '26 hours' AND change <> 0 AND change_before <> 0
       AND abs(change::float8 / change_before) BETWEEN 0.5 AND 2
     ORDER BY g.id`,
    [since],
  );

/** Moves of registers since then that cross each other, with what the sizes did. */
export async function crossedSince(db: Db, since: Date): Promise<CrossedRegister[]> {
  const found = await forEach(db, await suspected(db, since), (register) => crossedOn(db, register, since));
  return found.filter(({ crossed }) => crossed.length > 0);
}

async function crossedOn(db: Db, register: Suspected, since: Date): Promise<CrossedRegister> {
  const machine = (await machineById(db, register.machineId))!;
  const owner = (await groupsOf(db, machine.id))
    .flatMap(({ members }) => members)
    .find(({ lengthRows, radiusRows }) => [...lengthRows, ...radiusRows].includes(register.row));
  // a spare's row moves the sizes that it cuts
  const features = await cutNow(db, machine.id, await featuresOn(db, machine.id), owner?.tool);
  const own = features.filter((feature) =>
    movesOf(feature, machine).some((m) => m.row === register.row && m.role === register.kind),
  );
  const entries = await stepsOf(db, register.registerId, since);
  const known = own[0] ? byPlace(await evidenceOf(db, machine, own[0])) : null;
  const index = known?.registers.findIndex(({ id }) => id === register.registerId) ?? -1;
  const places = new Map(
    known?.moved.flatMap((each) => (each.register === index ? [[each.entry, each] as const] : [])) ?? [],
  );
  const steps = [
    ...entries.map((each): RegisterStep => ({ ...each, at: places.get(each.entry)?.at ?? -0.5 })),
    // an edge that was changed moves no register, and ends what came before
    ...[...places.values()].flatMap((each): RegisterStep[] =>
      each.anew && !entries.some(({ entry }) => entry === each.entry)
        ? [{ ...each, person: null, time: 0 }]
        : [],
    ),
  ].sort((a, b) => a.entry - b.entry);
  return {
    machine: machine.name,
    unit: machine.unit,
    increment: machine.increment,
    ...register,
    crossed: crossedMoves(steps, known ? sizesOf(known, index) : [], machine.increment),
  };
}

/** All moves of a register since then, with who made them. */
async function stepsOf(db: Db, registerId: number, since: Date): Promise<Omit<RegisterStep, 'at'>[]> {
  const found = await rows<{
    entry: number;
    stage: string;
    person: string;
    at: Date;
    from: Length;
    to: Length;
  }>(
    db,
    `SELECT l.id AS entry, l.stage, p.name AS person, l.at, coalesce(l.before_value, 0) AS "from", coalesce(l.after_value, 0) AS "to"
     FROM ledger l JOIN person p ON p.id = l.person_id
     WHERE l.register_id = $1 AND l.kind = 'register' AND l.at >= $2 ORDER BY l.id`,
    [registerId, since],
  );
  return found.map(({ entry, stage, person, at, from, to }) => ({
    entry,
    person: stage === 'found' ? null : person,
    time: at.getTime(),
    from,
    to,
    anew: stage !== 'corrected' && stage !== 'found',
  }));
}

/** The sizes that a register moves, as the parts showed them. */
function sizesOf(known: Awaited<ReturnType<typeof evidenceOf>>, index: number): CrossedSize[] {
  const states = stateOf(known).sizes;
  return known.sizes.flatMap((size, i): CrossedSize[] => {
    const own = size.moves.find(({ register }) => register === index);
    if (!own) return [];
    const state = states[i]!;
    return [
      {
        name: size.name,
        by: own.by,
        noise: state.noise,
        drift: state.drift,
        driftError: state.driftError,
        setUps: known.setUps.filter((each) => each.size === i).map(({ at }) => at),
        readings: known.readings.flatMap(({ size: of, at, measured, held }) =>
          of === i && held !== null
            ? [
                {
                  at,
                  // what the other rows were moved by since is taken out
                  deviation:
                    measured -
                    size.target +
                    size.moves.reduce(
                      (sum, m) =>
                        m.register === index
                          ? sum
                          : sum + m.by * (known.registers[m.register]!.value - held[m.register]!),
                      0,
                    ),
                  held: held[index]!,
                },
              ]
            : [],
        ),
      },
    ];
  });
}
