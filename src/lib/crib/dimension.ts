import { PROPERTIES, type Property } from '$core/component/kinds';
import { formatWithUnit } from '$core/units/format-length';
import type { Length, LengthUnit } from '$core/units/length';

/** A dimension as it is read: 12.000 mm, 140°, 4, 15000 rpm, 230 g. */
export function dimensionWords(name: Property, value: number, unit: LengthUnit = 'mm'): string {
  const { type } = PROPERTIES[name];
  if (type === 'length') return formatWithUnit(value as Length, unit);
  return type === 'angle'
    ? `${value}°`
    : type === 'speed'
      ? `${value} rpm`
      : type === 'mass'
        ? `${value} g`
        : String(value);
}
