import { mostUrgent } from '$core/shift/run-out';
import { cellNow } from '$server/clock';
import { assembliesByNumber } from '$server/assemblies';
import { kitFor } from '$server/builds';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { forecast } from '$server/forecast';
import { numbersAsked } from '../numbers-asked';
import type { PageServerLoad } from './$types';

const DAY = 86_400_000;

/** Tools that run out within a day with no sister on the rack: what another of each takes is worth gathering. */
async function runningOut(now: Date) {
  const ahead = await forecast(pool(), await cellOf(pool()), now);
  return ahead
    .flatMap((each) => each.runsOut.map((tool) => ({ machine: each.machine, ...tool })))
    .filter((tool) => tool.sister === null && (tool.at === null || tool.at.getTime() < now.getTime() + DAY))
    .sort(mostUrgent)
    .map(({ number, machine, tool, name }) => ({ number, machine, tool, name }));
}

export const load: PageServerLoad = async ({ url }) => {
  const db = pool();
  const typed = numbersAsked(url);
  const soon = url.searchParams.has('numbers') ? [] : await runningOut(cellNow());
  const asked = typed.length > 0 ? typed : soon.map((tool) => tool.number);
  const found = await assembliesByNumber(db, asked);
  return {
    asked: asked.join(' '),
    soon,
    missing: asked.filter((number) => !found.some((each) => each.number === number)),
    lines: await kitFor(
      db,
      found.map((each) => each.id),
    ),
  };
};
