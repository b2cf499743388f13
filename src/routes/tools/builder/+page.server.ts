import { z } from 'zod';
import { COMPONENT_KIND_NAMES, kindFacts } from '$core/component/kinds';
import { adapterRefusal, holderRefusal, holdersFor } from '$core/holding/fits';
import { chooseCollet } from '$core/holding/collet';
import { may } from '$core/people/roles';
import { buildAssembly } from '$server/builds';
import { componentById, componentsOfKinds, findComponents } from '$server/components';
import { pool } from '$server/db';
import { machines } from '$server/machines';
import { act, id, lengthIn, words } from '../../action';
import type { Actions, PageServerLoad } from './$types';

const CUTTERS = COMPONENT_KIND_NAMES.filter(
  (kind) => kindFacts(kind).group === 'cutter' && holdersFor(kind).length > 0,
);
const HOLDERS = COMPONENT_KIND_NAMES.filter((kind) => kindFacts(kind).group === 'holder');

export const load: PageServerLoad = async ({ url, locals }) => {
  const db = pool();
  const asked = async (name: string) => {
    const value = Number(url.searchParams.get(name));
    return Number.isInteger(value) && value > 0 && value < 2 ** 31 ? componentById(db, value) : null;
  };
  const search = (url.searchParams.get('words') ?? '').slice(0, 80);
  const [cutter, holder, extension, every] = await Promise.all([
    asked('cutter'),
    asked('holder'),
    asked('extension'),
    machines(db),
  ]);
  const machine = every.find((each) => String(each.id) === url.searchParams.get('machine')) ?? null;
  const [cutters, holders, adapters, inserts, knobs, extensions] = await Promise.all([
    cutter ? [] : findComponents(db, search, CUTTERS, 60),
    cutter ? componentsOfKinds(db, HOLDERS) : [],
    holder ? componentsOfKinds(db, holder.kind === 'colletChuck' ? ['collet'] : ['sleeve']) : [],
    cutter ? componentsOfKinds(db, ['insert']) : [],
    cutter ? componentsOfKinds(db, ['knob']) : [],
    cutter ? componentsOfKinds(db, ['extension']) : [],
  ]);
  const offered =
    cutter && holder
      ? adapters
          .map((component) => ({
            component,
            refusal: adapterRefusal(cutter, holder, component)?.reason ?? null,
          }))
          .filter(({ component, refusal }) => refusal === null || component.series === holder.series)
      : [];
  const gripping = offered
    .filter((each) => each.refusal === null)
    .map(({ component }) => ({ id: component.id, nominal: component.dimensions.DCONWS ?? 0 }));
  const best = cutter ? chooseCollet(cutter.dimensions.DCONMS ?? 0, gripping) : null;
  const needsAdapter = cutter && holder ? adapterRefusal(cutter, holder, null) !== null : false;
  return {
    search,
    cutter,
    holder,
    extension,
    machine,
    machines: every,
    cutters,
    holders: cutter
      ? holders
          .filter((each) => machine === null || each.interface === machine.interface)
          .map((component) => ({ component, refusal: holderRefusal(cutter, component)?.reason ?? null }))
          .sort((a, b) => Number(a.refusal !== null) - Number(b.refusal !== null))
      : [],
    adapters: offered,
    adapter: (await asked('adapter')) ?? (needsAdapter && best ? await componentById(db, best.id) : null),
    inserts:
      cutter?.series && ['faceMill', 'shellMill', 'boringBar'].includes(cutter.kind)
        ? inserts.filter((each) =>
            each.series.replace(/\s/g, '').startsWith(cutter.series.replace(/\s/g, '')),
          )
        : [],
    insert: await asked('insert'),
    knobs: holder ? knobs.filter((each) => each.interface === holder.interface) : [],
    knob: await asked('knob'),
    extensions: holder
      ? extensions.filter((each) => (each.dimensions.DCONMS ?? 0) <= (holder.dimensions.DCONWS ?? 0))
      : [],
    mayOverride: may(locals.person!.role, 'overrideBuilds'),
  };
};

const optional = z.union([z.literal('').transform(() => null), id]).default(null);

export const actions: Actions = {
  build: act(
    z.object({
      number: z
        .string()
        .trim()
        .regex(/^[A-Za-z0-9.-]{1,20}$/, 'A number has letters, digits, points and dashes, up to 20.'),
      name: words('The name', 80),
      cutter: id,
      holder: id,
      extension: optional,
      adapter: optional,
      insert: optional,
      knob: optional,
      machine: optional,
      stickOut: lengthIn('mm'),
      override: z.string().max(300).default(''),
    }),
    ({ input, asking, person }) =>
      buildAssembly(
        asking,
        {
          number: input.number,
          name: input.name,
          parts: {
            cutter: input.cutter,
            holder: input.holder,
            extension: input.extension,
            adapter: input.adapter,
            insert: input.insert,
            knob: input.knob,
          },
          stickOut: input.stickOut,
          machineId: input.machine,
          override: input.override,
        },
        may(person.role, 'overrideBuilds'),
      ),
  ),
};
