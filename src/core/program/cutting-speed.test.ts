import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { cuttingSpeed } from './cutting-speed.ts';
import { usualDialect } from './dialect.ts';
import { readProgram } from './read-program.ts';

const calls = (text: string, kind: 'mill' | 'lathe') => {
  const read = readProgram(`%\nO1\n${text}\nM30\n%`, usualDialect(kind, 'mm'));
  if (!read.ok) throw new Error(read.reason);
  return read.reading.calls;
};
const ten = lengthOf(10, 'mm');
const mill = (cuts: string) => calls(`T1 M6\nG43 H1 Z5.\n${cuts}`, 'mill');
const lathe = (cuts: string) => calls(`G28 U0 W0\nT0101\n${cuts}`, 'lathe');

describe('the cutting speed of a tool in a program', () => {
  it('of a cutter: its circumference times its revolutions', () =>
    // 10 mm at 3183 a minute is 100 m/min: the everyday sum of the trade (common practice, no source)
    expect(cuttingSpeed(mill('S3183 M3\nG1 X50. F500'), ten, 'mill')).toBeCloseTo(100, 1));
  it('several speeds are none, unless they lie within a twentieth', () => {
    expect(cuttingSpeed(mill('S3000 M3\nG1 X50. F500\nS4000\nG1 X0.'), ten, 'mill')).toBeNull();
    expect(cuttingSpeed(mill('S3000 M3\nG1 X50. F500\nS3100\nG1 X0.'), ten, 'mill')).toBeCloseTo(95.8, 0);
  });
  it('on a lathe the set surface speed; by revolutions only what lies on the centre line', () => {
    expect(cuttingSpeed(lathe('G96 S180 M3\nG0 X40. Z2.\nG1 Z-20. F0.2'), ten, 'lathe')).toBe(180);
    expect(cuttingSpeed(lathe('G97 S1500 M3\nG0 X40. Z2.\nG1 Z-20. F0.2'), ten, 'lathe')).toBeNull();
    expect(cuttingSpeed(lathe('G97 S1500 M3\nG0 X0. Z2.\nG1 Z-20. F0.2'), ten, 'lathe')).toBeCloseTo(47.1, 1);
  });
  it('what does not cut has none, nor a tool without a size', () => {
    expect(cuttingSpeed(mill('S3000 M3\nG0 X50.'), ten, 'mill')).toBeNull();
    expect(cuttingSpeed([], ten, 'mill')).toBeNull();
    expect(cuttingSpeed(mill('S3000 M3\nG1 X50. F500'), lengthOf(0, 'mm'), 'mill')).toBeNull();
  });
});
