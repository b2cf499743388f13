import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { strikesOnTheWay } from '$core/changer/load-plan';
import { isRandom } from '$core/changer/layout';
import { makeRoom } from '$core/changer/make-room';
import type { Call, RoomState } from '$core/changer/room';
import type { PlaceRow } from '$core/changer/place';
import { rearrange } from '$core/changer/rearrange';
import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { foundState } from '$server/load-steps';
import type { Machine } from '$server/machines';
import { callPocket, roomState, timesOf } from '$server/magazines';
import { placesOf } from '$server/places';
import { act, orEmpty, whole } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

const wish = z.object({
  centre: z.coerce.number().int().min(1).max(999).nullable().catch(null),
  span: z.coerce
    .number()
    .pipe(z.union([z.literal(1), z.literal(3), z.literal(5)]))
    .catch(3),
  keep: z.string().nullable().catch(null),
  from: z.coerce.number().int().min(0).max(999).catch(0),
  to: z.coerce.number().int().min(0).max(999).catch(0),
});

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine, shape } = await parent();
  if (!isRandom(shape))
    error(
      404,
      `On ${machine.name} a T lives in its own place: there is no room to be made by calling pockets.`,
    );
  const places = await placesOf(pool(), machine.id);
  const asked = wish.parse(
    Object.fromEntries(
      ['centre', 'span', 'keep', 'from', 'to'].map((name) => [name, url.searchParams.get(name) || null]),
    ),
  );
  const state = roomState(machine, places);
  const moving = asked.from > 0 && asked.to > 0;
  const answer = moving
    ? moved(machine, places, state, asked.from, asked.to)
    : withoutCompared(
        makeRoom(
          state,
          { centre: asked.centre, span: asked.span, spindleEmpty: asked.keep === null },
          timesOf(machine),
        ),
      );
  return {
    asked,
    moving,
    places,
    answer,
    pictures: answer.ok ? picturesOf(places, answer.calls) : [],
    mayPlace: may(locals.person!.role, 'placeTools'),
  };
};

const withoutCompared = (answer: ReturnType<typeof makeRoom>) =>
  answer.ok
    ? { ok: true as const, ...answer.plan, compared: answer.compared, proven: answer.proven }
    : answer;

/**
 * One tool into another pocket, what stands there staying in the magazine: the fewest calls, when nothing hangs beside what it
 * would strike on the way.
 */
function moved(machine: Machine, places: readonly PlaceRow[], state: RoomState, from: number, to: number) {
  const now = [state.spindle?.tool ?? null, ...state.pockets.map((pocket) => pocket.content?.tool ?? null)];
  const blocked = [from, to].find((number) => !state.pockets[number - 1]?.usable);
  if (blocked !== undefined)
    return {
      ok: false as const,
      reason: `Pocket ${blocked} is reserved, out of service, declared wide, or beside a wide tool.`,
    };
  const wanted = [...now];
  [wanted[from], wanted[to]] = [now[to]!, now[from]!];
  const answer = rearrange(now, wanted);
  const struck = answer.ok ? strikesOnTheWay(foundState(machine, places), answer.calls) : null;
  if (struck !== null)
    return {
      ok: false as const,
      reason: `T${struck} would hang beside a tool that it strikes on the way: take one of the two out by hand first.`,
    };
  return answer.ok
    ? { ...answer, window: [to], centre: to, seconds: null, heavyMoved: 0, compared: 0, proven: true }
    : answer;
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
    z.object({ pocket: whole('The pocket', 1, 999), spindle: orEmpty, inPocket: orEmpty }),
    ({ input, asking, event }) => callPocket(asking, { machineId: Number(event.params.id), ...input }),
  ),
};
