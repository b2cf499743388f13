import { XMLBuilder } from 'fast-xml-parser';
import type { CsvRow, FileResult } from './csv-table.ts';
import { readXml, type XmlNode as Node } from './read-xml.ts';
import { INTERFACE_NAMES } from '../assembly/silhouette.ts';
import { readDefinition } from '../definition/read-definition.ts';
import { FLAGS, type Flag } from '../life/flag.ts';
import { LIFE_BASES, type LifeBasis } from '../life/count.ts';
import { readAssetLife } from './asset-life.ts';
import { measureOf } from './asset-measures.ts';
import { COLUMNS, KIND_CHOICES } from './columns.ts';
import { assemblyCells, assemblyReader, type AssemblyRow } from './assembly-file.ts';
import { readCells } from './row-reader.ts';

/**
 * Assemblies as MTConnect cutting-tool assets (an open standard, MTConnect Part 4; from memory): functional length LF,
 * cutting diameter DC, protruding length LPR, body diameter BDX, corner radius RE of the cutting items, tool life. What the
 * standard has no word for stands in elements of our own namespace, which other readers pass over.
 */
const OWN = 'urn:tin-almanac:assembly:1';
const MEASUREMENTS = [
  ['FunctionalLength', 'LF', 'gauge_length'],
  ['CuttingDiameterMax', 'DC', 'diameter'],
  ['ProtrudingLength', 'LPR', 'stick_out'],
  ['BodyDiameterMax', 'BDX', 'holder_diameter'],
] as const;
const LIFE_TYPES: Readonly<Record<LifeBasis, string>> = {
  minutes: 'MINUTES',
  pieces: 'PART_COUNT',
  holes: 'PART_COUNT',
  wear: 'WEAR',
};
/** What one unit of the standard's counter is in a cell of ours: wear is in millimetres there. */
const lifeText = (cell: string, basis: LifeBasis) =>
  basis === 'wear' ? String(Number((Number(cell) / 1000).toFixed(6))) : cell;
const STATUS: Readonly<Record<Flag, string>> = { broken: 'BROKEN', expired: 'EXPIRED', locked: 'TAGGED_OUT' };

/** An assembly with what else an asset says of it. */
export interface AssetRow extends AssemblyRow {
  /** Where it stands, as T and pocket; null: nowhere. */
  stands: { tool: number; pocket: number; spindle: boolean } | null;
  /** Measured since it was last built, indexed or reground. */
  measured: boolean;
}

const measured = (code: string, value: string): Node => ({
  '@code': code,
  '@units': 'MILLIMETER',
  '#text': value,
});

/** CutterStatus: every word that applies (MTConnect Part 4, from memory). */
function statusOf({ flag, life, stands, measured: isMeasured }: AssetRow): string[] {
  const used = life && life.left !== null && life.left < life.limit;
  return [
    flag ? STATUS[flag] : 'AVAILABLE',
    used ? 'USED' : 'NEW',
    stands ? 'ALLOCATED' : 'UNALLOCATED',
    ...(isMeasured ? ['MEASURED'] : []),
  ];
}

function assetOf(row: AssetRow, at: string): Node {
  const cells = assemblyCells(row);
  const items = Object.entries(cells).filter(([name, value]) => name.endsWith('_item') && value !== '');
  const { life, stands } = row;
  return {
    '@assetId': row.number,
    '@serialNumber': row.number,
    '@toolId': row.kind,
    '@timestamp': at,
    Description: row.name,
    CuttingToolLifeCycle: {
      CutterStatus: { Status: statusOf(row) },
      ...(life
        ? {
            ToolLife: {
              '@type': LIFE_TYPES[life.basis],
              '@countDirection': 'DOWN',
              '@initial': lifeText(cells.life_limit!, life.basis),
              '@limit': '0',
              '#text': lifeText(cells.life_left || cells.life_limit!, life.basis),
            },
          }
        : {}),
      ...(stands
        ? {
            ProgramToolNumber: String(stands.tool),
            Location: {
              '@type': stands.spindle ? 'SPINDLE' : 'POT',
              '@negativeOverlap': '0',
              '@positiveOverlap': '0',
              '#text': String(stands.pocket),
            },
          }
        : {}),
      ConnectionCodeMachineSide: row.interface,
      Measurements: Object.fromEntries(
        MEASUREMENTS.map(([name, code, cell]) => [name, measured(code, cells[cell]!)]),
      ),
      CuttingItems: {
        '@count': cells.teeth,
        CuttingItem: {
          '@indices': row.teeth > 1 ? `1-${row.teeth}` : '1',
          Measurements: { CornerRadius: measured('RE', cells.corner_radius!) },
        },
      },
      'tin:Assembly': {
        '@holder': row.holder,
        '@lifeBasis': life?.basis ?? '',
        '@insertCount': cells.insert_count,
        '@leftHand': cells.left_hand,
        'tin:Item': items.map(([name, value]) => ({ '@role': name.replace('_item', ''), '#text': value })),
      },
    },
  };
}

/** A document of cutting-tool assets. `at` is the time that they are written. */
export function writeCuttingToolAssets(rows: readonly AssetRow[], at: Date): string {
  const builder = new XMLBuilder({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    indentBy: ' ',
    suppressEmptyNode: true,
  });
  return String(
    builder.build({
      '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
      MTConnectAssets: {
        '@xmlns': 'urn:mtconnect.org:MTConnectAssets:1.4',
        '@xmlns:tin': OWN,
        Header: {
          '@creationTime': at.toISOString(),
          '@sender': 'tin-almanac',
          '@instanceId': '1',
          '@version': '1.4',
          '@assetBufferSize': String(rows.length),
          '@assetCount': String(rows.length),
        },
        Assets: { CuttingTool: rows.map((row) => assetOf(row, at.toISOString())) },
      },
    }),
  );
}

const MOST_NESTED = 40;

/** An asset that lacks what a tool on record must have: somebody completes it. */
export interface OpenAsset {
  line: number;
  cells: Readonly<Record<string, string>>;
  /** Columns that are missing, or that hold what nobody knows. */
  missing: string[];
}
export interface AssetFile {
  result: FileResult<AssemblyRow>;
  /** Place in the document of each row that is whole. */
  lines: number[];
  open: OpenAsset[];
  /** What of a row is left out or taken otherwise than it stands there, by its place among the rows. */
  remarks: ReadonlyMap<number, string>;
}

/**
 * Reads cutting-tool assets. Document types and entities are refused, so a document cannot grow; comments are passed over. A tool of a kind
 * that is not known, or without a size that a tool on record must have, is kept aside to be completed; what is wrong is refused.
 */
export function readCuttingToolAssets(xml: string): AssetFile {
  const refused = (reason: string): AssetFile => ({
    result: bad(reason),
    lines: [],
    open: [],
    remarks: new Map(),
  });
  const read = readXml(xml, MOST_NESTED, (name) => LISTED.has(name));
  if (!read.ok) return refused(read.reason);
  const { tree } = read;
  const tools = list(at(tree, 'MTConnectAssets', 'Assets', 'CuttingTool') ?? tree.CuttingTool);
  if (tools.length === 0) return refused('The XML contains no CuttingTool.');
  const found = tools.map(cellsOf);
  const open = found.flatMap(({ row }) => {
    const missing = COLUMNS.assemblies
      .filter(({ name, needed }) => needed && (row.cells[name] ?? '') === '')
      .map(({ name }) => name);
    return missing.length > 0 ? [{ ...row, missing }] : [];
  });
  const whole = found.filter(({ row }) => !open.some(({ line }) => line === row.line));
  return {
    result: readCells(
      whole.map(({ row }) => row),
      assemblyReader(),
    ),
    lines: whole.map(({ row }) => row.line),
    open,
    remarks: new Map(
      whole.flatMap(({ remarks }, i) => (remarks.length > 0 ? [[i, remarks.join('; ')] as const] : [])),
    ),
  };
}

const LISTED = new Set(['CuttingTool', 'Item', 'CuttingItem', 'ToolLife', 'Status']);
const FLAGS_OF: Readonly<Record<string, Flag>> = {
  BROKEN: 'broken',
  EXPIRED: 'expired',
  TAGGED_OUT: 'locked',
  UNAVAILABLE: 'locked',
};

function cellsOf(tool: Node, index: number): { row: CsvRow; remarks: string[] } {
  const cycle = (tool.CuttingToolLifeCycle ?? {}) as Node;
  const own = (cycle.Assembly ?? {}) as Node;
  const remarks: string[] = [];
  const name = text(tool.Description) || text(tool['@toolId']);
  const cuttingItems = list(at(cycle, 'CuttingItems', 'CuttingItem'));
  const corners = [
    ...new Set(cuttingItems.map((item) => measureOf(at(item, 'Measurements', 'CornerRadius')))),
  ].filter(Boolean);
  if (corners.length > 1)
    remarks.push(`its cutting items have corners of ${corners.join(' and ')}: the first is taken`);
  const flags = list(at(cycle, 'CutterStatus', 'Status')).flatMap(
    (each) => FLAGS_OF[text(each).toUpperCase()] ?? [],
  );
  const cells: Record<string, string> = {
    number: text(tool['@serialNumber']) || text(tool['@assetId']),
    name,
    kind: kindOf(text(tool['@toolId']), name),
    interface:
      INTERFACE_NAMES.find((each) => each === text(cycle.ConnectionCodeMachineSide).toLowerCase()) ?? '',
    holder: text(own['@holder']),
    teeth: text(at(cycle, 'CuttingItems', '@count')),
    corner_radius: corners[0] ?? '',
    insert_count: text(own['@insertCount']),
    left_hand: text(own['@leftHand']),
    status: FLAGS.find((flag) => flags.includes(flag)) ?? '',
    ...lifeCells(list(cycle.ToolLife), text(own['@lifeBasis']), remarks),
  };
  for (const [measure, , cell] of MEASUREMENTS) cells[cell] = measureOf(at(cycle, 'Measurements', measure));
  for (const item of list(own.Item)) cells[`${text(item['@role'])}_item`] = text(item);
  return { row: { line: index + 1, cells }, remarks };
}

/** Our kind of an asset: by its tool id, else by its name; empty when neither tells. */
function kindOf(id: string, name: string): string {
  const said = [id, id.toLowerCase()];
  const own = KIND_CHOICES.assemblies.find(
    ({ value, words }) => said.includes(value) || said.includes(words),
  );
  return (
    own?.value ?? readDefinition(name, 'mm', 'mill')?.kind ?? readDefinition(id, 'mm', 'mill')?.kind ?? ''
  );
}

/** The one life that is kept: ours where the document is ours, else the one of which least is left. */
function lifeCells(nodes: readonly Node[], ownBasis: string, remarks: string[]): Record<string, string> {
  const lives = nodes.flatMap((node) => {
    const number = (value: string) => (value === '' ? null : Number(value));
    const value = text(node);
    const read = readAssetLife({
      type: text(node['@type']).toUpperCase(),
      direction: text(node['@countDirection']).toUpperCase(),
      initial: number(text(node['@initial'])),
      limit: number(text(node['@limit'])),
      value: value === '' ? NaN : Number(value),
    });
    if (read.ok && Number.isFinite(read.left) && Number.isFinite(read.full)) return [read];
    remarks.push(`a life is left out: ${read.ok ? 'it is no number' : read.reason}`);
    return [];
  });
  const [first, ...others] = lives.toSorted((a, b) => a.left / a.full - b.left / b.full);
  if (!first) return {};
  if (others.length > 0)
    remarks.push(`of its lives the one in ${first.basis} is kept, of which least is left`);
  const basis = LIFE_BASES.find((each) => each === ownBasis) ?? first.basis;
  const cell = (value: number) => String(Number((basis === 'wear' ? value * 1000 : value).toFixed(6)));
  return { life_basis: basis, life_limit: cell(first.full), life_left: cell(first.left) };
}

const at = (node: unknown, ...path: string[]): unknown =>
  path.reduce<unknown>(
    (here, name) => (typeof here === 'object' && here !== null ? (here as Node)[name] : undefined),
    node,
  );
const list = (value: unknown): Node[] =>
  (Array.isArray(value) ? value : value === undefined || value === '' ? [] : [value]).map((each) =>
    typeof each === 'object' && each !== null ? (each as Node) : { '#text': each },
  );
const text = (value: unknown): string => {
  const plain = typeof value === 'object' && value !== null ? (value as Node)['#text'] : value;
  return plain === undefined || plain === null ? '' : String(plain).trim();
};

const bad = (message: string): FileResult<never> => ({
  ok: false,
  issues: [{ line: 1, column: '', message }],
});
