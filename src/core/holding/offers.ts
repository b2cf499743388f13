import { type Component, type ComponentKind } from '../component/kinds.ts';
import { chooseCollet } from './collet.ts';
import {
  adapterRefusal,
  extensionRefusal,
  holderRefusal,
  insertRefusal,
  nutRefusal,
  secondInsertRefusal,
  secondRefusal,
} from './fits.ts';

/** A piece that may be chosen, or why it may not. */
export interface Offer<C extends Component = Component> {
  component: C;
  refusal: string | null;
}

/** What lies on the shelves, by what it would be in an assembly. */
export interface Shelf<C extends Component> {
  holders: readonly C[];
  adapters: readonly C[];
  extensions: readonly C[];
  nuts: readonly C[];
  seconds: readonly C[];
  inserts: readonly C[];
  knobs: readonly C[];
}

export interface Offers<C extends Component> {
  holders: Offer<C>[];
  adapters: Offer<C>[];
  extensions: Offer<C>[];
  nuts: C[];
  seconds: C[];
  inserts: C[];
  /** For the other tool of a double holder. */
  secondInserts: C[];
  knobs: C[];
  /** The adapter to begin with: the one that closes least on the shank, where the holder needs one. */
  adapter: number | null;
}

const TURNS: readonly ComponentKind[] = ['turningHolder', 'turningHolderDouble'];

/** What goes between a holder and a shank, by the holder's kind. */
export const adapterKindsOf = (holder: ComponentKind | undefined): readonly ComponentKind[] =>
  holder === 'colletChuck' ? ['collet'] : holder === 'hydraulic' ? ['sleeve'] : [];

/** Holders that clamp two tools. */
export const takesTwo = (holder: ComponentKind | undefined) => holder === 'turningHolderDouble';

/** Those that may be chosen before those that may not, each group as it lay on the shelf. */
const allowedFirst = <C extends Component>(offers: Offer<C>[]) =>
  offers.sort((a, b) => Number(a.refusal !== null) - Number(b.refusal !== null));

/**
 * What may be chosen beside a cutter, from the machine's end to the tip (H3): each kind of piece from the shelf, with the reason
 * where it may not. A collet of another series than the chuck's is not shown at all; one that does not close on the shank is, with
 * the reason. `end` is the spindle taper or shank of the machine it is for; null: any.
 */
export function offersFor<C extends Component>(
  chosen: { cutter: C; holder: C | null; extension: C | null; second: C | null; end: string | null },
  shelf: Shelf<C>,
): Offers<C> {
  const { cutter, holder, extension, second, end } = chosen;
  const gripped = extension ?? cutter;
  const offer = (component: C, refusal: { reason: string } | null): Offer<C> => ({
    component,
    refusal: refusal?.reason ?? null,
  });
  const adapters = holder
    ? shelf.adapters
        .map((each) => offer(each, adapterRefusal(gripped, holder, each)))
        .filter(({ component, refusal }) => refusal === null || component.series === holder.series)
    : [];
  const gripping = adapters
    .filter(({ refusal }) => refusal === null)
    .map(({ component }) => ({ id: component.id, nominal: component.dimensions.DCONWS ?? 0 }));
  const needed = holder !== null && adapterRefusal(gripped, holder, null) !== null;
  return {
    holders: allowedFirst(
      shelf.holders
        .filter((each) => end === null || each.interface === end)
        .map((each) => offer(each, holderRefusal(cutter, each, extension))),
    ),
    adapters,
    adapter: needed ? (chooseCollet(gripped.dimensions.DCONMS ?? 0, gripping)?.id ?? null) : null,
    extensions:
      holder && !TURNS.includes(holder.kind)
        ? allowedFirst(
            shelf.extensions.map((each) =>
              offer(each, extensionRefusal(cutter, each) ?? holderRefusal(cutter, holder, each)),
            ),
          )
        : [],
    nuts: holder ? shelf.nuts.filter((each) => nutRefusal(holder, each) === null) : [],
    seconds: holder ? shelf.seconds.filter((each) => secondRefusal(holder, each) === null) : [],
    inserts: shelf.inserts.filter((each) => insertRefusal(cutter, each) === null),
    secondInserts: second ? shelf.inserts.filter((each) => secondInsertRefusal(second, each) === null) : [],
    knobs: holder ? shelf.knobs.filter((each) => each.interface === holder.interface) : [],
  };
}

/** How far a cutter usually stands out, nanometres: flutes clear, two millimetres more where its shank allows it, or what is asked for. */
export function usualStickOut(cutter: Component, holder: Component | null, asked: number | null): number {
  const { LCF: flutes, LF: length, OAL: overall, DCONMS: shank } = cutter.dimensions;
  // a turning tool stands out a quarter more than it is high (common practice, no source)
  if (flutes === undefined || overall === undefined)
    return holder && TURNS.includes(holder.kind) ? 1.25 * (shank ?? 0) : (length ?? 0);
  const most = overall - 2 * (shank ?? 0);
  return Math.max(flutes, Math.min(Math.max(flutes + 2_000_000, asked ?? 0), most));
}
