import type { JudgedReading, JudgedSize, JudgeQuestion } from '../../src/core/correction/judge-question.ts';
import { lengthOf, nanometres } from '../../src/core/units/length.ts';

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

/** What the last of some readings of that seat is asked, by a lathe that keeps micrometres. */
export const judgeQuestion = (
  readings: JudgedReading[],
  over: Partial<JudgeQuestion> = {},
): JudgeQuestion => ({
  unit: 'mm',
  increment: nanometres(1000),
  limit: mm(0.3),
  sizes: [judgedSize()],
  registers: [{ row: 2, role: 'xWear', value: nanometres(0), locked: null }],
  readings,
  edges: [],
  setUps: [],
  taken: readings.length - 1,
  firstOff: false,
  confirmed: true,
  every: 1,
  next: readings.length,
  ...over,
});
