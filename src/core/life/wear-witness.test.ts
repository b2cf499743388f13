import { describe, expect, it } from 'vitest';
import { chance } from '../../../tests/support/chance.ts';
import { asWornAfter, wearWitness, type Moved } from './wear-witness.ts';

const straight = (pace: number, parts = 5, from = 0): Moved[] =>
  Array.from({ length: parts }, (_, i) => ({ at: from + 10 * i, moved: 3000 + pace * 10 * i }));

describe('the sizes of an edge as an early witness of its wear', () => {
  it('lines without any scatter: paces are what they are', () => {
    const witness = wearWitness([straight(500), straight(600), straight(400), straight(1500, 4, 200)])!;
    expect(witness.now).toEqual({ pace: 1500, error: 0 });
    expect(witness.before).toMatchObject({ pace: 500, edges: 3 });
    expect(witness.before.spread).toBeCloseTo(100, 6);
    expect([witness.differs, witness.times]).toEqual(['faster', 3]);
    expect(asWornAfter(witness, 210)).toBe(70);
  });
  it('what a set-up throws off is no wear, and the edge is the same before and after it', () => {
    const earlier = [straight(500), straight(600), straight(400)];
    const own = straight(1500, 6).map((part, i) => ({
      ...part,
      setUp: i < 3 ? 0 : 1,
      moved: part.moved - (i < 3 ? 0 : 80_000),
    }));
    const witness = wearWitness([...earlier, own])!;
    expect(witness.now.pace).toBeCloseTo(1500, 6);
    expect(witness).toMatchObject({ differs: 'faster', before: { edges: 3 } });
    expect(wearWitness([...earlier, own.map(({ at, moved }) => ({ at, moved }))])!.differs).not.toBe(
      'faster',
    );
    // a single part of each set-up says nothing of a pace
    const single = straight(1500, 5).map((part, setUp) => ({ ...part, setUp }));
    expect(wearWitness([...earlier, single])).toBeNull();
  });
  it('a size that grows smaller wears as well as one that grows', () => {
    const down = wearWitness([-500, -600, -400, -1500].map((pace) => straight(pace)))!;
    expect([down.differs, down.times]).toEqual(['faster', 3]);
    expect(wearWitness([-500, -510, -490, 900].map((pace) => straight(pace)))!).toMatchObject({
      differs: 'slower',
      times: 0,
    });
  });
  it('nobody can tell by two edges, by two parts, or by parts of one place', () => {
    expect(wearWitness([straight(500), straight(600), straight(900)])).toBeNull();
    expect(wearWitness([straight(1), straight(2), straight(3), straight(4, 2)])).toBeNull();
    expect(wearWitness([straight(1), straight(2), straight(3, 2), straight(4)])).toBeNull();
    const once = [1, 2, 3].map((moved) => ({ at: 5, moved }));
    expect(wearWitness([straight(1), straight(2), straight(3), once])).toBeNull();
    expect(wearWitness([])).toBeNull();
    expect(asWornAfter({ times: 0.01 }, 200)).toBeNull();
  });

  /** Shops whose edges differ by a fifth, measured every fifth part with a spread of 2 µm. */
  function shops(times: number, parts: number, count: number, seed: number) {
    const { normal } = chance(seed);
    const said = { faster: 0, slower: 0, blind: 0 };
    for (let shop = 0; shop < count; shop += 1) {
      const edges = Array.from({ length: 7 }, (_, i) => {
        const pace = 300 * (1 + 0.2 * normal()) * (i === 6 ? times : 1);
        return Array.from({ length: i === 6 ? parts : 20 }, (_, k) => ({
          at: 5 * k,
          moved: pace * 5 * k + 2000 * normal(),
        }));
      });
      const witness = wearWitness(edges)!;
      if (witness.differs) said[witness.differs] += 1;
      if (!witness.wouldSee) said.blind += 1;
    }
    return { faster: said.faster / count, slower: said.slower / count, blind: said.blind / count };
  }
  it('hidden truth: an edge like the others is accused in hardly more than five of a hundred', () => {
    for (const parts of [4, 8, 16]) {
      const { faster, slower } = shops(1, parts, 600, 7 + parts);
      expect(faster + slower).toBeLessThan(0.075);
    }
  });
  it('hidden truth: one twice as fast is found well before its limit of a hundred parts, and it says while it cannot tell yet', () => {
    expect(shops(2, 14, 400, 3).faster).toBeGreaterThan(0.8);
    const early = shops(2, 4, 400, 5);
    expect(early.faster).toBeLessThan(0.4);
    expect(early.blind).toBeGreaterThan(0.9);
    expect(shops(2, 14, 400, 3).blind).toBeLessThan(0.25);
  });
});
