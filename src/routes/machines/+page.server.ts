import { glanceOf } from '$core/changer/glance';
import { may } from '$core/people/roles';
import type { ForecastTool } from '$core/shift/leaf';
import { mostUrgent } from '$core/shift/run-out';
import { cellNow } from '$server/clock';
import { statesOf } from '$server/agents/states';
import { cellOf } from '$server/cell';
import { differingControls } from '$server/control-differing';
import { pool } from '$server/db';
import { forecast } from '$server/forecast';
import { machinesAtAGlance, shapeOf } from '$server/machines';
import { oneReading } from '$server/one-reading';
import { shared } from '$server/shared';
import { placesOf } from '$server/places';
import type { PageServerLoad } from './$types';

/** The tool that runs out next; those that have run out are told elsewhere. */
const nextOut = (tools: readonly ForecastTool[]) => {
  const next = tools.filter(({ at, flag }) => at !== null && flag === null).sort(mostUrgent)[0];
  return next ? { tool: next.tool, at: next.at } : null;
};

const machinesNow = shared(
  () => 'machines',
  async () => {
    const now = cellNow();
    const db = oneReading(pool());
    const [glances, states, differing, ahead] = await Promise.all([
      machinesAtAGlance(),
      statesOf(db),
      differingControls(db),
      cellOf(db).then((cell) => forecast(db, cell, now)),
    ]);
    return {
      now,
      machines: await Promise.all(
        glances.map(async (machine) => ({
          id: machine.id,
          name: machine.name,
          unit: machine.unit,
          changerKind: machine.changerKind,
          places: machine.places,
          job: machine.job,
          loaded: machine.loaded,
          flagged: machine.flagged,
          glance: glanceOf(shapeOf(machine), await placesOf(db, machine.id), machine.loadingPlaces),
          differing: differing.find(({ machineId }) => machineId === machine.id)?.differing ?? 0,
          heard: states.find(({ machineId }) => machineId === machine.id) ?? null,
          next: nextOut(ahead.find(({ machineId }) => machineId === machine.id)?.runsOut ?? []),
        })),
      ),
    };
  },
);

export const load: PageServerLoad = async ({ locals }) => ({
  ...(await machinesNow()),
  mayAdd: may(locals.person!.role, 'bringInMachines'),
});
