import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { EdgeEnd } from '../../src/core/life/edge-lives.ts';
import { PER_SHOWN } from '../../src/core/life/count.ts';
import { assemblyById } from '../../src/server/assemblies.ts';
import { indexInserts } from '../../src/server/builds.ts';
import { closePool, pool, row, rows } from '../../src/server/db.ts';
import { keepEdgeEnd, tellEdgeEnd } from '../../src/server/edge-ends.ts';
import { flagAssembly } from '../../src/server/flags.ts';
import { setLifeLimit } from '../../src/server/lives.ts';
import { takeOut } from '../../src/server/places.ts';
import { placesOf } from '../../src/server/places.ts';
import { setMaterial } from '../../src/server/programs.ts';
import { startRenewal } from '../../src/server/renewals.ts';
import { speakingEdges } from '../../src/server/speaking-edges.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => {
  cell = await weirside();
});
afterAll(closePool);

const newest = (assemblyId: number) =>
  row<{ id: number; ended: EdgeEnd; sign: string | null; used: number; person: number }>(
    pool(),
    'SELECT id, ended, sign, used, person_id AS person FROM edge_end WHERE assembly_id = $1 ORDER BY id DESC LIMIT 1',
    [assemblyId],
  );

describe('inserts that are indexed on the bench', () => {
  const loose = async () => {
    const id = await cell.assembly('A-108');
    const pocket = (await placesOf(pool(), await cell.machine('Avocet'))).find(({ tool }) => tool === 8)!;
    done(await takeOut(as(cell.setter), { placeId: pocket.id, assemblyId: id, why: '' }));
    return id;
  };

  it('leave how the old edge ended, and give the tool its full life; the next one has cut nothing yet', async () => {
    const id = await loose();
    const before = (await assemblyById(pool(), id))!;
    expect(before.remaining).toBeLessThan(before.fullLife!);
    done(await indexInserts(as(cell.setter), id, { end: 'chipped', sign: null, flank: null }));
    const told = await newest(id);
    expect(told).toMatchObject({ ended: 'chipped', used: before.fullLife! - before.remaining! });
    expect((await assemblyById(pool(), id))!.remaining).toBe(before.fullLife);
    done(await indexInserts(as(cell.setter), id));
    expect((await newest(id))!.id).toBe(told!.id);
  });
  it('are not expired any more', async () => {
    const id = await loose();
    const { basis, fullLife: was } = (await assemblyById(pool(), id))!;
    const fullLife = was! - 10;
    done(
      await setLifeLimit(as(cell.lead), { assemblyId: id, basis: basis!, fullLife, left: 0, why: 'worn' }),
    );
    await cell.asOwner((db) => db.query(`UPDATE assembly SET flag = 'expired' WHERE id = $1`, [id]));
    done(await indexInserts(as(cell.setter), id));
    expect(await assemblyById(pool(), id)).toMatchObject({ flag: null, remaining: fullLife });
    expect((await newest(id))!.ended).toBe('unknown');
  });
  it('of a tool that is flagged broken leave the flag to its quarantine', async () => {
    const id = await loose();
    done(await flagAssembly(as(cell.setter), { assemblyId: id, flag: 'broken', why: 'edge gone' }));
    done(await indexInserts(as(cell.setter), id, { end: 'broken', sign: null, flank: null }));
    expect((await assemblyById(pool(), id))!.flag).toBe('broken');
  });
  it('are indexed in a renewal where one is under way, once', async () => {
    const id = await loose();
    done(await startRenewal(as(cell.setter), id));
    expect(refused(await indexInserts(as(cell.setter), id))).toMatch(/renewal of A-108 is under way/);
  });
  it('by two people at once are two edges, of which one cut something', async () => {
    const id = await loose();
    const ends = await cell.count('FROM edge_end WHERE assembly_id = $1', id);
    const both = await Promise.all([indexInserts(as(cell.setter), id), indexInserts(as(cell.crib), id)]);
    expect(both.map(({ ok }) => ok)).toEqual([true, true]);
    expect(await cell.count('FROM edge_end WHERE assembly_id = $1', id)).toBe(ends + 1);
  });
});

describe('how an edge ended, told afterwards', () => {
  it('stands as it was told last, with who told it; what stood before is in the ledger', async () => {
    const { id, was, assemblyId } = (await row<{ id: number; was: EdgeEnd; assemblyId: number }>(
      pool(),
      `SELECT id, ended AS was, assembly_id AS "assemblyId" FROM edge_end WHERE ended = 'unknown' ORDER BY id DESC LIMIT 1`,
    ))!;
    done(await tellEdgeEnd(as(cell.crib), { id, was, end: 'worn', sign: 'burr' }));
    expect(
      await row(pool(), 'SELECT ended, sign, person_id AS person FROM edge_end WHERE id = $1', [id]),
    ).toEqual({ ended: 'worn', sign: 'burr', person: cell.crib.id });
    const [entry] = await rows<{ said: string; why: string }>(
      pool(),
      `SELECT said, why FROM ledger WHERE assembly_id = $1 AND stage = 'edgeTold'`,
      [assemblyId],
    );
    expect(entry!.said).toMatch(/worn \(by its burr\)/);
    expect(entry!.why).toMatch(/not known/);
    // somebody whose page is older says nothing over it
    expect(refused(await tellEdgeEnd(as(cell.setter), { id, was, end: 'good', sign: null }))).toMatch(
      /meanwhile.*worn/,
    );
    expect(
      refused(await tellEdgeEnd(as(cell.setter), { id, was: 'worn', end: 'worn', sign: 'burr' })),
    ).toMatch(/already/);
    // what told of wear goes with it
    done(await tellEdgeEnd(as(cell.setter), { id, was: 'worn', end: 'broken', sign: 'burr' }));
    expect(await newest(assemblyId)).toBeDefined();
    expect(await row(pool(), 'SELECT sign FROM edge_end WHERE id = $1', [id])).toEqual({ sign: null });
  });
  it('of an edge that is not on record is refused', async () => {
    expect(
      refused(await tellEdgeEnd(as(cell.setter), { id: 999_999, was: 'good', end: 'worn', sign: null })),
    ).toMatch(/no such edge/);
  });
});

describe('the edges that speak for a tool', () => {
  const DRILL = 'A-107';
  /** Edges of a material that last so long, all worn. */
  const cut = async (material: string, program: string, uses: number, count = 14) => {
    const drill = (await assemblyById(pool(), await cell.assembly(DRILL)))!;
    for (let i = 0; i < count; i += 1)
      await keepEdgeEnd(
        pool(),
        cell.setter.id,
        {
          ...drill,
          remaining: drill.fullLife! - Math.round(uses * (0.9 + (0.2 * i) / count)) * PER_SHOWN.holes,
        },
        { end: 'worn', sign: null, flank: null },
        { program, material, speed: null, cutMilliseconds: null },
      );
  };
  const speaking = async () => {
    const drill = (await assemblyById(pool(), await cell.assembly(DRILL)))!;
    return speakingEdges(pool(), drill, drill.basis!);
  };
  const materials = ({ edges }: Awaited<ReturnType<typeof speaking>>) => [
    ...new Set(edges.map((e) => e.material)),
  ];

  it('are those of the material that its machine cuts now; the others are left out', async () => {
    await cell.asOwner((db) => db.query('DELETE FROM edge_end'));
    await cut('duplex', 'O77', 150);
    await cut('bronze', 'O78', 700);
    const program = (await row<{ id: number }>(
      pool(),
      `SELECT g.id FROM job j JOIN program g ON g.id = j.program_id WHERE j.state = 'running' AND j.machine_id = $1`,
      [await cell.machine('Avocet')],
    ))!.id;
    // O2301 cuts bronze
    let of = await speaking();
    expect(of.by).toBe('material');
    expect(materials(of)).toEqual(['bronze']);
    expect(of.leftOut).toMatchObject([{ of: 'duplex', edges: 14 }]);
    done(await setMaterial(as(cell.lead), { programId: program, material: 'duplex' }));
    of = await speaking();
    expect(materials(of)).toEqual(['duplex']);
    done(await setMaterial(as(cell.lead), { programId: program, material: 'titanium' }));
    of = await speaking();
    expect([of.by, of.edges.length, of.all.length]).toEqual(['unlike', 0, 28]);
  });
  it('are those of what the newest edge cut, where no job calls the tool', async () => {
    await cell.asOwner((db) => db.query('DELETE FROM edge_end'));
    await cell.asOwner((db) => db.query(`UPDATE job SET state = 'done'`));
    await cut('bronze', 'O78', 700);
    await cut('duplex', 'O77', 150);
    const of = await speaking();
    expect([of.byNewest, of.now]).toEqual([true, { program: 'O77', material: 'duplex' }]);
    expect(materials(of)).toEqual(['duplex']);
  });
});
