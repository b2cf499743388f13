/** A cell of a plant's size, made from the made-up one: the same machines many times over, with years of entries behind them. */
import type pg from 'pg';

/** How many times each machine stands there beside itself, and how many times its past lies behind it. */
export interface Size {
  machines: number;
  pasts: number;
  assemblies: number;
  components: number;
  programs: number;
  readings: number;
}

/** Identifiers of one copy begin this far from those of the next; of the past they go downwards, as it is older. */
const STEP = 1_000_000;
const PAST = 100_000_000;
/** Jobs have shorter numbers than what happened on them. */
const PAST_JOBS = 14_000_000;
const DAYS = 120;

/** Columns that name something of the copied machine. */
const OWN = new Set(
  'id machine_id place_id assembly_id program_id job_id proposal_id reading_id register_id counter_id feature_id group_id'.split(
    ' ',
  ),
);
const TABLES = [
  'machine',
  'place',
  'register',
  'assembly',
  'assembly_part',
  'life_counter',
  'placement',
  'program',
  'program_call',
  'feature',
  'tool_group',
  'group_member',
  'job',
  'reading',
  'proposal',
  'ledger',
] as const;

async function columns(client: pg.Client, table: string): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>(
    `SELECT column_name AS name FROM information_schema.columns
     WHERE table_schema = 'public' AND table_name = $1 AND is_generated = 'NEVER' ORDER BY ordinal_position`,
    [table],
  );
  return rows.map(({ name }) => name);
}

async function copy(client: pg.Client, table: string, by: number, past: number): Promise<void> {
  const names = await columns(client, table);
  const changed = (name: string) => {
    const own = OWN.has(name);
    // what a machine is, and its tools, are the same in the past: only what happened lies further back
    const happened = ['id', 'reading_id', 'proposal_id', 'job_id'].includes(name);
    const job = name === 'job_id' || (table === 'job' && name === 'id');
    if (past > 0) {
      if (job) return `${name} - ${past} * ${PAST_JOBS}`;
      if (own && happened) return `${name} - ${past}::bigint * ${PAST}`;
      // jobs of the past are done, and what stands in a register is the sum of what happened since
      if (table === 'job' && name === 'state') return "'done'";
      if (table === 'ledger' && name === 'change_value') return 'change_value * 0';
      if (table === 'ledger' && name === 'before_value') return 'after_value';
      if (name === 'at') return `at - interval '1 day' * ${past * DAYS}`;
      return name;
    }
    if (own) return `${name} + ${by}`;
    if ((table === 'machine' && name === 'name') || (table === 'assembly' && name === 'number'))
      return `${name} || '-' || ${by / STEP}`;
    if (name === 'control_address') return 'NULL';
    return name;
  };
  await client.query(
    `INSERT INTO ${table} (${names.join(', ')}) OVERRIDING SYSTEM VALUE SELECT ${names.map(changed).join(', ')} FROM ${table}
     ${past > 0 ? `WHERE id > 0${table === 'proposal' ? ' AND NOT open' : ''}` : names.includes('id') ? `WHERE id BETWEEN 1 AND ${STEP - 1}` : `WHERE ${names.find((name) => OWN.has(name))} BETWEEN 1 AND ${STEP - 1}`}`,
  );
}

/** Fills a copy of the made-up cell up to a size. Runs as the owner of everything: no trigger tells anybody, none checks. */
export async function fill(client: pg.Client, size: Size): Promise<void> {
  await client.query('SET session_replication_role = replica');
  const { rows } = await client.query<{ n: number }>('SELECT count(*)::integer AS n FROM machine');
  for (let by = 1; by < size.machines / rows[0]!.n; by += 1)
    for (const table of TABLES) await copy(client, table, by * STEP, 0);
  for (let past = 1; past <= size.pasts; past += 1)
    for (const table of ['job', 'reading', 'proposal', 'ledger']) await copy(client, table, 0, past);
  await client.query(
    `INSERT INTO reading (id, feature_id, program_id, part, measured, confirmed, person_id, at) OVERRIDING SYSTEM VALUE
     SELECT -1 - i, f.id, (SELECT min(id) FROM program g WHERE g.machine_id = f.machine_id AND g.number = f.program_number), (i / f.many)::integer, f.target, true, 1,
       now() - interval '1 minute' * i
     FROM (SELECT *, row_number() OVER (ORDER BY id) - 1 AS place, count(*) OVER () AS many FROM feature) f
     JOIN generate_series(0, $1::bigint) i ON i % f.many = f.place`,
    [size.readings],
  );
  await client.query(
    `INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth)
     SELECT 'Q-' || i, (ARRAY['End mill','Drill','Tap','Reamer','Ball mill'])[1 + i % 5] || ' ' || (i % 240) / 10.0,
       (ARRAY['endMill','drill','tap','reamer','ballMill'])[1 + i % 5], 'steep 40', 'collet chuck ' || i % 32, (i % 240 + 1) * 100000, 0, 40000000, 90000000 + i * 7919 % 60000000, 40000000, 4
     FROM generate_series(1, $1::integer) i`,
    [size.assemblies],
  );
  await client.query(
    `INSERT INTO component (number, name, kind, dimensions, shelf)
     SELECT 'P-' || i, (ARRAY['End mill','Drill','Collet','Insert','Holder'])[1 + i % 5] || ' ' || (i % 240) / 10.0,
       (ARRAY['endMillSharp','drillStub','collet','insert','sideLock'])[1 + i % 5], jsonb_build_object('DC', (i % 240 + 1) * 100000), 'S' || i % 90
     FROM generate_series(1, $1::integer) i`,
    [size.components],
  );
  await client.query(
    `INSERT INTO program (machine_id, number, title, file_name, revision, sha256, text, lines, unit, remarks, parts_per_cycle, brought_in_by, reader)
     SELECT m.id, 'O' || 10000 + i, 'PART ' || i, 'o' || i || '.nc', 1, md5(i::text) || md5(m.id::text), 'O1', 1, m.unit, '[]', 1, 1, 999
     FROM generate_series(1, $1::integer) i JOIN LATERAL (SELECT id, unit FROM machine ORDER BY id OFFSET i % $2 LIMIT 1) m ON true`,
    [size.programs, size.machines],
  );
  for (const table of TABLES)
    if ((await columns(client, table)).includes('id'))
      await client.query(`SELECT setval(pg_get_serial_sequence($1, 'id'), (SELECT max(id) FROM ${table}))`, [
        table,
      ]);
  await client.query('SET session_replication_role = origin');
  await client.query('VACUUM ANALYZE');
}
