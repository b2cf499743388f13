import { stringify } from 'csv-stringify/sync';
import { plainCell } from '../core/formats/plain-cell.ts';
import { isDirection } from '../core/inspection/register-words.ts';
import { plainDecimal } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import type { Db } from './db.ts';
import { ledgerEntries, type LedgerFilter, type LedgerRow } from './ledger.ts';

const PAGE = 2000;
const HEADING = [
  'id',
  'at',
  'kind',
  'stage',
  'person',
  'machine',
  'assembly',
  'tool',
  'program',
  'row',
  'register',
  'unit',
  'before',
  'change',
  'after',
  'said',
  'why',
];

function cells(entry: LedgerRow): (string | number | null)[] {
  const unit =
    entry.kind === 'register'
      ? isDirection(entry.registerKind ?? '')
        ? 'count'
        : (entry.unit ?? 'mm')
      : entry.kind === 'life'
        ? entry.basis === 'minutes'
          ? 'ms'
          : entry.basis === 'wear'
            ? 'nm'
            : entry.basis
        : '';
  const value = (amount: number | null) =>
    amount === null
      ? ''
      : unit === 'mm' || unit === 'in'
        ? plainDecimal(amount as Length, unit)
        : String(amount);
  const text = (value: string | null) => (value === null ? null : plainCell(value));
  return [
    entry.id,
    entry.at.toISOString(),
    entry.kind,
    entry.stage,
    text(entry.person),
    text(entry.machine),
    text(entry.assembly),
    entry.tool,
    text(entry.program),
    entry.registerRow,
    entry.registerKind,
    unit,
    value(entry.before),
    value(entry.change),
    value(entry.after),
    text(entry.said),
    text(entry.why),
  ];
}

/** The entries as CSV text (RFC 4180), newest first, page after page as the reader takes them. */
export function ledgerCsv(
  ask: <T>(work: (db: Db) => Promise<T>) => Promise<T>,
  filter: LedgerFilter,
): ReadableStream<Uint8Array> {
  const text = new TextEncoder();
  let before = filter.before;
  return new ReadableStream({
    start: (controller) =>
      controller.enqueue(text.encode(stringify([HEADING], { record_delimiter: 'windows' }))),
    async pull(controller) {
      const page = await ask((db) => ledgerEntries(db, { ...filter, before }, PAGE));
      if (page.length > 0)
        controller.enqueue(text.encode(stringify(page.map(cells), { record_delimiter: 'windows' })));
      before = page.at(-1)?.id;
      if (page.length < PAGE) controller.close();
    },
  });
}
