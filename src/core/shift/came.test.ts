import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { medianOff, whatCame, type Came, type Foreseen, type ToolEvent } from './came.ts';

const HOUR = 3_600_000;
const shift = { start: new Date(6 * HOUR), end: new Date(14 * HOUR) };
const at = (hour: number | null) => (hour === null ? null : new Date(hour * HOUR));
const tool = (number: string, hour: number | null): Foreseen => ({
  machine: 'Avocet',
  tool: 1,
  number,
  at: at(hour),
});
const event = (number: string, hour: number, what: ToolEvent['what'] = 'expired'): ToolEvent => ({
  machine: 'Avocet',
  tool: 1,
  number,
  at: at(hour)!,
  what,
});
const said = (came: readonly Came[]) =>
  came.map(({ number, how, off }) => `${number} ${how}${off === null ? '' : ` ${off / HOUR}`}`);

describe('what was foreseen and what came', () => {
  it('later, earlier, renewed in time, broken before, taken out, and not at all', () => {
    expect(
      said(
        whatCame(
          [tool('A', 7), tool('B', 8), tool('C', 9), tool('D', 10), tool('E', 11), tool('F', 12)],
          [
            event('A', 7.5),
            event('B', 7.75),
            event('C', 8, 'renewed'),
            event('D', 9, 'broken'),
            event('E', 6.5, 'out'),
          ],
          shift,
        ),
      ),
    ).toEqual(['A expired 0.5', 'B expired -0.25', 'C renewed', 'D broken', 'E out', 'F ran on']);
  });
  it('what was foreseen for another shift, or never, is none of this one; what came unforeseen is told once', () => {
    expect(
      said(
        whatCame(
          [tool('A', 15), tool('B', null), tool('C', 5)],
          [
            event('A', 9),
            event('D', 8, 'broken'),
            event('D', 9),
            event('E', 14),
            event('E', 5),
            event('F', 7, 'renewed'),
          ],
          shift,
        ),
      ),
    ).toEqual(['D broken', 'A expired']);
  });
  it('the same number on another machine is another tool', () => {
    const other = { ...event('A', 7), machine: 'Curlew' };
    expect(said(whatCame([tool('A', 8)], [other], shift))).toEqual(['A expired', 'A ran on']);
  });
  it('only the first end counts', () => {
    expect(said(whatCame([tool('A', 8)], [event('A', 9, 'renewed'), event('A', 7)], shift))).toEqual([
      'A expired -1',
    ]);
  });
  it('a hidden truth: tools that end at random are told with the very error of their forecast', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.record({
            number: fc.integer({ min: 1, max: 99 }),
            foreseen: fc.integer({ min: 6 * 60, max: 14 * 60 - 1 }),
            off: fc.integer({ min: -120, max: 120 }),
          }),
          { selector: (each) => each.number, maxLength: 12 },
        ),
        (truth) => {
          const minutes = (minute: number) => minute / 60;
          const came = whatCame(
            truth.map((each) => tool(`N${each.number}`, minutes(each.foreseen))),
            truth.map((each) => event(`N${each.number}`, minutes(each.foreseen + each.off))),
            shift,
          );
          expect(came).toHaveLength(truth.length);
          for (const each of truth) {
            const found = came.find((one) => one.number === `N${each.number}`)!;
            const ended = each.foreseen + each.off;
            const inside = ended >= 6 * 60 && ended < 14 * 60;
            expect(found.how).toBe(inside ? 'expired' : 'ran on');
            expect(found.off === null ? null : Math.round(found.off / 60_000)).toBe(inside ? each.off : null);
          }
        },
      ),
    );
  });
  it('the middle of the errors', () => {
    const off = (...values: (number | null)[]) => medianOff(values.map((value) => ({ off: value }) as Came));
    expect(off()).toBeNull();
    expect(off(null)).toBeNull();
    expect(off(-30, 10, null)).toBe(20);
    expect(off(5, -40, 10)).toBe(10);
  });
});
