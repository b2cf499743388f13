import { stringify } from 'csv-stringify/sync';
import { fillTo } from '$core/component/order';
import { plainCell } from '$core/formats/plain-cell';
import { pool } from '$server/db';
import { linesToOrder } from '$server/orders';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async () => {
  const lines = await linesToOrder(pool());
  const text = stringify(
    [
      ['number', 'name', 'shelf', 'stock', 'minimum', 'coming', 'fill_to', 'order', 'cost_each'],
      ...lines.map((line) => [
        plainCell(line.number),
        plainCell(line.name),
        plainCell(line.shelf),
        line.stock,
        line.minimum,
        line.coming,
        fillTo(line),
        line.pieces,
        line.costCents === null ? '' : (line.costCents / 100).toFixed(2),
      ]),
    ],
    { record_delimiter: 'windows' },
  );
  return new Response(text, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="to-order.csv"',
      'cache-control': 'no-store',
    },
  });
};
