import { expect, it } from 'vitest';
import { edgeState } from '../../src/core/correction/edge-state.ts';
import { modelOf } from '../../src/core/correction/judge-question.ts';
import { nanometres } from '../../src/core/units/length.ts';
import { stateOf } from '../../src/server/edge-states.ts';
import type { Evidence } from '../../src/server/evidence.ts';

/** One size on one row, measured so. */
const known = (...measured: number[]) =>
  ({
    sizes: [
      {
        id: 1,
        name: 'Bore',
        nominal: nanometres(20e6),
        target: nanometres(20e6),
        upper: nanometres(21e3),
        lower: nanometres(0),
        moves: [{ register: 0, by: 1 }],
      },
    ],
    registers: [{ value: nanometres(0) }],
    readings: measured.map((deviation, i) => ({
      id: i,
      size: 0,
      at: i,
      measured: nanometres(20e6 + deviation),
      held: [0],
    })),
    edges: [],
    next: measured.length,
  }) as unknown as Evidence;

it('the state of a set of rows is remembered by all that is known of it, and by nothing less', () => {
  const evidence = known(2000, 5000, 3000);
  const first = stateOf(evidence);
  expect(first).toEqual(edgeState(modelOf(evidence)));
  expect(stateOf(known(2000, 5000, 3000))).toBe(first);
  const further = known(2000, 5000, 3000, 9000);
  expect(stateOf(further)).toEqual(edgeState(modelOf(further)));
  expect(stateOf(further).sizes[0]!.mean).toBeGreaterThan(first.sizes[0]!.mean);
  // the row was moved since: the same readings, and another part to come
  const moved = { ...evidence, edges: [{ register: 0, at: 1.5 }] };
  expect(stateOf(moved)).toEqual(edgeState(modelOf(moved)));
  expect(stateOf(moved)).not.toEqual(first);
  expect(stateOf(evidence)).toBe(first);
});

it('what was asked for longest ago is forgotten', () => {
  const evidence = known(1000);
  const first = stateOf(evidence);
  for (let i = 0; i < 600; i += 1) {
    stateOf(known(i * 10));
    if (i % 100 === 0) expect(stateOf(evidence)).toBe(first);
  }
  for (let i = 0; i < 600; i += 1) stateOf(known(i * 10 + 5));
  expect(stateOf(evidence)).not.toBe(first);
  expect(stateOf(evidence)).toEqual(first);
});
