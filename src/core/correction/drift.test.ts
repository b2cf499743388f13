import { describe, expect, it } from 'vitest';

import { chance } from '../../../tests/support/chance.ts';
import { shareOut } from '../chart/capability.ts';
import { bandOf } from './decide.ts';
import { byEndOfEdge, driftOf, FAR, measureEvery, type DriftQuestion } from './drift.ts';
import { edgeAhead, edgeState } from './edge-state.ts';

const SIGMA = 2_000;
/** Readings of every part of an edge that drifts, its row moved once on the way. */
function question(
  seed: number,
  drift: number,
  parts = 40,
): DriftQuestion & { truth: (at: number) => number } {
  const { normal } = chance(seed);
  const truth = (at: number) => (2 + drift * at) * SIGMA;
  const held = (at: number) => (at < 20 ? 0 : -3 * SIGMA);
  const moves = [{ register: 0, by: 1 }];
  return {
    truth,
    model: {
      registers: 1,
      sizes: [{ tolerance: 10 * SIGMA, moves }],
      readings: Array.from({ length: parts }, (_, at) => ({
        size: 0,
        at,
        deviation: truth(at) + held(at) + normal() * SIGMA,
        held: [held(at)],
      })),
      edges: [],
      next: parts,
    },
    size: 0,
    held: [-3 * SIGMA],
    lower: -5 * SIGMA,
    upper: 5 * SIGMA,
  };
}

describe('where a size goes', () => {
  it('nine of ten parts lie in the fan, ten parts ahead, over two hundred edges', () => {
    let inside = 0;
    for (let seed = 1; seed <= 200; seed += 1) {
      const ask = question(seed, 0.05);
      const { fan } = driftOf(ask, 10);
      const last = fan.at(-1)!;
      expect(last.ahead).toBe(10);
      const part = ask.truth(50) - 3 * SIGMA + chance(seed + 5_000).normal() * SIGMA;
      if (part >= last.low && part <= last.high) inside += 1;
    }
    expect(inside).toBeGreaterThan(165);
    expect(inside).toBeLessThan(196);
  });

  it('takes corrections out of the line: it goes on where the row was moved', () => {
    const ask = question(3, 0.05);
    const { points } = driftOf(ask, 10);
    // as cut, the parts step by three sigma; uncorrected they do not
    const mean = (from: number, to: number, pick: 'deviation' | 'uncorrected') =>
      points.slice(from, to).reduce((sum, each) => sum + each[pick], 0) / (to - from) / SIGMA;
    expect(mean(15, 20, 'deviation') - mean(20, 25, 'deviation')).toBeGreaterThan(1.5);
    expect(Math.abs(mean(15, 20, 'uncorrected') - mean(20, 25, 'uncorrected'))).toBeLessThan(1.5);
    expect(points.at(-1)!.uncorrected).toBeCloseTo(points.at(-1)!.deviation, 6);
  });

  it('parts to the next move and to the limit are those found by looking at each part in turn', () => {
    for (const [seed, drift] of [
      [1, 0.2],
      [2, 0.1],
      [3, -0.15],
    ] as const) {
      const ask = question(seed, drift);
      const { toMove, toLimit, state } = driftOf(ask, 10);
      const mean = (ahead: number) =>
        edgeState({ ...ask.model, next: ask.model.next + ahead }).sizes[0]!.mean + ask.held[0]!;
      const first = (holds: (m: number) => boolean) => {
        for (let ahead = 0; ahead <= FAR; ahead += 1) if (holds(mean(ahead))) return ahead;
        return null;
      };
      expect(toMove).toBe(first((m) => Math.abs(m) > bandOf(state)));
      expect(toLimit).toBe(first((m) => m > ask.upper || m < ask.lower));
    }
  });

  it('a move that is not due yet is in so many parts, and one that is due is now, from where it stands', () => {
    const ask = question(2, 0.1);
    const at = (held: number) => {
      const asked = { ...ask, held: [held] };
      return { ...driftOf(asked, 10), mean: edgeState(ask.model).sizes[0]!.mean + held };
    };
    const { state } = driftOf(ask, 10);
    const band = bandOf(state);
    // set to the far side of its band it drifts through it: about twice the band, at its pace
    const far = at(-state.mean - 0.9 * band);
    expect(far.toMove).toBeGreaterThan(5);
    expect(Math.abs(far.toMove! - (1.9 * band) / state.drift)).toBeLessThan(3);
    expect(far.toLimit).toBeGreaterThan(far.toMove!);
    expect(far.now / band).toBeCloseTo(-0.9, 9);
    // it stands as far on the one side as its row is moved to the other: what counts is where it stands
    expect(at(-2 * state.mean).toMove).toBe(0);
    expect(at(-state.mean).toMove).toBeGreaterThan(0);
  });
  it('the fan is what is known of each part ahead, from the next to the last asked for, nine of ten of a normal spread', () => {
    const ask = question(5, 0.08);
    const { fan } = driftOf(ask, 30);
    expect(fan.map(({ ahead }) => ahead)).toEqual([0, 3, 5, 8, 10, 13, 15, 18, 20, 23, 25, 28, 30]);
    for (const { ahead, mean, low, high } of fan) {
      const then = edgeState({ ...ask.model, next: ask.model.next + ahead }).sizes[0]!;
      expect(mean).toBeCloseTo(then.mean + ask.held[0]!, 3);
      // the 95th of a hundred of a normal spread: 1.645
      const reach = 1.645 * Math.sqrt(then.error ** 2 + then.noise ** 2);
      expect([low, high].map((each) => Math.round(each))).toEqual(
        [mean - reach, mean + reach].map((each) => Math.round(each)),
      );
    }
  });
  it('its mean may be out where twice its error reaches a limit, on either side, and only there', () => {
    const ask = question(6, 0);
    const { mean, error } = edgeState(ask.model).sizes[0]!;
    const mayBeOut = (stands: number) => driftOf({ ...ask, held: [stands - mean] }, 10).mayBeOut;
    for (const [side, limit] of [
      [1, ask.upper],
      [-1, -ask.lower],
    ] as const) {
      expect(mayBeOut(side * (limit - 2.1 * error))).toBe(false);
      expect(mayBeOut(side * (limit - 1.9 * error))).toBe(true);
      expect(mayBeOut(side * (limit + 3 * error))).toBe(true);
    }
    expect(mayBeOut(0)).toBe(false);
  });
  it('is of its own readings; a jump of the row is told', () => {
    const ask = question(8, 0);
    const moves = [{ register: 0, by: 1 }];
    const model = {
      ...ask.model,
      sizes: [...ask.model.sizes, { tolerance: 10 * SIGMA, moves }],
      readings: ask.model.readings.flatMap((each) => [
        each,
        { ...each, size: 1, deviation: each.deviation + 9 },
      ]),
    };
    const { points } = driftOf({ ...ask, model }, 10);
    expect(points.map(({ at }) => at)).toEqual(ask.model.readings.map(({ at }) => at));
    expect(driftOf(ask, 10).jump).toBeNull();
    const jumped = ask.model.readings.map((each) => ({
      ...each,
      deviation: each.deviation + (each.at >= 30 ? 12 * SIGMA : 0),
    }));
    const { jump } = driftOf({ ...ask, model: { ...ask.model, readings: jumped } }, 10);
    expect(jump).toMatchObject({ register: 0, after: 29, before: 30 });
  });
  it('earlier edges are those of its own row since the first reading, each change once', () => {
    const ask = question(4, 0);
    const earlier = (...edges: { register: number; at: number }[]) => {
      const model = {
        ...ask.model,
        registers: 2,
        edges,
        readings: ask.model.readings.map((each) => ({ ...each, held: [...each.held, 0] })),
      };
      const asked = { ...ask, model, held: [-3 * SIGMA, 0] };
      const { newEdge } = driftOf(asked, 10);
      if (newEdge)
        expect(newEdge.mean).toBeCloseTo(edgeAhead(model)(model.next, 0).sizes[0]!.mean - 3 * SIGMA, 6);
      return newEdge?.earlier ?? null;
    };
    const own = (at: number) => ({ register: 0, at });
    expect(earlier()).toBeNull();
    expect(earlier({ register: 1, at: 9.5 })).toBeNull();
    // before the first reading, and with the part that comes next: of neither is it known where they began
    expect(earlier(own(-0.5), own(0), own(40))).toBeNull();
    expect(earlier(own(9.5), own(19.5), own(19.5), { register: 1, at: 24.5 }, own(39.5))).toBe(3);
    const nothing = { ...ask, model: { ...ask.model, readings: [], edges: [own(9.5)] } };
    expect(driftOf(nothing, 10).newEdge).toBeNull();
  });

  it('foretells no limit where no drift is seen', () => {
    const { toMove, toLimit } = driftOf({ ...question(4, 0), held: [-2 * SIGMA] }, 10);
    expect([toMove, toLimit]).toEqual([null, null]);
  });
  it('what is only expected of a new edge is not due: nobody has measured it', () => {
    const ask = question(4, 0);
    const edges = [9.5, 19.5, 29.5, 39.5].map((at) => ({ register: 0, at }));
    const begun = { ...ask, model: { ...ask.model, edges }, held: [2.8 * SIGMA] };
    const { toMove, now, state } = driftOf(begun, 10);
    expect(now).toBeGreaterThan(bandOf(state));
    expect(toMove).toBeNull();
  });
  it('what stands off already is due now, drift or not; so is what is out of its limits', () => {
    for (const drift of [0, 0.05]) {
      const off = driftOf({ ...question(4, drift), held: [(1 - drift * 40) * SIGMA] }, 10);
      expect([off.toMove, off.toLimit === 0]).toEqual([0, false]);
      const out = driftOf({ ...question(4, drift), held: [(5 - drift * 40) * SIGMA] }, 10);
      expect([out.toMove, out.toLimit]).toEqual([0, 0]);
    }
  });
});

describe('how often to measure', () => {
  it('is the most parts for which no part is out more likely than said, by looking at each', () => {
    const ask = question(7, 0.1);
    const found = measureEvery(ask, 0.001);
    const state = edgeState(ask.model).sizes[0]!;
    const risk = (ahead: number) => {
      const then = edgeState({ ...ask.model, next: ask.model.next + ahead }).sizes[0]!;
      // set to the middle at worst: what the drift brings until then, and what nobody knows
      return shareOut(then.mean - state.mean, Math.hypot(then.error, then.noise), ask.lower, ask.upper);
    };
    expect(found).toBeGreaterThan(3);
    expect(risk(found)).toBeLessThan(0.02);
    expect(risk(found * 2)).toBeGreaterThan(0.001);
    // who allows more, measures less often; tighter limits, more often
    expect(measureEvery(ask, 0.01)).toBeGreaterThan(found);
    expect(measureEvery({ ...ask, lower: -4 * SIGMA, upper: 4 * SIGMA }, 0.001)).toBeLessThan(found);
    expect(measureEvery({ ...ask, lower: -SIGMA, upper: SIGMA }, 0.001)).toBe(0);
  });
});

describe('the end of an edge, and the beginning of the next', () => {
  it('says how many corrections are still due, and whether the limits come first, by the line itself', () => {
    // it stands at 2 + 0.05 × 80 − 3 = 3 σ; 20 parts on at 4 σ, 80 on at 7 σ: out of 5
    const ask = question(4, 0.05, 80);
    const at = (left: number) => byEndOfEdge(ask, left);
    expect(Math.abs(at(20).mean / SIGMA - 4)).toBeLessThan(1);
    expect([at(20).leavesFirst, at(80).leavesFirst]).toEqual([false, true]);
    const band = bandOf(driftOf(ask, 10).state);
    expect(at(80).moves).toBe(Math.floor(Math.abs(at(80).mean - at(0).mean) / (2 * band)));
    expect(at(80).moves).toBeGreaterThan(0);
    expect(at(0)).toMatchObject({ moves: 0, leavesFirst: false });
  });
  it('a new edge is expected where earlier ones began, to its own error, over a hundred tools', () => {
    let within = 0;
    let near = 0;
    for (let seed = 1; seed <= 100; seed += 1) {
      const { normal } = chance(seed * 7);
      const usual = 6 * SIGMA;
      const begins = Array.from({ length: 6 }, () => usual + 1.5 * SIGMA * normal());
      const readings = begins.slice(0, 5).flatMap((begin, edge) =>
        Array.from({ length: 8 }, (_, i) => ({
          size: 0,
          at: edge * 8 + i,
          deviation: begin + normal() * SIGMA,
          held: [0],
        })),
      );
      const { newEdge } = driftOf(
        {
          model: {
            registers: 1,
            sizes: [{ tolerance: 10 * SIGMA, moves: [{ register: 0, by: 1 }] }],
            readings,
            edges: [1, 2, 3, 4].map((edge) => ({ register: 0, at: edge * 8 - 0.5 })),
            next: 40,
          },
          size: 0,
          held: [0],
          lower: -20 * SIGMA,
          upper: 20 * SIGMA,
        },
        10,
      );
      expect(newEdge!.earlier).toBe(4);
      if (Math.abs(begins[5]! - newEdge!.mean) < 2 * newEdge!.error) within += 1;
      if (Math.abs(newEdge!.mean - usual) < 2 * SIGMA) near += 1;
    }
    expect(within).toBeGreaterThan(85);
    expect(near).toBeGreaterThan(85);
  });
  it('without an earlier change nothing is said of the next', () => {
    expect(driftOf(question(1, 0), 10).newEdge).toBeNull();
  });

  it('where it is not known whether its mean is within its limits it does not say so', () => {
    const well = question(3, 0);
    const stands = driftOf({ ...well, held: [-2 * SIGMA] }, 10);
    expect([stands.toLimit, stands.mayBeOut]).toEqual([null, false]);
    // renewed since it was measured, where edges began four spreads apart
    const { model } = question(9, 0);
    const apart = model.readings.map((each, i) => ({
      ...each,
      held: [0],
      deviation: (i < 20 ? 4 : -4) * SIGMA + each.deviation - each.held[0]! - 2 * SIGMA,
    }));
    const edges = [19.5, model.next - 0.5].map((at) => ({ register: 0, at }));
    const fresh = driftOf({ ...well, model: { ...model, readings: apart, edges }, held: [0] }, 10);
    expect(fresh.toLimit).not.toBe(0);
    expect(fresh.mayBeOut).toBe(true);
  });

  it('a new edge that is only supposed is foretold as one that the ledger names', () => {
    const { model } = question(9, 0.05);
    const edges = [{ register: 0, at: 19.5 }];
    const named = { register: 0, at: model.next - 0.5 };
    const supposed = edgeAhead({ ...model, edges })(model.next, 0).sizes[0]!;
    const told = edgeState({ ...model, edges: [...edges, named] }).sizes[0]!;
    for (const each of ['mean', 'error', 'noise', 'drift', 'driftError'] as const)
      expect(supposed[each] / told[each]).toBeCloseTo(1, 9);
    expect(supposed.error).toBeGreaterThan(1.5 * edgeState({ ...model, edges }).sizes[0]!.error);
  });
});
