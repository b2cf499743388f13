import { z } from 'zod';
import { COLUMNS, type FileKind } from '$core/formats/columns';
import { pool } from '$server/db';
import { cellsOf, freeNumber, writeRecord } from '$server/records';
import { act, INCOMPLETE } from './action';

const cells = z.record(z.string(), z.string().max(200));
const shownText = z
  .string()
  .max(20_000)
  .transform((text, context) => {
    if (text === '') return null;
    try {
      return cells.parse(JSON.parse(text));
    } catch {
      context.addIssue({ code: 'custom', message: INCOMPLETE });
      return z.NEVER;
    }
  });

/** The form of one tool, and the act that writes it down; of assemblies and of components. */
export const recordAct = (kind: FileKind) =>
  act(z.looseObject({ shown: shownText }), ({ input, asking }) => {
    const given: Record<string, string> = {};
    for (const { name } of COLUMNS[kind]) {
      const value = input[name];
      if (typeof value === 'string') given[name] = value.trim().slice(0, 200);
    }
    return writeRecord(asking, { kind, cells: given, shown: input.shown });
  });

/** What the form begins with: a tool on record, another like it under a number of its own, or nothing but the next free number. */
export async function recordToShow(kind: FileKind, number: string | null, like: string | null) {
  const db = pool();
  const there = number ? await cellsOf(db, kind, number) : null;
  if (number && !there) return null;
  if (there) return { known: true, cells: there.cells, standsIn: there.standsIn };
  const model = like ? await cellsOf(db, kind, like) : null;
  const own = Object.fromEntries(
    Object.entries(model?.cells ?? {}).filter(
      ([name]) => !['stock', 'life_left', 'status'].includes(name) && !name.endsWith('_item'),
    ),
  );
  return {
    known: false,
    cells: { ...own, number: (await freeNumber(db, kind)) ?? '' },
    standsIn: null,
  };
}
