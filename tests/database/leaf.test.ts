import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { shiftAt, neighbours } from '../../src/core/shift/calendar.ts';
import { cellOf } from '../../src/server/cell.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { UNKNOWN, type MachineState } from '../../src/core/agent/machine-state.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { unheard } from '../../src/server/agents/poll.ts';
import { keepHeard } from '../../src/server/agents/states.ts';
import { recordParts } from '../../src/server/counts.ts';
import { lastCount, takeBackCount } from '../../src/server/wrong-counts.ts';
import { takeReading } from '../../src/server/readings.ts';
import { moveJob } from '../../src/server/jobs.ts';
import { forecast } from '../../src/server/forecast.ts';
import { leafOf, signLeaf } from '../../src/server/leaf.ts';
import { answerNote, writeNote } from '../../src/server/leaf-notes.ts';
import { findAnything } from '../../src/server/find.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
beforeEach(async () => void (cell = await weirside()));
afterAll(closePool);

const now = () => new Date();
const present = async () => {
  const { patterns, timeZone } = await cellOf(pool());
  const shift = shiftAt(now(), patterns, timeZone)!;
  return { shift, ...neighbours(shift, patterns, timeZone) };
};
const leaf = async (key: string) => {
  const [date, name] = key.split('/') as [string, string];
  return (await leafOf(date, name, now()))!.leaf;
};

describe('the forecast', () => {
  const machine = async (name: string, at: Date) =>
    (await forecast(pool(), await cellOf(pool()), at)).find((each) => each.machine === name)!;

  /** When the pins were counted last. */
  const counted = async () =>
    (await row<{ at: Date }>(
      pool(),
      `SELECT at FROM ledger WHERE kind = 'parts' AND job_id = $1 ORDER BY id DESC LIMIT 1`,
      [await cell.job('O1402')],
    ))!.at;
  const count = async (parts: number, before = 150) =>
    done(
      await recordParts(as(cell.operator), {
        jobId: await cell.job('O1402'),
        before,
        parts,
        source: 'typed',
      }),
    );
  const finisherAt = async (at: Date) =>
    (await machine('Curlew', at)).runsOut.find((tool) => tool.number === 'L-202')!;
  const after = (from: Date, minutes: number) => new Date(from.getTime() + minutes * 60_000);

  it('says when a tool runs out: parts left times the time a part takes, in three shifts round the clock', async () => {
    const at = await counted();
    const curlew = await machine('Curlew', at);
    const finisher = curlew.runsOut.find((tool) => tool.number === 'L-202')!;
    // eight left: eight parts, however the control writes it; nineteen minutes make two
    expect(finisher.afterParts).toBe(8);
    expect(finisher.at).toEqual(after(at, 8 * 9.5));
    expect(curlew.ends).toEqual(after(at, 90 * 9.5));
    expect(finisher.sister).toBe('L-221');
  });
  it('does not come the later the longer nobody counts', async () => {
    await count(1);
    const from = await counted();
    for (const minutes of [0, 20, 66])
      expect(await finisherAt(after(from, minutes)), `${minutes} minutes on`).toMatchObject({
        afterParts: 7,
        at: after(from, 7 * 9.5),
        byNow: false,
      });
    const late = await machine('Curlew', after(from, 76));
    expect(late.likely).toEqual({
      parts: 151 + 8,
      from: { parts: 151, at: from, by: 'record' },
      counting: false,
    });
    // whoever looks then is told that it may be out already
    expect(late.runsOut.find((tool) => tool.number === 'L-202')).toMatchObject({
      at: after(from, 76),
      byNow: true,
    });
    expect(late.ends).toEqual(after(from, 89 * 9.5));
  });
  it('goes by the count before, where the last was taken back', async () => {
    const before = await counted();
    await count(4);
    const jobId = await cell.job('O1402');
    const { id } = (await lastCount(pool(), jobId))!;
    done(
      await takeBackCount(as(cell.operator), {
        jobId,
        count: id,
        before: 154,
        why: 'looked at the wrong bin',
      }),
    );
    expect((await machine('Curlew', after(before, 19))).likely).toEqual({
      parts: 152,
      from: { parts: 150, at: before, by: 'record' },
      counting: false,
    });
  });
  it('goes by what the control counted, and by its standing still; by neither once nobody hears it', async () => {
    const from = await counted();
    const machineId = await cell.machine('Curlew');
    const heard = (more: Partial<MachineState>, seenAt: Date) =>
      keepHeard(
        pool(),
        { ...unheard(machineId, seenAt), state: { ...UNKNOWN, execution: 'ACTIVE', ...more } },
        false,
      );
    const seen = after(from, 60);
    const turned = after(from, 58);
    await heard({ parts: 153, countedAt: turned.toISOString() }, seen);
    expect((await machine('Curlew', seen)).likely).toEqual({
      parts: 153 + 2 / 9.5,
      from: { parts: 153, at: turned, by: 'control' },
      counting: true,
    });
    // whenever somebody looks
    for (const minutes of [0, 1])
      expect((await finisherAt(after(seen, minutes))).at).toEqual(after(turned, 5 * 9.5));
    // it counts no more, and makes none
    await heard({ parts: 153, countedAt: turned.toISOString() }, after(seen, 60));
    expect((await machine('Curlew', after(seen, 60))).likely!.parts).toBeCloseTo(155, 4);
    // nobody hears it any more: it may have gone on
    expect((await machine('Curlew', after(seen, 67.5))).likely).toMatchObject({
      parts: 153 + 69.5 / 9.5,
      counting: false,
    });
    // nor is what it said last forgotten where it does not answer
    await keepHeard(
      pool(),
      {
        ...unheard(machineId, seen),
        state: { ...UNKNOWN, execution: 'ACTIVE', parts: 153, countedAt: turned.toISOString() },
        problem: 'The agent does not answer.',
      },
      false,
    );
    expect((await machine('Curlew', after(turned, 19))).likely).toEqual({
      parts: 155,
      from: { parts: 153, at: turned, by: 'control' },
      counting: false,
    });
    // it stands since nineteen minutes after the count
    const since = after(from, 19).toISOString();
    await heard({ execution: 'FEED_HOLD', since }, seen);
    expect((await machine('Curlew', after(seen, 1))).likely!.parts).toBe(152);
    expect((await finisherAt(after(seen, 1))).at).toEqual(after(seen, 1 + 6 * 9.5));
    expect((await machine('Curlew', after(seen, 16))).likely!.parts).toBe(158);
  });
  it('goes on from a part that was measured since', async () => {
    await count(1);
    const jobId = await cell.job('O1402');
    done(
      await takeReading(as(cell.operator), {
        featureId: await cell.feature('O1402', 'Bore'),
        programId: await cell.program('O1402'),
        jobId,
        part: 160,
        measured: lengthOf(0.5902, 'in'),
        confirmed: true,
        firstOff: false,
      }),
    );
    const { at } = (await row<{ at: Date }>(
      pool(),
      'SELECT at FROM reading WHERE job_id = $1 ORDER BY id DESC LIMIT 1',
      [jobId],
    ))!;
    expect((await machine('Curlew', after(at, 19))).likely).toEqual({
      parts: 162,
      from: { parts: 160, at, by: 'reading' },
      counting: false,
    });
    expect(await finisherAt(at)).toMatchObject({ afterParts: 7, at, byNow: true });
  });
  it('makes no parts while the first is brought to size', async () => {
    const { begun } = (await row<{ begun: Date }>(
      pool(),
      `SELECT begun_at AS begun FROM first_part WHERE machine_id = $1 AND state = 'open'`,
      [await cell.machine('Bittern')],
    ))!;
    const { likely, job } = await machine('Bittern', begun);
    expect(likely!.parts).toBeGreaterThan(job!.made);
    expect((await machine('Bittern', after(begun, 30))).likely).toEqual(likely);
  });
  it('moves when parts are made, and says "now" once a tool is expired', async () => {
    done(
      await recordParts(as(cell.operator), {
        jobId: await cell.job('O1402'),
        before: 150,
        parts: 9,
        source: 'typed',
      }),
    );
    const at = now();
    const finisher = (await machine('Curlew', at)).runsOut.find((tool) => tool.number === 'L-202')!;
    expect(finisher).toMatchObject({ afterParts: 0, flag: 'expired', at });
  });
  it('leaves out what lasts longer than the job', async () => {
    const curlew = await machine('Curlew', now());
    expect(curlew.runsOut.map((tool) => tool.number)).not.toContain('L-206');
    expect(curlew.runsOut.every((tool) => tool.afterParts < 90)).toBe(true);
  });
  it('tells how the next job stands', async () => {
    expect((await machine('Avocet', now())).next).toMatchObject({ number: 'O2310', verdict: 'stop' });
    done(
      await moveJob(as(cell.lead), {
        jobId: await cell.job('O2301'),
        move: 'finish',
        why: 'the bar ran out',
      }),
    );
    expect(await machine('Avocet', now())).toMatchObject({ job: null, runsOut: [] });
  });
});

describe('a leaf', () => {
  it('holds what happened in its shift and nothing else', async () => {
    const { shift, before } = await present();
    for (const key of [shift.key, before!.key]) {
      const page = await leaf(key);
      const { entries } = page.happened;
      expect(entries.every((entry) => entry.at >= page.shift.start && entry.at < page.shift.end)).toBe(true);
    }
  });
  it('of the past foresees nothing, of the future has seen nothing', async () => {
    const { before, after } = await present();
    expect(await leaf(before!.key)).toMatchObject({ standing: 'past', forecast: [], waiting: [] });
    expect(await leaf(after!.key)).toMatchObject({ standing: 'coming', happened: { entries: [] } });
  });
  it('does not exist where the calendar has no shift', async () => {
    expect(await leafOf('2026-11-23', 'brunch', now())).toBeNull();
    expect(await leafOf('2026-02-31x', 'early', now())).toBeNull();
  });
  it('shows what waits: corrections, tools not measured, renewals under way', async () => {
    const page = await leaf((await present()).shift.key);
    expect(page.waiting.map((correction) => correction.state).sort()).toEqual([
      'approved',
      'proposed',
      'proposed',
    ]);
    expect(page.toMeasure.map((tool) => tool.number)).toContain('A-109');
    expect(page.firstParts.map(({ machine }) => machine)).toEqual(['Bittern']);
    expect(page.renewals.map((renewal) => renewal.number)).toEqual(['A-142']);
  });
});

describe('questions and signatures', () => {
  it('a question stays on every leaf until it is answered, and is answered once', async () => {
    const { shift, after } = await present();
    done(
      await writeNote(as(cell.operator), {
        leaf: shift.key,
        kind: 'question',
        machineId: null,
        text: 'why?',
      }),
    );
    const asked = (await leaf(after!.key)).questions.find((question) => question.text === 'why?')!;
    done(await answerNote(as(cell.lead), asked.id, 'because'));
    expect(refused(await answerNote(as(cell.setter), asked.id, 'no'))).toMatch(/answered/);
    expect((await leaf(after!.key)).questions.map((question) => question.text)).not.toContain('why?');
    expect((await leaf(shift.key)).notes.find((note) => note.text === 'why?')).toMatchObject({
      answer: 'because',
      answeredBy: cell.lead.name,
    });
  });
  it('the one who leaves signs first, the one who comes is somebody else, each once', async () => {
    const { shift, after } = await present();
    const sign = (person: typeof cell.lead, side: 'leaving' | 'coming', key = shift.key) =>
      signLeaf(as(person), person, key, side, now());
    expect(refused(await sign(cell.lead, 'coming'))).toMatch(/leaves signs first/);
    expect(refused(await sign(cell.lead, 'leaving', after!.key))).toMatch(/has not begun/);
    done(await sign(cell.lead, 'leaving'));
    expect(refused(await sign(cell.lead, 'coming'))).toMatch(/two people/);
    expect(refused(await sign(cell.setter, 'leaving'))).toMatch(/signed/);
    done(await sign(cell.setter, 'coming'));
    expect((await leaf(shift.key)).signatures.map((signature) => signature.person).sort()).toEqual(
      [cell.setter.name, cell.lead.name].sort(),
    );
  });
  it('what a leaf was signed under is kept with the signature', async () => {
    const { shift } = await present();
    done(await signLeaf(as(cell.lead), cell.lead, shift.key, 'leaving', now()));
    const kept = await row<{ state: { waiting: number; runsOut: { number: string }[] } }>(
      pool(),
      'SELECT state FROM leaf_signature WHERE leaf = $1',
      [shift.key],
    );
    expect(kept!.state.waiting).toBe(3);
    expect(kept!.state.runsOut.map((tool) => tool.number)).toContain('L-202');
  });
});

describe('finding', () => {
  const titles = async (words: string) => (await findAnything(words)).hits.map((hit) => hit.title);
  it('a scanned number comes first', async () => expect((await titles('a-105'))[0]).toMatch(/^A-105/));
  it('every word counts: machine and T lead to the tool that stands there', async () => {
    expect((await titles('curlew t2')).some((title) => title.startsWith('L-202'))).toBe(true);
  });
  it('programs, machines and pages are found by their names', async () => {
    expect(await titles('cover plate')).toContain('O2310 COVER PLATE');
    expect(await titles('avocet reading')).toContain('Avocet: type a reading');
    expect(await titles('ledger')).toContain('Ledger');
    expect(await titles('nothing goes by this')).toEqual([]);
  });
});
