import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { ledgerCsv } from '$server/ledger-csv';
import { ledgerFilter } from '../filter';
import type { RequestHandler } from './$types';

/** The ledger as CSV, as it is filtered on the page; streamed, so that its length does not matter. */
export const GET: RequestHandler = async ({ url }) => {
  const { timeZone } = await cellOf(pool());
  return new Response(ledgerCsv(pool(), ledgerFilter(url.searchParams, timeZone)), {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': 'attachment; filename="ledger.csv"',
      'cache-control': 'no-store',
    },
  });
};
