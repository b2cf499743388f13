import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { ledgerCsv } from '$server/ledger-csv';
import { past } from '$server/replica';
import { ledgerFilter } from '../filter';
import type { RequestHandler } from './$types';

/** The ledger as CSV, as it is filtered on the page; streamed, so that its length does not matter. */
export const GET: RequestHandler = async ({ url, locals }) => {
  const { timeZone } = await cellOf(pool());
  return new Response(
    ledgerCsv((work) => past(locals.told, work), ledgerFilter(url.searchParams, timeZone)),
    {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="ledger.csv"',
        'cache-control': 'no-store',
      },
    },
  );
};
