import { z } from 'zod';
import { COMPONENT_KIND_NAMES, kindFacts, type Component, type ComponentKind } from '$core/component/kinds';
import { cutterMisses, givesCorner } from '$core/definition/cutter-misses';
import { definitionWords } from '$core/definition/read-definition';
import { holdersFor } from '$core/holding/fits';
import { adapterKindsOf, offersFor, takesTwo, type Shelf } from '$core/holding/offers';
import { formatWithUnit } from '$core/units/format-length';
import { may } from '$core/people/roles';
import { buildAssembly } from '$server/builds';
import { componentById, componentsOfKinds, findComponents, type StockedComponent } from '$server/components';
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
  const offers =
    cutter &&
    offersFor(
      { cutter, holder, extension, second, end: machine?.interface ?? null },
      await shelfFor(db, holder),
    );
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
    cutters: cutter ? [] : await offerCutters(db, search, definition),
    offers: offers && {
      ...offers,
      inserts: offers.inserts.map((component) => ({
        component,
        refusal:
          definition && !givesCorner(definition.definition.cornerRadius, cutter, component)
            ? cornerWords(definition)
            : null,
      })),
    },
    adapter: (await asked('adapter')) ?? (offers?.adapter ? await componentById(db, offers.adapter) : null),
    insert: await asked('insert'),
    secondInsert: await asked('second_insert'),
    knob: await asked('knob'),
    mayOverride: may(locals.person!.role, 'overrideBuilds'),
  };
};

const cornerWords = ({ definition, machine }: NonNullable<Awaited<ReturnType<typeof definitionOf>>>) =>
  `Not what is asked for: a corner of ${formatWithUnit(definition.cornerRadius!, machine.unit)}.`;

/** What lies on the shelves and might go with a holder. */
async function shelfFor(db: Db, holder: Component | null): Promise<Shelf<StockedComponent>> {
  const of = (kinds: readonly ComponentKind[]) => (kinds.length > 0 ? componentsOfKinds(db, kinds) : []);
  const [holders, adapters, extensions, nuts, seconds, inserts, knobs] = await Promise.all([
    of(HOLDERS),
    of(adapterKindsOf(holder?.kind)),
    of(['extension']),
    of(holder?.kind === 'colletChuck' ? ['nut'] : []),
    of(takesTwo(holder?.kind) ? CUTTERS : []),
    of(['insert']),
    of(['knob']),
  ]);
  return { holders, adapters, extensions, nuts, seconds, inserts, knobs };
}

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
      second_insert: orEmpty,
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
            second_insert: input.second_insert,
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
