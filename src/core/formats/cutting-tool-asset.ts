import { XMLBuilder } from 'fast-xml-parser';
import type { CsvRow, FileResult } from './csv-table.ts';
import { readXml, type XmlNode as Node } from './read-xml.ts';
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
const LIFE_TYPES: Readonly<Record<string, string>> = {
  minutes: 'MINUTES',
  pieces: 'PART_COUNT',
  holes: 'PART_COUNT',
  wear: 'WEAR',
};

const measured = (code: string, value: string): Node => ({
  '@code': code,
  '@units': 'MILLIMETER',
  '#text': value,
});

function assetOf(row: AssemblyRow, at: string): Node {
  const cells = assemblyCells(row);
  const items = Object.entries(cells).filter(([name, value]) => name.endsWith('_item') && value !== '');
  return {
    '@assetId': row.number,
    '@serialNumber': row.number,
    '@toolId': row.kind,
    '@timestamp': at,
    Description: row.name,
    CuttingToolLifeCycle: {
      CutterStatus: { Status: 'AVAILABLE' },
      ...(row.life
        ? {
            ToolLife: {
              '@type': LIFE_TYPES[row.life.basis],
              '@countDirection': 'DOWN',
              '@initial': cells.life_limit,
              '#text': cells.life_limit,
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
          '@indices': '1',
          Measurements: { CornerRadius: measured('RE', cells.corner_radius!) },
        },
      },
      'tin:Assembly': {
        '@holder': row.holder,
        '@lifeBasis': row.life?.basis ?? '',
        '@insertCount': cells.insert_count,
        '@leftHand': cells.left_hand,
        'tin:Item': items.map(([name, value]) => ({ '@role': name.replace('_item', ''), '#text': value })),
      },
    },
  };
}

/** A document of cutting-tool assets. `at` is the time that they are written. */
export function writeCuttingToolAssets(rows: readonly AssemblyRow[], at: Date): string {
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

/** Reads cutting-tool assets. Document types and entities are refused, so a document cannot grow; comments are passed over. */
export function readCuttingToolAssets(xml: string): FileResult<AssemblyRow> {
  const read = readXml(
    xml,
    MOST_NESTED,
    (name) => name === 'CuttingTool' || name === 'Item' || name === 'CuttingItem',
  );
  if (!read.ok) return bad(read.reason);
  const { tree } = read;
  const tools = list(at(tree, 'MTConnectAssets', 'Assets', 'CuttingTool') ?? tree.CuttingTool);
  if (tools.length === 0) return bad('The XML contains no CuttingTool.');
  return readCells(tools.map(cellsOf), assemblyReader());
}

function cellsOf(tool: Node, index: number): CsvRow {
  const cycle = (tool.CuttingToolLifeCycle ?? {}) as Node;
  const own = (cycle.Assembly ?? {}) as Node;
  const life = cycle.ToolLife as Node | undefined;
  const basis = text(own['@lifeBasis']) || (life ? (life['@type'] === 'MINUTES' ? 'minutes' : 'pieces') : '');
  const cells: Record<string, string> = {
    number: text(tool['@serialNumber']) || text(tool['@assetId']),
    name: text(tool.Description),
    kind: text(tool['@toolId']),
    interface: text(cycle.ConnectionCodeMachineSide),
    holder: text(own['@holder']),
    teeth: text(at(cycle, 'CuttingItems', '@count')),
    corner_radius: length(list(at(cycle, 'CuttingItems', 'CuttingItem'))[0], 'Measurements', 'CornerRadius'),
    life_basis: basis,
    life_limit: life ? text(life['@initial']) || text(life) : '',
    insert_count: text(own['@insertCount']),
    left_hand: text(own['@leftHand']),
  };
  for (const [name, , cell] of MEASUREMENTS) cells[cell] = length(cycle, 'Measurements', name);
  for (const item of list(own.Item)) cells[`${text(item['@role'])}_item`] = text(item);
  return { line: index + 1, cells };
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
/** A measurement with its unit behind it, as the length reader takes it. */
const length = (node: unknown, ...path: string[]): string => {
  const found = at(node, ...path);
  const value = text(found);
  return value && text(at(found, '@units')).toUpperCase() === 'INCH' ? `${value}in` : value;
};

const bad = (message: string): FileResult<never> => ({
  ok: false,
  issues: [{ line: 1, column: '', message }],
});
