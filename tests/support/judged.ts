import type { JudgedSize } from '../../src/core/correction/judge-question.ts';
import { lengthOf } from '../../src/core/units/length.ts';

const mm = (value: number) => lengthOf(value, 'mm');

/** A seat of 38 ± 0.02 mm that row 2 of a lathe cuts, as it is judged. */
export const judgedSize = (over: Partial<JudgedSize> = {}): JudgedSize => ({
  name: 'Seat',
  kind: 'outsideDiameter',
  tool: 2,
  row: 2,
  other: null,
  nominal: mm(38),
  upper: mm(0.02),
  lower: mm(-0.02),
  target: mm(38),
  policy: 'model',
  deadBand: mm(0.006),
  averageOf: 3,
  moves: [{ register: 0, by: 1 }],
  ...over,
});
