import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { concerns, type Told } from './concerns';
import { PACE, refresher } from './refresher';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe('asking again', () => {
  const counted = (takes = 0) => {
    const asked: number[] = [];
    const ask = refresher(async () => {
      asked.push(Date.now());
      if (takes > 0) await new Promise((resolve) => setTimeout(resolve, takes));
    });
    return { ask, asked };
  };

  it('asks once for a whole shift of entries that come together', async () => {
    const { ask, asked } = counted();
    for (let i = 0; i < 20_000; i += 1) ask.tell();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(asked).toHaveLength(1);
  });

  it('a stream that never stops does not put it off, nor make it ask without end', async () => {
    const { ask, asked } = counted();
    for (let at = 0; at < 60_000; at += 20) {
      ask.tell();
      await vi.advanceTimersByTimeAsync(20);
    }
    expect(asked.length).toBeGreaterThan(50);
    expect(asked.length).toBeLessThanOrEqual(61);
    expect(Math.max(...asked.slice(1).map((at, i) => at - asked[i]!))).toBeLessThanOrEqual(PACE.between + 20);
  });

  it('what is told while it asks is asked for once more', async () => {
    const { ask, asked } = counted(3000);
    ask.tell();
    await vi.advanceTimersByTimeAsync(1000);
    expect(asked).toHaveLength(1);
    ask.tell();
    ask.tell();
    await vi.advanceTimersByTimeAsync(20_000);
    expect(asked).toHaveLength(2);
  });

  it('five hundred pages do not all ask at the same moment', async () => {
    const pages = Array.from({ length: 500 }, () => counted());
    for (const { ask } of pages) ask.tell();
    await vi.advanceTimersByTimeAsync(10_000);
    const at = pages.map(({ asked }) => asked[0]!);
    const most = Math.max(...at.map((one) => at.filter((other) => Math.abs(other - one) < 10).length));
    expect(most).toBeLessThan(60);
    expect(Math.max(...at) - Math.min(...at)).toBeLessThanOrEqual(PACE.spread);
  });
});

describe('which page an entry concerns', () => {
  const told = (kind: Told['kind'], machine: number | null = null): Told => ({ kind, machine });
  it.each([
    [told('parts', 2), '/machines/[id]/now', 1, false],
    [told('parts', 1), '/machines/[id]/now', 1, true],
    [told('placement', 2), '/machines/[id]/load', 1, true],
    [told('assembly'), '/machines/[id]/load', 1, true],
    [told('leaf', 1), '/machines/[id]', 1, false],
    [told('correction', 2), '/machines/[id]', 1, true],
    [told('back'), '/people', null, true],
    [told('parts', 2), '/people', null, false],
    [told('people'), '/people', null, true],
    [told('parts', 2), '/leaf/[date]/[shift]', null, true],
    [told('reading', 2), '/ledger', null, true],
    [told('register', 2), '/crib', null, false],
    [told('stock'), '/crib', null, true],
  ])('%o on %s of machine %s: %s', (one, route, machine, shown) => {
    expect(concerns(one, route, machine)).toBe(shown);
  });
});
