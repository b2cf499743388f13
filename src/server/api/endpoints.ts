import type { EndpointName, Gives, Takes } from '../../core/api/contract.ts';
import { measuredBefore } from '../../core/formats/readings-file.ts';
import { isDirection } from '../../core/inspection/register-words.ts';
import { parseLength } from '../../core/units/parse-length.ts';
import { plainDecimal } from '../../core/units/format-length.ts';
import type { Length, LengthUnit } from '../../core/units/length.ts';
import { mostUrgent } from '../../core/shift/run-out.ts';
import { cellNow } from '../clock.ts';
import { statesOf } from '../agents/states.ts';
import { cellOf } from '../cell.ts';
import { bringTable, compareLook, lookAtControl } from '../control-looks.ts';
import { openCorrections } from '../corrections.ts';
import { countParts } from '../counts.ts';
import { pool, row, rows } from '../db.ts';
import { forecast } from '../forecast.ts';
import { lockJob, runningJob } from '../jobs.ts';
import { machinesAtAGlance, machineById, type Machine } from '../machines.ts';
import { once, type Asking } from '../once.ts';
import { Refused, type Outcome } from '../outcome.ts';
import { placesOf } from '../places.ts';
import { featuresOf } from '../programs.ts';
import { takeReading } from '../readings.ts';
import { registersOf } from '../registers.ts';
import { jobsSince } from '../set-ups.ts';
import { settled } from './settled.ts';

type Work<N extends EndpointName> = (input: Takes<N>, asking: Asking) => Promise<Outcome<Gives<N>>>;

const good = <T>(value: T): Outcome<T> => ({ ok: true, value });
const no = (reason: string): { ok: false; reason: string } => ({ ok: false, reason });

async function machineNamed(name: string): Promise<Machine | null> {
  const found = await row<{ id: number }>(pool(), 'SELECT id FROM machine WHERE lower(name) = lower($1)', [
    name,
  ]);
  return found && machineById(pool(), found.id);
}
const noMachine = (name: string) => no(`There is no machine ${name}.`);

const takeReadingOf: Work<'takeReading'> = async (input, asking) => {
  const machine = await machineNamed(input.machine);
  if (!machine) return noMachine(input.machine);
  const program = await row<{ id: number; number: string }>(
    pool(),
    'SELECT id, number FROM program WHERE machine_id = $1 AND upper(number) = upper($2) ORDER BY id DESC LIMIT 1',
    [machine.id, input.program],
  );
  if (!program) return no(`${machine.name} has no program ${input.program}.`);
  const feature = (await featuresOf(pool(), machine.id, program.number)).find(
    ({ name }) => name.toLowerCase() === input.feature.toLowerCase(),
  );
  if (!feature) return no(`${program.number} has no size "${input.feature}" in its measuring plan.`);
  const job = await runningJob(pool(), machine.id);
  if (!job || job.number !== program.number) return no(`${program.number} does not run on ${machine.name}.`);
  const measured = parseLength(input.value, input.unit);
  if (!measured.ok) return measured;
  const at = input.measuredAt === undefined ? null : new Date(input.measuredAt);
  const since = (await jobsSince(pool(), { machineId: machine.id, number: job.number })).find(
    ({ id }) => id === job.id,
  )!;
  if (measuredBefore(at, since.since) === 'surely')
    return no(`${input.measuredAt} is before this job of ${job.number} began: it was a part of another.`);
  const taken = await takeReading(asking, {
    featureId: feature.id,
    programId: job.programId,
    jobId: job.id,
    part: input.part,
    measured: measured.value,
    confirmed: input.confirmed,
    firstOff: input.firstOff,
    place: input.place,
    pallet: input.pallet,
    measuredAt: at,
  });
  if (!taken.ok) return taken;
  const { readingId, proposalIds, answer } = taken.value;
  return good({
    reading: readingId,
    verdict: answer.verdict,
    reason: answer.reason,
    partOut: answer.partOut,
    corrections: proposalIds,
  });
};

const recordPartsOf: Work<'recordParts'> = async (input, asking) => {
  const machine = await machineNamed(input.machine);
  if (!machine) return noMachine(input.machine);
  return once(asking, 'apiParts', input, async (db): Promise<Gives<'recordParts'>> => {
    const running = await runningJob(db, machine.id);
    // looked at again once nobody else counts
    const job = running && (await lockJob(db, running.id));
    if (!job || job.number.toUpperCase() !== input.program.toUpperCase())
      throw new Refused(`${input.program} does not run on ${machine.name}.`);
    if (input.count < job.made)
      throw new Refused(
        `The record has ${job.made} parts of ${job.number} already: a count is taken back by hand.`,
      );
    const parts = input.count - job.made;
    if (parts === 0) return { before: job.made, recorded: 0, ranOut: [] };
    const { expired } = await countParts(db, asking.personId, {
      jobId: job.id,
      before: job.made,
      parts,
      source: "another system's count",
      doubted: !input.confirmed,
    });
    return { before: job.made, recorded: parts, ranOut: expired };
  });
};

const bringTableOf: Work<'bringTable'> = async (input, asking) => {
  const machine = await machineNamed(input.machine);
  if (!machine) return noMachine(input.machine);
  const layout =
    input.layout === null
      ? null
      : await row<{ id: number }>(
          pool(),
          'SELECT id FROM control_mapping WHERE machine_id = $1 AND name = $2',
          [machine.id, input.layout],
        );
  if (input.layout !== null && !layout) return no(`No layout "${input.layout}" is kept for ${machine.name}.`);
  const brought = await bringTable(asking, {
    machineId: machine.id,
    fileName: 'sent',
    text: input.text,
    kind: null,
    mapping: layout?.id ?? null,
    part: input.part,
  });
  if (!brought.ok) return brought;
  const look = (await lookAtControl(pool(), machine.id, brought.value.id))!;
  const { agree, differences } = await compareLook(pool(), machine, look);
  return good({ look: look.id, agree, differ: differences.length });
};

const machinesOf: Work<'machines'> = async () => {
  const states = new Map((await statesOf(pool())).map((each) => [each.machineId, each]));
  return good({
    items: (await machinesAtAGlance()).map((machine) => {
      const heard = states.get(machine.id);
      return {
        machine: machine.name,
        unit: machine.unit,
        job: machine.job,
        execution: heard?.state.execution ?? null,
        tool: heard?.state.tool ?? null,
        parts: heard?.state.parts ?? null,
        problem: heard?.problem ?? null,
      };
    }),
  });
};

const toolsOf: Work<'tools'> = async (input) => {
  const machine = await machineNamed(input.machine);
  if (!machine) return noMachine(input.machine);
  return good({
    items: (await placesOf(pool(), machine.id)).flatMap((place) =>
      place.assembly === null || place.tool === null
        ? []
        : [
            {
              tool: place.tool,
              pocket: place.kind === 'spindle' ? 0 : place.number,
              number: place.assembly.number,
              name: place.assembly.name,
              flag: place.assembly.flag,
              basis: place.assembly.basis,
              remaining: place.assembly.remaining,
              limit: place.assembly.fullLife,
            },
          ],
    ),
  });
};

const written = (value: Length, unit: LengthUnit) => plainDecimal(value, unit);

const registersIn: Work<'registers'> = async (input) => {
  const machine = await machineNamed(input.machine);
  if (!machine) return noMachine(input.machine);
  return good({
    unit: machine.unit,
    items: (await registersOf(pool(), machine.id)).flatMap(({ row: number, kind, value }) =>
      value === 0
        ? []
        : [{ row: number, kind, value: isDirection(kind) ? String(value) : written(value, machine.unit) }],
    ),
  });
};

const correctionsOf: Work<'corrections'> = async () =>
  good({
    items: (await openCorrections(pool())).map((each) => ({
      id: each.id,
      state: each.state,
      machine: each.machine,
      tool: each.tool,
      feature: each.feature,
      row: each.row,
      kind: each.registerKind,
      unit: each.unit,
      from: written(each.from, each.unit),
      to: written(each.to, each.unit),
      held: each.held,
      reason: each.reason,
    })),
  });

const forecastOf: Work<'forecast'> = async () => {
  const found = await forecast(pool(), await cellOf(pool()), cellNow());
  return good({
    items: found
      .flatMap(({ machine, runsOut }) => runsOut.map((tool) => ({ ...tool, machine })))
      .sort(mostUrgent)
      .map(({ machine, tool, number, afterParts, at, byNow, gone, flag, sister }) => ({
        machine,
        tool,
        number,
        afterParts,
        at: at?.toISOString() ?? null,
        byNow,
        gone: gone?.toISOString() ?? null,
        flag,
        sister,
      })),
  });
};

interface Entry extends Omit<Gives<'ledger'>['items'][number], 'at'> {
  at: Date;
}
export const ENTRY = `SELECT l.id, l.at, l.kind, l.stage, p.name AS person, m.name AS machine, l.tool, l.said, l.why
  FROM ledger l JOIN person p ON p.id = l.person_id LEFT JOIN machine m ON m.id = l.machine_id`;
export const entryOut = (entry: Entry): Gives<'ledger'>['items'][number] => ({
  ...entry,
  at: entry.at.toISOString(),
});

const ledgerOf: Work<'ledger'> = async (input) => {
  const until = await settled(pool());
  const found = await rows<Entry>(
    pool(),
    `${ENTRY} WHERE l.id > $1 AND ($2::text IS NULL OR l.kind = $2) AND l.id <= $4 ORDER BY l.id LIMIT $3`,
    [input.after, input.kind ?? null, input.limit + 1, until],
  );
  const items = found.slice(0, input.limit).map(entryOut);
  const more = found.length > input.limit;
  return good({ items, next: more ? items.at(-1)!.id : Math.max(input.after, until), more });
};

export const WORK: { [N in EndpointName]: Work<N> } = {
  takeReading: takeReadingOf,
  recordParts: recordPartsOf,
  bringTable: bringTableOf,
  machines: machinesOf,
  tools: toolsOf,
  registers: registersIn,
  corrections: correctionsOf,
  forecast: forecastOf,
  ledger: ledgerOf,
};
