import { nanometres } from '../../src/core/units/length.ts';
import { localDate } from '../../src/core/shift/calendar.ts';
import { bringIn } from '../../src/server/bring-in.ts';
import { cellOf, endShift, setException, setShift } from '../../src/server/cell.ts';
import { cellNow } from '../../src/server/clock.ts';
import { pool, row, rows } from '../../src/server/db.ts';
import { writeDefinition } from '../../src/server/definitions.ts';
import { addEndCheck, dropEndCheck, tickEndCheck } from '../../src/server/end-checks.ts';
import { writeGauge } from '../../src/server/gauges.ts';
import { jobsOf } from '../../src/server/jobs.ts';
import { signLeaf } from '../../src/server/leaf.ts';
import { answerNote, openNotes } from '../../src/server/leaf-notes.ts';
import { keepLifeCosts } from '../../src/server/life-costs.ts';
import { setRunsOn } from '../../src/server/machine-hours.ts';
import { machineById } from '../../src/server/machines.ts';
import { changePerson, people } from '../../src/server/people.ts';
import { plateOf, recordCells, recordPlate } from '../../src/server/plates.ts';
import { takeReadingsFile } from '../../src/server/program-files.ts';
import { programText } from '../../src/server/programs.ts';
import { waiveFinding } from '../../src/server/proofs.ts';
import { decideCheck } from '../../src/server/tool-checks.ts';
import { as } from './cell.ts';
import type { Maker, Shown } from './two-acts.ts';

const machineNow = async ({ machine }: Shown) => (await machineById(pool(), machine.id))!;
const soon = async (days: number) =>
  localDate(new Date(cellNow().getTime() + days * 86_400_000), (await cellOf(pool())).timeZone);

/** The leaf of the shift that runs, or ran last. */
const leafNow = async () =>
  (await row<{ leaf: string }>(pool(), 'SELECT leaf FROM leaf_signature ORDER BY leaf DESC LIMIT 1'))?.leaf ??
  `${await soon(-1)}/Early`;

const note: Maker = async (shown) => {
  const open = shown.pick((await openNotes(pool())).slice(0, 2));
  if (!open) return null;
  const text = shown.happens(0.5) ? 'It was the coolant.' : 'See the key card.';
  return { what: `note ${open.id} is answered`, run: () => answerNote(as(shown.cell.setter), open.id, text) };
};
const sign: Maker = async (shown) => {
  const leaf = await leafNow();
  const who = shown.happens(0.5) ? shown.cell.setter : shown.cell.lead;
  const side = shown.happens(0.5) ? ('leaving' as const) : ('coming' as const);
  return {
    what: `${who.badge} signs the leaf, ${side}`,
    run: () => signLeaf(as(who), who, leaf, side, cellNow()),
  };
};
const ending: Maker = async (shown) => {
  const lines = await rows<{ id: number }>(
    pool(),
    'SELECT id FROM end_check WHERE active AND coalesce(machine_id, $1) = $1 ORDER BY id LIMIT 2',
    [shown.machine.id],
  );
  const line = shown.pick(lines);
  const dice = shown.pick([0, 1, 2, 2, 2])!;
  if (dice === 0 || !line) {
    const text = shown.happens(0.5) ? 'Lamp off' : 'Doors shut';
    return {
      what: `"${text}" is put on the list`,
      run: () => addEndCheck(as(shown.cell.lead), { machineId: shown.machine.id, text }),
    };
  }
  if (dice === 1)
    return { what: `line ${line.id} is taken off`, run: () => dropEndCheck(as(shown.cell.lead), line.id) };
  const otherwise = shown.happens(0.3) ? 'chips in the tray' : '';
  const leaf = await leafNow();
  return {
    what: `line ${line.id} is ${otherwise === '' ? 'so' : 'not so'}`,
    run: () =>
      tickEndCheck(
        as(shown.cell.operator),
        { leaf, machineId: shown.machine.id, checkIds: [line.id], otherwise, seen: '' },
        cellNow(),
      ),
  };
};
const calendar: Maker = async (shown) => {
  const dice = shown.pick([0, 1, 2])!;
  const name = shown.pick(['Early', 'Late', 'Night'])!;
  const day = await soon(shown.pick([9, 10])!);
  if (dice === 0)
    return {
      what: `${name} of ${day} does not run`,
      run: () =>
        setException(as(shown.cell.lead), { date: day, name, runs: false, why: 'a feast' }, cellNow()),
    };
  if (dice === 1)
    return {
      what: `${name} ends on ${day}`,
      run: () => endShift(as(shown.cell.lead), { name, last: day }, cellNow()),
    };
  const startMinute = shown.pick([480, 540, 1320])!;
  return {
    what: `Sunday from ${startMinute}`,
    run: () =>
      setShift(
        as(shown.cell.lead),
        { name: 'Sunday', startMinute, lengthMinutes: 120, days: [7], from: day },
        cellNow(),
      ),
  };
};
const person: Maker = async (shown) => {
  const all = (await people(pool())).filter(({ badge }) => ['1001', '1002', '1003'].includes(badge));
  const one = shown.pick(all);
  if (!one) return null;
  const before = { role: one.role, active: one.active };
  const typed = shown.pick([
    { ...before, role: 'lead' as const },
    { ...before, role: 'viewer' as const },
    { ...before, active: !one.active },
  ])!;
  return {
    what: `${one.badge} is ${typed.active ? typed.role : 'gone'}`,
    run: () => changePerson(as(shown.cell.lead), { id: one.id, shown: before, typed, pin: '' }),
  };
};
const settings: Maker = async (shown) => {
  const { machine } = shown;
  const tool = shown.focus?.tool ?? 1;
  const changeMinutes = shown.happens(0.5) ? 5 : 6;
  return shown.pick([
    {
      what: 'what a change costs',
      run: () =>
        keepLifeCosts(as(shown.cell.lead), machine.id, {
          changeMinutes,
          hourCents: 9000,
          failureCents: 5000,
        }),
    },
    {
      what: 'how long it runs on',
      run: async () => setRunsOn(as(shown.cell.lead), await machineNow(shown), { hours: 4 }),
    },
    {
      what: `T${tool} is checked`,
      run: async () =>
        decideCheck(as(shown.cell.lead), await machineNow(shown), {
          tool,
          moment: 'after',
          method: 'setter',
          limits: { short: nanometres(1_000_000), long: nanometres(1_000_000) },
        }),
    },
    {
      what: 'pockets take less',
      run: () =>
        recordCells(as(shown.cell.lead), {
          machineId: machine.id,
          from: 1,
          to: 4,
          cell: nanometres(70_000_000),
        }),
    },
  ])!;
};
const plate: Maker = async (shown) => {
  const before = plateOf(shown.machine);
  const typed = shown.pick([
    { ...before, heaviest: 5000, heaviestAll: 60_000 },
    { ...before, longest: nanometres(250_000_000) },
    { ...before, widest: nanometres(60_000_000), widestAlone: nanometres(100_000_000) },
  ])!;
  return {
    what: 'the plate is recorded',
    run: () => recordPlate(as(shown.cell.lead), { machineId: shown.machine.id, plate: typed, shown: before }),
  };
};
const asksFor: Maker = async (shown) => {
  const [program] = await rows<{ id: number; number: string; tools: number[] }>(
    pool(),
    `SELECT g.id, g.number, array_agg(DISTINCT c.tool) AS tools FROM program g JOIN program_call c ON c.program_id = g.id
     WHERE g.machine_id = $1 GROUP BY g.id ORDER BY g.id LIMIT 1`,
    [shown.machine.id],
  );
  const tool = program && shown.pick(program.tools.slice(0, 2));
  if (!tool) return null;
  if (shown.happens(0.4))
    return {
      what: `a finding of ${program.number} is let stand`,
      run: () =>
        waiveFinding(as(shown.cell.lead), {
          programId: program.id,
          code: 'runsOut',
          sentence: `T${tool} runs out.`,
          why: 'a sister is at hand',
          days: 2,
        }),
    };
  const diameter = nanometres(shown.happens(0.5) ? 8_000_000 : 8_500_000);
  return {
    what: `what ${program.number} asks for as T${tool}`,
    run: () =>
      writeDefinition(as(shown.cell.lead), {
        programId: program.id,
        tool,
        kind: 'drill',
        diameter,
        cornerRadius: null,
        reach: null,
        teeth: null,
        thread: '',
        leftHand: null,
        leastLife: null,
      }),
  };
};
const gauge: Maker = (shown) => {
  const name = shown.happens(0.5) ? 'Bore gauge' : 'bore gauge';
  return Promise.resolve({
    what: 'a gauge is written down',
    run: () =>
      writeGauge(
        as(shown.cell.inspector),
        { name, resolution: nanometres(1000), uncertainty: null, due: null },
        'mm',
      ),
  });
};
const file: Maker = async (shown) => {
  const programs = await rows<{ id: number; number: string; unit: 'mm' | 'inch' }>(
    pool(),
    'SELECT id, number, unit FROM program WHERE machine_id = $1 ORDER BY id LIMIT 2',
    [shown.machine.id],
  );
  const program = shown.pick(programs);
  if (!program) return null;
  const job = (await jobsOf(pool(), shown.machine.id)).find(({ state }) => state === 'running');
  const [feature] = await rows<{ name: string; target: number }>(
    pool(),
    `SELECT f.name, f.target FROM feature f JOIN program g ON g.number = f.program_number AND g.machine_id = f.machine_id
     WHERE g.id = $1 ORDER BY f.id LIMIT 1`,
    [job?.programId ?? program.id],
  );
  const dice = shown.pick([0, 0, 1, 2])!;
  if (dice === 1 || !job || !feature) {
    const text = await programText(pool(), program.id);
    const revised = text.replace(/\n/, `\n(CHANGED ${shown.happens(0.5) ? 'ONCE' : 'TWICE'})\n`);
    return {
      what: `${program.number} is brought in anew`,
      run: () =>
        bringIn(as(shown.cell.lead), 'program', {
          fileName: `${program.number}.nc`,
          text: revised,
          machineId: shown.machine.id,
          programId: null,
          partsPerCycle: 1,
        }),
    };
  }
  if (dice === 2) {
    const number = shown.happens(0.5) ? 'NEW-1' : 'NEW-2';
    return {
      what: `${number} comes into the catalogue`,
      run: () =>
        bringIn(as(shown.cell.crib), 'components', {
          fileName: 'components.csv',
          text: `number,name,kind,DC,DCONMS,OAL,LCF,ZEFP,stock\n${number},Drill 8,drill,8,8,80,40,2,3\n`,
          machineId: null,
          programId: null,
          partsPerCycle: 1,
        }),
    };
  }
  const size = Number(feature.target) / (program.unit === 'mm' ? 1_000_000 : 25_400_000);
  const part = Math.max(1, job.made);
  return {
    what: `readings of ${feature.name}, part ${part}, come from a file`,
    run: () =>
      takeReadingsFile(as(shown.cell.inspector), {
        programId: job.programId,
        part: null,
        text: `part,feature,value\n${part},${feature.name},${size.toFixed(4)}\n`,
      }),
  };
};

/** What is done at the desk: leaves, shifts, people, settings of a machine, files. */
export const OFFICE_ACTS: readonly Maker[] = [
  note,
  sign,
  ending,
  ending,
  calendar,
  calendar,
  person,
  person,
  settings,
  settings,
  plate,
  asksFor,
  gauge,
  file,
  file,
];
