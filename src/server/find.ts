import { ASSEMBLY_WORDS } from '../core/assembly/silhouette.ts';
import { isNumber, readCode, type Code } from '../core/scan/code.ts';
import { assembliesByNumber, findAssemblies } from './assemblies.ts';
import { componentsByNumber, findComponents } from './components.ts';
import { pool, row } from './db.ts';
import { machineById, machines } from './machines.ts';
import { placesOf } from './places.ts';
import { programs } from './programs.ts';

interface Hit {
  href: string;
  title: string;
  detail: string;
  group: string;
}

const PAGES: Hit[] = [
  { href: '/leaf', title: 'This shift’s leaf', detail: 'g l', group: 'Pages' },
  { href: '/connections', title: 'Other systems', detail: 'tokens, webhooks', group: 'Pages' },
  { href: '/leaf/end', title: 'End of shift', detail: 'how the machines are left', group: 'Pages' },
  { href: '/since', title: 'Since you left', detail: 'what happened meanwhile', group: 'Pages' },
  { href: '/today', title: 'Work now', detail: 'g w, what to build, load, measure', group: 'Pages' },
  { href: '/board', title: 'Board', detail: 'next jobs, ready or what is missing', group: 'Pages' },
  { href: '/ahead', title: 'Ahead', detail: 'edges, kits, what runs low', group: 'Pages' },
  { href: '/cell', title: 'Cell and shifts', detail: 'calendar, holidays', group: 'Pages' },
  { href: '/machines/new', title: 'Add a machine', detail: 'new', group: 'Pages' },
  { href: '/machines', title: 'Machines', detail: 'g m', group: 'Pages' },
  { href: '/programs', title: 'Programs', detail: 'g p', group: 'Pages' },
  { href: '/corrections', title: 'Corrections', detail: 'g c', group: 'Pages' },
  { href: '/tools', title: 'Tools', detail: 'g t', group: 'Pages' },
  { href: '/presetter', title: 'Presetter', detail: 'measure tools', group: 'Pages' },
  { href: '/crib', title: 'Crib', detail: 'g i', group: 'Pages' },
  { href: '/tools/builder', title: 'Build an assembly', detail: 'builder', group: 'Pages' },
  {
    href: '/tools/labels',
    title: 'Labels',
    detail: 'tools, components, pockets, orders, badges',
    group: 'Pages',
  },
  {
    href: '/machines/across',
    title: 'T across machines',
    detail: 'the same T, different tools',
    group: 'Pages',
  },
  {
    href: '/machines/families',
    title: 'Families',
    detail: 'one program on several machines: where they part',
    group: 'Pages',
  },
  { href: '/ledger', title: 'Ledger', detail: 'g e', group: 'Pages' },
];

export interface Found {
  hits: Hit[];
  /** The one that was meant exactly; null: none. */
  exact: string | null;
  /** That a number or a code is not on record; null: nothing has to be said. */
  said: string | null;
}

/** Whatever goes by these words: a scanned code or number, a T number, a component, a program, a machine, a page. */
export async function findAnything(words: string): Promise<Found> {
  const code = readCode(words);
  if (code) return foundBy(code);
  const db = pool();
  const [tools, components, allMachines, allPrograms] = await Promise.all([
    findAssemblies(db, words, words.trim() === '' ? 0 : 12),
    words.trim() === '' ? [] : findComponents(db, words, [], 12),
    machines(db),
    programs(db),
  ]);
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (hit: Hit) =>
    wanted.every((word) => `${hit.title} ${hit.detail}`.toLowerCase().includes(word));
  const found: Hit[] = [
    ...tools.map((tool) => ({
      href: `/tools/${tool.id}`,
      title: `${tool.number} ${tool.name}`,
      detail: tool.machine ? `${tool.machine} T${tool.tool}` : ASSEMBLY_WORDS[tool.kind],
      group: 'Tools',
    })),
    ...components.map(componentHit),
    ...allMachines
      .flatMap((machine) => [
        { href: `/machines/${machine.id}`, title: machine.name, detail: 'magazine', group: 'Machines' },
        {
          href: `/machines/${machine.id}/now?do=measure`,
          title: `${machine.name}: type a reading`,
          detail: 'measure',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/now`,
          title: `${machine.name}: record parts`,
          detail: 'run',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/numbers`,
          title: `${machine.name}: offset rows`,
          detail: 'registers',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/control`,
          title: `${machine.name}: what its control holds`,
          detail: 'table, differences, back up',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/counters`,
          title: `${machine.name}: life counters, record and control`,
          detail: 'counters',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/checks`,
          title: `${machine.name}: checks for breakage`,
          detail: 'broken tools',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/net`,
          title: `${machine.name}: check after each tool change`,
          detail: 'net, length not set',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/groups`,
          title: `${machine.name}: groups of sisters`,
          detail: 'life card',
          group: 'Machines',
        },
        {
          href: `/machines/${machine.id}/night`,
          title: `${machine.name}: will the night last`,
          detail: 'pallets',
          group: 'Machines',
        },
      ])
      .filter(fits),
    ...allPrograms
      .filter((program) => program.newest)
      .map((program) => ({
        href: `/programs/${program.id}`,
        title: `${program.number} ${program.title}`,
        detail: program.machine,
        group: 'Programs',
      }))
      .filter(fits),
    ...PAGES.filter(fits),
  ];
  const asked = words.trim().toLowerCase();
  const exact =
    [
      ...tools.map(({ id, number }) => [`/tools/${id}`, number] as const),
      ...components.map((each) => [componentHit(each).href, each.number] as const),
      ...allPrograms
        .filter(({ newest }) => newest)
        .map(({ id, number }) => [`/programs/${id}`, number] as const),
      ...allMachines.map(({ id, name }) => [`/machines/${id}`, name] as const),
    ].find(([, number]) => number.toLowerCase() === asked)?.[0] ?? null;
  return {
    hits: found.sort((a, b) => Number(b.href === exact) - Number(a.href === exact)).slice(0, 30),
    exact,
    // a number is exact or it is none: the nearest one is another piece
    said:
      exact === null && isNumber(words)
        ? `Nothing is on record as ${words.trim()}.${found.length > 0 ? ' These come near:' : ''}`
        : null,
  };
}

const componentHit = ({ id, number, name }: { id: number; number: string; name: string }): Hit => ({
  href: `/crib?item=${id}`,
  title: `${number} ${name}`,
  detail: 'component',
  group: 'Components',
});

/** What a code of ours stands for, and nothing else. */
async function foundBy({ kind, value }: Code): Promise<Found> {
  const db = pool();
  const one = (hit: Hit | null, what: string): Found => ({
    hits: hit ? [hit] : [],
    exact: hit?.href ?? null,
    said: hit ? null : `${what} ${value} is not on record.`,
  });
  switch (kind) {
    case 'tool': {
      const [tool] = await assembliesByNumber(db, [value]);
      return one(
        tool
          ? {
              href: `/tools/${tool.id}`,
              title: `${tool.number} ${tool.name}`,
              detail: ASSEMBLY_WORDS[tool.kind],
              group: 'Tools',
            }
          : null,
        'Tool',
      );
    }
    case 'component': {
      const [component] = await componentsByNumber(db, [value]);
      return one(component ? componentHit(component) : null, 'Component');
    }
    case 'pocket': {
      const [machineId, pocket] = value.split('.').map(Number);
      const machine = Number.isInteger(machineId) ? await machineById(db, machineId!) : null;
      const place =
        machine &&
        (await placesOf(db, machine.id)).find((each) => each.kind === 'pocket' && each.number === pocket);
      return one(
        machine && place
          ? {
              href: `/machines/${machine.id}?pocket=${pocket}`,
              title: `${machine.name}, pocket ${pocket}`,
              detail: 'magazine',
              group: 'Machines',
            }
          : null,
        'Pocket',
      );
    }
    case 'order': {
      const order = /^\d{1,9}$/.test(value)
        ? await row<{ componentId: number; number: string; name: string }>(
            db,
            'SELECT o.component_id AS "componentId", k.number, k.name FROM supply_order o JOIN component k ON k.id = o.component_id WHERE o.id = $1',
            [Number(value)],
          )
        : null;
      return one(order ? componentHit({ ...order, id: order.componentId }) : null, 'Order');
    }
    case 'person':
      return one(
        {
          href: `/sign-in?badge=${encodeURIComponent(value)}`,
          title: `Badge ${value}`,
          detail: 'sign in',
          group: 'People',
        },
        'Badge',
      );
  }
}
