import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { closePool, pool, row, transaction } from '../../src/server/db.ts';
import { append } from '../../src/server/ledger.ts';
import { lockMachines } from '../../src/server/machines.ts';
import { asSuperuser, freshDatabase, type TestDatabase } from './databases.ts';

/** The made-up cell in a database of the test's own, and short ways to name what is in it. */
export async function weirside() {
  await closePool();
  const database: TestDatabase = await freshDatabase('tin_demo');
  const person = async (badge: string) =>
    (await row<Person>(pool(), 'SELECT id, badge, name, role FROM person WHERE badge = $1', [badge]))!;
  const [lead, setter, operator, inspector, crib] = await Promise.all(
    ['1001', '1002', '1003', '1004', '1005'].map(person),
  );
  return {
    database,
    lead: lead!,
    setter: setter!,
    operator: operator!,
    inspector: inspector!,
    crib: crib!,
    machine: (name: string) => number('SELECT id AS n FROM machine WHERE name = $1', name),
    assembly: (name: string) => number('SELECT id AS n FROM assembly WHERE number = $1', name),
    program: (name: string) => number('SELECT id AS n FROM program WHERE number = $1', name),
    feature: (program: string, name: string) =>
      number('SELECT id AS n FROM feature WHERE program_number = $1 AND name = $2', program, name),
    place: (machine: string, pocket: number) =>
      number(
        'SELECT p.id AS n FROM place p JOIN machine m ON m.id = p.machine_id WHERE m.name = $1 AND p.number = $2',
        machine,
        pocket,
      ),
    job: (program: string) =>
      number(
        'SELECT j.id AS n FROM job j JOIN program g ON g.id = j.program_id WHERE g.number = $1 ORDER BY j.id DESC LIMIT 1',
        program,
      ),
    register: (machine: string, rowNumber: number, kind: string) =>
      row<{ id: number; value: number }>(
        pool(),
        'SELECT r.id, r.value FROM register r JOIN machine m ON m.id = r.machine_id WHERE m.name = $1 AND r.row = $2 AND r.kind = $3',
        [machine, rowNumber, kind],
      ).then((found) => found!),
    count: (sql: string, ...values: unknown[]) => number(`SELECT count(*)::integer AS n ${sql}`, ...values),
    /** As the owner of everything, past the application's rights; for looking and for breaking things. */
    asOwner: <T>(work: Parameters<typeof asSuperuser<T>>[0]) => asSuperuser(work, database.name),
  };
}

async function number(sql: string, ...values: unknown[]): Promise<number> {
  return (await row<{ n: number }>(pool(), sql, values))!.n;
}

export const as = (person: Person, key: string = randomUUID()) => ({ key, personId: person.id, ...signing });
/** Who acts instead of whoever is named, and what their page knew; empty: nobody. */
let signing: { personId?: number; seen?: number } = {};
export async function signedBy<T>(somebody: { personId: number; seen: number }, act: () => Promise<T>) {
  signing = somebody;
  try {
    return await act();
  } finally {
    signing = {};
  }
}

/** The value of an act that must succeed. */
export function done<T>(outcome: { ok: true; value: T } | { ok: false; reason: string }): T {
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome.value;
}
export const refused = (outcome: { ok: boolean; reason?: string }) => (outcome.ok ? null : outcome.reason!);

/** An entry past the code that would write it, by somebody who holds its machine. */
export const entered = (written: Parameters<typeof append>[1]) =>
  transaction(async (db) => {
    await lockMachines(db, [(written as { machineId?: number | null }).machineId ?? null]);
    return append(db, written);
  });
