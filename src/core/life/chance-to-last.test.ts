import { describe, expect, it } from 'vitest';
import { chance as numbers } from '../../../tests/support/chance.ts';
import { chanceToLast } from './chance-to-last.ts';
import type { EdgeLife } from './edge-lives.ts';

describe('the chance that nothing breaks while nobody is there', () => {
  const truth = { shape: 2.5, scale: 400 };
  const { next } = numbers(21);
  const own = () => truth.scale * (-Math.log(1 - next())) ** (1 / truth.shape);
  const edgesOf = (count: number): EdgeLife[] =>
    Array.from({ length: count }, () => {
      const life = own();
      return life < 300 ? { life, end: 'broken' } : { life: 300, end: 'good' };
    });
  it('comes true: of many nights said to last with so much, about so many do', () => {
    let [said, lasted] = [0, 0];
    const nights = 400;
    for (let i = 0; i < nights; i += 1) {
      const edges = edgesOf(40);
      const [usedNow, usedThen] = [80, 200];
      // an edge that has come to 80 already
      let life = own();
      while (life <= usedNow) life = own();
      said += chanceToLast([{ tool: 1, usedNow, usedThen, edges }]).chance;
      if (life > usedThen) lasted += 1;
    }
    expect(Math.abs(said - lasted) / nights).toBeLessThan(0.045);
  });
  it('several tools: the product, and the one it hangs on', () => {
    const edges = edgesOf(60);
    const one = (tool: number, usedThen: number) => ({ tool, usedNow: 50, usedThen, edges });
    const [a, b] = [chanceToLast([one(5, 120)]).chance, chanceToLast([one(6, 260)]).chance];
    const both = chanceToLast([one(5, 120), one(6, 260)]);
    expect(both.chance).toBeCloseTo(a * b, 10);
    expect(both.weakest).toEqual({ tool: 6, chance: b });
    expect(b).toBeLessThan(a);
  });
  it('wear does not stop a night; too few edges say nothing; what never broke is not certain', () => {
    const worn = Array.from({ length: 20 }, (): EdgeLife => ({ life: 150, end: 'worn' }));
    const few = edgesOf(7);
    const answer = chanceToLast([
      { tool: 1, usedNow: 0, usedThen: 100, edges: worn },
      { tool: 2, usedNow: 0, usedThen: 100, edges: few },
    ]);
    expect(answer.known).toEqual([1]);
    expect(answer.unknown).toEqual([2]);
    expect(answer.chance).toBeGreaterThan(0.97);
    expect(answer.chance).toBeLessThan(1);
    expect(chanceToLast([])).toEqual({ chance: 1, weakest: null, known: [], unknown: [] });
    // nothing cut, nothing risked
    expect(chanceToLast([{ tool: 1, usedNow: 50, usedThen: 50, edges: edgesOf(20) }])).toMatchObject({
      chance: 1,
      weakest: null,
    });
  });
});
