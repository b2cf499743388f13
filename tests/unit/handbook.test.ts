import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { strikes } from '../../src/core/changer/clearance.ts';
import { slideDistance } from '../../src/core/changer/rack.ts';
import { propose, type FeatureAim } from '../../src/core/correction/propose.ts';
import type { FeatureKind } from '../../src/core/inspection/feature.ts';
import { transferLength, type Transferred } from '../../src/core/length/transfer.ts';
import type { LengthReference } from '../../src/core/length/schools.ts';
import { numberToKey } from '../../src/core/life/count.ts';
import { formatLength } from '../../src/core/units/format-length.ts';
import type { LengthUnit } from '../../src/core/units/length.ts';
import { parseLength } from '../../src/core/units/parse-length.ts';

const page = readFileSync('docs/handbook.md', 'utf8');
const length = (text: string, unit: LengthUnit = 'in') => {
  const parsed = parseLength(text, unit);
  if (!parsed.ok) throw new Error(parsed.reason);
  return parsed.value;
};
/** A section's text, by its number. */
const section = (number: number) => page.split(/^## /m).find((part) => part.startsWith(`H${number}. `)) ?? '';

it('every section that a comment cites is in it, down to the numbered point', () => {
  const files = ['src', 'sim', 'scripts', 'migrations', 'tests'].flatMap((folder) =>
    readdirSync(folder, { recursive: true, encoding: 'utf8' }).map((name) => join(folder, name)),
  );
  const cited = new Set(
    files
      .filter((name) => /\.(ts|mjs|svelte|sql)$/.test(name))
      .flatMap((name) => [...readFileSync(name, 'utf8').matchAll(/\(H(\d+(?:\.\d+)?)\b/g)].map((m) => m[1]!)),
  );
  expect(cited.size).toBeGreaterThan(12);
  for (const each of cited) {
    const [number, point] = each.split('.');
    expect(section(Number(number)), `H${each}`).not.toBe('');
    if (point) expect(section(Number(number)), `H${each}`).toMatch(new RegExp(`^${point}\\. `, 'm'));
  }
});

/** A figure of the page, which must stand in that section as it is worked out here. */
const stands = (number: number, ...figures: string[]) => {
  for (const figure of figures) expect(section(number)).toContain(figure);
};

describe('its examples are what the program works out', () => {
  it('a face mill of 100 mm beside a plain holder strikes on a pitch of 80 mm', () => {
    expect(strikes(80, 50, 31.75)).toBe(true);
    stands(5, '50 + 31.75 = 81.75 mm');
  });

  const schools: Record<'a' | 'b' | 'c', LengthReference> = {
    a: { school: 'gaugeLength', planeConstant: length('0'), masterLength: length('0') },
    b: { school: 'touchOff', planeConstant: length('-20.5'), masterLength: length('0') },
    c: { school: 'masterTool', planeConstant: length('0'), masterLength: length('92mm') },
  };
  it('a length goes from one school to another', () => {
    const moved = (to: LengthReference, step: string): Transferred =>
      transferLength(length('131.25mm'), schools.a, to, length(step));
    expect(formatLength(moved(schools.b, '0.0001').register, 'in')).toBe('−15.3327');
    expect(formatLength(moved(schools.b, '0.0001').register, 'mm')).toBe('−389.451');
    expect(formatLength(moved(schools.c, '0.001mm').register, 'mm', { sign: 'always' })).toBe('+39.250');
    stands(7, '−15.3327 in', '−389.451 mm', '+39.250 mm');
  });

  it('the second part on the bar', () => {
    const z = length('-11.4820 - 3.5200 - 0.1180 - 0.0120');
    expect(formatLength(z, 'in')).toBe('−15.1320');
    expect(formatLength(z, 'mm')).toBe('−384.353');
    stands(8, '−15.1320 in', '−384.353 mm');
  });

  it('400 holes where the counter expires below zero', () => {
    expect(numberToKey(400, 'belowZero', 'holes')).toBe(399);
    expect(numberToKey(400, 'atZero', 'holes')).toBe(400);
    stands(11, '**399**');
  });

  it.each<
    [
      section: number,
      kind: FeatureKind,
      unit: LengthUnit,
      target: string,
      measured: string,
      first: boolean,
      change: string,
    ]
  >([
    [13, 'outsideDiameter', 'in', '1.3780', '1.3892', true, '−0.0112'],
    [13, 'bore', 'in', '0.5907', '0.5861', true, '+0.0046'],
    [14, 'outsideDiameter', 'in', '1.3780', '1.3786', false, '−0.0006'],
    [14, 'outsideWidth', 'mm', '110.000', '110.012', false, '−0.006'],
    [14, 'pocketWidth', 'mm', '40.0125', '40.006', false, '−0.003'],
  ])('H%s: %s in %s, %s measured %s', (number, kind, unit, target, measured, first, change) => {
    const aim: FeatureAim = {
      kind,
      target: length(target, unit),
      nominal: length(target, unit),
      upper: length('0.0004in'),
      lower: length('-0.0004in'),
      policy: 'everyPart',
      deadBand: length('0'),
      averageOf: 1,
    };
    const answer = propose(
      aim,
      { x: 'diameter', cutter: 'radius' },
      {
        value: length('0'),
        increment: length(unit === 'mm' ? '0.001mm' : '0.0001in'),
        unit,
        limit: length('1in'),
      },
      { readings: [length(measured, unit)], partAfterSetUp: first ? 1 : null, confirmed: true },
    );
    expect(answer.verdict).toBe('change');
    if (answer.verdict === 'change')
      expect(formatLength(answer.change, unit, { sign: 'always' })).toBe(change);
    stands(number, `**${change}`);
  });

  it('the slide out of a fork', () => {
    expect(formatLength(slideDistance(length('412.30mm'), length('371.80mm')), 'mm')).toBe('40.500');
    stands(16, '**40.50 mm**');
  });
});
