import { describe, expect, it } from 'vitest';
import { lengthOf, nanometres } from '../units/length.ts';
import { meanings, type ToolSize } from './meaning.ts';

const tool = (diameter: number, over: Partial<ToolSize> = {}): ToolSize => ({
  kind: 'reamer',
  diameter: lengthOf(diameter, 'mm'),
  cornerRadius: nanometres(0),
  reach: null,
  thread: '',
  leftHand: false,
  ...over,
});
const kinds = (...tools: ToolSize[]) => new Set(meanings(tools)).size;

describe('what a T means', () => {
  it.each([
    [9.98, 10.02],
    [6.75, 6.8],
    [12.65, 12.7],
    [10, 10.00001],
  ])('%s and %s are two tools', (a, b) => {
    expect(kinds(tool(a), tool(b))).toBe(2);
    expect(kinds(tool(a), tool(a))).toBe(1);
  });
  it('as many digits are shown as tell two apart, and no more', () => {
    expect(meanings([tool(9.98), tool(10.02), tool(8)])).toEqual([
      'reamer 9.98 mm',
      'reamer 10.02 mm',
      'reamer 8.0 mm',
    ]);
  });
  it('corner radius, thread, hand and reach tell tools apart', () => {
    const radius = lengthOf(0.5, 'mm');
    expect(kinds(tool(16), tool(16, { cornerRadius: radius }))).toBe(2);
    expect(kinds(tool(10, { thread: 'M10' }), tool(10, { thread: 'M10x1' }))).toBe(2);
    expect(kinds(tool(10), tool(10, { leftHand: true }))).toBe(2);
    expect(
      meanings([tool(10, { reach: lengthOf(45, 'mm') }), tool(10, { reach: lengthOf(80, 'mm') })]),
    ).toEqual(['reamer 10.0 mm reach 45.0 mm', 'reamer 10.0 mm reach 80.0 mm']);
  });
});
