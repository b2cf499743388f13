import { ASSEMBLY_WORDS } from '../core/assembly/silhouette.ts';
import { findAssemblies } from './assemblies.ts';
import { pool } from './db.ts';
import { machines } from './machines.ts';
import { programs } from './programs.ts';

interface Hit {
  href: string;
  title: string;
  detail: string;
  group: string;
}

const PAGES: Hit[] = [
  { href: '/leaf', title: 'This shift’s leaf', detail: 'g l', group: 'Pages' },
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
    href: '/machines/across',
    title: 'T across machines',
    detail: 'the same T, different tools',
    group: 'Pages',
  },
  { href: '/ledger', title: 'Ledger', detail: 'g e', group: 'Pages' },
];

/** Whatever goes by these words: a scanned assembly number, a T number, a program, a machine, a page. */
export async function findAnything(words: string): Promise<Hit[]> {
  const db = pool();
  const [tools, allMachines, allPrograms] = await Promise.all([
    findAssemblies(db, words, words.trim() === '' ? 0 : 12),
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
  const exact = tools.find((tool) => tool.number.toLowerCase() === words.trim().toLowerCase());
  return (
    exact
      ? found.sort(
          (a, b) => Number(b.href === `/tools/${exact.id}`) - Number(a.href === `/tools/${exact.id}`),
        )
      : found
  ).slice(0, 30);
}
