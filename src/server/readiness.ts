import type { LengthMethod } from '../core/length/transfer.ts';
import { checkReadiness } from '../core/readiness/check.ts';
import type { Finding } from '../core/readiness/question.ts';
import { rows, type Db } from './db.ts';
import { misfitsOf } from './definitions.ts';
import { askedGroup, groupsOf } from './groups.ts';
import { geometryKinds, machineById } from './machines.ts';
import { lifeOf, placeName, placesOf } from './places.ts';
import { withWaivers } from '../core/readiness/waivers.ts';
import { turnedAs, turnedOf } from './oriented.ts';
import { proofOf, waiversOf } from './proofs.ts';
import { settledOf } from './program-reading.ts';
import { callsOf, type Program } from './programs.ts';
import { toolFacts, wearHeld } from './tool-facts.ts';

/** How the length of each tool's own row came to be, by its last entry that says so. */
async function lengthMethods(db: Db, machineId: number): Promise<Map<number, LengthMethod>> {
  const found = await rows<{ row: number; method: LengthMethod }>(
    db,
    `SELECT DISTINCT ON (r.row) r.row, l.detail ->> 'method' AS method FROM register r
     JOIN ledger l ON l.register_id = r.id AND l.kind = 'register' AND l.detail ? 'method'
     WHERE r.machine_id = $1 AND r.kind = 'lengthGeometry' AND r.value <> 0 ORDER BY r.row, l.id DESC`,
    [machineId],
  );
  return new Map(found.map(({ row: at, method }) => [at, method]));
}

/** What stands between a program and so many parts of it, on the machine as it is now. */
export async function readinessOf(db: Db, program: Program, quantity: number): Promise<Finding[]> {
  const [machine, calls, places] = [
    await machineById(db, program.machineId),
    await callsOf(db, program.id),
    await placesOf(db, program.machineId),
  ];
  if (!machine) return [];
  const zeroRows = await rows<{ row: number; zero: boolean; cutterZero: boolean }>(
    db,
    // a difference from the master tool may be zero, once somebody measured it
    `SELECT row, bool_or(value = 0 AND NOT ($3 AND EXISTS (SELECT 1 FROM ledger l WHERE l.register_id = register.id AND l.kind = 'register')))
         FILTER (WHERE kind = ANY($2)) AS zero,
       coalesce(bool_and(value = 0) FILTER (WHERE kind = 'cutterGeometry'), true) AS "cutterZero"
     FROM register WHERE machine_id = $1 GROUP BY row`,
    [machine.id, geometryKinds(machine.kind), machine.lengthSchool === 'masterTool'],
  );
  const methods = machine.kind === 'mill' ? await lengthMethods(db, machine.id) : new Map();
  const misfits = await misfitsOf(db, program, machine);
  const settled = await settledOf(db, program.id);
  const groups = (await groupsOf(db, machine.id)).map(askedGroup);
  const facts = await toolFacts(db, machine, program.material);
  const wear = await wearHeld(db, machine.id);
  const turned = await turnedOf(db, machine.id);
  const proof = calls.length > 0 ? await proofOf(db, program, machine) : undefined;
  const findings = checkReadiness({
    machine: {
      ...machine,
      travel: { x: machine.travelX, y: machine.travelY },
      boringShift: machine.dialect.boringShift ?? 'X+',
    },
    program: {
      name: program.number,
      partsPerCycle: program.partsPerCycle,
      cutterBy: program.cutterBy,
      calls,
      remarks: program.remarks,
      settled,
      ...(proof && { proof }),
    },
    quantity,
    rows: zeroRows.map((state) => ({ ...state, wear: wear.get(state.row) ?? [] })),
    groups,
    loaded: places.flatMap((place) =>
      place.assembly && place.tool !== null
        ? [
            {
              ...facts.get(place.tool),
              ...turnedAs(turned.get(place.tool)),
              tool: place.tool,
              name: place.assembly.name,
              assembly: place.assembly.number,
              place: placeName(place, machine.changerKind),
              kind: place.assembly.kind,
              flag: place.assembly.flag,
              measuredSinceLoading: place.assembly.measured,
              speedLimit: place.assembly.speedLimit,
              method: methods.get(place.tool) ?? null,
              misses: misfits.get(place.tool) ?? [],
              life: lifeOf(place.assembly),
            },
          ]
        : [],
    ),
  });
  return withWaivers(findings, await waiversOf(db, program.id));
}
