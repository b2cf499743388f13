import { rows, type Db } from './db.ts';

/** A line of the list of programs: the newest revision of each. */
export interface ListedProgram {
  id: number;
  machine: string;
  number: string;
  title: string;
  revision: number;
  tools: number;
  cutMilliseconds: number;
  features: number;
  broughtInBy: string;
  /** How many there are that these are a part of. */
  total: number;
}

/** Programs whose machine, number, title, file or material hold each of some words, by machine and number, from a place in that list on. */
export const findPrograms = (db: Db, words: string, limit: number, from = 0) =>
  rows<ListedProgram>(
    db,
    `SELECT f.id, f.machine, f.number, f.title, f.revision, f.total, p.name AS "broughtInBy",
       (SELECT count(DISTINCT c.tool)::integer FROM program_call c WHERE c.program_id = f.id) AS tools,
       (SELECT coalesce(sum(c.cut_milliseconds), 0)::bigint FROM program_call c WHERE c.program_id = f.id) AS "cutMilliseconds",
       (SELECT count(*)::integer FROM feature e WHERE e.machine_id = f.machine_id AND e.program_number = f.number) AS features
     FROM (SELECT g.id, m.name AS machine, g.machine_id, g.number, g.title, g.revision, g.brought_in_by, count(*) OVER ()::integer AS total
           FROM program g JOIN machine m ON m.id = g.machine_id
           WHERE NOT EXISTS (SELECT 1 FROM program o
                             WHERE o.machine_id = g.machine_id AND o.number = g.number AND o.revision > g.revision)
             AND NOT EXISTS (SELECT 1 FROM unnest($1::text[]) AS w
                             WHERE position(w IN lower(concat_ws(' ', m.name, g.number, g.title, g.file_name, g.material))) = 0)
           ORDER BY m.name, g.number LIMIT $2 OFFSET $3) f
     JOIN person p ON p.id = f.brought_in_by
     ORDER BY f.machine, f.number`,
    [words.toLowerCase().split(/\s+/).filter(Boolean), limit, from],
  );

/** Each program to choose from: its newest revision. */
export const programChoices = (db: Db) =>
  rows<{ id: number; machine: string; number: string; title: string }>(
    db,
    `SELECT g.id, m.name AS machine, g.number, g.title FROM program g JOIN machine m ON m.id = g.machine_id
     WHERE NOT EXISTS (SELECT 1 FROM program o
                       WHERE o.machine_id = g.machine_id AND o.number = g.number AND o.revision > g.revision)
     ORDER BY m.name, g.number`,
  );
