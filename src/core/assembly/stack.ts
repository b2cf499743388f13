import { circleOf } from '../component/insert-designation.ts';
import { kindFacts, type Component } from '../component/kinds.ts';
import { add, inUnit, lengthOf, nanometres, type Length } from '../units/length.ts';
import { cuttingEnd, INTERFACES, type Interface, type OutlinePoint, type Seats } from './silhouette.ts';
import { massOf, momentOf, stretches } from './solid.ts';
import { FLUTED_CORE, MODULUS, tipCompliance, type BarPiece } from './stiffness.ts';

/** The pieces of an assembly, from the machine to the part. */
export interface Stack {
  holder: Component;
  extension: Component | null;
  /** A nut that is not the holder's own. */
  nut: Component | null;
  /** Collet or sleeve. */
  adapter: Component | null;
  cutter: Component;
  /** The other tool of a double turning holder. */
  second: Component | null;
  inserts: { component: Component; count: number } | null;
  /** Of the other tool. */
  secondInserts: { component: Component; count: number } | null;
  knob: Component | null;
  stickOut: Length;
}

export interface StackFacts {
  gaugeLength: Length;
  /** Half the outline at true size, millimetres. */
  outline: OutlinePoint[];
  /** Both tools of a double turning holder, drawn side by side; null where there is one. */
  seats: Seats | null;
  /** Largest diameter anywhere. */
  widest: Length;
  /** Grams; weighed where every piece's mass is known, else reckoned from the outline and the taper above it. */
  mass: number;
  massWeighed: boolean;
  /** Newton metres about the gauge line, of what stands out below it. */
  moment: number;
  /** The lowest greatest speed in the stack, and whose it is; null when no piece states one. */
  speedLimit: { rpm: number; by: string } | null;
  lengthToDiameter: number | null;
  /** The shortest stick-out that does not grip the flutes; null when the cutter's lengths are not known. */
  leastStickOut: Length | null;
  /** Newtons across the tip for a micrometre. */
  stiffness: number | null;
  /** How many times stiffer it would be at the shortest stick-out. */
  stifferAtLeast: number | null;
}

/** Everything that follows from the pieces of an assembly and its stick-out. */
export function stackFacts(stack: Stack): StackFacts {
  const { holder, extension, nut, cutter, second, stickOut } = stack;
  const noseAt = nanometres((holder.dimensions.LPR ?? 0) + (extension?.dimensions.LPR ?? 0));
  const gaugeLength = add(noseAt, stickOut);
  const { body, tool } = stackOutline(stack, cutter);
  const outline = [...body, ...tool];
  const seats = second && seatsOf(stack, second);
  const half = Math.max(
    ...outline.map(([, radius]) => radius),
    ...(seats?.tools ?? []).flatMap(({ across, outline: own }) =>
      own.map(([, radius]) => Math.abs(across) + radius),
    ),
  );
  const nose = inUnit(noseAt, 'mm');
  const solids = [
    ...stretches(outline, nose, cutter.material),
    ...(second ? stretches(stackOutline(stack, second).tool, nose, second.material) : []),
  ];
  const weighed = [holder, extension, nut, stack.adapter, cutter, second, stack.knob].every(
    (piece) => piece === null || piece.dimensions.WT !== undefined,
  );
  const speeds = [holder, extension, nut, stack.adapter, cutter, second]
    .filter((piece) => piece?.dimensions.RPMX !== undefined)
    .map((piece) => ({ rpm: piece!.dimensions.RPMX!, by: piece!.name }))
    .sort((a, b) => a.rpm - b.rpm);
  const least = cutter.dimensions.LCF;
  const stiffness = stiffnessAt(cutter, stickOut);
  const best = least === undefined ? null : stiffnessAt(cutter, nanometres(least));
  const diameter = cutter.dimensions.DC ?? cutter.dimensions.DCONMS;
  return {
    gaugeLength,
    outline,
    seats,
    widest: nanometres(Math.round(2e6 * half)),
    mass: weighed ? weight(stack) : massOf(solids) + INTERFACES[holder.interface as Interface].taperGrams,
    massWeighed: weighed,
    moment: momentOf(solids),
    speedLimit: speeds[0] ?? null,
    lengthToDiameter: diameter ? stickOut / diameter : null,
    leastStickOut: least === undefined ? null : nanometres(least),
    stiffness,
    stifferAtLeast: stiffness !== null && best !== null && least! < stickOut ? best / stiffness : null,
  };
}

const weight = ({ holder, extension, nut, adapter, cutter, second, knob, inserts, secondInserts }: Stack) =>
  [holder, extension, nut, adapter, cutter, second, knob].reduce(
    (sum, piece) => sum + (piece?.dimensions.WT ?? 0),
    0,
  ) +
  [inserts, secondInserts].reduce(
    (sum, set) => sum + (set?.component.dimensions.WT ?? 0) * (set?.count ?? 0),
    0,
  );

/** The corner that a stack cuts with: what its cutter is ground to, or else its inserts have. */
export const cornerOf = ({ cutter, inserts }: Pick<Stack, 'cutter' | 'inserts'>): Length =>
  nanometres(cutter.dimensions.RE ?? inserts?.component.dimensions.RE ?? 0);

/** How large a stack is where it cuts: the cutter across, of a turning tool its insert, or else its shank. */
export function sizeOf({ cutter, inserts }: Pick<Stack, 'cutter' | 'inserts'>): Length {
  const { DC: across, DCONMS: shank } = cutter.dimensions;
  const circle = across === undefined && inserts ? circleOf(inserts.component.series) : null;
  return circle === null ? nanometres(across ?? shank ?? 0) : lengthOf(circle, 'mm');
}

/** A double holder's tools stand in the middle of its two halves, both as far out as the stick-out says (common practice, no source). */
function seatsOf(stack: Stack, second: Component): Seats {
  const apart = inUnit(stack.holder.dimensions.BD ?? 0, 'mm') / 4;
  return {
    body: stackOutline(stack, stack.cutter).body,
    tools: [
      { across: -apart, outline: stackOutline(stack, stack.cutter).tool },
      { across: apart, outline: stackOutline(stack, second).tool },
    ],
  };
}

/** Half the outline, millimetres: up to where the tool leaves its holder, and the tool from there. */
function stackOutline(
  { holder, extension, nut, stickOut }: Stack,
  cutter: Component,
): Record<'body' | 'tool', OutlinePoint[]> {
  const mm = (value: number | undefined) => inUnit(value ?? 0, 'mm');
  const flange = INTERFACES[holder.interface as Interface].flange / 2;
  const holderEnd = mm(holder.dimensions.LPR);
  const girth = Math.max(mm(holder.dimensions.BD), mm(nut?.dimensions.BD)) / 2;
  const flangeEnd = Math.min(holderEnd, flange * 0.6);
  const body: OutlinePoint[] = [
    [0, flange],
    [flangeEnd, flange],
    [flangeEnd, girth],
    [holderEnd, girth],
  ];
  let nose = holderEnd;
  if (extension) {
    const radius = mm(extension.dimensions.BD) / 2;
    body.push([nose, radius], [(nose += mm(extension.dimensions.LPR)), radius]);
  }
  const tip = nose + mm(stickOut);
  const shank = mm(cutter.dimensions.DCONMS) / 2;
  const radius = mm(cutter.dimensions.DCX ?? cutter.dimensions.DC ?? cutter.dimensions.DCONMS) / 2;
  const mill = cutter.kind === 'faceMill' || cutter.kind === 'shellMill';
  const flutesFrom = mill ? nose : Math.max(nose, tip - mm(cutter.dimensions.LCF));
  const neck: OutlinePoint[] =
    flutesFrom > nose
      ? [
          [nose, shank],
          [flutesFrom, shank],
        ]
      : [];
  return { body, tool: [...neck, ...cuttingEnd(kindFacts(cutter.kind).makes!, flutesFrom, tip, radius)] };
}

function stiffnessAt(cutter: Component, stickOut: Length): number | null {
  const { DC: diameter, DCONMS: shank, LCF: flutes } = cutter.dimensions;
  if (diameter === undefined || shank === undefined || flutes === undefined || stickOut <= 0) return null;
  const modulus = MODULUS[cutter.material];
  const fluted = Math.min(flutes, stickOut);
  const pieces: BarPiece[] = [
    { length: inUnit(fluted, 'mm'), diameter: FLUTED_CORE * inUnit(diameter, 'mm'), modulus },
    { length: inUnit(stickOut - fluted, 'mm'), diameter: inUnit(shank, 'mm'), modulus },
  ];
  return 1 / tipCompliance(pieces);
}

/** What one cutting edge costs: of inserts each over its edges, of a solid cutter over its first use and its regrinds. Cents. */
export function costPerEdge(
  cutter: { cost: number | null; regrinds: number | null },
  inserts: readonly { cost: number | null; edges: number }[],
): number | null {
  if (inserts.some(({ cost }) => cost === null)) return null;
  if (inserts.length > 0) return inserts.reduce((sum, { cost, edges }) => sum + cost! / edges, 0);
  return cutter.cost === null ? null : cutter.cost / (1 + (cutter.regrinds ?? 0));
}
