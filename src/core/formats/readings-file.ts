import type { Length, LengthUnit } from '../units/length.ts';
import { parseLength } from '../units/parse-length.ts';
import { csvTable, type FileIssue, type FileResult } from './csv-table.ts';
import { readXml, type XmlNode as Node } from './read-xml.ts';
import { readCells, type RowReader } from './row-reader.ts';

/** One size of one part, as a file has it. */
export interface FiledReading {
  line: number;
  feature: string;
  /** Null: the file does not say, and one is asked for. */
  part: number | null;
  value: Length;
  firstOff: boolean;
  recut: boolean;
  /** In which place of its cycle it was cut; null: as its number has it. */
  place: number | null;
  /** On which pallet it was cut; null: as its parts were counted. */
  pallet: number | null;
  /** Of which machine, program, revision and job the file says it is; null: it says nothing of it. */
  machine: string | null;
  program: string | null;
  revision: number | null;
  job: number | null;
  /** When it was measured; null: the file does not say so that it can be told. */
  time: Date | null;
  /** Why it counted for nothing where it comes from; empty: it counted. */
  question: string;
}

const NEEDED = ['feature', 'value'];
/** What a program's own table of readings has beside that. By the second line a reading is told from those of other parts; the last is told by the plan and the record, and passed over. */
const ALLOWED = ['part', 'unit', 'first_off', 'cut_again', 'place', 'pallet'];
const OF = ['machine', 'program', 'revision', 'job', 'time', 'question'];
const PASSED = ['nominal', 'upper', 'lower', 'target', 'deviation', 'wear', 'gauge', 'person'];

/** Whether a text is a table of readings, by its heading, or a document of results. */
export function isReadings(text: string): boolean {
  if (/^\s*(\uFEFF)?\s*<[^>]*(\?xml|QIFDocument)/.test(text))
    return /<(\w+:)?QIFDocument\b/.test(text.slice(0, 4000));
  const heading = text
    .replace(/^\uFEFF/, '')
    .split('\n', 1)[0]!
    .toLowerCase();
  const cells = heading.split(/[,;\t]/).map((each) => each.trim().replaceAll('"', ''));
  return NEEDED.every((name) => cells.includes(name));
}

/** Reads measured sizes: a CSV with our headings, or QIF results. Sizes without a unit are in the program's. */
export const readReadings = (text: string, unit: LengthUnit): FileResult<FiledReading> =>
  /^\s*(\uFEFF)?\s*</.test(text) ? readQif(text) : readTable(text, unit);

function readTable(text: string, unit: LengthUnit): FileResult<FiledReading> {
  const table = csvTable(text, NEEDED, [...ALLOWED, ...OF, ...PASSED]);
  return table.ok ? readCells(table.rows, (row) => reading(row, unit)) : table;
}

function reading(row: RowReader, programUnit: LengthUnit): FiledReading {
  const unit = row.optional('unit') === null ? programUnit : row.choice('unit', ['mm', 'in'] as const);
  return {
    line: row.line,
    feature: row.text('feature', 60),
    part: row.optional('part') === null ? null : row.whole('part', 0, 10_000_000),
    value: row.length('value', unit),
    // our own table counts first parts, others say yes
    firstOff: /^[1-9]\d*$/.test(row.optional('first_off') ?? '') || row.yes('first_off'),
    recut: row.yes('cut_again'),
    place: row.optional('place') === null ? null : row.whole('place', 1, 99),
    pallet: row.optional('pallet') === null ? null : row.whole('pallet', 1, 999),
    machine: row.optional('machine'),
    program: row.optional('program'),
    revision: number(row.optional('revision')),
    job: number(row.optional('job')),
    time: instant(row.optional('time')),
    question: row.optional('question') ?? '',
  };
}

/** Another system may number its jobs and revisions in words: those are not ours. */
const number = (cell: string | null): number | null =>
  cell !== null && /^\d{1,9}$/.test(cell) ? Number(cell) : null;

/** A time of ISO 8601 that says how far it is from UTC; by any other it cannot be told when that was. */
function instant(cell: string | null): Date | null {
  if (cell === null || !/^\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d([.,]\d+)?)?(Z|[+-]\d\d:?\d\d)$/.test(cell))
    return null;
  const at = new Date(
    cell
      .replace(' ', 'T')
      .replace(',', '.')
      .replace(/([+-]\d\d)(\d\d)$/, '$1:$2'),
  );
  return Number.isNaN(at.getTime()) ? null : at;
}

const NOTHING_SAID = {
  machine: null,
  program: null,
  revision: null,
  job: null,
  time: null,
  question: '',
} satisfies Partial<FiledReading>;

const MOST_NESTED = 60;
const UNITS: Readonly<Record<string, LengthUnit>> = {
  mm: 'mm',
  millimeter: 'mm',
  millimetre: 'mm',
  in: 'in',
  inch: 'in',
};

/**
 * A subset of QIF results (ISO 23952, Quality Information Framework; from memory): each `…CharacteristicMeasurement` of a
 * `MeasurementResults` with its `Value` and `CharacteristicItemId`; the `…CharacteristicItem` of that id gives the name of the
 * size; the part is the number at the end of the `SerialNumber` of the `ActualComponent` that the results are of; the unit is
 * that of the file's primary lengths (`LinearUnit`, `UnitName`), and is not guessed. Angles and characteristics without a value are passed over.
 */
function readQif(xml: string): FileResult<FiledReading> {
  const bad = (message: string): FileResult<FiledReading> => ({
    ok: false,
    issues: [{ line: 0, column: '', message }],
  });
  const read = readXml(xml, MOST_NESTED);
  if (!read.ok) return bad(read.reason);
  const { tree } = read;
  if (!('QIFDocument' in tree)) return bad('This XML is no QIF document.');
  const said = textOf(all(tree, (name) => name === 'LinearUnit').map(({ node }) => node.UnitName)[0]);
  const unit = UNITS[said.toLowerCase()];
  if (!unit)
    return bad(
      said === ''
        ? 'The file does not say in which unit its lengths are (FileUnits, PrimaryUnits, LinearUnit, UnitName).'
        : `Lengths in "${said}" are not known here: mm or inch.`,
    );
  const names = new Map(
    all(tree, (name) => name.endsWith('CharacteristicItem')).map(({ node }) => [
      textOf(node['@id']),
      textOf(node.Name) || textOf(node.Description),
    ]),
  );
  const serials = new Map(
    all(tree, (name) => name === 'ActualComponent').map(({ node }) => [
      textOf(node['@id']),
      textOf(node.SerialNumber),
    ]),
  );
  const issues: FileIssue[] = [];
  const rows: FiledReading[] = [];
  for (const { node: results } of all(tree, (name) => name === 'MeasurementResults')) {
    const of = all(results, (name) => name === 'ActualComponentId').map(({ text }) => text)[0] ?? '';
    const digits = /(\d+)\D*$/.exec(serials.get(of) ?? '')?.[1];
    const part = digits === undefined ? null : Number(digits);
    for (const { name, node } of all(results, (each) => each.endsWith('CharacteristicMeasurement'))) {
      const value = textOf(node.Value);
      if (value === '' || /Angle|Angular|Tilt|Coordinate/i.test(name)) continue;
      const id = textOf(node.CharacteristicItemId);
      const feature = names.get(id) ?? '';
      const column = feature || `${name} ${textOf(node['@id'])}`;
      const size = parseLength(value, unit);
      if (feature === '')
        issues.push({ line: 0, column, message: `No characteristic with a name has the id "${id}".` });
      else if (!size.ok) issues.push({ line: 0, column, message: size.reason });
      else if (part !== null && part > 10_000_000)
        issues.push({ line: 0, column, message: `"${digits}" is no part number here.` });
      else
        rows.push({
          ...NOTHING_SAID,
          line: rows.length + 1,
          feature,
          part,
          value: size.value,
          firstOff: false,
          recut: false,
          place: null,
          pallet: null,
        });
    }
  }
  if (issues.length > 0) return { ok: false, issues };
  return rows.length > 0 ? { ok: true, rows } : bad('The document has no measured size.');
}

function textOf(node: unknown): string {
  if (typeof node === 'string') return node.trim();
  if (Array.isArray(node)) return textOf(node[0]);
  return typeof node === 'object' && node !== null ? textOf((node as Node)['#text']) : '';
}

/** All elements whose name fits, however deep; one that fits is not looked into. */
function all(node: unknown, fits: (name: string) => boolean): { name: string; node: Node; text: string }[] {
  if (typeof node !== 'object' || node === null) return [];
  return Object.entries(node).flatMap(([name, value]) =>
    (Array.isArray(value) ? (value as unknown[]) : [value]).flatMap((each) =>
      fits(name) && !name.startsWith('@')
        ? [
            {
              name,
              node: typeof each === 'object' && each !== null ? (each as Node) : {},
              text: textOf(each),
            },
          ]
        : all(each, fits),
    ),
  );
}

/** What stands on record of a reading's size and part. */
export interface KnownReading {
  feature: string;
  part: number;
  value: Length;
  job: number | null;
}

/** What the readings are brought in for. */
export interface ReadingsFor {
  machine: string;
  program: string;
  revision: number;
  /** The running job, and since when; null: none runs. */
  job: { id: number; since: Date } | null;
  /** All jobs of the program that ever were. */
  jobs: readonly number[];
}

/** What taking a file would do with one reading. */
export interface LookedReading extends FiledReading {
  /** `left`: it counted for nothing where it comes from, and is not taken. */
  verdict: 'added' | 'same' | 'left' | 'refused';
  words: string;
}

/** Why a reading is not of the parts that it would be taken for; null: nothing says so. */
function ofOthers({ machine, program, revision, job, time }: FiledReading, here: ReadingsFor): string | null {
  const differs = (theirs: string | null, own: string) =>
    theirs !== null && theirs.toLowerCase() !== own.toLowerCase();
  if (differs(machine, here.machine)) return `It is of ${machine}, not of ${here.machine}.`;
  if (differs(program, here.program)) return `It is of ${program}, not of ${here.program}.`;
  if (revision !== null && revision !== here.revision)
    return `It is of revision ${revision}; this is revision ${here.revision}.`;
  if (job !== null && job !== here.job?.id && here.jobs.includes(job))
    return `It is of another job of ${here.program}: its part numbers are not those of ${here.job ? 'the one that runs' : 'any that runs'}.`;
  return here.job && measuredBefore(time, here.job.since) === 'surely' ? BEFORE : null;
}
const BEFORE = 'It was measured before this job began: it is of parts of another.';

/** How far the clock of what measures may be off: an hour where it does not know summer, and some. Milliseconds. */
const CLOCKS = 75 * 60_000;
/** Whether a reading was measured before its job began: then its part is one of another. Perhaps: a clock may be off by as much. */
export function measuredBefore(time: Date | null, since: Date): 'surely' | 'perhaps' | 'no' {
  if (time === null || time >= since) return 'no';
  return since.getTime() - time.getTime() > CLOCKS ? 'surely' : 'perhaps';
}

/**
 * Holds the readings of a file against the plan, what they are brought in for, and what was measured already: the same value of the
 * same size of the same part is not taken twice. What the file says is of other parts is refused: it would count for these. `part` is
 * the number of all that say none.
 */
export function lookAtReadings(
  filed: readonly FiledReading[],
  features: readonly string[],
  known: readonly KnownReading[],
  part: number | null,
  here: ReadingsFor,
): LookedReading[] {
  const named = new Map(features.map((name) => [name.toLowerCase(), name]));
  const there = new Set(known.map((each) => `${each.feature} ${each.part} ${each.value} ${each.job}`));
  return filed.map((each): LookedReading => {
    const feature = named.get(each.feature.toLowerCase());
    const of = { ...each, feature: feature ?? each.feature, part: each.part ?? part };
    if (feature === undefined)
      return {
        ...of,
        verdict: 'refused',
        words: `The plan has no size of this name. It has ${features.join(', ')}.`,
      };
    if (of.part === null) return { ...of, verdict: 'refused', words: 'Say which part it is.' };
    const job = each.job !== null && here.jobs.includes(each.job) ? each.job : (here.job?.id ?? null);
    const key = `${feature} ${of.part} ${of.value} ${job}`;
    if (there.has(key)) return { ...of, verdict: 'same', words: 'measured already' };
    const others = ofOthers(each, here);
    if (others !== null) return { ...of, verdict: 'refused', words: others };
    if (each.question !== '')
      return { ...of, verdict: 'left', words: `left: it counts for nothing (${each.question})` };
    there.add(key);
    const early = here.job !== null && measuredBefore(each.time, here.job.since) === 'perhaps';
    return {
      ...of,
      verdict: 'added',
      words: early ? 'By its time it was measured before this job began.' : '',
    };
  });
}
