import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { closePool, pool, transaction } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';
import { settleDoubt } from '../../src/server/program-reading.ts';
import { importProgram, programById } from '../../src/server/programs.ts';
import { proofOf, proveProgram, waiveFinding, waiversOf } from '../../src/server/proofs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const bring = async (text: string) => {
  const machineId = await cell.machine('Avocet');
  return transaction((db) =>
    importProgram(db, cell.lead.id, { machineId, fileName: 'a.nc', text, partsPerCycle: 1 }),
  );
};
const text = (speed: number, more = '') =>
  `%\nO7300 (PLATE)\nT5 M6\nS${speed} M3\nG43 H5 Z50.\nG1 X10. F90.\n${more}M30\n%`;
const findings = async (id: number) => readinessOf(pool(), (await programById(pool(), id))!, 1, []);
const unproven = async (id: number) =>
  (await findings(id)).filter(({ code }) => code === 'notProven').map(({ sentence }) => sentence);
const prove = (programId: number, proven = true, who = cell.setter) =>
  proveProgram(as(who), { programId, proven, said: proven ? 'first part good' : 'the second broke a tool' });

describe('a program that was proven', () => {
  it('is so until its text changes, and then says what changed', async () => {
    const id = await bring(text(900));
    expect(await unproven(id)).toEqual(['O7300 has not been proven on Avocet.']);
    done(await prove(id));
    expect(await unproven(id)).toEqual([]);
    const next = await bring(text(945));
    expect(await unproven(next)).toEqual([
      expect.stringMatching(
        /^O7300 has changed since it was proven by .* T5 runs 945 rpm instead of 900, 5 % faster\.$/,
      ),
    ]);
    // the older one is as it was
    expect(await unproven(id)).toEqual([]);
    expect(refused(await prove(id))).toMatch(/Another revision has come since/);
    done(await prove(next));
    expect(await unproven(next)).toEqual([]);
  });

  it('is lost when a program that it calls changes, comes or goes', async () => {
    const sub = (depth: number) => `%\nO7301\nG91 G1 Z-${depth}. F60.\nG90\nM99\n%`;
    await bring(sub(1));
    const id = await bring(text(900, 'M98 P7301\n'));
    done(await prove(id));
    expect(await unproven(id)).toEqual([]);
    await bring(sub(2));
    expect(await unproven(id)).toEqual([expect.stringMatching(/O7301, which it calls, has changed\.$/)]);
    done(await prove(id));
    expect(await unproven(id)).toEqual([]);
  });

  it('is taken back with a reason, and that is told', async () => {
    const id = await bring(text(900));
    done(await prove(id));
    done(await prove(id, false, cell.lead));
    expect(await unproven(id)).toEqual([expect.stringMatching(/took it back: the second broke a tool\./)]);
    done(await prove(id));
    expect(await unproven(id)).toEqual([]);
  });

  it('by two people at once is proven once, and the second is told who said so', async () => {
    const id = await bring(text(900));
    const key = as(cell.setter);
    const said = { programId: id, proven: true, said: 'first part good' };
    const both = await Promise.all([
      proveProgram(key, said),
      proveProgram(key, said),
      prove(id, true, cell.lead),
    ]);
    expect(both[0]!.ok).toBe(both[1]!.ok);
    expect(both[2]!.ok).toBe(!both[0]!.ok);
    expect(both.map(refused).join('')).toMatch(/said so already: \S+ is proven/);
    expect(await cell.count('FROM program_proof WHERE program_id = $1', id)).toBe(1);
    const machine = (await machineById(pool(), await cell.machine('Avocet')))!;
    expect((await proofOf(pool(), (await programById(pool(), id))!, machine)).state).toBe('proven');
  });
});

describe('a finding that is let stand', () => {
  const waive = (programId: number, sentence: string, days = 7) =>
    waiveFinding(as(cell.lead), {
      programId,
      code: 'lifeCount',
      sentence,
      why: 'it is counted by hand',
      days,
    });
  it('is shown as let stand until its day, by its very words, and comes back when they change', async () => {
    const id = await bring(text(900, 'M4\nG1 X20.\n'));
    const look = async () =>
      (await findings(id)).filter(({ weight, code }) => weight === 'look' && code !== 'notProven');
    const before = await look();
    expect(before.length).toBeGreaterThan(0);
    for (const { code, sentence } of before)
      done(
        await waiveFinding(as(cell.lead), {
          programId: id,
          code,
          sentence,
          why: 'known, and so wanted',
          days: 7,
        }),
      );
    expect(await look()).toEqual([]);
    const stands = (await findings(id)).filter(({ remedy }) => remedy.includes('known, and so wanted'));
    expect(stands.map(({ weight }) => weight)).toEqual(before.map(() => 'settled'));
    await cell.asOwner((db) =>
      db.query(`UPDATE finding_waiver SET at = at - interval '9 days', until = now() - interval '1 day'`),
    );
    expect(await waiversOf(pool(), id)).toEqual([]);
    expect(await look()).toHaveLength(before.length);
  });
  it('for no longer than ninety days, and never what stops a job', async () => {
    const id = await bring(text(900).replace('G43 H5', 'G43 H97'));
    expect(refused(await waive(id, 'x', 91))).toMatch(/From 1 to 90 days/);
    const stop = (await findings(id)).find(({ weight }) => weight === 'stop')!;
    done(
      await waiveFinding(as(cell.lead), {
        programId: id,
        code: stop.code,
        sentence: stop.sentence,
        why: 'dry run',
        days: 1,
      }),
    );
    expect((await findings(id)).find(({ sentence }) => sentence === stop.sentence)!.weight).toBe('stop');
  });
  it('a doubt is settled, not let stand', async () => {
    const id = await bring(text(900, 'M77\n'));
    const doubt = (await findings(id)).find(({ weight }) => weight === 'unknown')!;
    done(await waive(id, doubt.sentence, 1));
    expect((await findings(id)).find(({ code }) => code === 'unknown')!.weight).toBe('unknown');
    done(
      await settleDoubt(as(cell.lead), {
        programId: id,
        code: doubt.doubt!.code,
        line: doubt.doubt!.line,
        text: doubt.doubt!.text,
        said: 'blows air',
        value: null,
      }),
    );
    expect((await findings(id)).find(({ code }) => code === 'unknown')!.weight).toBe('settled');
  });
});
