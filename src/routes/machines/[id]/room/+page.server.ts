import { traitsOf } from '$core/changer/traits';
import { error } from '@sveltejs/kit';
import { z } from 'zod';
import type { Call, RoomState, RoomWish } from '$core/changer/room';
import type { PlaceRow } from '$core/changer/place';
import { spanForDiameter } from '$core/changer/span-for';
import { parseSize } from '$core/units/parse-length';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import type { Machine } from '$server/machines';
import { roomState, timesOf } from '$server/magazines';
import { callPocket } from '$server/pocket-calls';
import { attempt } from '$server/outcome';
import { placesOf } from '$server/places';
import { work } from '$server/worker';
import { act, orEmpty, ticked, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const wish = z.object({
  centre: z.coerce.number().int().min(1).max(999).nullable().catch(null),
  span: z.coerce.number().int().min(1).max(9).catch(3),
  diameter: z.string().max(40).nullable().catch(null),
  keep: z.string().nullable().catch(null),
  from: z.coerce.number().int().min(0).max(999).catch(0),
  to: z.coerce.number().int().min(0).max(999).catch(0),
});

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine, shape } = await parent();
  if (!traitsOf(shape).exchanges)
    error(404, `On ${machine.name} each T has its own place: calling pockets cannot make room.`);
  const places = await placesOf(pool(), machine.id);
  const asked = wish.parse(
    Object.fromEntries(
      ['centre', 'span', 'diameter', 'keep', 'from', 'to'].map((name) => [
        name,
        url.searchParams.get(name) || null,
      ]),
    ),
  );
  const state = roomState(machine, places);
  const moving = asked.from > 0 && asked.to > 0;
  const sized = asked.diameter === null ? null : spanOf(machine, state, asked.diameter);
  const span = sized?.ok ? sized.span : asked.span;
  const answer =
    sized && !sized.ok
      ? sized
      : await attempted(async () =>
          moving
            ? await moved(state, asked.from, asked.to)
            : await room(state, { centre: asked.centre, span, spindleEmpty: asked.keep === null }, machine),
        );
  return {
    asked: { ...asked, span },
    moving,
    places,
    answer,
    pictures: answer.ok ? picturesOf(places, answer.calls) : [],
    mayPlace: may(locals.person!.role, 'placeTools'),
  };
};

/** How many in a row a tool of a typed diameter needs on this machine, beside the widest that hangs there. */
function spanOf(machine: Machine, state: RoomState, typed: string) {
  const diameter = parseSize(typed, machine.unit);
  if (!diameter.ok) return { ok: false as const, reason: diameter.reason };
  if (diameter.value <= 0) return { ok: false as const, reason: 'A diameter must be above zero.' };
  return {
    ok: true as const,
    span: spanForDiameter(state, machine.interface, machine.widest, diameter.value),
  };
}

async function room(state: RoomState, asked: RoomWish, machine: Machine) {
  const answer = await work('makeRoom', [state, asked, timesOf(machine)]);
  return answer.ok
    ? {
        ok: true as const,
        ...answer.plan,
        seconds: answer.plan.seconds as number | null,
        compared: answer.compared,
        proven: answer.proven,
      }
    : answer;
}

/** One tool into another pocket, what stands there staying in the magazine: by calls that let nothing hang beside what it strikes. */
async function moved(state: RoomState, from: number, to: number) {
  const now = [state.spindle?.tool ?? null, ...state.pockets.map((pocket) => pocket.content?.tool ?? null)];
  const blocked = [from, to].find((number) => !state.pockets[number - 1]?.usable);
  if (blocked !== undefined)
    return {
      ok: false as const,
      reason: `Pocket ${blocked} is reserved, out of service, declared wide, or beside a wide tool.`,
    };
  const wanted = [...now];
  [wanted[from], wanted[to]] = [now[to]!, now[from]!];
  const answer = await work('carry', [state, wanted]);
  return answer.ok
    ? { ...answer, window: [to], centre: to, seconds: null as number | null, heavyMoved: 0, compared: 0 }
    : { ok: false as const, reason: answer.reason };
}

/** A search that is stopped is a sentence on the page, not an error. */
async function attempted<T>(search: () => Promise<T>) {
  const answer = await attempt(search);
  return answer.ok ? answer.value : answer;
}

/** What stands where after each call. */
function picturesOf(
  places: readonly PlaceRow[],
  calls: readonly Call[],
): { call: Call; places: PlaceRow[] }[] {
  let at = new Map(places.map((place) => [place.number, { tool: place.tool, assembly: place.assembly }]));
  return calls.map((call) => {
    at = new Map(at).set(0, at.get(call.pocket)!).set(call.pocket, at.get(0)!);
    const after = at;
    return { call, places: places.map((place) => ({ ...place, ...after.get(place.number)! })) };
  });
}

export const actions: Actions = {
  call: act(
    z.object({ pocket: whole('The pocket', 1, 999), spindle: orEmpty, inPocket: orEmpty, made: ticked }),
    ({ input, asking, event }) => callPocket(asking, { machineId: Number(event.params.id), ...input }),
  ),
};
