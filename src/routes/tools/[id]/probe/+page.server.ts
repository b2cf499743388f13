import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$core/people/roles';
import { assemblyById } from '$server/assemblies';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { calibrateProbe, calibrationsOf, seeMark, turnedOf } from '$server/oriented';
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
    mayLook: may(locals.person!.role, 'placeTools'),
    mayCalibrate: may(locals.person!.role, 'measureTools'),
  };
};

const NOWHERE = 'It stands in no machine now.';
async function standing(text: string) {
  const found = await probeOf(text);
  return found?.machine ? { probe: found.probe, machine: found.machine } : null;
}

export const actions: Actions = {
  mark: actOn(
    (event) => standing(event.params.id!),
    NOWHERE,
    () => z.object({}),
    ({ asking, on }) => seeMark(asking, { machineId: on.machine.id, assemblyId: on.probe.id }),
  ),
  calibrate: actOn(
    (event) => standing(event.params.id!),
    NOWHERE,
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
