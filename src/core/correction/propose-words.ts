import type { FeatureKind } from '../inspection/feature.ts';
import { formatLength } from '../units/format-length.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** A register's least step, without noughts that say nothing. */
export const plainIncrement = (increment: Length, unit: LengthUnit) =>
  `${formatLength(increment, unit, { decimals: unit === 'mm' ? 4 : 5 }).replace(/0+$/, '')} ${unit}`;

/** Which way a size is off, as a setter says it. */
export function direction(kind: FeatureKind, deviation: Length): string {
  const over = deviation > 0;
  switch (kind) {
    case 'outsideDiameter':
    case 'bore':
    case 'pocketWidth':
    case 'grooveWidth':
    case 'outsideWidth':
      return over ? 'Too big' : 'Too small';
    case 'depth':
    case 'shoulder':
      return over ? 'Too deep' : 'Too shallow';
    case 'height':
      return over ? 'Too high' : 'Too low';
    case 'faceLength':
    case 'partedLength':
      return over ? 'Too long' : 'Too short';
    default:
      return over ? 'Too thick' : 'Too thin';
  }
}
