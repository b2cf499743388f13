import { may } from '$core/people/roles';
import { pool } from '$server/db';
import { oneReading } from '$server/one-reading';
import { layoutTask } from '$server/planning';
import { placesOf } from '$server/places';
import { shortLived } from '$server/short-lived';
import { newestPrograms, programsAsked } from '$server/switching';
import type { PageServerLoad } from './$types';

const numbers = (texts: readonly string[]) =>
  texts.map(Number).filter((number) => Number.isInteger(number) && number > 0 && number < 2 ** 31);

export const load: PageServerLoad = async ({ parent, locals, url }) => {
  const { machine } = await parent();
  const db = oneReading(pool());
  const chosen = await programsAsked(db, machine.id, url.searchParams);
  const locked = numbers((url.searchParams.get('stay') ?? '').split(/[\s,]+/));
  const short = await shortLived(db, machine, chosen);
  // only what is proposed now: somebody may have loaded it meanwhile
  const beside = url.searchParams.getAll('with');
  const sisters = short.flatMap(({ sister }) =>
    sister && beside.includes(String(sister.id)) ? [{ assemblyId: sister.id, tool: sister.tool }] : [],
  );
  return {
    short,
    beside: sisters.map(({ assemblyId }) => assemblyId),
    programs: await newestPrograms(db, machine.id),
    places: await placesOf(db, machine.id),
    chosen,
    // nobody has chosen yet: the open jobs are worked out at once
    begin: !url.searchParams.has('program') && !url.searchParams.has('ticked'),
    locked,
    task: chosen.length > 0 ? await layoutTask(db, machine, chosen, locked, sisters) : null,
    mayPlan: may(locals.person!.role, 'placeTools'),
  };
};
