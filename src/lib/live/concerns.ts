import type { LedgerKind } from '$core/ledger/entry';

/** What an entry of the ledger is about, as the live stream tells it. `back`: the stream was away, and anything may have happened. */
export interface Told {
  kind: LedgerKind | 'back';
  machine: number | null;
  /** By which act it was written. */
  act?: string | null;
}

/** Kinds that pages under an address do not show. What is not named shows everything. */
const NOT_SHOWN: readonly (readonly [under: string, kinds: readonly LedgerKind[]])[] = [
  ['/machines/[id]', ['leaf', 'people', 'stock', 'cell']],
  ['/tools', ['leaf', 'reading', 'people', 'cell']],
  ['/crib', ['leaf', 'reading', 'people', 'register', 'parts', 'cell']],
  ['/programs', ['leaf', 'people', 'stock', 'cell']],
  [
    '/people',
    ['leaf', 'reading', 'register', 'parts', 'life', 'placement', 'assembly', 'stock', 'program', 'machine'],
  ],
  [
    '/cell',
    ['leaf', 'reading', 'register', 'parts', 'life', 'placement', 'assembly', 'stock', 'program', 'machine'],
  ],
];

/** Tools go from one machine to another: where one stands is shown on the pages of all. */
const WANDERS = new Set<Told['kind']>(['placement', 'assembly', 'component']);

/**
 * Whether a page has to ask again because of an entry: one of another machine moves nothing on the pages of this one. Corrections are counted on
 * every page.
 */
export function concerns(told: Told, routeId: string, machine: number | null): boolean {
  if (told.kind === 'back' || told.kind === 'correction') return true;
  const elsewhere = told.machine !== null && told.machine !== machine;
  if (routeId.startsWith('/machines/[id]') && elsewhere && !WANDERS.has(told.kind)) return false;
  const [, hidden] = NOT_SHOWN.find(([under]) => routeId.startsWith(under)) ?? ['', []];
  return !hidden.includes(told.kind);
}
