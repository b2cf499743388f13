import { stringify } from 'csv-stringify/sync';
import { assemblyCells } from '../core/formats/assembly-file.ts';
import { componentCells } from '../core/formats/component-file.ts';
import { writeCuttingToolAssets } from '../core/formats/cutting-tool-asset.ts';
import { writeToolJson } from '../core/formats/tool-json.ts';
import { plainCell } from '../core/formats/plain-cell.ts';
import { pool } from './db.ts';
import { assemblyRows, componentRows } from './tool-files.ts';

const TYPES: Readonly<Record<string, string>> = {
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  xml: 'application/xml; charset=utf-8',
};
const csv = (cells: readonly Record<string, string>[]) =>
  stringify(
    cells.map((each) =>
      Object.fromEntries(Object.entries(each).map(([name, text]) => [name, plainCell(text)])),
    ),
    { header: true, record_delimiter: 'windows' },
  );

/** All assemblies or components as a file; null when there is no such format for them. */
export async function toolExport(
  kind: 'assemblies' | 'components',
  format: string,
): Promise<Response | null> {
  let text: string;
  if (kind === 'assemblies') {
    const found = await assemblyRows(pool(), null);
    if (format === 'xml') text = writeCuttingToolAssets(found, new Date());
    else
      text =
        format === 'json' ? writeToolJson(kind, found.map(assemblyCells)) : csv(found.map(assemblyCells));
  } else {
    if (format === 'xml') return null;
    const cells = (await componentRows(pool(), null)).map(componentCells);
    text = format === 'json' ? writeToolJson(kind, cells) : csv(cells);
  }
  const type = TYPES[format];
  return type === undefined
    ? null
    : new Response(text, {
        headers: {
          'content-type': type,
          'content-disposition': `attachment; filename="${kind}.${format}"`,
          'cache-control': 'no-store',
        },
      });
}
