import { entry } from '../core/ledger/entry.ts';
import { isExpired } from '../core/life/count.ts';
import { assemblyById, heldAssembly, setFlag } from './assemblies.ts';
import { row } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { heldRenewal } from './renewals.ts';

/**
 * Drops a renewal whose edge was not changed after all: it was begun at the wrong tool. The edge that was there goes on, with the life it
 * had, less what was cut meanwhile, and the flag it had; what was typed of its rows stays as it was read, and inserts that were turned on
 * record stay turned.
 */
export function dropRenewal(asking: Asking, { assemblyId, why }: { assemblyId: number; why: string }) {
  return once(asking, 'dropRenewal', { assemblyId, why }, async (db) => {
    const assembly = await heldAssembly(db, assemblyId);
    const renewal = await heldRenewal(db, assemblyId);
    if (!renewal || !assembly) throw new Refused('No renewal of this assembly is under way.');
    if (why.trim() === '') throw new Refused('Say why: whoever comes sees the steps that were taken.');
    const about = {
      personId: asking.personId,
      assemblyId,
      machineId: assembly.machineId,
      tool: assembly.tool,
    };
    const set = await row<{ counterId: number; change: number; value: number }>(
      db,
      `SELECT c.id AS "counterId", coalesce(l.change_value, 0) AS change, c.value FROM ledger l JOIN life_counter c ON c.id = l.counter_id AND c.assembly_id = $1
       WHERE l.kind = 'life' AND l.stage = 'renewed'
         AND l.id > (SELECT max(b.id) FROM ledger b WHERE b.assembly_id = $1 AND b.kind = 'assembly' AND b.stage = 'renewal')
       ORDER BY l.id DESC LIMIT 1`,
      [assemblyId],
    );
    await append(
      db,
      entry.assembly('renewalDropped', {
        ...about,
        said: `The renewal of ${assembly.number} was dropped: its edge was not changed.`,
        why: why.trim(),
      }),
    );
    if (set)
      await append(
        db,
        entry.life('set', {
          ...about,
          counterId: set.counterId,
          before: set.value,
          after: set.value - set.change,
          said: `${assembly.number} has the life of the edge that it still has.`,
        }),
      );
    const now = (await assemblyById(db, assemblyId))!;
    if (now.flag === null && now.remaining !== null && isExpired(now.remaining))
      await setFlag(db, asking.personId, now, 'expired', 'Its edge was not changed.');
  });
}
