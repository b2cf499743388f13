import { traitsOf } from '../core/changer/traits.ts';
import { INTERFACES, type AssemblyKind } from '../core/assembly/silhouette.ts';
import { hangingRadius } from '../core/changer/clearance.ts';
import { stepKey, type FoundState, type LoadStep } from '../core/changer/load-plan.ts';
import {
  stepWords,
  tipAsked,
  type StepPlace,
  type StepWords,
  type TipAsked,
} from '../core/changer/load-words.ts';
import { ownPocketOf, type PlaceRow } from '../core/changer/place.ts';
import type { Wanted } from '../core/changer/wanted.ts';
import { COMPONENT_KIND_NAMES, kindFacts } from '../core/component/kinds.ts';
import type { Definition } from '../core/definition/read-definition.ts';
import { pickKit, type Kit } from '../core/holding/pick-kit.ts';
import { directionOf } from '../core/program/boring-shift.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { holderHabits } from './builds.ts';
import { componentsForKits, type StockedComponent } from './components.ts';
import type { Db } from './db.ts';
import { knobsOf } from './knobs.ts';
import { definitionOf } from './definitions.ts';
import { shapeOf, type Machine } from './machines.ts';
import { callsOf } from './programs.ts';
import { marksOf } from './oriented.ts';
import { newestPrograms } from './switching.ts';
import { noArm, whereOn } from './places.ts';
import { work } from './worker.ts';
import { aimNow } from './load-aim.ts';

/** What stands in a machine, as a load plan sees it. */
export function foundState(machine: Machine, places: readonly PlaceRow[]): FoundState {
  const toolOf = (place: PlaceRow) =>
    place.assembly && {
      tool: place.tool!,
      assemblyId: place.assembly.id,
      number: place.assembly.number,
      name: place.assembly.name,
      measured: place.assembly.measured,
      radius: hangingRadius(shapeOf(machine), place.assembly),
      alone:
        !traitsOf(shapeOf(machine)).exchanges &&
        whereOn(machine, place.assembly).verdict === 'neighboursEmpty',
      home: ownPocketOf(places, place),
      noArm: noArm(machine, places, place.assembly, place.tool),
    };
  const spindle = places.find((place) => place.kind === 'spindle');
  return {
    shape: shapeOf(machine),
    pockets: places
      .filter((place) => place.kind === 'pocket')
      .map((place) => ({
        number: place.number,
        wide: place.wide,
        tied: place.tied,
        inService: place.inService,
        reserved: place.reserved,
        content: toolOf(place),
      })),
    spindle: spindle && traitsOf(shapeOf(machine)).throughSpindle ? toolOf(spindle) : null,
    at: machine.atPocket,
  };
}

export interface SaidStep extends StepWords {
  key: string;
  step: LoadStep;
}

export const POCKET_WORDS: Partial<Record<Machine['changerKind'], string>> = {
  turret: 'station',
  rack: 'fork',
};
const stepPlace = async (db: Db, machine: Machine, wanted: Wanted): Promise<StepPlace> => ({
  changer: machine.changerKind,
  pocket: POCKET_WORDS[machine.changerKind] ?? 'pocket',
  end: INTERFACES[machine.interface].words,
  knob: machine.knob,
  otherKnobs: await otherKnobs(db, machine, wanted),
  tips: wanted.tools.some((each) => each.orientation === 'tip') ? await tipsOf(db, machine) : new Map(),
  marks: wanted.tools.some((each) => each.orientation === 'probe')
    ? await marksOf(db, machine.id)
    : new Map(),
});

/** Knobs on record of what the plan wants, where the machine needs another. */
async function otherKnobs(db: Db, machine: Machine, { tools }: Wanted): Promise<Map<number, string>> {
  const carried = await knobsOf(
    db,
    tools.flatMap(({ assemblyId }) => assemblyId ?? []),
  );
  return new Map([...carried].filter(([, knob]) => machine.knob !== '' && knob !== machine.knob));
}

/** Which way the tip of each T must point, by the programs of the machine that shift it off the wall. */
async function tipsOf(db: Db, machine: Machine): Promise<Map<number, TipAsked>> {
  const tips = new Map<number, TipAsked>();
  for (const { id, number } of await newestPrograms(db, machine.id))
    for (const { tool, boringShifts } of await callsOf(db, id))
      for (const shift of boringShifts) {
        const way = directionOf(shift, machine.dialect.boringShift ?? 'X+');
        if (way && !tips.has(tool)) tips.set(tool, tipAsked(number, shift.line, way));
      }
  return tips;
}

/** The steps that are left, with their words. */
export async function stepsLeft(db: Db, machine: Machine, places: readonly PlaceRow[], wanted: Wanted) {
  const aim = await aimNow(db, machine, places, wanted);
  const plan = await work('loadPlan', [foundState(machine, places), aim]);
  if (!plan.ok) return plan;
  const place = await stepPlace(db, machine, aim);
  return {
    ok: true as const,
    held: plan.held,
    steps: plan.steps.map((step): SaidStep => ({ key: stepKey(step), step, ...stepWords(step, place) })),
  };
}

export interface KitToBuild {
  tool: number;
  asked: { program: number; tool: number };
  /** Pieces from the shelves; null when no cutter of the catalogue could become what is asked for. */
  kit: Kit<StockedComponent> | null;
}

/** For each tool of a plan that must be built first, the pieces to fetch. */
export async function kitsToBuild(db: Db, machine: Machine, wanted: Wanted): Promise<KitToBuild[]> {
  const toBuild = wanted.tools.filter((each) => each.assemblyId === null);
  if (toBuild.length === 0) return [];
  const found: { tool: number; asked: KitToBuild['asked']; definition: Definition }[] = [];
  for (const { tool, asked } of toBuild) {
    const definition = asked && (await definitionOf(db, asked.program, asked.tool))?.definition;
    if (asked && definition) found.push({ tool, asked, definition });
  }
  if (found.length === 0) return [];
  const definitions = found.map((each) => each.definition);
  const makes = new Set(definitions.map((each) => each.kind));
  const [catalogue, habits] = [
    await componentsForKits(db, {
      interface: machine.interface,
      kinds: COMPONENT_KIND_NAMES.filter((kind) => makes.has(kindFacts(kind).makes as AssemblyKind)),
      diameters: definitions.flatMap((each) => each.diameter ?? []),
      threads: definitions.map((each) => each.thread).filter(Boolean),
      any: definitions.some((each) => each.diameter === null && each.thread === ''),
    }),
    await holderHabits(db),
  ];
  return found.map(({ tool, asked, definition }) => ({
    tool,
    asked,
    kit: pickKit(
      definition,
      catalogue,
      { ...machine, machine: machine.name },
      (value) => formatWithUnit(value, machine.unit),
      (holder, cutter) => habits.get(`${holder.id} ${cutter}`) ?? 0,
    ),
  }));
}
