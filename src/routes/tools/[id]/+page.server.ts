import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { nanometres, type Length, type LengthUnit } from '$core/units/length';
import { stackFacts } from '$core/assembly/stack';
import { referenceOf, registerFromGaugeLength } from '$core/length/schools';
import { countsWhole, LIFE_BASES, numberToKey, PER_SHOWN, type LifeBasis } from '$core/life/count';
import { EDGE_ENDS, WEAR_SIGNS, type EdgeEnd, type WearSign } from '$core/life/edge-lives';
import { RENEWAL_STEPS } from '$core/life/renewal';
import { may } from '$core/people/roles';
import { roundToIncrement } from '$core/units/round-to-increment';
import { assemblyById, type Assembly } from '$server/assemblies';
import { edgeCostOf, indexInserts, partsOf, stackOf } from '$server/builds';
import { makingNow } from '$server/made-now';
import { flagAssembly } from '$server/flags';
import { groupsOf } from '$server/groups';
import { pool } from '$server/db';
import { setLifeLimit, stopCounting, watchedOf } from '$server/lives';
import { ledgerEntries } from '$server/ledger';
import { past } from '$server/replica';
import { geometryKinds, machineById, machines, type Machine } from '$server/machines';
import { registersOf } from '$server/registers';
import { dropRenewal } from '$server/renewal-dropped';
import { openRenewal, otherGeometry, startRenewal, takeStep, wearOf, type StepData } from '$server/renewals';
import { act, actOn, lengthIn, madeUntilNow, ticked, words } from '../../action';
import { measuredOn } from '../../measured';
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
        registerFromGaugeLength(assembly.gaugeLength, referenceOf(machine)),
        machine.increment,
      ),
    }));

/** Entries of a tool that stand on its page; what each count used up of it is left to the ledger. */
const HISTORY = 40;

export const load: PageServerLoad = async ({ params, locals }) => {
  const db = pool();
  const assembly = await found(params.id);
  if (!assembly) error(404, 'There is no such assembly.');
  const [machine, renewal, history] = await Promise.all([
    assembly.machineId === null ? null : machineById(db, assembly.machineId),
    openRenewal(db, assembly.id),
    past(locals.told, (replica) =>
      ledgerEntries(replica, { assembly: assembly.id, told: 'thing' }, HISTORY + 1),
    ),
  ]);
  const kinds = machine ? geometryKinds(machine.kind) : [];
  const making = renewal && machine ? await makingNow(db, machine) : null;
  const registers = machine
    ? (await registersOf(db, machine.id)).filter(
        (register) => register.row === assembly.tool && kinds.includes(register.kind),
      )
    : [];
  const parts = await partsOf(db, assembly.id);
  const stack = stackOf(parts, assembly.stickOut);
  const every = await machines(db);
  const { role } = locals.person!;
  return {
    parts,
    stack,
    facts: stack && stackFacts(stack),
    machines: every,
    keyedAs: keyedAs(assembly, every),
    edgeCost: edgeCostOf(parts),
    mayBuild: may(role, 'buildTools'),
    mayWrite: may(role, 'bringInTools'),
    assembly,
    machine,
    renewal,
    history: history.slice(0, HISTORY),
    older: history.length > HISTORY,
    mayLookLedger: may(locals.person!.role, 'lookLedger'),
    registers,
    wear: machine ? await wearOf(db, machine.id, assembly.tool!) : [],
    others: machine ? await otherGeometry(db, machine.id, assembly.tool!) : [],
    keyed:
      machine && assembly.basis
        ? numberToKey(
            countsWhole(assembly.basis) || assembly.basis === 'minutes'
              ? Math.round(assembly.fullLife! / PER_SHOWN[assembly.basis])
              : assembly.fullLife! / PER_SHOWN[assembly.basis],
            machine.expiry,
            assembly.basis,
          )
        : null,
    group: machine
      ? ((await groupsOf(db, machine.id)).find(({ members }) =>
          members.some((each) => each.tool === assembly.tool),
        )?.number ?? null)
      : null,
    ...(await watchedOf(db, assembly)),
    making: making?.tools.includes(assembly.tool!) ? making : null,
    mayLife: may(role, 'setLives'),
    mayFlag: may(role, 'flagTools'),
    mayRenew: may(role, 'renewTools'),
  };
};

const flagSchema = z.object({
  flag: z.enum(['broken', 'locked', 'none']),
  why: z.string().max(300).default(''),
});
const what = z.string().max(200).default('');
const end = z.enum(EDGE_ENDS).default('unknown');
const sign = z.union([z.literal('').transform(() => null), z.enum(WEAR_SIGNS)]).default(null);
const flank = z
  .union([
    z.literal('').transform(() => null),
    lengthIn('mm').refine(
      (value) => value > 0 && value < 5_000_000,
      'Flank wear is above zero and below 5 mm.',
    ),
  ])
  .default(null);
/** How the old edge ended, as it is asked wherever one gives way to another. */
const edgeEnd = { end, sign, flank };
const withEnd = <T extends { end: EdgeEnd; sign: WearSign | null; flank: Length | null }>({
  end: how,
  sign: by,
  flank: wide,
  ...rest
}: T) => ({ ...rest, ended: { end: how, sign: how === 'worn' ? by : null, flank: wide } });
/** A life as it is typed: minutes or millimetres with decimals, or whole uses. */
const lifeOf = (basis: LifeBasis) =>
  z.coerce
    .number({ error: 'The life must be a number.' })
    .transform((life) => Math.round(life * PER_SHOWN[basis]));
/** A tool on the bench has no row: only its length is measured. */
const measuredLoose = z.object({
  gaugeLength: lengthIn('mm').refine((value) => value > 0, 'A gauge length must be above zero.'),
});
/** Lengths typed for registers, in fields called `other.12` or `shown.12`. */
const typedFor = (form: Readonly<Record<string, unknown>>, name: 'other' | 'shown', unit: LengthUnit) =>
  z
    .object(
      Object.fromEntries(
        Object.keys(form)
          .filter((field) => new RegExp(`^${name}\\.\\d{1,9}$`).test(field))
          .map((field) => [field, lengthIn(unit)]),
      ),
    )
    .transform((typed) =>
      Object.entries(typed).map(([field, value]) => ({ registerId: Number(field.split('.')[1]), value })),
    );
/** What a step of a renewal asks for, read by the assembly and its machine. */
function stepSchema(
  on: { assembly: Assembly; machine: Machine | null },
  form: Readonly<Record<string, unknown>>,
): z.ZodType<Partial<StepData> & Pick<StepData, 'step' | 'what'>> {
  const { step } = form;
  const named = z.object({ step: z.enum(RENEWAL_STEPS), what });
  if (step === 'changed')
    return named.extend({ ...edgeEnd, ...madeUntilNow, index: ticked }).transform(withEnd);
  if (step === 'lifeSet' && on.assembly.basis) return named.extend({ life: lifeOf(on.assembly.basis) });
  if (step === 'measured' && on.machine)
    return named.and(measuredOn(on.machine)).and(
      typedFor(form, 'other', on.machine.unit).transform((others) => ({
        others: others.map((each) => ({
          ...each,
          before: nanometres(Number(form[`before.${each.registerId}`] ?? 0)),
        })),
      })),
    );
  if (step === 'measured') return named.and(measuredLoose);
  if (step === 'wearZeroed' && on.machine)
    return named.and(typedFor(form, 'shown', on.machine.unit).transform((shown) => ({ shown })));
  return named;
}

/** What of the corrections counts: those of a kind of register, those of a size, or of the row that moves most. */
const watchedBy = (text: string) => {
  const [what, value] = text.split(':');
  return { kind: what === 'kind' ? value! : null, featureId: what === 'feature' ? Number(value) : null };
};

export const actions: Actions = {
  flag: act(flagSchema, ({ input, asking, event }) =>
    flagAssembly(asking, {
      assemblyId: Number(event.params.id),
      flag: input.flag === 'none' ? null : input.flag,
      why: input.why,
    }),
  ),
  life: act(
    z
      .object({
        basis: z.enum(LIFE_BASES),
        limit: z.coerce
          .number({ error: 'The limit must be a number.' })
          .positive('The limit must be above zero.'),
        left: z.union([
          z.literal('').transform(() => null),
          z.coerce
            .number({ error: 'What is left must be a number.' })
            .min(0, 'What is left cannot be below zero.'),
        ]),
        watched: z
          .string()
          .regex(/^(|kind:[A-Za-z]{1,20}|feature:\d{1,9})$/)
          .default(''),
        why: z.string().max(300).default(''),
      })
      .transform(({ basis, limit, left, watched, why }) => {
        const counted = (value: number) => Math.round(value * PER_SHOWN[basis]);
        return {
          basis,
          fullLife: counted(limit),
          left: left === null ? null : counted(left),
          watched: watchedBy(watched),
          why,
        };
      }),
    ({ input, asking, event }) => setLifeLimit(asking, { assemblyId: Number(event.params.id), ...input }),
  ),
  uncount: act(z.object({ why: words('Why', 300) }), ({ input, asking, event }) =>
    stopCounting(asking, { assemblyId: Number(event.params.id), why: input.why }),
  ),
  index: act(z.object(edgeEnd).transform(withEnd), ({ input, asking, event }) =>
    indexInserts(asking, Number(event.params.id), input.ended),
  ),
  renew: act(z.object({}), ({ asking, event }) => startRenewal(asking, Number(event.params.id))),
  dropRenewal: act(z.object({ why: words('Why it is dropped', 200) }), ({ input, asking, event }) =>
    dropRenewal(asking, { assemblyId: Number(event.params.id), ...input }),
  ),
  step: actOn(
    async (event) => {
      const assembly = await found(event.params.id);
      const machine = assembly?.machineId ? await machineById(pool(), assembly.machineId) : null;
      return assembly && { assembly, machine };
    },
    'There is no such assembly.',
    (on, form) => stepSchema(on, form),
    ({ input, asking, on }) =>
      takeStep(asking, {
        assemblyId: on.assembly.id,
        row: on.assembly.tool,
        life: null,
        values: [],
        gaugeLength: null,
        others: [],
        shown: [],
        ...input,
      }),
  ),
};
