import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { verdictOf } from '../../src/core/readiness/check.ts';
import { READER } from '../../src/core/program/read-program.ts';
import { closePool, pool, row, transaction } from '../../src/server/db.ts';
import { addJob, jobsOf, moveJob, runningJob } from '../../src/server/jobs.ts';
import { interruptionsOf, logInterruption } from '../../src/server/interruptions.ts';
import { readOldAnew, settleDoubt, settledOf } from '../../src/server/program-reading.ts';
import { callsOf, importProgram, programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

/** A program on Avocet, which has T5 in its magazine, measured. */
const bring = async (text: string) => {
  const machineId = await cell.machine('Avocet');
  return transaction((db) =>
    importProgram(db, cell.lead.id, { machineId, fileName: 'a.nc', text, partsPerCycle: 1 }),
  );
};
const HEAD = (number: number) => `%\nO${number} (PLATE)\nT5 M6\nS900 M3\nG43 H5 Z50.\n`;
const doubts = async (id: number) => (await programById(pool(), id))!.remarks.map(({ code }) => code);
const verdict = async (id: number) => {
  const findings = await readinessOf(pool(), (await programById(pool(), id))!, 1, []);
  // what is brought in is not proven: that is told by itself
  return verdictOf(findings.filter(({ code }) => code !== 'notProven'));
};

describe('a program and what it calls', () => {
  it('is read with the subprogram once that is there, and anew when it changes', async () => {
    const id = await bring(`${HEAD(7100)}M98 P7001\nM30\n%`);
    expect([await doubts(id), await verdict(id)]).toEqual([['missingSub'], 'unknown']);
    const cut = async () => (await callsOf(pool(), id))[0]!.cutMilliseconds;
    expect(await cut()).toBe(0);
    const sub = await bring(`%\nO7001\nG91 G1 X10. F60.\nG90\nM99\n%`);
    expect([await doubts(sub), await callsOf(pool(), sub)]).toEqual([[], []]);
    expect([await doubts(id), await verdict(id)]).toEqual([[], 'ready']);
    const first = await callsOf(pool(), id);
    expect(first.reduce((sum, call) => sum + call.cutMilliseconds, 0)).toBe(10_000);
    await bring(`%\nO7001\nG91 G1 X30. F60.\nG90\nM99\n%`);
    const then = await callsOf(pool(), id);
    expect(then.reduce((sum, call) => sum + call.cutMilliseconds, 0)).toBe(30_000);
  });
  it('of the store of its own machine only', async () => {
    const id = await bring(`${HEAD(7100)}M98 P4102\nM30\n%`);
    expect(await doubts(id)).toEqual(['missingSub']);
  });
  it('that an older reader read is read anew at the start', async () => {
    const id = await bring(`${HEAD(7100)}M77\nM30\n%`);
    await cell.asOwner((db) => db.query(`UPDATE program SET reader = 0, remarks = '[]' WHERE id = $1`, [id]));
    expect(await readOldAnew(pool())).toBe(1);
    expect(await doubts(id)).toEqual(['unknownCode']);
    expect(await readOldAnew(pool())).toBe(0);
    expect(
      (await row<{ reader: number }>(pool(), 'SELECT reader FROM program WHERE id = $1', [id]))!.reader,
    ).toBe(READER);
  });
});

describe('what the reader could not know', () => {
  it('is settled in words, once, by whoever knows; of this revision only', async () => {
    const id = await bring(`${HEAD(7100)}M77\nM30\n%`);
    expect(await verdict(id)).toBe('unknown');
    const [doubt] = (await programById(pool(), id))!.remarks;
    const said = { programId: id, code: doubt!.code!, line: doubt!.line, text: doubt!.text, value: null };
    const both = await Promise.all(
      [cell.lead, cell.setter].map((person) =>
        settleDoubt(as(person), { ...said, said: 'It blows the chips off.' }),
      ),
    );
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(await verdict(id)).toBe('ready');
    expect(await settledOf(pool(), id)).toMatchObject([{ said: 'It blows the chips off.', variable: null }]);
    const next = await bring(`${HEAD(7100)}M77\nG4 P1\nM30\n%`);
    expect(await verdict(next)).toBe('unknown');
    expect(refused(await settleDoubt(as(cell.lead), { ...said, line: 99, said: 'x' }))).toMatch(
      /otherwise now/,
    );
    expect(refused(await settleDoubt(as(cell.lead), { ...said, said: 'x', value: 4 }))).toMatch(/variable/);
  });
  it('by the value of its variable: the program is read with it, both figures and tools', async () => {
    const id = await bring(
      `${HEAD(7100)}WHILE [#500 LT 4] DO1\nG81 X1. Z-5. R2. F100.\nG80\n#500=#500+1\nEND1\nM30\n%`,
    );
    expect(await doubts(id)).toContain('perhaps');
    const [doubt] = (await programById(pool(), id))!.remarks;
    done(
      await settleDoubt(as(cell.lead), {
        programId: id,
        code: doubt!.code!,
        line: doubt!.line,
        text: doubt!.text,
        said: 'Set to nought by the warm-up.',
        value: 0,
      }),
    );
    expect(await doubts(id)).toEqual([]);
    expect((await callsOf(pool(), id))[0]!.holes).toBe(4);
  });
});

describe('the start of a job', () => {
  const waiting = async (programId: number) => {
    const machineId = await cell.machine('Avocet');
    const running = (await runningJob(pool(), machineId))!;
    done(await moveJob(as(cell.lead), { jobId: running.id, move: 'pause', why: 'trial' }));
    return done(await addJob(as(cell.lead), { programId, quantity: 4, cycleMilliseconds: 60_000 }));
  };
  it('that cannot be told to be ready takes a reason, which stands in the ledger', async () => {
    const jobId = await waiting(await bring(`${HEAD(7100)}M77\nM30\n%`));
    expect(refused(await moveJob(as(cell.setter), { jobId, move: 'start' }))).toMatch(
      /cannot be told to be ready: M77 is not known.*Say why/,
    );
    done(await moveJob(as(cell.setter), { jobId, move: 'start', why: 'dry run' }));
    expect(
      await row(pool(), `SELECT why FROM ledger WHERE job_id = $1 AND stage = 'started'`, [jobId]),
    ).toEqual({ why: 'dry run' });
  });
  it('that is not ready takes one too; that is ready does not', async () => {
    const jobId = await waiting(await bring(`%\nO7100\nT97 M6\nS9 M3\nG43 H97\nG1 X1. F9.\nM30\n%`));
    expect(refused(await moveJob(as(cell.setter), { jobId, move: 'start' }))).toMatch(/is not ready: T97/);
    done(await moveJob(as(cell.setter), { jobId, move: 'remove', why: 'x' }));
    const ready = done(
      await addJob(as(cell.lead), {
        programId: await bring(`${HEAD(7101)}G1 X5. F90.\nM30\n%`),
        quantity: 4,
        cycleMilliseconds: 60_000,
      }),
    );
    done(await moveJob(as(cell.setter), { jobId: ready, move: 'start' }));
    const [job] = await jobsOf(pool(), await cell.machine('Avocet'));
    // nobody answers for the control here: what it shows is taken as it is
    expect([job!.id, job!.countFrom]).toEqual([ready, null]);
  });
});

describe('where a program stopped', () => {
  it('is an entry with the tool that was in, its part and what it had cut; a line that is never come to is refused', async () => {
    const job = (await runningJob(pool(), await cell.machine('Dunlin')))!;
    const log = (line: number) =>
      logInterruption(as(cell.operator), {
        programId: job.programId,
        line,
        why: 'tool rattled',
        doubt: true,
      });
    done(await log(20));
    const [last] = await interruptionsOf(pool(), job.programId);
    expect(last).toMatchObject({ why: 'tool rattled', line: 20 });
    expect(last!.said).toMatch(
      new RegExp(
        `^O4102 stopped before line 20, T1 in: \\d+:\\d\\d of its cut done\\. Part ${job.made + 1} is in doubt\\.$`,
      ),
    );
    expect(refused(await log(3))).toMatch(/No tool is in before line 3/);
  });
});
