// Run by scripts/start.mjs: brings the database up to date and, when it is empty, fills it. Prints one line of JSON.
import { randomInt } from 'node:crypto';
import { cellOf, makeCell } from '../src/server/cell.ts';
import { closePool, pool, row, rows, transaction } from '../src/server/db.ts';
import { firstLead } from '../src/server/people.ts';
import { readOldAnew } from '../src/server/program-reading.ts';
import { loadDemo } from './demo/load-demo.ts';
import { DEMO_PEOPLE } from './demo/people.ts';
import { migrate } from './migrate.ts';

const wantsDemo = process.argv.includes('--demo');
const ownerUrl = process.env.DATABASE_OWNER_URL ?? process.env.DATABASE_URL!;
const migrated = await migrate(ownerUrl);
const empty = (await row(pool(), 'SELECT 1 FROM person LIMIT 1')) === null;
let signIns: { badge: string; pin: string; name: string; role: string }[] = [];
// the demo's present, where it is not the clock's: tests of another hour of the day
const present = process.env.TIN_DEMO_AT;
if (empty && wantsDemo) await loadDemo(present ? new Date(present) : undefined);
else if (empty) {
  await transaction((db) =>
    makeCell(db, 'The cell', Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC', false),
  );
  const pin = String(randomInt(100_000, 1_000_000));
  const lead = await firstLead('1001', pin);
  if (lead) signIns = [{ badge: lead.badge, pin, name: lead.name, role: lead.role }];
}
if (!empty) await readOldAnew(pool());
const cell = await cellOf(pool());
if (cell.demo) signIns = DEMO_PEOPLE.map(({ badge, pin, name, role }) => ({ badge, pin, name, role }));
const runningJobs = await row<{ counts: unknown }>(
  pool(),
  `SELECT coalesce(json_object_agg(lower(m.name), json_build_object('made', j.made, 'cycle', j.cycle_milliseconds, 'parts', g.parts_per_cycle,
             'program', g.number, 'calls', (SELECT json_agg(json_build_object('tool', c.tool, 'share', c.cut_milliseconds::float / w.whole) ORDER BY c.ord)
               FROM program_call c, (SELECT greatest(1, sum(cut_milliseconds)) AS whole FROM program_call WHERE program_id = g.id) w
               WHERE c.program_id = g.id))), '{}') AS counts
   FROM job j JOIN machine m ON m.id = j.machine_id JOIN program g ON g.id = j.program_id WHERE j.state = 'running'`,
);
const tools = cell.demo
  ? await rows<object>(
      pool(),
      `SELECT number, gauge_length / 1e6::float AS length, diameter / 1e6::float AS diameter, corner_radius / 1e6::float AS radius FROM assembly WHERE outline IS NOT NULL ORDER BY id LIMIT 300`,
      [],
    )
  : [];
/** What each control holds of its tools: length, life left, and what a part takes of it. */
const cutters = cell.demo
  ? await row<{ held: unknown }>(
      pool(),
      `SELECT coalesce(json_object_agg(name, tools), '{}') AS held FROM (
         SELECT lower(m.name) AS name, json_agg(json_build_object('tool', s.tool, 'pocket', CASE l.kind WHEN 'spindle' THEN 0 ELSE l.number END, 'number', a.number, 'length', a.gauge_length / 1e6::float,
             'basis', c.basis, 'left', c.value, 'limit', c.full_life, 'use', CASE WHEN u.calls IS NULL THEN 0
               WHEN c.basis = 'pieces' THEN 1 WHEN c.basis = 'holes' THEN u.holes / u.parts ELSE u.cut / u.parts END)) AS tools
         FROM placement s JOIN place l ON l.id = s.place_id JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id LEFT JOIN life_counter c ON c.assembly_id = a.id
           LEFT JOIN LATERAL (SELECT count(*) AS calls, sum(p.holes)::float AS holes, sum(p.cut_milliseconds)::float AS cut, max(g.parts_per_cycle) AS parts
             FROM job j JOIN program g ON g.id = j.program_id JOIN program_call p ON p.program_id = g.id AND p.tool = s.tool
             WHERE j.machine_id = m.id AND j.state = 'running' HAVING count(*) > 0) u ON true
         GROUP BY m.name) held`,
    )
  : null;
/** The offset tables of the controls, in millimetres: every row that holds something. */
const tables = cell.demo
  ? await row<{ held: unknown }>(
      pool(),
      `SELECT coalesce(json_object_agg(name, held), '{}') AS held FROM (
         SELECT name, json_object_agg(row, cells) AS held FROM (
           SELECT lower(m.name) AS name, g.row, json_object_agg(g.kind, CASE g.kind WHEN 'tipDirection' THEN g.value ELSE g.value / 1e6::float END) AS cells
           FROM register g JOIN machine m ON m.id = g.machine_id WHERE g.value <> 0 GROUP BY m.name, g.row) by_row GROUP BY name) by_machine`,
    )
  : null;
/** What the controls of the demo know otherwise than the record: somebody set a reamer to its full life there, and a cycle was broken off. */
const held = (cutters?.held ?? {}) as Record<
  string,
  { tool: number; left: number | null; limit: number | null }[]
>;
for (const tool of held.avocet ?? []) {
  if (tool.tool === 14) tool.left = tool.limit;
  if (tool.tool === 5) tool.left! -= 3;
}
await closePool();
console.log(
  JSON.stringify({
    migrated,
    loaded: empty,
    demo: cell.demo,
    cell: cell.name,
    signIns,
    jobs: runningJobs?.counts ?? {},
    tools,
    cutters: held,
    tables: tables?.held ?? {},
  }),
);
