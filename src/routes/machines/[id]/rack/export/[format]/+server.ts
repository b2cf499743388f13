import { traitsOf } from '$core/changer/traits';
import { error } from '@sveltejs/kit';
import { stringify } from 'csv-stringify/sync';
import { plainDecimal } from '$core/units/format-length';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { rackOf } from '$server/racks';
import type { RequestHandler } from './$types';

/** The fork table as CSV or JSON; lengths in millimetres. */
export const GET: RequestHandler = async ({ params }) => {
  const machine = /^\d{1,9}$/.test(params.id) ? await machineById(pool(), Number(params.id)) : null;
  if (!machine || !traitsOf({ kind: machine.changerKind }).commissioned) error(404, 'There is no such rack.');
  if (params.format !== 'csv' && params.format !== 'json') error(404, 'The table goes out as csv or json.');
  const rack = await rackOf(pool(), machine);
  const table = rack.forks.flatMap(({ fork, captured }) =>
    captured
      ? [
          {
            fork,
            x: plainDecimal(captured.x, 'mm'),
            y: plainDecimal(captured.y, 'mm'),
            z: plainDecimal(captured.z, 'mm'),
          },
        ]
      : [],
  );
  const body =
    params.format === 'csv'
      ? stringify(table, { header: true, columns: ['fork', 'x', 'y', 'z'] })
      : JSON.stringify(
          {
            machine: machine.name,
            unit: 'mm',
            opening: rack.setting.opening,
            slide: rack.slide === null ? null : plainDecimal(rack.slide, 'mm'),
            forks: table,
          },
          null,
          2,
        );
  return new Response(body, {
    headers: {
      'content-type': params.format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json',
      'content-disposition': `attachment; filename="${machine.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-forks.${params.format}"`,
    },
  });
};
