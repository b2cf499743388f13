import { inUnit } from '../units/length.ts';
import { figures, INTERFACES, standOut, TURNED, type AssemblyShape, type Figure } from './silhouette.ts';

const degrees = (angle: number) => (angle * Math.PI) / 180;

/** A corner of an insert, its edges going away from the tip at two angles, from straight back towards the shank's side. */
function insertAt(tip: readonly [number, number], size: number, first: number, second: number): Figure {
  const along = (angle: number): [number, number] => [
    tip[0] - size * Math.cos(degrees(angle)),
    tip[1] - size * Math.sin(degrees(angle)),
  ];
  const [a, b] = [along(first), along(second)];
  return [tip, a, [a[0] + b[0] - tip[0], a[1] + b[1] - tip[1]], b];
}

/**
 * A lathe's tool as it is seen from above: a square shank or a bar, and the insert that stands out of one side. What hangs about
 * an axis (drills, taps) is drawn as everywhere. The first figure is the shank, the others its edge; millimetres along from the
 * turret's side and across. Proportions are common practice, no source: only length, width and the tip's place are to scale.
 */
export function turningFigures(shape: AssemblyShape): Figure[] {
  const square = shape.interface.startsWith('shank');
  const turned = TURNED.includes(shape.kind);
  if (!square || !turned || shape.seats) return figures(shape);
  const width = INTERFACES[shape.interface].flange;
  const half = width / 2;
  const length = Math.max(width, inUnit(shape.gaugeLength, 'mm'));
  const out = Math.min(length, Math.max(width / 2, inUnit(shape.stickOut, 'mm')));
  const size = Math.max(inUnit(shape.diameter, 'mm'), 0.36 * width);
  const beyond = half + 0.22 * width;
  if (shape.kind === 'turningBoring') {
    // a bar that goes into a bore: slim, with its corner beyond its own side
    const bar = Math.min(half, Math.max(2, inUnit(shape.diameter, 'mm') / 2));
    const insert = Math.max(0.9 * bar, 2);
    return [
      [
        [0, half],
        [length - out, half],
        [length - out, bar],
        [length - insert, bar],
        [length - 0.2 * insert, 0.3 * bar],
        [length - 0.2 * insert, -bar],
        [length - out, -bar],
        [length - out, -half],
        [0, -half],
      ],
      insertAt([length, bar + 0.5 * insert], insert, 5, 85),
    ];
  }
  const head = Math.max(0, length - out);
  if (shape.kind === 'grooving' || shape.kind === 'parting') {
    // a blade of the width that it cuts
    const blade = Math.max(1, Math.min(inUnit(shape.diameter, 'mm'), 0.4 * width));
    const reach = half + (shape.kind === 'parting' ? 0.9 : 0.45) * width;
    return [
      [
        [0, half],
        [length - blade * 1.05, half],
        [length - blade * 1.05, -half],
        [0, -half],
      ],
      [
        [length - blade * 0.95, half - 0.3 * width],
        [length - blade * 0.95, reach - blade],
        [length - blade, reach],
        [length, reach],
        [length - blade * 0.05, reach - blade],
        [length - blade * 0.05, half - 0.3 * width],
      ],
    ];
  }
  if (shape.kind === 'threading') {
    // the 60 degrees of the thread stand square to the shank
    const deep = 0.42 * width;
    const wide = deep * Math.tan(degrees(30));
    const at = length - 1.2 * wide;
    return [
      [
        [0, half],
        [at - 1.6 * wide, half],
        [at - wide, beyond],
        [length, beyond],
        [length, -half],
        [0, -half],
      ],
      [
        [at - wide, beyond],
        [at, beyond + deep],
        [at + wide, beyond],
      ],
    ];
  }
  const finishing = /\b35\b|finish/i.test(shape.name ?? '');
  return [
    [
      [0, half],
      [Math.max(head, length - 1.6 * width), half],
      [length - 0.5 * size, beyond - 0.15 * size],
      [length - 0.12 * size, beyond - 0.9 * size],
      [length - 0.5 * width, -half],
      [0, -half],
    ],
    finishing ? insertAt([length, beyond], 1.3 * size, 47, 82) : insertAt([length, beyond], size, 5, 85),
  ];
}

/** The figures as they stand out of a turret: along from its face, what is behind the face cut away. */
export function turningFiguresStanding(shape: AssemblyShape): Figure[] {
  const drawn = turningFigures(shape);
  const length = Math.max(...drawn.flat().map(([along]) => along));
  const behind = length - standOut(shape);
  return drawn.map((figure) => figure.map(([along, across]) => [Math.max(0, along - behind), across]));
}
