import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tableThen, type TableEntry, type TableStage, type TableState } from './table-then.ts';

const PLAIN: TableState = { wide: false, tied: null, heavy: false, reserved: false, inService: true };

/** The state after an entry, told forwards; null where the entry could not be made. */
function then(state: TableState, stage: TableStage, tool: number): TableState | null {
  switch (stage) {
    case 'declared':
      return state.wide ? null : { ...state, wide: true, tied: tool };
    case 'undeclared':
      return state.wide ? { ...state, wide: false, tied: null } : null;
    case 'heavy':
      return state.heavy ? null : { ...state, heavy: true };
    case 'light':
      return state.heavy ? { ...state, heavy: false } : null;
    case 'reserved':
      return state.reserved ? null : { ...state, reserved: true };
    case 'released':
      return state.reserved ? { ...state, reserved: false } : null;
    case 'outOfService':
      return state.inService ? { ...state, inService: false } : null;
    case 'inService':
      return state.inService ? null : { ...state, inService: true };
  }
}
const STAGES: TableStage[] = [
  'declared',
  'undeclared',
  'heavy',
  'light',
  'reserved',
  'released',
  'inService',
  'outOfService',
];

describe('what the table said at a past moment', () => {
  it('whatever was changed since, the state of every moment comes back', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...STAGES), fc.integer({ min: 1, max: 40 })), { maxLength: 20 }),
        fc.record({ reserved: fc.boolean(), inService: fc.boolean() }),
        (wished, beginning) => {
          const states: TableState[] = [{ ...PLAIN, ...beginning }];
          const made: { stage: TableStage; tool: number | null }[] = [];
          for (const [stage, tool] of wished) {
            const next = then(states.at(-1)!, stage, tool);
            if (!next) continue;
            states.push(next);
            made.push({ stage, tool: stage === 'declared' ? tool : null });
          }
          states.forEach((state, moment) =>
            expect(
              tableThen(
                states.at(-1)!,
                made.map((entry, i): TableEntry => ({ ...entry, later: i >= moment })),
              ),
            ).toEqual(state),
          );
        },
      ),
    );
  });
  it('a pocket that was wide once is shown wide then, with its T', () => {
    const entries: TableEntry[] = [
      { stage: 'declared', tool: 7, later: false },
      { stage: 'undeclared', tool: null, later: true },
      { stage: 'declared', tool: 9, later: true },
    ];
    expect(tableThen({ ...PLAIN, wide: true, tied: 9 }, entries)).toMatchObject({ wide: true, tied: 7 });
  });
});
