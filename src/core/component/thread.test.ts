import { describe, expect, it } from 'vitest';
import { inUnit } from '../units/length.ts';
import { readThread, tapDrill } from './thread.ts';

const read = (text: string) => {
  const result = readThread(text);
  return result.ok
    ? [
        result.thread.name,
        Number(inUnit(result.thread.diameter, result.thread.inch ? 'in' : 'mm').toFixed(5)),
        result.thread.perInch ?? Number(inUnit(result.thread.pitch, 'mm').toFixed(4)),
      ]
    : result.reason;
};

describe('threads as they are called', () => {
  it.each<[string, string, number, number]>([
    // metric coarse (ISO 261, from memory)
    ['M8', 'M8', 8, 1.25],
    [' m 8 ', 'M8', 8, 1.25],
    ['M2.5', 'M2.5', 2.5, 0.45],
    ['M2,5', 'M2.5', 2.5, 0.45],
    ['M10x1.5', 'M10', 10, 1.5],
    ['M10x1.25', 'M10x1.25', 10, 1.25],
    ['M10 × 1', 'M10x1', 10, 1],
    ['M12 * 1.25', 'M12x1.25', 12, 1.25],
    ['M100x10.5', 'M100x10.5', 100, 10.5],
    ['M08', 'M8', 8, 1.25],
    ['M36x3', 'M36x3', 36, 3],
    ['M1.25x0.12', 'M1.25x0.12', 1.25, 0.12],
    // unified: screw gauge numbers and fractions (ASME B1.1, from memory)
    ['#10-24 UNC', '#10-24', 0.19, 24],
    ['#10-32unf', '#10-32', 0.19, 32],
    ['# 4 - 40', '# 4 - 40', 0.112, 40],
    ['8-32', '#8-32', 0.164, 32],
    ['8-20', '#8-20', 0.164, 20],
    ['1-8', '1-8', 1, 8],
    ['1-14 UN', '1-14', 1, 14],
    ['5/16-18', '5/16-18', 0.3125, 18],
    ['11/16-24', '11/16-24', 0.6875, 24],
    ['1 1/4-7', '1 1/4-7', 1.25, 7],
    ['1-1/2-6', '1-1/2-6', 1.5, 6],
    ['1  1/4-7', '1 1/4-7', 1.25, 7],
    ['4-4', '4-4', 4, 4],
    ['2-3', '2-3', 2, 3],
  ])('%s is %s, %d across, %d', (text, ...expected) => expect(read(text)).toEqual(expected));

  it.each([
    ['M9', /write the pitch, as M9x1/],
    ['M10x0', /pitch of 0 mm/],
    ['M10x5', /pitch of 5 mm does not belong to M10/],
    ['M10x6', /does not belong/],
    ['8', /written as M8/],
    ['M8 coarse', /written as/],
    ['AM8', /written as/],
    ['M8x', /written as/],
    ['5/16-18-2', /written as/],
    ['x5/16-18', /written as/],
    ['5/16-180', /written as/],
    ['5/0-18', /not a unified thread size/],
    ['0/4-18', /not a unified thread size/],
    ['5-4', /up to 4 in/],
    ['9/2-4', /up to 4 in/],
    ['1-2', /2 threads per inch do not belong/],
    // as coarse as the thread is thick
    ['1/4-8', /8 threads per inch do not belong/],
  ])('%s is refused', (text, why) => expect(read(text)).toMatch(why));

  it('a quarter inch with nine threads is coarse and just possible', () =>
    expect(read('1/4-9')).toEqual(['1/4-9', 0.25, 9]));

  it('tap drills of the coarse series (ISO 2306, from memory), and D − P for the rest', () => {
    const drill = (name: string) => {
      const thread = readThread(name);
      return thread.ok && tapDrill(thread.thread);
    };
    for (const [name, size] of [
      ['M4', 3.3],
      ['M5', 4.2],
      ['M6', 5],
      ['M8', 6.8],
      ['M10', 8.5],
      ['M12', 10.2],
      ['M16', 14],
      ['M10x1', 9],
      ['M8x1', 7],
    ] as const)
      expect(drill(name)).toEqual({ name: `${size} mm`, diameter: size * 1e6 });
  });
});
