import { assemblyCells, assemblyReader, type AssemblyRow } from '../core/formats/assembly-file.ts';
import { COLUMNS, type FileKind } from '../core/formats/columns.ts';
import { componentCells, componentReader, type ComponentRow } from '../core/formats/component-file.ts';
import { planImport } from '../core/formats/import-plan.ts';
import { nextNumber } from '../core/formats/next-number.ts';
import { readCells } from '../core/formats/row-reader.ts';
import { takeAssemblies } from './imported.ts';
import { importComponentBatch } from './components.ts';
import { row, rows, type Db } from './db.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { knownCells } from './tool-files.ts';

type Cells = Readonly<Record<string, string>>;

/** The cells of one tool as a form shows them; null when there is none of that number. */
export const cellsOf = async (db: Db, kind: FileKind, number: string) =>
  (await knownCells(db, kind, [number])).get(number) ?? null;

/** The number that a new tool is proposed: the next after the newest. */
export async function freeNumber(db: Db, kind: FileKind): Promise<string | null> {
  const found = await rows<{ number: string }>(
    db,
    kind === 'assemblies'
      ? 'SELECT number FROM assembly ORDER BY id DESC LIMIT 500'
      : 'SELECT number FROM component ORDER BY id DESC LIMIT 500',
  );
  const taken = new Set(found.map((each) => each.number));
  for (let next = nextNumber(found[0]?.number, taken); next !== null; next = nextNumber(next, taken)) {
    if (!(await numberTaken(db, kind, next))) return next;
    taken.add(next);
  }
  return null;
}
const numberTaken = async (db: Db, kind: FileKind, number: string) =>
  (await row(
    db,
    kind === 'assemblies'
      ? 'SELECT 1 FROM assembly WHERE number = $1'
      : 'SELECT 1 FROM component WHERE number = $1',
    [number],
  )) !== null;

function readOne(kind: FileKind, cells: Cells): AssemblyRow | ComponentRow {
  const lines = [{ line: 1, cells }];
  const read =
    kind === 'assemblies' ? readCells(lines, assemblyReader()) : readCells(lines, componentReader());
  if (read.ok) return read.rows[0]!;
  const words = (name: string) => COLUMNS[kind].find((column) => column.name === name)?.words ?? name;
  throw new Refused(read.issues.map(({ column, message }) => `${words(column)}: ${message}`).join('\n'));
}

/** Holds a tool that is on record, so that two who change it come one after the other. */
const lockNumber = (db: Db, kind: FileKind, number: string) =>
  db.query(
    kind === 'assemblies'
      ? 'SELECT 1 FROM assembly WHERE number = $1 FOR UPDATE'
      : 'SELECT 1 FROM component WHERE number = $1 FOR UPDATE',
    [number],
  );

const asCells = (kind: FileKind, tool: AssemblyRow | ComponentRow) =>
  kind === 'assemblies' ? assemblyCells(tool as AssemblyRow) : componentCells(tool as ComponentRow);

export interface WrittenRecord {
  kind: FileKind;
  cells: Cells;
  /** What the form showed of a tool that is on record; null for a new one. */
  shown: Cells | null;
}

/**
 * Writes down one tool by hand, a new one or another description of one that is on record: by the rules of a row of a file. What
 * somebody else changed since the form was shown is refused, and so is another size for what stands in a machine.
 */
export const writeRecord = (asking: Asking, written: WrittenRecord) =>
  once(asking, 'writeRecord', written, async (db) => {
    const { kind, cells, shown } = written;
    const tool = readOne(kind, cells);
    await lockNumber(db, kind, tool.number);
    const known = await knownCells(db, kind, [tool.number]);
    const there = known.get(tool.number);
    if (!shown && (there || (await numberTaken(db, kind, tool.number))))
      throw new Refused(
        `${tool.number} is already on record: ${kind === 'assemblies' ? 'a number is one physical piece' : 'a number is one line of the catalogue'}.`,
      );
    if (shown && !there) throw new Refused(`${tool.number} is not on record.`);
    const moved = COLUMNS[kind].filter(
      ({ name, first }) => shown && !first && (shown[name] ?? '') !== (there!.cells[name] ?? ''),
    );
    if (moved.length > 0)
      throw new Refused(
        `Somebody else changed it meanwhile: ${moved.map(({ name, words }) => `${words.toLowerCase()} is now ${there!.cells[name] || 'empty'}`).join(', ')}. Look again.`,
      );
    const wanted = shown
      ? readOne(kind, {
          ...cells,
          ...Object.fromEntries(
            COLUMNS[kind].flatMap(({ name, first }) => (first ? [[name, there!.cells[name] ?? '']] : [])),
          ),
        })
      : tool;
    const [plan] = planImport(kind, [asCells(kind, wanted)], known, 1);
    if (plan!.verdict === 'refused') throw new Refused(`${tool.number}: ${plan!.words}.`);
    if (plan!.verdict === 'same' || plan!.verdict === 'left') throw new Refused('Nothing of it was changed.');
    const [added, changed] = shown ? [[], [wanted]] : [[wanted], []];
    if (kind === 'assemblies')
      await takeAssemblies(db, asking.personId, added as AssemblyRow[], changed as AssemblyRow[], [
        plan!.words,
      ]);
    else
      await importComponentBatch(db, asking.personId, added as ComponentRow[], changed as ComponentRow[], [
        plan!.words,
      ]);
    const id = await row<{ id: number }>(
      db,
      kind === 'assemblies'
        ? 'SELECT id FROM assembly WHERE number = $1'
        : 'SELECT id FROM component WHERE number = $1',
      [tool.number],
    );
    return { id: id!.id, number: tool.number };
  });
