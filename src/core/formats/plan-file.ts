import { POLICIES, type Policy } from '../correction/policies.ts';
import {
  FEATURE_KINDS,
  FEATURE_WORDS,
  middle,
  otherEnd,
  type FeatureKind,
  type Limits,
  type Rough,
} from '../inspection/feature.ts';
import { MOMENT_WORDS, MOMENTS, type Moment } from '../inspection/next-reading.ts';
import { plainDecimal } from '../units/format-length.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';
import type { FileResult } from './csv-table.ts';
import { readCells, readRows, type RowReader } from './row-reader.ts';

export interface PlannedFeature extends Limits {
  name: string;
  kind: FeatureKind;
  target: Length;
  tool: number;
  /** Offset row that the feature's size answers to. */
  row: number;
  policy: Policy;
  deadBand: Length;
  averageOf: number;
  /** The largest correction an operator may approve alone. */
  operatorLimit: Length;
  gauge: string;
  /** The tool and row that cut its other end; null: not cut here. */
  other: { tool: number; row: number } | null;
  /** Who roughs it, and the stock that the program leaves for the finisher, in the size; null: nobody has said. */
  rough: Rough | null;
  /** It is measured every so many parts; null: by turns. */
  every: number | null;
  /** And at these moments, whatever the interval. */
  also: Moment[];
}

const NEEDED = ['feature', 'kind', 'nominal', 'upper', 'lower', 'tool'];
const ALLOWED = [
  'row',
  'other_tool',
  'other_row',
  'target',
  'policy',
  'dead_band',
  'average_of',
  'operator_limit',
  'gauge',
  'rough_tool',
  'rough_row',
  'rough_stock',
  'every',
  'also',
];
export const PLAN_HEADING = [...NEEDED, ...ALLOWED];

/** A measuring plan as CSV: the features of one program, in that machine's unit unless a suffix says otherwise. */
export const readPlanFile = (text: string, unit: LengthUnit): FileResult<PlannedFeature> =>
  readRows(text, NEEDED, ALLOWED, featureReader(unit));

/** One feature written by hand, under the headings of the file. */
export const readFeature = (cells: Readonly<Record<string, string>>, unit: LengthUnit) =>
  readCells([{ line: 1, cells }], featureReader(unit));

/** A size under the headings of the file, as it would be brought in by. */
export function planCells(f: PlannedFeature, unit: LengthUnit): Record<string, string> {
  const size = (value: Length) => plainDecimal(value, unit);
  return {
    feature: f.name,
    kind: f.kind,
    nominal: size(f.nominal),
    upper: size(f.upper),
    lower: size(f.lower),
    tool: String(f.tool),
    row: String(f.row),
    other_tool: String(f.other?.tool ?? ''),
    other_row: String(f.other?.row ?? ''),
    target: size(f.target),
    policy: f.policy,
    dead_band: size(f.deadBand),
    average_of: String(f.averageOf),
    operator_limit: size(f.operatorLimit),
    gauge: f.gauge,
    rough_tool: String(f.rough?.tool ?? ''),
    rough_row: String(f.rough?.row ?? ''),
    rough_stock: f.rough ? size(f.rough.stock) : '',
    every: String(f.every ?? ''),
    also: f.also.join('+'),
  };
}

const KIND_CHOICES = FEATURE_KINDS.map((value) => ({ value, words: FEATURE_WORDS[value] }));

function featureReader(unit: LengthUnit): (row: RowReader) => PlannedFeature {
  return (row) => {
    const limits = row.limits(unit);
    const name = row.text('feature', 60);
    if (limits.upper <= limits.lower)
      row.issues.push({
        line: 0,
        column: 'upper',
        message: `${name}: the upper deviation must lie above the lower one.`,
      });
    const tool = row.whole('tool', 1, 9999);
    const target = row.optionalLength('target', unit, middle(limits));
    if (target > limits.nominal + limits.upper || target < limits.nominal + limits.lower)
      row.issues.push({ line: 0, column: 'target', message: `${name}: the target lies outside the limits.` });
    const kind = row.choice('kind', FEATURE_KINDS, KIND_CHOICES);
    const otherTool = row.optional('other_tool') === null ? null : row.whole('other_tool', 1, 9999);
    if (otherTool !== null && otherEnd(kind) === null)
      row.issues.push({
        line: 0,
        column: 'other_tool',
        message: `${name}: this kind of size has no other end that a tool could cut.`,
      });
    const roughTool = row.optional('rough_tool') === null ? null : row.whole('rough_tool', 1, 9999);
    const stock = roughTool === null ? nanometres(0) : row.length('rough_stock', unit);
    if (roughTool !== null && stock <= 0)
      row.say('rough_stock', `${name}: write the stock that the rougher leaves, in the size.`);
    const rough =
      roughTool === null ? null : { tool: roughTool, row: row.whole('rough_row', 1, 999, roughTool), stock };
    return {
      ...limits,
      rough,
      every: row.optional('every') === null ? null : row.whole('every', 1, 10_000),
      also: moments(row),
      name,
      kind,
      tool,
      other: otherTool === null ? null : { tool: otherTool, row: row.whole('other_row', 1, 999, otherTool) },
      row: row.whole('row', 1, 999, tool),
      target,
      policy: row.optional('policy') === null ? 'model' : row.choice('policy', POLICIES),
      deadBand: row.optionalLength(
        'dead_band',
        unit,
        nanometres(Math.round((limits.upper - limits.lower) / 8)),
      ),
      averageOf: row.whole('average_of', 1, 50, 1),
      operatorLimit: row.optionalLength('operator_limit', unit, nanometres(0)),
      gauge: row.optional('gauge') ?? '',
    };
  };
}

/** Moments at which a size is measured, parted by + as a cell has them. */
function moments(row: RowReader): Moment[] {
  const named = (row.optional('also') ?? '')
    .split('+')
    .map((each) => each.trim())
    .filter(Boolean);
  return named.flatMap((each) => {
    const found = MOMENTS.find(
      (moment) => moment.toLowerCase() === each.toLowerCase() || MOMENT_WORDS[moment] === each.toLowerCase(),
    );
    if (!found) row.say('also', `"${each}" is none of ${MOMENTS.join(', ')}; several are parted by +.`);
    return found ? [found] : [];
  });
}
