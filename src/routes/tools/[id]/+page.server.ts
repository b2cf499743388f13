import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { costPerEdge, stackFacts } from '$core/assembly/stack';
import { registerFromGaugeLength } from '$core/length/schools';
import { MILLISECONDS_PER_MINUTE, numberToKey } from '$core/life/count';
import { RENEWAL_STEPS } from '$core/life/renewal';
import { may } from '$core/people/roles';
import { roundToIncrement } from '$core/units/round-to-increment';
import { assemblyById, flagAssembly, type Assembly } from '$server/assemblies';
import { indexInserts, partsOf, stackOf } from '$server/builds';
import { pool } from '$server/db';
import { ledgerEntries } from '$server/ledger';
import { geometryKinds, machineById, machines, type Machine } from '$server/machines';
import { registersOf } from '$server/registers';
import { openRenewal, startRenewal, takeStep, wearOf, type StepData } from '$server/renewals';
import { act, lengthIn } from '../../action';
import { readMeasured } from '../../measured';
import type { Actions, PageServerLoad } from './$types';

const found = async (id: string | undefined) =>
  id && /^\d{1,9}$/.test(id) ? assemblyById(pool(), Number(id)) : null;

/** What its length would be keyed as on every mill whose spindle takes it, by that machine's school. */
const keyedAs = (assembly: Assembly, every: readonly Machine[]) =>
  every
    .filter((machine) => machine.kind === 'mill' && machine.interface === assembly.interface)
    .map((machine) => ({
      id: machine.id,
      name: machine.name,
      unit: machine.unit,
      school: machine.lengthSchool,
      register: roundToIncrement(
        registerFromGaugeLength(assembly.gaugeLength, {
          school: machine.lengthSchool,
          planeConstant: machine.planeConstant,
          masterLength: machine.masterLength,
        }),
        machine.increment,
      ),
    }));

export const load: PageServerLoad = async ({ params, locals }) => {
  const db = pool();
  const assembly = await found(params.id);
  if (!assembly) error(404, 'There is no such assembly.');
  const [machine, renewal, history] = await Promise.all([
    assembly.machineId === null ? null : machineById(db, assembly.machineId),
    openRenewal(db, assembly.id),
    ledgerEntries(db, { assembly: assembly.id }, 40),
  ]);
  const kinds = machine ? geometryKinds(machine.kind) : [];
  const registers = machine
    ? (await registersOf(db, machine.id)).filter(
        (register) => register.row === assembly.tool && kinds.includes(register.kind),
      )
    : [];
  const parts = await partsOf(db, assembly.id);
  const stack = stackOf(parts, assembly.stickOut);
  const insert = parts.find((part) => part.role === 'insert');
  const cutter = parts.find((part) => part.role === 'cutter');
  const every = await machines(db);
  const { role } = locals.person!;
  return {
    parts,
    stack,
    facts: stack && stackFacts(stack),
    machines: every,
    keyedAs: keyedAs(assembly, every),
    edgeCost: cutter
      ? costPerEdge(
          { cost: cutter.costCents, regrinds: cutter.regrinds },
          insert
            ? {
                cost: insert.costCents === null ? null : insert.costCents * insert.count,
                edges: insert.edges ?? 1,
              }
            : null,
        )
      : null,
    mayBuild: may(role, 'buildTools'),
    assembly,
    machine,
    renewal,
    history,
    registers,
    wear: machine ? await wearOf(db, machine.id, assembly.tool!) : [],
    keyed:
      machine && assembly.basis
        ? numberToKey(
            assembly.basis === 'minutes'
              ? Math.round(assembly.fullLife! / MILLISECONDS_PER_MINUTE)
              : assembly.fullLife!,
            machine.expiry,
          )
        : null,
    mayFlag: may(role, 'flagTools'),
    mayRenew: may(role, 'renewTools'),
  };
};

const flagSchema = z.object({
  flag: z.enum(['broken', 'locked', 'none']),
  why: z.string().max(300).default(''),
});
const stepSchema = z.looseObject({
  step: z.enum(RENEWAL_STEPS),
  what: z.string().max(200).default(''),
  life: z.string().optional(),
  gaugeLength: z.string().optional(),
});

export const actions: Actions = {
  flag: act(flagSchema, ({ input, asking, event }) =>
    flagAssembly(asking, {
      assemblyId: Number(event.params.id),
      flag: input.flag === 'none' ? null : input.flag,
      why: input.why,
    }),
  ),
  index: act(z.object({}), ({ asking, event }) => indexInserts(asking, Number(event.params.id))),
  renew: act(z.object({}), ({ asking, event }) => startRenewal(asking, Number(event.params.id))),
  step: act(stepSchema, async ({ input, asking, event }) => {
    const assembly = await found(event.params.id);
    if (!assembly) return { ok: false, reason: 'There is no such assembly.' };
    const machine = assembly.machineId === null ? null : await machineById(pool(), assembly.machineId);
    const data: StepData = {
      assemblyId: assembly.id,
      step: input.step,
      what: input.what,
      life: null,
      row: assembly.tool,
      values: [],
      gaugeLength: null,
    };
    if (input.step === 'lifeSet' && assembly.basis) {
      const life = Number(input.life);
      if (!Number.isFinite(life)) return { ok: false, reason: 'The life must be a number.' };
      data.life = Math.round(life * (assembly.basis === 'minutes' ? MILLISECONDS_PER_MINUTE : 1));
    }
    if (input.step === 'measured') {
      if (machine) {
        const measured = readMeasured(machine, input);
        if (!measured.ok) return measured;
        data.values = measured.values;
        data.gaugeLength = measured.gaugeLength;
      } else {
        const typed = lengthIn('mm').safeParse(input.gaugeLength);
        if (!typed.success) return { ok: false, reason: typed.error.issues[0]!.message };
        if (typed.data <= 0) return { ok: false, reason: 'A gauge length is above zero.' };
        data.gaugeLength = typed.data;
      }
    }
    return takeStep(asking, data);
  }),
};
