import { describe, expect, it } from 'vitest';
import outside from '../../../tests/outside/check-values.json';
import { chance } from '../../../tests/support/chance.ts';
import type { EdgeLife } from './edge-lives.ts';
import {
  bestSpeeds,
  fitTaylor,
  isTold,
  lifeAt,
  metreCosts,
  speedFor,
  type SpeedEdge,
} from './speed-and-life.ts';
import { ANY_SHAPE } from './weibull.ts';

const ended = (speed: number, life: number, end: EdgeLife['end'] = 'worn'): SpeedEdge => ({
  speed,
  life,
  end,
});

describe('speed and life (F. W. Taylor)', () => {
  const points = outside.taylorToolLife.points_mPerMin_min.map(([speed, minutes]) => ended(speed!, minutes!));
  it('the worked example of M. P. Groover (check-values): two lives, one line through both', () => {
    const { n, C } = outside.taylorToolLife;
    const fit = fitTaylor(points, ANY_SHAPE)!;
    expect(fit.n).toBeCloseTo(n, 3);
    expect(fit.constant).toBeCloseTo(C, 0);
    expect(lifeAt(fit, 160)).toBeCloseTo(5, 2);
    expect(speedFor(fit, 41)).toBeCloseTo(100, 2);
    // the line can be drawn; that it holds is not shown by one edge at each speed
    expect(isTold(fit)).toBe(false);
  });
  it('cannot be drawn from one speed, nor where all that were worn ran at one', () => {
    expect(fitTaylor(points.slice(1), ANY_SHAPE)).toBeNull();
    expect(fitTaylor([points[0]!, ended(158, 9)], ANY_SHAPE)).toBeNull();
    expect(fitTaylor([points[0]!, ended(0, 9)], ANY_SHAPE)).toBeNull();
    // one that broke before it had cut anything is none
    expect(fitTaylor([points[0]!, ended(100, 0)], ANY_SHAPE)).toBeNull();
    expect(fitTaylor([...points, ended(50, 0)], ANY_SHAPE)).toEqual(fitTaylor(points, ANY_SHAPE));
    expect(fitTaylor([], ANY_SHAPE)).toBeNull();
    expect(
      fitTaylor([ended(160, 5), ended(160, 6), ended(100, 40, 'good'), ended(100, 40, 'good')], ANY_SHAPE),
    ).toBeNull();
  });
  it('is not told where faster edges last as long, however many there are', () => {
    const { next } = chance(5);
    const edges = Array.from({ length: 60 }, (_, i) =>
      ended(i % 2 ? 100 : 150, 30 * (-Math.log(next())) ** (1 / 3)),
    );
    expect(isTold(fitTaylor(edges, ANY_SHAPE)!)).toBe(false);
  });

  const costs = { planned: 1400, failure: 6000, minutes: 6, perMinute: 100 };
  it('cheapest and fastest are where a search over speeds finds them, and what was not run is said', () => {
    const taylor = {
      n: 0.25,
      constant: 400,
      shape: 3,
      steepness: { low: 3, high: 5 },
      from: 100,
      to: 200,
      ends: 9,
    };
    const { cheapest, fastest } = bestSpeeds(taylor, costs);
    const search = (cost: (speed: number) => number) => {
      let best = 20;
      for (let speed = 20; speed < 900; speed += 0.05) if (cost(speed) < cost(best)) best = speed;
      return best;
    };
    expect(cheapest.speed).toBeCloseTo(search(metreCosts(taylor, costs)), 0);
    const timed = { planned: 6, failure: 6, minutes: 6, perMinute: 1 };
    expect(fastest.speed).toBeCloseTo(search(metreCosts(taylor, timed)), 0);
    expect(cheapest.run).toBe(true);
    expect(bestSpeeds({ ...taylor, to: 120 }, costs).fastest.run).toBe(false);
    expect(cheapest.between.low).toBeLessThan(cheapest.speed);
    expect(cheapest.between.high).toBeGreaterThan(cheapest.speed);
  });
  it('W. W. Gilbert: edges that all last alike cost (1/n − 1) times a change (textbook, memory)', () => {
    const taylor = {
      n: 0.25,
      constant: 400,
      shape: 60,
      steepness: { low: 4, high: 4 },
      from: 1,
      to: 900,
      ends: 9,
    };
    const { cheapest } = bestSpeeds(taylor, { ...costs, failure: 1401 });
    // the mean of a life so narrow is within a hundredth of its scale
    expect(cheapest.minutes / ((1 / 0.25 - 1) * (1400 / 100))).toBeCloseTo(1, 1);
  });

  it('hidden truth: limits of 95 in 100 hold it, edges that were still good lead nobody astray, and the speed is near the best', () => {
    const { next } = chance(81);
    const [shape, steepness, scale, shops] = [3, 4, 40, 100];
    let [held, told, worst, lost, plain] = [0, 0, 0, 0, 0];
    const truth = {
      n: 1 / steepness,
      constant: 120 * scale ** (1 / steepness),
      shape,
      steepness: { low: steepness, high: steepness },
      from: 100,
      to: 160,
      ends: 40,
    };
    const best = metreCosts(truth, costs)(bestSpeeds(truth, costs).cheapest.speed);
    for (let shop = 0; shop < shops; shop += 1) {
      const edges = Array.from({ length: 40 }, (_, i) => {
        const speed = i % 2 ? 110 : 150;
        const lasts = lifeAt(truth, speed) * (-Math.log(next())) ** (1 / shape);
        // the limit takes out about half of the slow ones while they are good
        return lasts > 45 ? ended(speed, 45, 'good') : ended(speed, lasts);
      });
      const fit = fitTaylor(edges, ANY_SHAPE)!;
      if (fit.steepness.low <= steepness && steepness <= fit.steepness.high) held += 1;
      // a line through the means of all lives, whether they were over or not, is too flat
      const mean = (speed: number) => {
        const lives = edges.filter((edge) => edge.speed === speed).map(({ life }) => Math.log(life));
        return lives.reduce((sum, each) => sum + each, 0) / lives.length;
      };
      plain += (mean(110) - mean(150)) / Math.log(150 / 110) / shops;
      if (!isTold(fit)) continue;
      told += 1;
      const cost = metreCosts(truth, costs)(bestSpeeds(fit, costs).cheapest.speed) / best;
      lost += cost - 1;
      worst = Math.max(worst, cost);
    }
    expect(held / shops).toBeGreaterThan(0.91);
    expect(held / shops).toBeLessThan(0.985);
    expect(plain).toBeLessThan(0.9 * steepness);
    expect(told).toBeGreaterThan(0.95 * shops);
    expect(lost / told).toBeLessThan(0.02);
    expect(worst).toBeLessThan(1.15);
  });
  it('hidden truth, few edges: three at each speed are enough for honest limits, which are wide', () => {
    const { next } = chance(19);
    const [steepness, shops] = [4, 300];
    let [held, told] = [0, 0];
    for (let shop = 0; shop < shops; shop += 1) {
      const edges = Array.from({ length: 6 }, (_, i) => {
        const speed = i % 2 ? 100 : 130;
        return ended(speed, 40 * (100 / speed) ** steepness * (-Math.log(next())) ** (1 / 2.5));
      });
      const fit = fitTaylor(edges, ANY_SHAPE)!;
      if (fit.steepness.low <= steepness && steepness <= fit.steepness.high) held += 1;
      if (isTold(fit)) told += 1;
    }
    expect(held / shops).toBeGreaterThan(0.88);
    expect(told / shops).toBeLessThan(0.85);
  });
});
