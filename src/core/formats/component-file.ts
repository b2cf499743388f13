import { INTERFACE_NAMES } from '../assembly/silhouette.ts';
import {
  COMPONENT_KIND_NAMES,
  kindFacts,
  PROPERTIES,
  PROPERTY_NAMES,
  type Component,
  type Dimensions,
} from '../component/kinds.ts';
import { saysLeftHand } from '../assembly/hand.ts';
import { readDrillSize } from '../component/drill-size.ts';
import { readInsert } from '../component/insert-designation.ts';
import { readThread, threadName } from '../component/thread.ts';
import { plainDecimal } from '../units/format-length.ts';
import { lengthOf, nanometres } from '../units/length.ts';
import { choiceWords, columnNames, INTERFACE_CHOICES, KIND_CHOICES } from './columns.ts';
import type { FileResult } from './csv-table.ts';
import { readRows, type RowReader } from './row-reader.ts';

export interface ComponentRow extends Omit<Component, 'id'> {
  costCents: number | null;
  edges: number | null;
  regrinds: number | null;
  shelf: string;
  stock: number;
  minimum: number;
  /** What is ordered up to; null: twice the minimum. */
  maximum: number | null;
}

/**
 * Components as CSV: one catalogue line a row, dimensions under their ISO 13399 names, lengths in millimetres or with a
 * suffix. A drill's DC may be a number, letter or fraction; a tap's series is its thread; an insert's its designation.
 */
export const readComponentFile = (text: string): FileResult<ComponentRow> =>
  readRows(text, columnNames('components', true), columnNames('components', false), componentReader());

/** Reads components one row at a time; a number that comes twice is told at its second row. */
export function componentReader(): (row: RowReader) => ComponentRow {
  const numbers = new Set<string>();
  return (row) => {
    const number = row.text('number', 30);
    if (numbers.has(number.toLowerCase())) row.say('number', `${number} is in the file twice.`);
    numbers.add(number.toLowerCase());
    const kind = row.choice('kind', COMPONENT_KIND_NAMES, KIND_CHOICES.components);
    const facts = kindFacts(kind);
    const written = row.words('series', 40);
    const series = isThreaded(kind) ? threadName(written) : written;
    const dimensions: Dimensions = { ...fromSeries(row, kind, series), ...sizesOf(row, kind) };
    for (const name of facts.needs)
      if (dimensions[name] === undefined)
        row.say(name.toLowerCase(), `${facts.words} needs ${name} (${PROPERTIES[name].words}).`);
    const name = row.text('name');
    const carried = facts.group === 'holder' || facts.group === 'knob';
    const cost = row.optional('cost');
    return {
      number,
      name,
      kind,
      dimensions,
      interface: carried ? row.choice('interface', INTERFACE_NAMES, INTERFACE_CHOICES) : '',
      series,
      flat: row.yes('flat'),
      coolant: row.yes('coolant'),
      leftHand: row.optional('left_hand') === null ? saysLeftHand(name) : row.yes('left_hand'),
      material:
        row.optional('material') === null ? 'steel' : row.choice('material', ['carbide', 'steel'] as const),
      torque: row.optional('torque') === null ? null : row.decimal('torque', 0.01, 1000),
      costCents: cost === null ? null : Math.round(row.decimal('cost', 0, 100_000) * 100),
      edges: row.optional('edges') === null ? (insertEdges(kind, series) ?? null) : row.whole('edges', 1, 16),
      regrinds: row.optional('regrinds') === null ? null : row.whole('regrinds', 0, 20),
      shelf: row.words('shelf', 40),
      stock: row.whole('stock', 0, 100_000, 0),
      minimum: row.whole('minimum', 0, 100_000, 0),
      maximum: row.optional('maximum') === null ? null : row.whole('maximum', 0, 100_000),
    };
  };
}

/** Kinds whose series is the thread that they cut. */
const isThreaded = (kind: Component['kind']) =>
  kind === 'tapCutting' || kind === 'tapForming' || kind === 'threadMill';

function sizesOf(row: RowReader, kind: Component['kind']): Dimensions {
  const found: Dimensions = {};
  const drill = kindFacts(kind).makes === 'drill' || kindFacts(kind).makes === 'spotDrill';
  for (const name of PROPERTY_NAMES) {
    const column = name.toLowerCase();
    const value = row.optional(column);
    if (value === null) continue;
    const { type } = PROPERTIES[name];
    if (name === 'DC' && drill) {
      const size = readDrillSize(value);
      if (size.ok) found.DC = size.size.diameter;
      else row.say(column, size.reason);
    } else if (type === 'length') found[name] = row.size(column, 'mm');
    else if (type === 'angle') found[name] = row.decimal(column, 0, 180);
    else found[name] = row.whole(column, 1, 1_000_000);
  }
  return found;
}

/** What a tap's thread and an insert's designation say of themselves. */
function fromSeries(row: RowReader, kind: Component['kind'], series: string): Dimensions {
  if (isThreaded(kind)) {
    const read = readThread(series);
    if (!read.ok) row.say('series', read.reason);
    else if (kind === 'threadMill') return { TP: read.thread.pitch };
    else return { DC: read.thread.diameter, TP: read.thread.pitch };
  }
  if (kind === 'insert') {
    const read = readInsert(series);
    // grooving and threading inserts follow no standard: then the row says itself how many edges they have
    if (!read.ok) {
      if (series === '' || row.optional('edges') === null)
        row.say('series', `${read.reason} Of one that follows no standard, write how many edges it has.`);
    } else
      return {
        ...(read.insert.noseRadius === null ? {} : { RE: lengthOf(read.insert.noseRadius, 'mm') }),
        CEDC: read.insert.edges,
      };
  }
  return {};
}

function insertEdges(kind: Component['kind'], series: string): number | null {
  if (kind !== 'insert') return null;
  const read = readInsert(series);
  return read.ok ? read.insert.edges : null;
}

/** The cells of a component, as `readComponentFile` reads them; lengths exact, in millimetres. */
export function componentCells(row: ComponentRow): Record<string, string> {
  const dimension = (name: (typeof PROPERTY_NAMES)[number]) => {
    const value = row.dimensions[name];
    if (value === undefined) return '';
    return PROPERTIES[name].type === 'length' ? plainDecimal(nanometres(value), 'mm') : String(value);
  };
  const some = (value: number | null) => (value === null ? '' : String(value));
  return {
    number: row.number,
    name: row.name,
    kind: choiceWords(KIND_CHOICES.components, row.kind),
    ...Object.fromEntries(PROPERTY_NAMES.map((name) => [name.toLowerCase(), dimension(name)])),
    interface: row.interface,
    series: row.series,
    flat: row.flat ? 'yes' : '',
    coolant: row.coolant ? 'yes' : '',
    left_hand: row.leftHand ? 'yes' : 'no',
    material: row.material,
    torque: some(row.torque),
    cost: row.costCents === null ? '' : (row.costCents / 100).toFixed(2),
    edges: some(row.edges),
    regrinds: some(row.regrinds),
    shelf: row.shelf,
    stock: String(row.stock),
    minimum: String(row.minimum),
    maximum: some(row.maximum),
  };
}
