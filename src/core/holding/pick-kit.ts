import type { Component, ComponentKind } from '../component/kinds.ts';
import type { PartRole } from '../assembly/part-roles.ts';
import { cutterMisses, givesCorner } from '../definition/cutter-misses.ts';
import type { Definition } from '../definition/read-definition.ts';
import type { Length } from '../units/length.ts';
import { chooseCollet } from './collet.ts';
import {
  adapterRefusal,
  hasSeats,
  holderRefusal,
  insertRefusal,
  knobRefusal,
  seatsOf,
  type Drawbar,
} from './fits.ts';

/** A line of the catalogue, and how many lie on the shelf. */
export interface Shelved extends Component {
  stock: number;
  shelf: string;
}

export interface KitPiece<C> {
  role: PartRole;
  piece: C;
  /** How many the assembly takes. */
  count: number;
}

export interface Kit<C> {
  pieces: KitPiece<C>[];
  /** What is not to be had, a sentence each; empty: everything lies on a shelf. */
  lacking: string[];
}

/** Cutters that would do, of which each is tried in every holder even where one before it can be had whole. */
const ENOUGH = 5;

/**
 * The pieces to fetch for a tool that is asked for and not built yet: the cutter that could become it, a holder of this end
 * that may carry it, collet or sleeve, inserts and knob by the rules of building (H3). What lies on a shelf comes before what
 * does not; then the holder that the shop has built most of such cutters into, since it knows why; then the smallest bore that
 * takes it. Null when no cutter of the catalogue could become it.
 * @param habit how many assemblies hold a cutter of this kind in this holder
 */
export function pickKit<C extends Shelved>(
  asked: Definition,
  catalogue: readonly C[],
  drawbar: Drawbar,
  show: (value: Length) => string,
  habit: (holder: C, cutter: ComponentKind) => number = () => 0,
): Kit<C> | null {
  const inStock = (a: C, b: C) => Number(b.stock > 0) - Number(a.stock > 0);
  const cutters = catalogue
    .filter((each) => cutterMisses(asked, each, show).length === 0)
    .sort((a, b) => inStock(a, b) || a.number.localeCompare(b.number));
  let best: { kit: Kit<C>; worse: readonly number[] } | null = null;
  for (const [i, cutter] of cutters.entries()) {
    // the fifth of those alike makes no better kit than the first, unless none before it could be had whole
    if (i >= ENOUGH && best?.kit.lacking.length === 0) break;
    for (const holder of catalogue) {
      if (holder.interface !== drawbar.interface || holderRefusal(cutter, holder) !== null) continue;
      const adapter = adapterFor(cutter, holder, catalogue);
      if (adapter === undefined) continue;
      const kit = complete({ cutter, holder, adapter, corner: asked.cornerRadius }, catalogue, drawbar, show);
      const worse = [kit.lacking.length, -habit(holder, cutter.kind), holder.dimensions.DCONWS ?? 0];
      if (best === null || before(worse, best.worse)) best = { kit, worse };
    }
  }
  if (best) return best.kit;
  const cutter = cutters[0];
  return cutter
    ? {
        pieces: [{ role: 'cutter', piece: cutter, count: 1 }],
        lacking: [
          `No holder with a ${drawbar.interface} end in the catalogue may carry ${cutter.number}${cutters.length > 1 ? ', nor any other cutter that would do' : ''}.`,
        ],
      }
    : null;
}

/** Whether the first row of numbers is the lesser, the first that differs deciding. */
const before = (a: readonly number[], b: readonly number[]): boolean => {
  const i = a.findIndex((value, at) => value !== b[at]);
  return i >= 0 && a[i]! < b[i]!;
};

/** Collet or sleeve between the two; null: none is needed; undefined: none of the catalogue fits. */
function adapterFor<C extends Shelved>(cutter: C, holder: C, catalogue: readonly C[]): C | null | undefined {
  if (adapterRefusal(cutter, holder, null) === null) return null;
  const fitting = catalogue.filter((each) => adapterRefusal(cutter, holder, each) === null);
  const shelved = fitting.filter((each) => each.stock > 0);
  const from = shelved.length > 0 ? shelved : fitting;
  return holder.kind === 'colletChuck'
    ? (chooseCollet(
        cutter.dimensions.DCONMS ?? 0,
        from.map((piece) => ({ piece, nominal: piece.dimensions.DCONWS ?? 0 })),
      )?.piece ?? undefined)
    : from[0];
}

function complete<C extends Shelved>(
  { cutter, holder, adapter, corner }: { cutter: C; holder: C; adapter: C | null; corner: Length | null },
  catalogue: readonly C[],
  drawbar: Drawbar,
  show: (value: Length) => string,
): Kit<C> {
  const pieces: KitPiece<C>[] = [
    { role: 'holder', piece: holder, count: 1 },
    ...(adapter ? [{ role: 'adapter' as const, piece: adapter, count: 1 }] : []),
    { role: 'cutter', piece: cutter, count: 1 },
  ];
  const lacking: string[] = [];
  const add = (role: PartRole, found: readonly C[], count: number, words: string) => {
    const piece = found.find((each) => each.stock >= count) ?? found[0];
    if (piece) pieces.push({ role, piece, count });
    else lacking.push(words);
  };
  // the corner is that of the inserts, where the cutter is not ground to one
  const asked = cutter.dimensions.RE === undefined ? corner : null;
  if (hasSeats(cutter))
    add(
      'insert',
      catalogue.filter(
        (each) =>
          each.kind === 'insert' && insertRefusal(cutter, each) === null && givesCorner(corner, cutter, each),
      ),
      seatsOf(cutter),
      `No inserts ${cutter.series}${asked === null ? '' : ` with a corner of ${show(asked)}`} are in the catalogue.`,
    );
  if (drawbar.knob !== '')
    add(
      'knob',
      catalogue.filter((each) => each.kind === 'knob' && knobRefusal(each, drawbar) === null),
      1,
      `No retention knob ${drawbar.knob} is in the catalogue.`,
    );
  for (const { piece, count } of pieces)
    if (piece.stock < count)
      lacking.push(
        `${piece.number} ${piece.name}: ${piece.stock === 0 ? 'none' : `only ${piece.stock} of ${count}`} on the shelf.`,
      );
  return { pieces, lacking };
}
