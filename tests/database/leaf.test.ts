import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { shiftAt, neighbours } from '../../src/core/shift/calendar.ts';
import { cellOf } from '../../src/server/cell.ts';
import { closePool, pool, row } from '../../src/server/db.ts';
import { recordParts } from '../../src/server/counts.ts';
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

  it('says when a tool runs out: parts left times the time a part takes, in three shifts round the clock', async () => {
    const at = now();
    const curlew = await machine('Curlew', at);
    const finisher = curlew.runsOut.find((tool) => tool.number === 'L-202')!;
    // eight left: eight parts, however the control writes it; nineteen minutes make two
    expect(finisher.afterParts).toBe(8);
    expect(finisher.at!.getTime() - at.getTime()).toBe(8 * 9.5 * 60_000);
    expect(curlew.ends!.getTime() - at.getTime()).toBe(90 * 9.5 * 60_000);
    expect(finisher.sister).toBe('L-221');
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
