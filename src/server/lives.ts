import { isExpired, MILLISECONDS_PER_MINUTE, type LifeBasis } from '../core/life/count.ts';
import { leftUnder } from '../core/life/limit.ts';
import { entry } from '../core/ledger/entry.ts';
import { assemblyById, setFlag } from './assemblies.ts';
import { row } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export interface LifeLimit {
  assemblyId: number;
  basis: LifeBasis;
  /** Uses, or milliseconds in cut. */
  fullLife: number;
  /** What is left, where it cannot be worked out: another way of counting. */
  left: number | null;
  why: string;
}

const words = (value: number, basis: LifeBasis) =>
  basis === 'minutes'
    ? `${(value / MILLISECONDS_PER_MINUTE).toFixed(1)} minutes`
    : `${value} ${basis === 'pieces' ? 'pieces' : 'holes'}`;

/** Sets how long a tool is good for: the first limit of one that was not counted, or another. What it has cut stays cut. */
export function setLifeLimit(asking: Asking, limit: LifeLimit) {
  return once(asking, 'setLifeLimit', limit, async (db) => {
    const assembly = await assemblyById(db, limit.assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (limit.fullLife <= 0) throw new Refused('A life must be above zero.');
    if (limit.why.trim() === '') throw new Refused('Say why: a limit is the shop’s experience.');
    const old = await row<{ id: number; basis: LifeBasis; fullLife: number; remaining: number }>(
      db,
      'SELECT id, basis, full_life AS "fullLife", value AS remaining FROM life_counter WHERE assembly_id = $1 FOR UPDATE',
      [assembly.id],
    );
    if (old?.basis === limit.basis && old.fullLife === limit.fullLife)
      throw new Refused('It already has that limit.');
    if (old && old.basis !== limit.basis && limit.left === null)
      throw new Refused(`It was counted in ${old.basis} so far: say what it has left in ${limit.basis}.`);
    const left =
      old && old.basis === limit.basis
        ? leftUnder(old, limit.fullLife)
        : Math.min(limit.left ?? limit.fullLife, limit.fullLife);
    const counterId =
      old?.id ??
      (await row<{ id: number }>(
        db,
        'INSERT INTO life_counter (assembly_id, basis, full_life) VALUES ($1, $2, $3) RETURNING id',
        [assembly.id, limit.basis, limit.fullLife],
      ))!.id;
    if (old)
      await db.query('UPDATE life_counter SET basis = $2, full_life = $3 WHERE id = $1', [
        old.id,
        limit.basis,
        limit.fullLife,
      ]);
    const about = {
      personId: asking.personId,
      assemblyId: assembly.id,
      machineId: assembly.machineId,
      tool: assembly.tool,
      why: limit.why.trim(),
    };
    await append(
      db,
      entry.assembly('changed', {
        ...about,
        said: old
          ? `The life limit of ${assembly.number} went from ${words(old.fullLife, old.basis)} to ${words(limit.fullLife, limit.basis)}.`
          : `${assembly.number} is counted from now on: ${words(limit.fullLife, limit.basis)}.`,
      }),
    );
    if (left !== (old?.remaining ?? 0))
      await append(
        db,
        entry.life('set', {
          ...about,
          counterId,
          before: old?.remaining ?? 0,
          after: left,
          ...(old && old.basis !== limit.basis ? { detail: { basis: limit.basis } } : {}),
          said: `${assembly.number} has ${words(left, limit.basis)} left by its new limit.`,
        }),
      );
    const out = isExpired(left);
    if (out && assembly.flag === null)
      await setFlag(db, asking.personId, assembly, 'expired', 'By its new limit.');
    if (!out && assembly.flag === 'expired')
      await setFlag(db, asking.personId, assembly, null, 'By its new limit it has life left.');
  });
}
