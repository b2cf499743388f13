import { entry } from '../core/ledger/entry.ts';
import type { LeafNote } from '../core/shift/leaf.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { lockMachines } from './machines.ts';

const NOTE = `SELECT n.id, n.leaf, n.kind, m.name AS machine, p.name AS person, n.at, n.text, a.text AS answer, q.name AS "answeredBy"
  FROM leaf_note n JOIN person p ON p.id = n.person_id LEFT JOIN machine m ON m.id = n.machine_id
  LEFT JOIN leaf_answer a ON a.note_id = n.id LEFT JOIN person q ON q.id = a.person_id`;

/** What was written on one leaf. */
export const notesOf = (db: Db, leaf: string) =>
  rows<LeafNote>(db, `${NOTE} WHERE n.leaf = $1 ORDER BY n.id`, [leaf]);

/** Questions nobody has answered and promises nobody has kept, on whatever leaf. */
export const openNotes = (db: Db) =>
  rows<LeafNote>(db, `${NOTE} WHERE n.kind <> 'note' AND a.note_id IS NULL ORDER BY n.id`);

export interface NewNote {
  leaf: string;
  kind: LeafNote['kind'];
  machineId: number | null;
  text: string;
}

const SAID: Readonly<Record<LeafNote['kind'], string>> = {
  note: 'Note',
  question: 'Not understood',
  promise: 'Promised',
};

export const writeNote = (asking: Asking, note: NewNote) =>
  once(asking, 'writeNote', note, (db) => putNote(db, asking.personId, note));

export async function putNote(db: Db, personId: number, note: NewNote): Promise<void> {
  await lockMachines(db, [note.machineId]);
  await db.query(
    'INSERT INTO leaf_note (leaf, kind, machine_id, person_id, text) VALUES ($1, $2, $3, $4, $5)',
    [note.leaf, note.kind, note.machineId, personId, note.text],
  );
  await append(
    db,
    entry.leaf(note.kind, {
      personId,
      machineId: note.machineId,
      said: `${SAID[note.kind]}: ${note.text}`,
    }),
  );
}

/** Answers a question, or says how a promise was kept. */
export function answerNote(asking: Asking, noteId: number, text: string) {
  return once(asking, 'answerQuestion', { noteId, text }, async (db) => {
    const note = await row<{ text: string; kind: 'question' | 'promise'; machineId: number | null }>(
      db,
      `SELECT text, kind, machine_id AS "machineId" FROM leaf_note WHERE id = $1 AND kind <> 'note'`,
      [noteId],
    );
    if (!note) throw new Refused('There is no such question.');
    await lockMachines(db, [note.machineId]);
    const added = await db.query(
      'INSERT INTO leaf_answer (note_id, person_id, text) VALUES ($1, $2, $3) ON CONFLICT DO NOTHING',
      [noteId, asking.personId, text],
    );
    if (added.rowCount === 0)
      throw new Refused(
        note.kind === 'question'
          ? 'Somebody has already answered this.'
          : 'Somebody has already said that this was kept.',
      );
    await append(
      db,
      entry.leaf(note.kind === 'question' ? 'answered' : 'kept', {
        personId: asking.personId,
        machineId: note.machineId,
        said: `"${note.text}" was ${note.kind === 'question' ? 'answered' : 'kept'}: ${text}`,
      }),
    );
  });
}
