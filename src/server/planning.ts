import { traitsOf } from '../core/changer/traits.ts';
import { INTERFACES, widestOf } from '../core/assembly/silhouette.ts';
import { hangingRadius, metRadius } from '../core/changer/clearance.ts';
import { orientationOf } from '../core/changer/wanted.ts';
import { ownPocketOf, type PlaceRow } from '../core/changer/place.ts';
import { type PlanRun, type PlanTool } from '../core/changer/plan-layout.ts';
import type { LayoutTask, PlanPiece } from '../core/changer/planned.ts';
import { weighed } from '../core/assembly/weighed.ts';
import { blockedBy } from '../core/changer/wide.ts';
import { definitionWords, type Definition } from '../core/definition/read-definition.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { inUnit, lengthOf, nanometres, type Length } from '../core/units/length.ts';
import { assemblyById, type Assembly } from './assemblies.ts';
import type { Db } from './db.ts';
import { askedTools } from './definitions.ts';
import { jobsOf } from './jobs.ts';
import { isHeavy, timesOf } from './magazines.ts';
import { shapeOf, type Machine } from './machines.ts';
import { placesOf, whereOn } from './places.ts';
import { groupsOf, meantBy } from './groups.ts';
import { callsOf, programById, type Program } from './programs.ts';
import type { Sister } from './short-lived.ts';

interface Called {
  tool: number;
  /** The first program that calls it. */
  program: number;
  definition: Definition | null;
  comment: string;
  fits: number | null;
  programs: string[];
}

/** What the chosen programs of a machine call, what stands in it now, and what may be moved: the planner's question. */
export async function layoutTask(
  db: Db,
  machine: Machine,
  programIds: readonly number[],
  lockedTools: readonly number[],
  sisters: readonly Sister[] = [],
): Promise<LayoutTask> {
  const remarks: string[] = [];
  const called = new Map<number, Called>();
  const runs: PlanRun[] = [];
  const jobs = await jobsOf(db, machine.id);
  const show = (value: Length) => formatWithUnit(value, machine.unit);
  for (const id of programIds) {
    const program = await programById(db, id);
    if (!program || program.machineId !== machine.id) continue;
    const left = jobs
      .filter((job) => job.number === program.number)
      .reduce((sum, job) => sum + Math.max(0, job.quantity - job.made), 0);
    runs.push(await runOf(db, program, left));
    await addCalled(db, program, called, remarks, show);
  }
  const places = await placesOf(db, machine.id);
  const pockets = places.filter((place) => place.kind === 'pocket');
  const declared = new Set(pockets.filter((place) => place.wide).map((place) => place.number));
  const tools: PlanTool[] = [];
  const pieces: PlanPiece[] = [];
  const homes = new Map(
    pockets.flatMap((place) => (place.tied === null ? [] : [[place.tied, place.number]])),
  );
  /** Its own pocket, which is declared for it, is broken: no other may be planned for it. */
  const homeless = (tool: number): boolean => {
    const home = pockets.find((place) => place.tied === tool);
    if (!home || home.inService) return false;
    remarks.push(
      `T${tool} is tied to pocket ${home.number}, which is declared wide for it and out of service: with the tool out of the machine, take the declaration off, then plan again.`,
    );
    return true;
  };
  const carried = (assembly: Assembly, tool: number) =>
    judged(machine, assembly, `T${tool}, ${assembly.number}`, remarks);

  for (const place of places) {
    if (!place.assembly || place.tool === null) continue;
    const assembly = (await assemblyById(db, place.assembly.id))!;
    const wants = called.get(place.tool);
    const leaves = assembly.flag === 'broken';
    if (leaves)
      remarks.push(
        `T${place.tool}, ${assembly.number}, is flagged broken: it is taken out${wants ? ', and another takes its T' : ''}. Inspect the parts since its last good check first.`,
      );
    const verdict = carried(assembly, place.tool);
    if (place.kind === 'spindle' && !leaves && (verdict === 'byHand' || homeless(place.tool))) {
      called.delete(place.tool);
      continue;
    }
    // what the changer must not take, or cannot reach, stays where it hangs
    const home =
      ownPocketOf(places, place) ??
      (place.kind === 'pocket' && (verdict === 'byHand' || !place.inService) ? place.number : null);
    tools.push({
      tool: place.tool,
      now:
        place.kind === 'pocket'
          ? place.number
          : (home ?? (traitsOf(shapeOf(machine)).exchanges ? 0 : place.tool)),
      radius: hangingRadius(shapeOf(machine), assembly),
      mass: weighed(assembly).mass,
      wide: verdict === 'neighboursEmpty' || place.wide,
      heavy: place.heavy,
      locked: leaves
        ? null
        : (home ?? (lockedTools.includes(place.tool) && place.kind === 'pocket' ? place.number : null)),
      barred: tooSmall(pockets, widestOf(assembly)),
      called: wants !== undefined && !leaves,
      leaves,
    });
    pieces.push({
      tool: place.tool,
      assemblyId: assembly.id,
      number: assembly.number,
      name: assembly.name,
      state: 'standing',
      programs: leaves ? [] : (wants?.programs ?? []),
      asked: null,
      orientation: orientationOf(assembly.kind),
    });
    // what a broken tool was called for is looked for on the shelves below
    if (!leaves) called.delete(place.tool);
  }
  const taken = new Set(pieces.map((piece) => piece.assemblyId));
  for (const wants of [...called.values()].sort((a, b) => a.tool - b.tool)) {
    const loose = wants.fits !== null && !taken.has(wants.fits) ? await assemblyById(db, wants.fits) : null;
    taken.add(loose?.id ?? null);
    const verdict = loose ? carried(loose, wants.tool) : 'fits';
    if (verdict === 'byHand' || verdict === 'notAtAll' || homeless(wants.tool)) continue;
    tools.push({
      tool: wants.tool,
      now: null,
      radius: loose ? hangingRadius(shapeOf(machine), loose) : radiusAsked(machine, wants.definition),
      mass: loose ? weighed(loose).mass : null,
      wide: verdict === 'neighboursEmpty',
      heavy: loose !== null && isHeavy(machine, loose),
      locked: homes.get(wants.tool) ?? null,
      barred: tooSmall(
        pockets,
        loose ? widestOf(loose) : lengthOf(INTERFACES[machine.interface].flange, 'mm'),
      ),
      called: true,
    });
    pieces.push({
      tool: wants.tool,
      assemblyId: loose?.id ?? null,
      number: loose?.number ?? '',
      name:
        loose?.name ??
        (wants.definition ? definitionWords(wants.definition, show) : wants.comment || 'not known'),
      state: loose ? 'loose' : 'toBuild',
      programs: wants.programs,
      asked: { program: wants.program, tool: wants.tool },
      orientation: orientationOf(loose?.kind ?? wants.definition?.kind ?? ''),
    });
  }
  for (const sister of sisters) {
    const assembly = taken.has(sister.assemblyId) ? null : await assemblyById(db, sister.assemblyId);
    if (!assembly || assembly.machineId !== null || assembly.flag !== null) continue;
    if (tools.some(({ tool }) => tool === sister.tool)) continue;
    taken.add(assembly.id);
    const verdict = carried(assembly, sister.tool);
    if (verdict === 'byHand' || verdict === 'notAtAll') continue;
    tools.push({
      tool: sister.tool,
      now: null,
      radius: hangingRadius(shapeOf(machine), assembly),
      mass: weighed(assembly).mass,
      wide: verdict === 'neighboursEmpty',
      heavy: isHeavy(machine, assembly),
      locked: null,
      barred: tooSmall(pockets, widestOf(assembly)),
      called: true,
    });
    pieces.push({
      tool: sister.tool,
      assemblyId: assembly.id,
      number: assembly.number,
      name: assembly.name,
      state: 'loose',
      programs: [],
      asked: null,
      orientation: orientationOf(assembly.kind),
    });
  }
  const together = tools.reduce((sum, tool) => sum + (tool.mass ?? 0), 0);
  if (machine.heaviestAll !== null && together > machine.heaviestAll)
    remarks.push(
      `All these tools weigh ${(together / 1000).toFixed(1)} kg together; the changer’s plate says ${(machine.heaviestAll / 1000).toFixed(1)} kg. Take out what no job calls, or choose fewer jobs.`,
    );
  return {
    question: {
      shape: shapeOf(machine),
      times: timesOf(machine),
      usable: pockets
        .filter(
          (place) =>
            place.inService &&
            !place.reserved &&
            !place.wide &&
            blockedBy(shapeOf(machine), declared, place.number) === null,
        )
        .map((place) => place.number),
      tools,
      runs,
    },
    pieces,
    remarks,
  };
}

/** Pockets whose cell such a width does not go into. */
const tooSmall = (pockets: readonly PlaceRow[], widest: Length) =>
  pockets.flatMap(({ number, cell }) => (cell !== null && widest > cell ? [number] : []));

async function runOf(db: Db, program: Program, left: number): Promise<PlanRun> {
  const calls = (await callsOf(db, program.id)).filter((call) => call.tool > 0);
  const groups = await groupsOf(db, program.machineId);
  // of a group the one that cuts next is called: its sisters wait in their pockets
  const called = (tool: number) => {
    const inUse = groups.find(({ number }) => number === tool)?.inUse;
    return inUse ?? meantBy(groups, tool)[0] ?? tool;
  };
  return {
    name: program.number,
    cycles: Math.max(1, Math.ceil(left / program.partsPerCycle)),
    calls: calls.map((call) => ({ tool: called(call.tool), cutting: call.cutMilliseconds / 1000 })),
  };
}

async function addCalled(
  db: Db,
  program: Program,
  called: Map<number, Called>,
  remarks: string[],
  show: (value: Length) => string,
): Promise<void> {
  const groups = await groupsOf(db, program.machineId);
  const asking = (await askedTools(db, program))
    .filter(({ tool }) => tool > 0)
    .flatMap((asked) => meantBy(groups, asked.tool).map((tool) => ({ ...asked, tool })));
  for (const asked of asking) {
    const before = called.get(asked.tool);
    const words = (definition: Definition | null) => (definition ? definitionWords(definition, show) : '');
    if (before && words(before.definition) && words(asked.definition) !== words(before.definition))
      remarks.push(
        `T${asked.tool} is ${words(before.definition)} in ${before.programs.join(', ')} and ${words(asked.definition) || 'something else'} in ${program.number}: one T cannot be both in one loading.`,
      );
    const best = asked.fulfilments.find(
      (each) => each.misses.length === 0 && each.candidate.machine === null,
    );
    if (best && best.doubts > 0 && !before?.fits)
      remarks.push(
        `T${asked.tool}: ${best.candidate.number} is planned, but ${best.remarks.slice(0, best.doubts).join('; ')}.`,
      );
    called.set(asked.tool, {
      tool: asked.tool,
      program: before?.program ?? program.id,
      definition: before?.definition ?? asked.definition,
      comment: before?.comment ?? asked.comment,
      fits: before?.fits ?? best?.candidate.id ?? null,
      programs: [...(before?.programs ?? []), program.number],
    });
  }
}

function judged(machine: Machine, assembly: Assembly, name: string, remarks: string[]) {
  const { verdict, reasons } = whereOn(machine, assembly);
  if (verdict === 'byHand' || verdict === 'notAtAll')
    remarks.push(
      `${name}: ${verdict === 'byHand' ? 'by hand only, at a stop of the program' : 'it does not go into this machine'} (${reasons.join(', ')}).`,
    );
  return verdict;
}

/** Half the width of what is not built yet: its flange, or the cutter asked for. */
const radiusAsked = (machine: Machine, definition: Definition | null) =>
  metRadius(
    shapeOf(machine),
    machine.interface,
    Math.max(INTERFACES[machine.interface].flange, inUnit(definition?.diameter ?? nanometres(0), 'mm')) / 2,
  );

/**
 * What goes through the loading tray of an outside tray next (H4): the tools that the running job calls, or the next one, in
 * the order of its program and each once, as many as it has places.
 */
export async function stagedTools(db: Db, machine: Machine): Promise<number[]> {
  if (machine.loadingPlaces === null) return [];
  const jobs = await jobsOf(db, machine.id);
  const job = jobs.find((each) => each.state === 'running') ?? jobs[0];
  if (!job) return [];
  const groups = await groupsOf(db, machine.id);
  const called = (await callsOf(db, job.programId))
    .filter(({ tool }) => tool > 0)
    .flatMap(({ tool }) => meantBy(groups, tool));
  return [...new Set(called)].slice(0, machine.loadingPlaces);
}
