import { z } from 'zod';
import { COMPONENT_KIND_NAMES, kindFacts } from '$core/component/kinds';
import { cutterMisses } from '$core/definition/cutter-misses';
import { definitionWords } from '$core/definition/read-definition';
import {
  adapterRefusal,
  extensionRefusal,
  holderRefusal,
  holdersFor,
  nutRefusal,
  secondRefusal,
} from '$core/holding/fits';
import { formatWithUnit } from '$core/units/format-length';
import { chooseCollet } from '$core/holding/collet';
import { may } from '$core/people/roles';
import { buildAssembly } from '$server/builds';
import { componentById, componentsOfKinds, findComponents } from '$server/components';
import { pool, type Db } from '$server/db';
import type { Length } from '$core/units/length';
import { definitionOf } from '$server/definitions';
import { machines } from '$server/machines';
import { freeNumber } from '$server/records';
import { lacking } from '$server/today';
import { act, id, lengthIn, orEmpty, words } from '../../action';
import type { Actions, PageServerLoad } from './$types';

const CUTTERS = COMPONENT_KIND_NAMES.filter(
  (kind) => kindFacts(kind).group === 'cutter' && holdersFor(kind).length > 0,
);
const HOLDERS = COMPONENT_KIND_NAMES.filter((kind) => kindFacts(kind).group === 'holder');

export const load: PageServerLoad = async ({ url, locals }) => {
  const db = pool();
  const numbered = (name: string) => {
    const value = Number(url.searchParams.get(name));
    return Number.isInteger(value) && value > 0 && value < 2 ** 31 ? value : null;
  };
  const asked = async (name: string) => {
    const value = numbered(name);
    return value === null ? null : componentById(db, value);
  };
  const definition = await definitionOf(db, numbered('program') ?? 0, numbered('tool') ?? 0);
  const search = (url.searchParams.get('words') ?? '').slice(0, 80);
  const [cutter, holder, extension, second, nut, every] = await Promise.all([
    asked('cutter'),
    asked('holder'),
    asked('extension'),
    asked('second'),
    asked('nut'),
    machines(db),
  ]);
  const machine = every.find((each) => String(each.id) === url.searchParams.get('machine')) ?? null;
  const lathe = holder?.kind === 'turningHolderDouble';
  const [cutters, holders, adapters, inserts, knobs, extensions, nuts, seconds] = await Promise.all([
    cutter ? [] : offerCutters(db, search, definition),
    cutter ? componentsOfKinds(db, HOLDERS) : [],
    holder?.kind === 'colletChuck'
      ? componentsOfKinds(db, ['collet'])
      : holder?.kind === 'hydraulic'
        ? componentsOfKinds(db, ['sleeve'])
        : [],
    cutter ? componentsOfKinds(db, ['insert']) : [],
    cutter ? componentsOfKinds(db, ['knob']) : [],
    cutter ? componentsOfKinds(db, ['extension']) : [],
    holder?.kind === 'colletChuck' ? componentsOfKinds(db, ['nut']) : [],
    lathe ? componentsOfKinds(db, CUTTERS) : [],
  ]);
  const gripped = extension ?? cutter;
  const offered =
    cutter && holder
      ? adapters
          .map((component) => ({
            component,
            refusal: adapterRefusal(gripped!, holder, component)?.reason ?? null,
          }))
          .filter(({ component, refusal }) => refusal === null || component.series === holder.series)
      : [];
  const gripping = offered
    .filter((each) => each.refusal === null)
    .map(({ component }) => ({ id: component.id, nominal: component.dimensions.DCONWS ?? 0 }));
  const best = gripped ? chooseCollet(gripped.dimensions.DCONMS ?? 0, gripping) : null;
  const needsAdapter = cutter && holder ? adapterRefusal(gripped!, holder, null) !== null : false;
  return {
    free: cutter && holder ? await freeNumber(db, 'assemblies') : null,
    search,
    wanted: cutter || definition ? [] : await wantedTools(db),
    asks: definition && {
      words: definitionWords(definition.definition, (value) =>
        formatWithUnit(value, definition.machine.unit),
      ),
      program: definition.program.number,
      programId: definition.program.id,
      tool: definition.tool,
      reach: definition.definition.reach,
    },
    cutter,
    holder,
    extension,
    second,
    nut,
    machine,
    machines: every,
    cutters,
    holders: cutter
      ? holders
          .filter((each) => machine === null || each.interface === machine.interface)
          .map((component) => ({
            component,
            refusal: holderRefusal(cutter, component, extension)?.reason ?? null,
          }))
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
    nuts: holder ? nuts.filter((each) => nutRefusal(holder, each) === null) : [],
    seconds: holder ? seconds.filter((each) => secondRefusal(holder, each) === null) : [],
    extensions:
      holder && cutter && !holder.kind.startsWith('turning')
        ? extensions
            .map((component) => ({
              component,
              refusal:
                (extensionRefusal(cutter, component) ?? holderRefusal(cutter, holder, component))?.reason ??
                null,
            }))
            .sort((a, b) => Number(a.refusal !== null) - Number(b.refusal !== null))
        : [],
    mayOverride: may(locals.person!.role, 'overrideBuilds'),
  };
};

/** What the next jobs ask for and have not, T by T, in the words of the program. */
async function wantedTools(db: Db) {
  const found = [];
  for (const { machine, programId, program, tools } of await lacking(db))
    for (const tool of tools) {
      const asked = await definitionOf(db, programId, tool);
      found.push({
        machine,
        programId,
        program,
        tool,
        machineId: asked?.machine.id ?? null,
        words: asked
          ? definitionWords(asked.definition, (value) => formatWithUnit(value, asked.machine.unit))
          : null,
      });
    }
  return found;
}

/** Cutters by words; for what a program asks for, those that could become it first, the others of its kind with their reason. */
async function offerCutters(db: Db, search: string, asked: Awaited<ReturnType<typeof definitionOf>>) {
  if (!asked)
    return (await findComponents(db, search, CUTTERS, 60)).map((component) => ({ component, refusal: null }));
  const kinds = CUTTERS.filter((kind) => kindFacts(kind).makes === asked.definition.kind);
  const show = (value: Length) => formatWithUnit(value, asked.machine.unit);
  return (await findComponents(db, search, kinds, 2000))
    .map((component) => ({ component, misses: cutterMisses(asked.definition, component, show) }))
    .sort((a, b) => a.misses.length - b.misses.length || b.component.stock - a.component.stock)
    .slice(0, 60)
    .map(({ component, misses }) => ({
      component,
      refusal: misses.length > 0 ? `Not what is asked for: ${misses.join('; ')}.` : null,
    }));
}

export const actions: Actions = {
  build: act(
    z.object({
      number: z
        .string()
        .trim()
        .regex(/^[A-Za-z0-9.-]{1,20}$/, 'A number has up to 20 letters, digits, points and dashes.'),
      name: words('The name', 80),
      cutter: id,
      holder: id,
      extension: orEmpty,
      nut: orEmpty,
      second: orEmpty,
      adapter: orEmpty,
      insert: orEmpty,
      knob: orEmpty,
      machine: orEmpty,
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
            nut: input.nut,
            second: input.second,
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
