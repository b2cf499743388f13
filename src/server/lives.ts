import { isExpired, PER_SHOWN, type LifeBasis } from '../core/life/count.ts';
import { leftUnder } from '../core/life/limit.ts';
import { entry } from '../core/ledger/entry.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { heldAssembly, setFlag, type Assembly } from './assemblies.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { WEAR_KINDS } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface LifeLimit {
  assemblyId: number;
  basis: LifeBasis;
  /** Uses, or milliseconds in cut. */
  fullLife: number;
  /** What is left, where it cannot be worked out: another way of counting. */
  left: number | null;
  /** Of one that is counted by wear: the kind of register, or the size, whose corrections count; neither: the row that moves most. */
  watched?: { kind: string | null; featureId: number | null };
  why: string;
}

const IN_WORDS: Readonly<Record<LifeBasis, string>> = {
  pieces: 'pieces',
  holes: 'holes',
  minutes: 'minutes',
  wear: 'mm of correction',
};
export const lifeInWords = (value: number, basis: LifeBasis) =>
  `${(value / PER_SHOWN[basis]).toFixed({ pieces: 0, holes: 0, minutes: 1, wear: 3 }[basis]).replace('-', '−')} ${IN_WORDS[basis]}`;

const NOTHING_WATCHED = { kind: null, featureId: null };

/** Sets how long a tool is good for: the first limit of one that was not counted, or another. What it has cut stays cut. */
export function setLifeLimit(asking: Asking, limit: LifeLimit) {
  return once(asking, 'setLifeLimit', limit, async (db) => {
    const assembly = await heldAssembly(db, limit.assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (limit.fullLife <= 0) throw new Refused('A life must be above zero.');
    if (limit.why.trim() === '') throw new Refused('Say why: a limit is the shop’s experience.');
    await askBeforeTakingOver(db, asking, ['assembly', 'changed', { assemblyId: assembly.id }]);
    const old = await row<{
      id: number;
      basis: LifeBasis;
      fullLife: number;
      remaining: number;
      watched: string | null;
      watchedFeature: number | null;
    }>(
      db,
      'SELECT id, basis, full_life AS "fullLife", value AS remaining, watched, watched_feature AS "watchedFeature" FROM life_counter WHERE assembly_id = $1 FOR UPDATE',
      [assembly.id],
    );
    const { kind, featureId } = limit.basis === 'wear' && limit.watched ? limit.watched : NOTHING_WATCHED;
    if (
      old?.basis === limit.basis &&
      old.fullLife === limit.fullLife &&
      old.watched === kind &&
      old.watchedFeature === featureId
    )
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
        'INSERT INTO life_counter (assembly_id, basis, full_life, watched, watched_feature) VALUES ($1, $2, $3, $4, $5) RETURNING id',
        [assembly.id, limit.basis, limit.fullLife, kind, featureId],
      ))!.id;
    if (old)
      await db.query(
        'UPDATE life_counter SET basis = $2, full_life = $3, watched = $4, watched_feature = $5 WHERE id = $1',
        [old.id, limit.basis, limit.fullLife, kind, featureId],
      );
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
        detail: { limitWas: old && { basis: old.basis, fullLife: old.fullLife } },
        said: old
          ? `The life limit of ${assembly.number} went from ${lifeInWords(old.fullLife, old.basis)} to ${lifeInWords(limit.fullLife, limit.basis)}.`
          : `${assembly.number} is counted from now on: ${lifeInWords(limit.fullLife, limit.basis)}.`,
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
          said: `${assembly.number} has ${lifeInWords(left, limit.basis)} left by its new limit.`,
        }),
      );
    const out = isExpired(left);
    if (out && assembly.flag === null)
      await setFlag(db, asking.personId, assembly, 'expired', 'By its new limit.');
    if (!out && assembly.flag === 'expired')
      await setFlag(db, asking.personId, assembly, null, 'By its new limit it has life left.');
  });
}

/** Takes a tool out of life management: it is not counted any more and never expires. What it counted stays in the ledger. */
export const stopCounting = (asking: Asking, given: { assemblyId: number; why: string }) =>
  once(asking, 'stopCounting', given, async (db) => {
    const assembly = await heldAssembly(db, given.assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    const why = given.why.trim();
    if (why === '') throw new Refused('Say why: nobody is told any more when it runs out.');
    await askBeforeTakingOver(db, asking, ['assembly', 'changed', { assemblyId: assembly.id }]);
    const counter = await row<{ fullLife: number; remaining: number; basis: LifeBasis }>(
      db,
      'UPDATE life_counter SET assembly_id = NULL WHERE assembly_id = $1 RETURNING full_life AS "fullLife", value AS remaining, basis',
      [assembly.id],
    );
    if (!counter) throw new Refused(`${assembly.number} is not counted as it is.`);
    const { basis, fullLife, remaining } = counter;
    await append(
      db,
      entry.assembly('changed', {
        personId: asking.personId,
        assemblyId: assembly.id,
        machineId: assembly.machineId,
        tool: assembly.tool,
        why,
        detail: { limitWas: { basis, fullLife } },
        said: `${assembly.number} is not counted any more; it had ${lifeInWords(remaining, basis)} left of ${lifeInWords(fullLife, basis)}.`,
      }),
    );
    if (assembly.flag === 'expired') await setFlag(db, asking.personId, assembly, null, 'It is not counted.');
  });

/** What the corrections of a tool may be counted by where it stands, and what they are counted by. */
export async function watchedOf(db: Db, assembly: Pick<Assembly, 'id' | 'machineId' | 'tool'>) {
  const counter = await row<{ kind: string | null; featureId: number | null }>(
    db,
    'SELECT watched AS kind, watched_feature AS "featureId" FROM life_counter WHERE assembly_id = $1',
    [assembly.id],
  );
  const watched = counter?.kind
    ? `kind:${counter.kind}`
    : counter?.featureId
      ? `feature:${counter.featureId}`
      : '';
  if (assembly.machineId === null) return { watched, watchable: [] };
  const kinds = await rows<{ kind: string }>(
    db,
    'SELECT DISTINCT kind FROM register WHERE machine_id = $1 AND kind = ANY($2) ORDER BY kind',
    [assembly.machineId, WEAR_KINDS],
  );
  const features = await rows<{ id: number; name: string; program: string }>(
    db,
    'SELECT id, name, program_number AS program FROM feature WHERE machine_id = $1 AND tool = $2 ORDER BY program_number, name',
    [assembly.machineId, assembly.tool],
  );
  return {
    watched,
    watchable: [
      ...kinds.map(({ kind }) => ({ value: `kind:${kind}`, words: `those of ${REGISTER_WORDS[kind]}` })),
      ...features.map(({ id, name, program }) => ({
        value: `feature:${id}`,
        words: `those of ${name} (${program})`,
      })),
    ],
  };
}
