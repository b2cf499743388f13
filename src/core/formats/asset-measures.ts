import type { XmlNode as Node } from './read-xml.ts';

/** What one unit of a measurement is in millimetres, as text: exact. Without a unit it is millimetres (MTConnect Part 4, from memory). */
const UNITS: Readonly<Record<string, (value: string) => string>> = {
  '': (value) => value,
  MILLIMETER: (value) => value,
  INCH: (value) => `${value}in`,
  MICRON: (value) => `${value}µm`,
  CENTIMETER: (value) => shifted(value, 1),
  METER: (value) => shifted(value, 3),
};

/** A decimal number with its point moved to the right. */
function shifted(value: string, by: number): string {
  const match = /^([+-]?)(\d*)(?:\.(\d*))?$/.exec(value);
  if (!match) return value;
  const [, sign = '', whole = '', rest = ''] = match;
  const digits = rest.padEnd(by, '0');
  return `${sign}${whole}${digits.slice(0, by)}${digits.length > by ? `.${digits.slice(by)}` : ''}`;
}

/** A measurement as our length reader takes it: its value, else what it was meant to be; empty where there is none. */
export function measureOf(node: unknown): string {
  if (node === undefined || node === null) return '';
  const of = (name: string) =>
    typeof node === 'object'
      ? String((node as Node)[name] ?? '').trim()
      : name === '#text'
        ? String(node).trim()
        : '';
  const value = of('#text') || of('@nominal');
  const unit = of('@units').toUpperCase();
  const native = of('@nativeUnits').toUpperCase();
  if (value === '') return '';
  // by the standard the value is in millimetres then, and not every writer knows
  if (unit === '' && native !== '' && native !== 'MILLIMETER') return `${value} ?${native}`;
  return UNITS[unit]?.(value) ?? `${value} ${unit}`;
}
