import { movesOf } from '../../src/core/inspection/feature.ts';
import type { Dialect } from '../../src/core/program/dialect.ts';
import { partsLeft } from '../../src/core/life/count.ts';
import type { Length, LengthUnit } from '../../src/core/units/length.ts';
import { countedTools } from '../../src/server/counts.ts';
import { pool, rows } from '../../src/server/db.ts';
import { evidenceOf } from '../../src/server/evidence.ts';
import { openJobs } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { callsOf, featuresOf } from '../../src/server/programs.ts';
import { registersOf } from '../../src/server/registers.ts';

/** A row of a control's table. Lengths in nanometres. */
export interface PlantRegister {
  id: number;
  row: number;
  kind: string;
  value: Length;
}

/** A size that a machine cuts, by the registers that move it. Deviations are from its target. */
export interface PlantSize {
  id: number;
  name: string;
  gauge: string;
  tool: number;
  target: Length;
  lower: Length;
  upper: Length;
  /** Parts between two measurings. */
  every: number;
  moves: { register: number; tool: number; by: number }[];
  /** How far off it was when it was last measured, with what its rows hold now; null: nobody measured it. */
  off: Length | null;
}

export interface PlantTool {
  tool: number;
  assemblyId: number;
  number: string;
  /** Parts of a whole life, and of what is left; null: it is not counted. */
  life: number | null;
  left: number | null;
  flag: 'broken' | 'expired' | 'locked' | null;
}

/** A machine with the job that runs on it, as it stands when the play begins. */
export interface PlantMachine {
  id: number;
  name: string;
  unit: LengthUnit;
  increment: Length;
  dialect: Dialect;
  job: {
    id: number;
    programId: number;
    number: string;
    made: number;
    quantity: number;
    cycle: number;
    parts: number;
  };
  calls: { tool: number; share: number }[];
  registers: PlantRegister[];
  sizes: PlantSize[];
  tools: PlantTool[];
}

/** A plan that says nothing has its sizes measured every so many parts (common practice, no source). */
const EVERY = 4;

/** Every machine of the cell with its running job, from the record: what was keyed is taken to stand in the control. */
export async function readPlant(): Promise<PlantMachine[]> {
  const db = pool();
  const found: PlantMachine[] = [];
  for (const job of (await openJobs(db)).filter(({ state }) => state === 'running')) {
    const machine = (await machineById(db, job.machineId))!;
    const registers = await registersOf(db, machine.id);
    const calls = await callsOf(db, job.programId);
    const whole = Math.max(
      1,
      calls.reduce((sum, call) => sum + call.cutMilliseconds, 0),
    );
    const sizes: PlantSize[] = [];
    for (const feature of await featuresOf(db, machine.id, job.number)) {
      const moves = movesOf(feature, machine).flatMap(({ row, role, tool, by }) =>
        registers
          .filter((register) => register.row === row && register.kind === role)
          .map(({ id }) => ({ register: id, tool, by })),
      );
      const evidence = await evidenceOf(db, machine, feature);
      const own = evidence.features.findIndex(({ id }) => id === feature.id);
      const last = evidence.readings.filter(({ size }) => size === own).at(-1);
      const since = (last?.held ?? []).reduce<number>((sum, held, i) => {
        const move = moves.find(({ register }) => register === evidence.registers[i]?.id);
        const now = registers.find(({ id }) => id === evidence.registers[i]?.id)?.value;
        return sum + (move && now !== undefined && held !== null ? move.by * (now - held) : 0);
      }, 0);
      sizes.push({
        id: feature.id,
        name: feature.name,
        gauge: feature.gauge,
        tool: feature.tool,
        target: feature.target,
        lower: (feature.nominal + feature.lower - feature.target) as Length,
        upper: (feature.nominal + feature.upper - feature.target) as Length,
        every: feature.every ?? EVERY,
        moves,
        off: last ? (Math.round(last.measured - feature.target + since) as Length) : null,
      });
    }
    const counted = await countedTools(db, job);
    const inside = await rows<Omit<PlantTool, 'life' | 'left'>>(
      db,
      `SELECT s.tool, a.id AS "assemblyId", a.number, a.flag FROM placement s JOIN assembly a ON a.id = s.assembly_id
       WHERE s.machine_id = $1 AND s.tool = ANY($2) ORDER BY s.tool`,
      [machine.id, [...new Set([...calls.map(({ tool }) => tool), ...counted.map(({ tool }) => tool)])]],
    );
    found.push({
      id: machine.id,
      name: machine.name,
      unit: machine.unit,
      increment: machine.increment,
      dialect: machine.dialect,
      job: {
        id: job.id,
        programId: job.programId,
        number: job.number,
        made: job.made,
        quantity: job.quantity,
        cycle: job.cycleMilliseconds,
        parts: job.partsPerCycle,
      },
      calls: calls.map(({ tool, cutMilliseconds }) => ({ tool, share: cutMilliseconds / whole })),
      registers: registers.map(({ id, row, kind, value }) => ({ id, row, kind, value })),
      sizes,
      tools: inside.map((tool): PlantTool => {
        const count = counted.find((each) => each.assemblyId === tool.assemblyId);
        const parts = (left: number) => (count ? partsLeft(left, count.basis, count.use) : Infinity);
        const life = count ? parts(count.fullLife) : Infinity;
        return {
          ...tool,
          life: Number.isFinite(life) ? Math.max(1, life) : null,
          left: count && Number.isFinite(life) ? Math.max(0, parts(count.remaining)) : null,
        };
      }),
    });
  }
  return found;
}
