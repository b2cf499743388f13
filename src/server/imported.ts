import type { AssemblyRow } from '../core/formats/assembly-file.ts';
import { isExpired } from '../core/life/count.ts';
import { assembliesByNumber, importAssemblyBatch, setFlag } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { Refused } from './outcome.ts';
import { quarantine } from './quarantine.ts';

const WHY = 'By its file.';

/** Adds and changes assemblies of a file, a batch of rows at a time; new ones come with what is left of them and with their flags. */
export async function takeAssemblies(
  db: Db,
  personId: number,
  added: readonly AssemblyRow[],
  changed: readonly AssemblyRow[],
  words: readonly string[],
): Promise<void> {
  await importAssemblyBatch(db, personId, added, changed, words);
  const flags = new Map(
    added.flatMap(({ number, flag, life }) => {
      const own = flag ?? (life && life.left !== null && isExpired(life.left) ? 'expired' : null);
      return own === null ? [] : [[number, own] as const];
    }),
  );
  for (const assembly of await assembliesByNumber(db, [...flags.keys()])) {
    const flag = flags.get(assembly.number)!;
    if (flag === 'broken')
      await quarantine(db, personId, assembly, { verdict: 'broken', why: WHY, part: null });
    else await setFlag(db, personId, assembly, flag, WHY);
  }
}

/** Adds assemblies from a file: all of them, or none. */
export async function importAssemblies(
  db: Db,
  personId: number,
  files: readonly AssemblyRow[],
): Promise<number> {
  const known = await rows<{ number: string }>(db, 'SELECT number FROM assembly WHERE number = ANY($1)', [
    files.map((file) => file.number),
  ]);
  if (known.length > 0)
    throw new Refused(
      `${known.length === 1 ? 'This number' : 'These numbers'} already exist${known.length === 1 ? 's' : ''}: ${known
        .slice(0, 5)
        .map((each) => each.number)
        .join(', ')}. A number is one physical piece.`,
    );
  await takeAssemblies(db, personId, files, [], []);
  return files.length;
}
