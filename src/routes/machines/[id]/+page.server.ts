import { cellNow } from '$server/clock';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { assembliesOf, looseAssemblies } from '$server/assemblies';
import { pool, type Db } from '$server/db';
import { makingNow } from '$server/made-now';
import { geometryKinds, type Machine } from '$server/machines';
import { changePocket, declareWide, placementsAt, tableAt } from '$server/magazines';
import { callPocket } from '$server/pocket-calls';
import { shared } from '$server/shared';
import { stagedTools } from '$server/planning';
import { notCarried } from '$server/not-carried';
import { bearingOf, placeName, placesOf, placeTool, takeOut } from '$server/places';
import { measureTool, registersOf } from '$server/registers';
import { geometryLeft, toolRows } from '$server/tool-rows';
import type { LeftGeometry } from '$core/readiness/row-geometry';
import { weighed } from '$core/assembly/weighed';
import { noArmWords, type NoArm } from '$core/changer/where';
import type { PlaceRow } from '$core/changer/place';
import { act, actAtMachine, id, madeUntilNow, orEmpty, ticked, whole } from '../../action';
import { measurementOn } from '../../measured';
import { spindleActs } from '../spindle-acts';
import type { Actions, PageServerLoad } from './$types';

/** The magazine as it stands, or stood, for everybody who looks at it. */
const magazine = shared(
  (machine: Machine, at: Date | null) => `${machine.id} ${at?.getTime() ?? ''}`,
  async (machine, at) => {
    const db = pool();
    const [places, loose, registers, used, left, making, kept] = await Promise.all([
      placesOf(db, machine.id),
      looseAssemblies(db, machine.interface),
      registersOf(db, machine.id),
      toolRows(db, machine),
      at ? new Map<number, readonly LeftGeometry[]>() : geometryLeft(db, machine),
      at ? null : makingNow(db, machine),
      at ? null : notCarried(db, machine),
    ]);
    const kinds = geometryKinds(machine.kind);
    const shown = at ? await asItWas(db, machine.id, places, at) : places;
    return {
      at,
      bearing: bearingOf(machine, shown),
      byHand: kept ? byHand(machine, shown, kept) : [],
      reckoned: shown.filter((place) => place.assembly && weighed(place.assembly).reckoned).length,
      staged: await stagedTools(db, machine),
      places: shown,
      making,
      loose,
      geometry: registers.filter((register) => kinds.includes(register.kind)),
      used,
      left,
    };
  },
);

/** Tools told one by one of what the changer must not carry; a plate that was read wrongly would tell of all. */
const ONE_BY_ONE = 3;

function byHand(machine: Machine, places: readonly PlaceRow[], kept: ReadonlyMap<number, NoArm>): string[] {
  const told = places.flatMap((place) => {
    const noArm = place.tool === null ? undefined : kept.get(place.tool);
    const name = `T${place.tool} in ${placeName(place, machine.changerKind)}`;
    return noArm ? [{ tool: place.tool, words: `${noArmWords(noArm, name)} Take it out by hand.` }] : [];
  });
  const rest = told.slice(ONE_BY_ONE).map(({ tool }) => `T${tool}`);
  return [
    ...told.slice(0, ONE_BY_ONE).map(({ words }) => words),
    ...(rest.length === 0
      ? []
      : [`The same holds for ${rest.join(', ')}. If that cannot be, read the plate again.`]),
  ];
}

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const { role } = locals.person!;
  const at = pastMoment(url.searchParams.get('at'));
  return {
    ...(await magazine(machine, at)),
    mayPlace: at === null && may(role, 'placeTools'),
    mayMeasure: at === null && may(role, 'measureTools'),
  };
};

/** A moment that was asked for, when it is one and past. */
function pastMoment(text: string | null): Date | null {
  const at = text ? new Date(text) : null;
  return at && !Number.isNaN(at.getTime()) && at < cellNow() ? at : null;
}

/** The places with what stood in them at a moment; assemblies are drawn as they are today. */
async function asItWas(db: Db, machineId: number, places: PlaceRow[], at: Date): Promise<PlaceRow[]> {
  const then = await placementsAt(db, machineId, at);
  const table = await tableAt(db, machineId, places, at);
  const shapes = new Map(
    (
      await assembliesOf(
        db,
        then.map((each) => each.assemblyId),
      )
    ).map((assembly) => [assembly.id, { ...assembly, measured: true }]),
  );
  return places.map((place) => {
    const stood = then.find((each) => each.placeId === place.id);
    return {
      ...place,
      ...table.get(place.id),
      tool: stood?.tool ?? null,
      assembly: stood ? shapes.get(stood.assemblyId)! : null,
    };
  });
}

const placeSchema = z.object({
  place: id,
  assembly: id,
  tool: whole('T', 1, 9999),
  knob: z.string().max(40).optional(),
});
const takeOutSchema = z.object({
  place: id,
  assembly: id,
  why: z.string().max(200).default(''),
  ...madeUntilNow,
});

export const actions: Actions = {
  place: act(placeSchema, ({ input, asking }) =>
    placeTool(asking, {
      placeId: input.place,
      assemblyId: input.assembly,
      tool: input.tool,
      knob: input.knob,
    }),
  ),
  takeOut: act(takeOutSchema, ({ input, asking }) =>
    takeOut(asking, {
      placeId: input.place,
      assemblyId: input.assembly,
      why: input.why,
      made: input.made,
      sure: input.sure,
    }),
  ),
  call: act(
    z.object({ pocket: whole('The pocket', 1, 999), spindle: orEmpty, inPocket: orEmpty, made: ticked }),
    ({ input, asking, event }) => callPocket(asking, { machineId: Number(event.params.id), ...input }),
  ),
  declare: act(
    z.object({ place: id, tool: whole('T', 1, 9999), seenEmpty: z.literal('yes').optional() }),
    ({ input, asking }) =>
      declareWide(asking, {
        placeId: input.place,
        tool: input.tool,
        seenEmpty: input.seenEmpty === 'yes',
      }),
  ),
  pocket: act(
    z.object({
      place: id,
      change: z.enum(['undeclared', 'reserved', 'released', 'inService', 'outOfService', 'heavy', 'light']),
      why: z.string().max(200).default(''),
    }),
    ({ input, asking }) =>
      changePocket(asking, { placeId: input.place, change: input.change, why: input.why }),
  ),
  doubt: spindleActs.doubt,
  found: spindleActs.found,
  measure: actAtMachine(measurementOn, ({ input, asking, on }) =>
    measureTool(asking, {
      machineId: on.id,
      assemblyId: input.assembly,
      row: input.row,
      values: input.values,
      gaugeLength: input.gaugeLength,
      how: on.kind === 'mill' ? 'Measured after loading.' : 'Touched off.',
      method: input.method,
    }),
  ),
};
