import { stringify } from 'csv-stringify/sync';
import { plainCell } from '$core/formats/plain-cell';
import { cellNow } from '$server/clock';
import { aheadOf, shelvesAhead } from '$server/ahead';
import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import type { RequestHandler } from './$types';

/** The edges to come and what they take off the shelves, as one table: times in UTC. */
export const GET: RequestHandler = async () => {
  const db = pool();
  const { edges } = await aheadOf(db, await cellOf(db), cellNow());
  const shelves = await shelvesAhead(db, edges);
  const text = stringify(
    [
      [
        'what',
        'by',
        'machine',
        'tool',
        'number',
        'name',
        'job',
        'part',
        'ready',
        'stock',
        'minimum',
        'taken',
        'left',
      ],
      ...edges.map((each) => [
        'edge',
        each.at.toISOString(),
        plainCell(each.machine),
        each.tool,
        plainCell(each.number),
        plainCell(each.name),
        plainCell(each.job),
        each.part,
        plainCell(each.ready ?? ''),
        ...['', '', '', ''],
      ]),
      ...shelves.map((each) => [
        each.out ? 'runs out' : each.below ? 'below minimum' : 'taken',
        (each.out ?? each.below)?.toISOString() ?? '',
        ...['', ''],
        plainCell(each.number),
        plainCell(each.name),
        ...['', '', ''],
        each.stock,
        each.minimum,
        each.taken,
        each.left,
      ]),
    ],
    { record_delimiter: 'windows' },
  );
  return new Response(text, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="ahead.csv"',
      'cache-control': 'no-store',
    },
  });
};
