import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { assemblyById } from '$server/assemblies';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { calibrateProbe, calibrationsOf, turnedOf } from '$server/oriented';
import { actOn, lengthIn, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

/** A probe with the machine that it stands in; null where it stands in none. */
async function probeOf(text: string) {
  const probe = /^\d{1,9}$/.test(text) ? await assemblyById(pool(), Number(text)) : null;
  if (!probe || probe.kind !== 'probe') return null;
  const machine = probe.machineId === null ? null : await machineById(pool(), probe.machineId);
  return { probe, machine };
}

export const load: PageServerLoad = async ({ params, locals }) => {
  const found = await probeOf(params.id);
  if (!found) error(404, 'There is no such probe.');
  const { probe, machine } = found;
  return {
    probe: { id: probe.id, number: probe.number, name: probe.name, tool: probe.tool },
    machine: machine && { id: machine.id, name: machine.name, unit: machine.unit },
    stand: machine ? ((await turnedOf(pool(), machine.id)).get(probe.tool!)?.probe ?? null) : null,
    calibrations: await calibrationsOf(pool(), probe.id),
    mayCalibrate: may(locals.person!.role, 'measureTools'),
  };
};

export const actions: Actions = {
  calibrate: actOn(
    async (event) => {
      const found = await probeOf(event.params.id!);
      return found?.machine ? { probe: found.probe, machine: found.machine } : null;
    },
    'It stands in no machine now.',
    ({ machine }) =>
      z.object({
        x: lengthIn(machine.unit),
        y: lengthIn(machine.unit),
        mark: words('Where its mark points', 80),
      }),
    ({ input, asking, on }) =>
      calibrateProbe(asking, { machineId: on.machine.id, assemblyId: on.probe.id, ...input }),
  ),
};
