import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fulfil, type Candidate } from '../../src/core/definition/fulfil.ts';
import type { AssemblyKind } from '../../src/core/assembly/silhouette.ts';
import { formatWithUnit } from '../../src/core/units/format-length.ts';
import type { Length } from '../../src/core/units/length.ts';
import { looseAssemblies } from '../../src/server/assemblies.ts';
import { expectedTwice } from '../../src/server/across.ts';
import { askedTools } from '../../src/server/definitions.ts';
import { closePool, pool, rows, transaction } from '../../src/server/db.ts';
import { addJob } from '../../src/server/jobs.ts';
import { machineById } from '../../src/server/machines.ts';
import { recordPresetting } from '../../src/server/presettings.ts';
import { importProgram, programById } from '../../src/server/programs.ts';
import { as, done, weirside } from '../support/cell.ts';

/** A library that is larger than any list: what fits is found in it wherever its number stands. */
let cell: Awaited<ReturnType<typeof weirside>>;
const MANY = 21_000;
beforeAll(async () => {
  cell = await weirside();
  // reproducible, with sizes, corners, reaches, teeth, hands and ends of every kind in it
  await cell.asOwner((client) =>
    client.query(
      `INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth, flag, left_hand)
       SELECT 'X-' || lpad(i::text, 6, '0'), 'End mill', (ARRAY['endMill','drill','reamer'])[1 + i % 3], (ARRAY['steep 40','hollow 63'])[1 + i % 7 / 6], 'chuck',
         4000000 + i::bigint * 7919 % 40 * 500000, i * 31 % 3 * 500000, 30000000 + i * 13 % 37 * 1000000, 60000000 + i::bigint * 104729 % 9000 * 10000, 40000000, 2 + i % 4,
         CASE WHEN i % 11 = 0 THEN 'broken' WHEN i % 13 = 0 THEN 'expired' END, i % 17 = 0
       FROM generate_series(1, ${MANY}) i`,
    ),
  );
}, 60_000);
afterAll(closePool);

const add = (
  number: string,
  more: { kind: AssemblyKind; diameter: number; gaugeLength?: number; end?: string },
) =>
  cell.asOwner((client) =>
    client.query(
      `INSERT INTO assembly (number, name, kind, interface, holder, diameter, corner_radius, stick_out, gauge_length, holder_diameter, teeth)
       VALUES ($1, 'the one', $2, $5, 'chuck', $3, 0, 40000000, $4, 40000000, 4)`,
      [number, more.kind, more.diameter, more.gaugeLength ?? 99_000_000, more.end ?? 'steep 40'],
    ),
  );
const program = (number: number, tools: string, machineId: number) =>
  transaction((db) =>
    importProgram(db, cell.lead.id, {
      machineId,
      fileName: `o${number}.nc`,
      text: `%\nO${number}\nG21\n${tools}M30\n%\n`,
      partsPerCycle: 1,
    }),
  );
const asked = async (id: number) => askedTools(pool(), (await programById(pool(), id))!);

describe('a library larger than any list', () => {
  it('what a program asks for is found, though its number is the last', async () => {
    const machineId = await cell.machine('Avocet');
    const end = (await machineById(pool(), machineId))!.interface;
    await add('Z-900', { kind: 'endMill', diameter: 17_300_000, end });
    const [tool] = await asked(
      await program(7170, 'T44 M6 (END MILL 17.3)\nG43 H44\nG1 Z0. F100.\n', machineId),
    );
    expect(tool!.fulfilments[0]!.candidate.number).toBe('Z-900');
    expect(tool!.fulfilments[0]!.misses).toEqual([]);
  });

  it('what is proposed is what looking at every one of them proposes', async () => {
    const machineId = await cell.machine('Avocet');
    const machine = (await machineById(pool(), machineId))!;
    const id = await program(
      7171,
      ['END MILL 12', 'END MILL 10 R0.5', 'DRILL 6.5', 'REAMER 8', 'END MILL 99', 'DRILL', 'END MILL 12 LH']
        .map((what, i) => `T${60 + i} M6 (${what})\nG43 H${60 + i}\nG1 Z0. F100.\n`)
        .join(''),
      machineId,
    );
    const all = await rows<Candidate>(
      pool(),
      `SELECT a.id, a.number, a.name, a.kind, a.interface, a.diameter, a.corner_radius AS "cornerRadius", a.stick_out AS "stickOut", a.teeth, a.left_hand AS "leftHand", a.flag,
         m.name AS machine, s.tool, '' AS thread, CASE WHEN c.full_life > 0 THEN c.value::float / c.full_life END AS "lifeLeft",
         CASE WHEN s.place_id IS NULL THEN EXISTS (SELECT 1 FROM presetting t WHERE t.assembly_id = a.id AND t.entry > a.changed_entry)
           ELSE EXISTS (SELECT 1 FROM ledger l WHERE l.kind = 'register' AND l.stage = 'measured' AND l.assembly_id = a.id AND l.id > greatest(s.entry, a.changed_entry)) END AS measured
       FROM assembly a LEFT JOIN placement s ON s.assembly_id = a.id LEFT JOIN machine m ON m.id = s.machine_id LEFT JOIN life_counter c ON c.assembly_id = a.id
       WHERE a.kind IN ('endMill', 'drill', 'reamer')`,
    );
    let fitting = 0;
    for (const { tool, definition, fulfilments } of await asked(id)) {
      if (!definition) continue;
      const whole = fulfil(
        { definition, machine: machine.name, tool, interface: machine.interface },
        all,
        (value: Length) => formatWithUnit(value, 'mm'),
      );
      const fit = whole.filter(({ misses }) => misses.length === 0);
      fitting += fit.length;
      expect(
        fulfilments.filter(({ misses }) => misses.length === 0).map(({ candidate }) => candidate.number),
        `T${tool}`,
      ).toEqual(fit.slice(0, 8).map(({ candidate }) => candidate.number));
      // where none fits, the fewest misses there are
      expect(fulfilments[0]?.misses.length ?? 0).toBe(whole[0]?.misses.length ?? 0);
    }
    expect(fitting).toBeGreaterThan(100);
  });

  it('another tool in the fixture is named, whichever it is', async () => {
    await add('Z-901', { kind: 'endMill', diameter: 19_700_000, gaugeLength: 155_230_000 });
    const assemblyId = (
      await rows<{ id: number }>(
        pool(),
        `SELECT id FROM assembly a WHERE number LIKE 'X-%' AND flag IS NULL ORDER BY id LIMIT 1`,
      )
    )[0]!.id;
    const answer = done(
      await recordPresetting(as(cell.setter), {
        assemblyId,
        gaugeLength: 155_240_000 as Length,
        diameter: 19_690_000 as Length,
        cornerRadius: null,
        runOut: null,
        instrument: 'by hand',
        confirmed: false,
      }),
    );
    expect(answer).toMatchObject({ kept: false, faults: [{ slip: 'wrongTool' }] });
    expect(answer.kept ? '' : answer.faults[0]!.reason).toContain('Z-901');
  });

  it('one piece that two machines expect is named, whichever it is', async () => {
    await add('Z-902', { kind: 'drill', diameter: 25_400_000 });
    const machines = await rows<{ id: number; name: string; unit: string }>(
      pool(),
      `SELECT id, name, unit FROM machine WHERE kind = 'mill' AND interface = 'steep 40' ORDER BY id LIMIT 2`,
    );
    expect(machines).toHaveLength(2);
    for (const [i, { id, unit }] of machines.entries()) {
      const size = unit === 'mm' ? '25.4' : '1.0';
      const text = `T58 M6 (DRILL ${size})\nG43 H58\nG1 Z0. F100.\n`;
      const programId = await transaction((db) =>
        importProgram(db, cell.lead.id, {
          machineId: id,
          fileName: 'o.nc',
          text: `%\nO${7172 + i}\n${unit === 'mm' ? 'G21' : 'G20'}\n${text}M30\n%\n`,
          partsPerCycle: 1,
        }),
      );
      done(await addJob(as(cell.lead), { programId, quantity: 2, cycleMilliseconds: 60_000 }));
    }
    expect(await expectedTwice(pool())).toContainEqual(
      expect.objectContaining({ number: 'Z-902', machines: machines.map(({ name }) => name).sort() }),
    );
  });

  it('what may be placed is chosen from the first of them, or found by what is typed', async () => {
    await add('Z-903', { kind: 'reamer', diameter: 11_000_000 });
    const first = await looseAssemblies(pool(), 'steep 40');
    expect(first.list).toHaveLength(60);
    expect(first.more).toBe(true);
    const found = await looseAssemblies(pool(), 'steep 40', 'z-90 the');
    expect(found.list.map(({ number }) => number)).toContain('Z-903');
    expect(found.more).toBe(false);
    // another end does not fit, and what stands somewhere is not loose
    expect((await looseAssemblies(pool(), 'hollow 63', 'z-903')).list).toEqual([]);
    expect((await looseAssemblies(pool(), 'steep 40', 'a-101')).list).toEqual([]);
  });
});
