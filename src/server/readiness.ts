import type { LengthMethod } from '../core/length/transfer.ts';
import { checkReadiness } from '../core/readiness/check.ts';
import type { ToolCall } from '../core/program/reading.ts';
import type { AskedGroup, Finding, JobBefore } from '../core/readiness/question.ts';
import type { Length } from '../core/units/length.ts';
import { differingRegisters } from './control-differing.ts';
import { putBackRows } from './put-back-rows.ts';
import { rows, type Db } from './db.ts';
import { forEach, gathered, together } from './gather.ts';
import { misfitsOf } from './definitions.ts';
import { askedGroup, groupsOf } from './groups.ts';
import { IS_LENGTH } from './lengths.ts';
import { keptAwayOn } from './kept-away.ts';
import { geometryKinds, machineById } from './machines.ts';
import type { Job } from './jobs.ts';
import { notCarried } from './not-carried.ts';
import { lifeOf, placeName, toolsStanding } from './places.ts';
import { withWaivers } from '../core/readiness/waivers.ts';
import { turnedAs, turnedOf } from './oriented.ts';
import { proofOf, waiversOf } from './proofs.ts';
import { settledOf } from './program-reading.ts';
import { callsOf, type Program } from './programs.ts';
import { openTangles } from './pocket-looks.ts';
import { correctionsLeft } from './row-corrections.ts';
import { toolFacts, wearHeld } from './tool-facts.ts';
import { geometryLeft } from './tool-rows.ts';

/** How the length of each tool's own row came to be, by its last entry that says so. */
async function lengthMethods(db: Db, machineId: number): Promise<Map<number, LengthMethod>> {
  const found = await methodRows(db, machineId);
  return new Map(found.map(({ row: at, method }) => [at, method]));
}

const methodRows = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; row: number; method: LengthMethod }>(
    db,
    `SELECT r.machine_id AS "of", r.row, m.method FROM register r
     CROSS JOIN LATERAL (SELECT l.detail ->> 'method' AS method FROM ledger l
       WHERE l.register_id = r.id AND l.kind = 'register' AND l.detail ? 'method' ORDER BY l.id DESC LIMIT 1) m
     WHERE r.machine_id = ANY($1) AND r.kind = 'lengthGeometry' AND r.value <> 0`,
    [ids],
  ),
);
const zeroOf = gathered((db, ids: readonly number[]) =>
  rows<{
    of: number;
    row: number;
    zero: boolean;
    cutterZero: boolean;
    cutter: Length | null;
    nose: Length | null;
    tip: number | null;
  }>(
    db,
    `SELECT r.machine_id AS "of", r.row,
       bool_or(NOT ${IS_LENGTH})
         FILTER (WHERE r.kind = ANY(CASE m.kind WHEN 'mill' THEN $2::text[] ELSE $3::text[] END)) AS zero,
       coalesce(bool_and(r.value = 0) FILTER (WHERE r.kind = 'cutterGeometry'), true) AS "cutterZero", max(r.value) FILTER (WHERE r.kind = 'cutterGeometry') AS cutter,
       max(r.value) FILTER (WHERE r.kind = 'noseRadius') AS nose, max(r.value) FILTER (WHERE r.kind = 'tipDirection') AS tip
     FROM register r JOIN machine m ON m.id = r.machine_id
     WHERE r.machine_id = ANY($1) GROUP BY r.machine_id, r.row`,
    [ids, geometryKinds('mill'), geometryKinds('lathe')],
  ),
);

/** Every row that a program calls, or that a member of a group which it calls cuts with. */
const rowsCalled = (calls: readonly ToolCall[], groups: readonly AskedGroup[]) =>
  calls.flatMap(({ tool, lengthRows, radiusRows }) => [
    ...[...lengthRows, ...radiusRows].map(({ row }) => row),
    ...groups
      .filter(({ number }) => number === tool)
      .flatMap(({ members }) => members.flatMap((each) => [...each.lengthRows, ...each.radiusRows])),
  ]);

/** What is left of jobs, with what they call. */
async function withCalls(db: Db, jobs: readonly Job[]): Promise<JobBefore[]> {
  const calls = await forEach(db, jobs, (job) => callsOf(db, job.programId));
  return jobs.map(({ number, quantity, made, partsPerCycle }, i) => ({
    job: number,
    parts: Math.max(0, quantity - made),
    partsPerCycle,
    calls: calls[i]!,
  }));
}

/**
 * What stands between a program and so many parts of it, on the machine as it is now.
 *
 * @param before jobs that are made first: what they leave of a tool's life is what the parts are cut with
 */
export async function readinessOf(
  db: Db,
  program: Program,
  quantity: number,
  before: readonly Job[],
): Promise<Finding[]> {
  const { machine, calls, standing, inGroups } = await together(db, {
    machine: () => machineById(db, program.machineId),
    calls: () => callsOf(db, program.id),
    standing: () => toolsStanding(db, program.machineId),
    inGroups: () => groupsOf(db, program.machineId),
  });
  if (!machine) return [];
  const groups = inGroups.map(askedGroup);
  const { zeroRows, methods, facts, wear, left, kept, proof, waivers, turned, jobsBefore, ...found } =
    await together(db, {
      zeroRows: () => zeroOf(db, machine.id),
      methods: async () =>
        machine.kind === 'mill' ? lengthMethods(db, machine.id) : new Map<number, LengthMethod>(),
      misfits: () => misfitsOf(db, program, machine),
      settled: () => settledOf(db, program.id),
      facts: () => toolFacts(db, machine, program.material),
      wear: () => wearHeld(db, machine.id),
      left: () => geometryLeft(db, machine),
      kept: () => notCarried(db, machine),
      differs: () => differingRegisters(db, machine.id),
      corrections: () => correctionsLeft(db, machine.id, rowsCalled(calls, groups)),
      turned: () => turnedOf(db, machine.id),
      proof: async () => (calls.length > 0 ? proofOf(db, program, machine) : undefined),
      jobsBefore: () => withCalls(db, before),
      putBack: () => putBackRows(db, machine.id),
      keptAway: () => keptAwayOn(db, machine.id),
      tangles: () => openTangles(db, machine, standing),
      waivers: () => waiversOf(db, program.id),
    });
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
      settled: found.settled,
      ...(proof && { proof }),
    },
    quantity,
    before: jobsBefore,
    rows: zeroRows.map((state) => ({ ...state, wear: wear.get(state.row) ?? [] })),
    groups,
    differs: found.differs,
    corrections: found.corrections,
    tangles: found.tangles,
    putBack: found.putBack,
    keptAway: found.keptAway,
    loaded: standing.map(({ tool, kind, number, assembly }) => ({
      ...facts.get(tool),
      ...turnedAs(turned.get(tool)),
      tool,
      name: assembly.name,
      assembly: assembly.number,
      place: placeName({ kind, number }, machine.changerKind),
      inSpindle: kind === 'spindle',
      noArm: kept.get(tool) ?? null,
      kind: assembly.kind,
      flag: assembly.flag,
      measuredSinceLoading: assembly.measured,
      left: left.get(tool) ?? [],
      speedLimit: assembly.speedLimit,
      method: methods.get(tool) ?? null,
      ...found.misfits.get(tool),
      life: lifeOf(assembly),
    })),
  });
  return withWaivers(findings, waivers);
}
