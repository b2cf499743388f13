import { stringify } from 'csv-stringify/sync';
import { assemblyCells } from '../core/formats/assembly-file.ts';
import { componentCells } from '../core/formats/component-file.ts';
import { writeCuttingToolAssets } from '../core/formats/cutting-tool-asset.ts';
import type { FileKind } from '../core/formats/columns.ts';
import { templateCells } from '../core/formats/template.ts';
import { publishedSchema } from '../core/formats/tool-schema.ts';
import { writeToolJson } from '../core/formats/tool-json.ts';
import { plainCell } from '../core/formats/plain-cell.ts';
import { past } from './replica.ts';
import { assemblyRows, componentRows } from './tool-files.ts';

const TYPES: Readonly<Record<string, string>> = {
  schema: 'application/schema+json; charset=utf-8',
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

const written = (kind: FileKind, format: string, cells: Record<string, string>[], template: boolean) =>
  format === 'json'
    ? writeToolJson(kind, cells)
    : csv(template || cells.length === 0 ? [templateCells(kind)] : cells);

/**
 * All assemblies or components as a file, or the headings with an example when there are none or a template is asked for; null when
 * there is no such format for them.
 */
export async function toolExport(
  told: number,
  kind: FileKind,
  format: string,
  template = false,
): Promise<Response | null> {
  if (template && format !== 'csv') return null;
  let text: string;
  if (format === 'schema') text = `${JSON.stringify(publishedSchema(kind), null, 1)}\n`;
  else if (kind === 'assemblies') {
    const found = await past(told, (db) => assemblyRows(db, null));
    if (format === 'xml') text = writeCuttingToolAssets(found, new Date());
    else text = written(kind, format, found.map(assemblyCells), template);
  } else {
    if (format === 'xml') return null;
    text = written(
      kind,
      format,
      (await past(told, (db) => componentRows(db, null))).map(componentCells),
      template,
    );
  }
  const type = TYPES[format];
  return type === undefined
    ? null
    : new Response(text, {
        headers: {
          'content-type': type,
          'content-disposition': `attachment; filename="${kind}${template ? '-template' : ''}.${format === 'schema' ? 'schema.json' : format}"`,
          'cache-control': 'no-store',
        },
      });
}
