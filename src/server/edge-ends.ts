import { cutTime, type LifeBasis } from '../core/life/count.ts';
import { EDGE_END_WORDS, type EdgeEnd, type EdgeLife, type WearSign } from '../core/life/edge-lives.ts';
import { cuttingSpeed, ONE_SPEED } from '../core/program/cutting-speed.ts';
import type { Length } from '../core/units/length.ts';
import { entry } from '../core/ledger/entry.ts';
import type { Assembly } from './assemblies.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { insertRecord } from './insert.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { callsOf } from './programs.ts';

/** How an edge ended, as it is told at its renewal. */
export interface Ended {
  end: EdgeEnd;
  sign: WearSign | null;
  /** Flank wear, where somebody measured it. */
  flank: Length | null;
}

export const NOBODY_SAID: Ended = { end: 'unknown', sign: null, flank: null };

/** In words, for the ledger. */
export const endedWords = ({ end, sign }: Ended) =>
  `${EDGE_END_WORDS[end]}${sign ? ` (by its ${sign})` : ''}`;

/** How an edge ran: for which program most, in what material, at what speed in metres a minute, and for how long it was in cut. */
export interface Ran {
  program: string | null;
  material: string | null;
  speed: number | null;
  cutMilliseconds: number | null;
}

const NOT_KNOWN: Ran = { program: null, material: null, speed: null, cutMilliseconds: null };

/** How the edge that is in now has run since its renewal, by what was counted for each revision of each program. */
export async function ranOf(db: Db, assembly: Assembly): Promise<Ran> {
  if (assembly.counterId === null || assembly.basis === null) return NOT_KNOWN;
  const { basis } = assembly;
  const counted = await rows<{
    number: string;
    material: string | null;
    kind: 'mill' | 'lathe';
    parts: number;
    tool: number;
    programId: number;
    used: number;
  }>(
    db,
    `SELECT g.number, g.material, m.kind, g.parts_per_cycle AS parts, coalesce(l.tool, 0) AS tool, g.id AS "programId", sum(-l.change_value)::bigint AS used
     FROM ledger l JOIN program g ON g.id = l.program_id JOIN machine m ON m.id = g.machine_id
     WHERE l.counter_id = $1 AND l.kind = 'life' AND l.stage IN ('used', 'given back') AND l.tool IS NOT NULL
       AND l.id > coalesce((SELECT max(r.id) FROM ledger r WHERE r.counter_id = $1 AND r.stage = 'renewed' AND NOT EXISTS (SELECT 1 FROM void_entry v WHERE v.entry = r.id)), 0)
     GROUP BY g.id, m.kind, l.tool HAVING sum(-l.change_value) > 0 ORDER BY used DESC, g.number`,
    [assembly.counterId],
  );
  if (counted.length === 0) return NOT_KNOWN;
  const ran = await Promise.all(
    counted.map(async ({ programId, tool, kind, parts, used }) => {
      const calls = (await callsOf(db, programId)).filter((call) => call.tool === tool);
      return {
        speed: cuttingSpeed(calls, assembly.diameter, kind),
        cut: cutTime(used, basis, {
          holes: calls.reduce((sum, call) => sum + call.holes, 0),
          cutMilliseconds: calls.reduce((sum, call) => sum + call.cutMilliseconds, 0),
          parts,
        }),
      };
    }),
  );
  const speeds = ran.map(({ speed }) => speed);
  const known = speeds.every((speed) => speed !== null);
  const materials = new Set(counted.map(({ material }) => material));
  return {
    program: counted[0]!.number,
    material: materials.size === 1 ? counted[0]!.material : null,
    speed: known && Math.max(...speeds) <= ONE_SPEED * Math.min(...speeds) ? speeds[0]! : null,
    cutMilliseconds: ran.every(({ cut }) => cut !== null)
      ? Math.round(ran.reduce((sum, { cut }) => sum + cut!, 0))
      : null,
  };
}

/** Keeps how the edge of a counted tool ended, with what it had cut and how it ran. */
export async function keepEdgeEnd(
  db: Db,
  personId: number,
  assembly: Assembly,
  ended: Ended,
  ran: Ran,
): Promise<void> {
  if (assembly.counterId === null) return;
  await insertRecord(db, 'edge_end', {
    assemblyId: assembly.id,
    basis: assembly.basis,
    used: Math.max(0, assembly.fullLife! - assembly.remaining!),
    lifeLimit: assembly.fullLife,
    ended: ended.end,
    sign: ended.sign,
    flank: ended.flank,
    machineId: assembly.machineId,
    programNumber: ran.program,
    material: ran.material,
    speed: ran.speed,
    cutMilliseconds: ran.cutMilliseconds,
    personId,
  });
}

/**
 * Says afterwards how an edge ended, or that it ended otherwise than was told: in a hurry nothing is tapped, and who looks at the edges on
 * the bench knows more. What was told before stays in the ledger.
 */
export const tellEdgeEnd = (
  asking: Asking,
  told: { id: number; was: EdgeEnd; end: EdgeEnd; sign: WearSign | null },
) =>
  once(asking, 'tellEdgeEnd', told, async (db) => {
    const edge = await row<{
      ended: EdgeEnd;
      sign: WearSign | null;
      assemblyId: number;
      number: string;
      at: Date;
    }>(
      db,
      `SELECT e.ended, e.sign, e.assembly_id AS "assemblyId", a.number, e.at FROM edge_end e JOIN assembly a ON a.id = e.assembly_id
       WHERE e.id = $1 FOR UPDATE OF e`,
      [told.id],
    );
    if (!edge) throw new Refused('There is no such edge on record.');
    if (edge.ended !== told.was)
      throw new Refused(
        `Somebody else said meanwhile how it ended: ${endedWords({ end: edge.ended, sign: edge.sign, flank: null })}. Look again.`,
      );
    const sign = told.end === 'worn' ? told.sign : null;
    if (edge.ended === told.end && edge.sign === sign)
      throw new Refused('That is what stands there already.');
    await db.query('UPDATE edge_end SET ended = $2, sign = $3, person_id = $4 WHERE id = $1', [
      told.id,
      told.end,
      sign,
      asking.personId,
    ]);
    await append(
      db,
      entry.assembly('edgeTold', {
        personId: asking.personId,
        assemblyId: edge.assemblyId,
        said: `How an edge of ${edge.number} ended was told: ${endedWords({ end: told.end, sign, flank: null })}.`,
        why: `It stood as: ${endedWords({ end: edge.ended, sign: edge.sign, flank: null })}.`,
      }),
    );
  });

export interface EdgeEndRow extends EdgeLife {
  id: number;
  at: Date;
  person: string;
  sign: WearSign | null;
  program: string | null;
  material: string | null;
  /** Metres a minute, and minutes in cut; null: not known. */
  speed: number | null;
  minutes: number | null;
  assembly: string;
  limit: number;
}

/** Edges that are looked at, the newest: how they wore years ago says little of now. */
export const MOST_EDGES = 500;

/** By what edges are like: the same key is the same question. */
const likeness = ({ kind, diameter, cornerRadius }: Assembly, basis: LifeBasis) =>
  JSON.stringify([kind, diameter, cornerRadius, basis]);
/** Keys as columns: the key, kind, diameter, corner and basis of each. */
function asked(keys: readonly string[]): unknown[] {
  const each = keys.map((key) => JSON.parse(key) as [string, number, number, LifeBasis]);
  return [keys, ...[0, 1, 2, 3].map((i) => each.map((columns) => columns[i]))];
}

/** Edges of an assembly and of its sisters, those of the same kind and size, counted the same way; the newest last. */
export const edgesOf = (db: Db, assembly: Assembly, basis: LifeBasis): Promise<EdgeEndRow[]> =>
  edgesLike(db, likeness(assembly, basis));
const edgesLike = gathered((db, keys: readonly string[]) =>
  rows<EdgeEndRow & { of: string }>(
    db,
    `SELECT coalesce(q.key, '') AS "of", newest.* FROM unnest($1::text[], $2::text[], $3::bigint[], $4::bigint[], $5::text[]) AS q (key, kind, diameter, corner, basis)
     CROSS JOIN LATERAL (SELECT e.id, e.used AS life, e.ended AS end, e.sign, e.at, p.name AS person, e.program_number AS program, e.material, e.speed,
            e.cut_milliseconds / 60000.0::double precision AS minutes, a.number AS assembly,
            e.life_limit AS limit
       FROM edge_end e JOIN assembly a ON a.id = e.assembly_id JOIN person p ON p.id = e.person_id
       WHERE a.kind = q.kind AND a.diameter = q.diameter AND a.corner_radius = q.corner AND e.basis = q.basis
       ORDER BY e.id DESC LIMIT $6) newest ORDER BY newest.id`,
    [...asked(keys), MOST_EDGES],
  ),
);

const edgesUnlike = gathered((db, keys: readonly string[]) =>
  rows<EdgeLife & { of: string; size: string }>(
    db,
    `SELECT coalesce(q.key, '') AS "of", newest.life, newest.end, newest.size FROM unnest($1::text[], $2::text[], $3::bigint[], $4::bigint[], $5::text[]) AS q (key, kind, diameter, corner, basis)
     CROSS JOIN LATERAL (SELECT e.id, e.used AS life, e.ended AS end, a.diameter || ' ' || a.corner_radius || ' ' || coalesce(e.program_number, '') AS size
       FROM edge_end e JOIN assembly a ON a.id = e.assembly_id
       WHERE a.kind = q.kind AND (a.diameter <> q.diameter OR a.corner_radius <> q.corner) AND e.basis = q.basis
       ORDER BY e.id DESC LIMIT $6) newest ORDER BY newest.id DESC`,
    [...asked(keys), 2 * MOST_EDGES],
  ),
);

/** Edges of other tools of the kind, each size by itself: their shapes say about how such tools wear. */
export async function similarEdges(db: Db, assembly: Assembly, basis: LifeBasis): Promise<EdgeLife[][]> {
  const all = await edgesUnlike(db, likeness(assembly, basis));
  const bySize = new Map<string, EdgeLife[]>();
  for (const { size, life, end } of all) bySize.set(size, [...(bySize.get(size) ?? []), { life, end }]);
  return [...bySize.values()];
}
