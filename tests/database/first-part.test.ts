import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import type { Person } from '../../src/core/people/roles.ts';
import { lengthOf, type Length } from '../../src/core/units/length.ts';
import { closePool, pool } from '../../src/server/db.ts';
import {
  beginFirstPart,
  endFirstPart,
  keyFirst,
  lookedFirst,
  measureFirst,
  openFirstPart,
} from '../../src/server/first-parts.ts';
import { machineById, type Machine } from '../../src/server/machines.ts';
import { correctionById } from '../../src/server/corrections.ts';
import { moveJob, setUpAgain } from '../../src/server/jobs.ts';
import { driftPage } from '../../src/server/drift.ts';
import { featureById, programById } from '../../src/server/programs.ts';
import { readinessOf } from '../../src/server/readiness.ts';
import { takeReading } from '../../src/server/readings.ts';
import { foundAtControl } from '../../src/server/registers.ts';
import { as, done, refused, weirside } from '../support/cell.ts';

let cell: Awaited<ReturnType<typeof weirside>>;
let curlew: Machine;
beforeEach(async () => {
  cell = await weirside();
  curlew = (await machineById(pool(), await cell.machine('Curlew')))!;
  await cell.asOwner((db) =>
    db.query(`UPDATE first_part SET state = 'dropped', ended_at = now() WHERE state = 'open'`),
  );
});
afterAll(closePool);

const inch = (value: number) => lengthOf(value, 'in');
const open = async () => (await openFirstPart(pool(), curlew))!;
/** The bore of O1402: finished by T5, roughed by T4 that leaves 0.0205. */
async function begin(by: Person = cell.setter) {
  const [featureId, programId] = [await cell.feature('O1402', 'Bore'), await cell.program('O1402')];
  return beginFirstPart(as(by), curlew, {
    programId,
    school: 'equalPasses',
    sizes: [{ featureId, allowance: inch(0.008) }],
  });
}
const measure = async (
  stage: 'rough' | 'finish' | 'off',
  value: number,
  by = cell.operator,
  confirmed = false,
) =>
  measureFirst(as(by), curlew, { id: (await open()).id, size: 0, stage, measured: inch(value), confirmed });
async function key(by = cell.setter) {
  const { id, toKey } = await open();
  return keyFirst(as(by), curlew, {
    id,
    shown: toKey.map(({ registerId, to }) => ({ registerId, value: to as Length })),
  });
}
const wear = async (row: number) => (await cell.register('Curlew', row, 'xWear')).value;

describe('a first part', () => {
  it('keeps its rows to itself: what is typed beside it is recorded, and corrects nothing until it is done', async () => {
    const aside = async (value: number, part: number) =>
      done(
        await takeReading(as(cell.operator), {
          featureId: await cell.feature('O1402', 'Bore'),
          programId: await cell.program('O1402'),
          jobId: await cell.job('O1402'),
          part,
          measured: inch(value),
          confirmed: true,
          firstOff: false,
        }),
      );
    done(await begin());
    done(await key(cell.lead));
    // the finisher is 0.008 away from the part, as it should be
    const { readingId, proposalIds, answer } = await aside(0.5823, 152);
    expect(readingId).not.toBeNull();
    expect(proposalIds).toEqual([]);
    expect(answer).toMatchObject({ verdict: 'leave' });
    expect(answer.reason).toContain(`${cell.setter.name} is bringing the first part of O1402 to size`);
    const page = async () =>
      (await driftPage(
        pool(),
        curlew,
        (await featureById(pool(), await cell.feature('O1402', 'Bore')))!,
        0.001,
        null,
      ))!;
    expect((await page()).broughtIn).toBe(true);
    done(
      await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: 'another job goes first' }),
    );
    expect((await page()).broughtIn).toBe(false);
    // somebody left the rows away from the part: now it is said
    expect((await aside(0.5823, 153)).answer.verdict).not.toBe('leave');
  });
  it('one that was dropped leaves its allowance in the rows: it is said before the next part, and not keyed twice', async () => {
    const [w4, w5] = [await wear(4), await wear(5)];
    const told = async (number: string) => {
      const program = (await programById(pool(), await cell.program(number)))!;
      const found = await readinessOf(pool(), program, 1, []);
      return found.flatMap(({ code, tool, sentence }) =>
        code === 'keptAway' ? [`T${tool}: ${/which (is|was) [a-z]+/.exec(sentence)![0]}`] : [],
      );
    };
    expect(await told('O1402')).toEqual([]);
    done(await begin());
    done(await key());
    // its own program is meant to be kept away; of another it is said
    expect(await told('O1402')).toEqual([]);
    expect(await told('O1421')).toEqual(['T4: which is not', 'T5: which is not']);
    done(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: 'another job first' }));
    expect(await told('O1402')).toEqual(['T4: which was dropped', 'T5: which was dropped']);
    done(await begin());
    expect(await told('O1402')).toEqual([]);
    expect((await open()).state.step).toMatchObject({ do: 'measure' });
    expect([(await wear(4)) - w4, (await wear(5)) - w5]).toEqual([inch(-0.008), inch(-0.008)]);
    // as it would measure with one allowance
    done(await measure('rough', 0.5622));
    done(await measure('finish', 0.5823));
    const { toKey } = await open();
    expect(toKey.map(({ row, from, to }) => [row, to - from])).toEqual([
      [4, inch(0.008)],
      [5, inch(0.0084)],
    ]);
    done(await key());
    expect(await told('O1421')).toEqual([]);
  });
  it('what waited for its rows ends as it begins', async () => {
    const taken = done(
      await takeReading(as(cell.operator), {
        featureId: await cell.feature('O1402', 'Bore'),
        programId: await cell.program('O1402'),
        jobId: await cell.job('O1402'),
        part: 152,
        measured: inch(0.5925),
        confirmed: true,
        firstOff: true,
      }),
    );
    expect(taken.proposalIds).toHaveLength(1);
    done(await begin());
    expect(await correctionById(pool(), taken.proposalIds[0]!)).toMatchObject({ state: 'superseded' });
  });

  it('ends where it is set up otherwise meanwhile, or another job takes the machine', async () => {
    done(await begin());
    done(await key(cell.lead));
    done(await setUpAgain(as(cell.setter), { jobId: await cell.job('O1402'), why: 'jaws bored again' }));
    expect((await open()).disturbed).toMatch(/O1402 .* was set up anew on Curlew/);
    expect(refused(await measure('finish', 0.5823))).toContain('begin anew');
    done(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: 'set up anew' }));
    done(await begin());
    expect((await open()).disturbed).toBeNull();
    for (const [program, move] of [
      ['O1402', 'pause'],
      ['O1421', 'start'],
    ] as const)
      done(await moveJob(as(cell.lead), { jobId: await cell.job(program), move, why: 'it is wanted first' }));
    expect((await open()).disturbed).toMatch(/O1421 .* was started on Curlew/);
  });

  it('is brought to size by several people, each where the last one left it', async () => {
    const [w4, w5] = [await wear(4), await wear(5)];
    done(await begin());
    const answers = done(await key(cell.lead));
    expect(answers.every(({ kept }) => kept)).toBe(true);
    expect([(await wear(4)) - w4, (await wear(5)) - w5]).toEqual([inch(-0.008), inch(-0.008)]);
    expect((await open()).state.step).toMatchObject({
      do: 'measure',
      tasks: [{ stage: 'rough' }, { stage: 'finish' }],
    });
    // 0.5907 less the allowance and the stock, and less the allowance
    done(await measure('rough', 0.5622));
    done(await measure('finish', 0.5823));
    const { toKey } = await open();
    expect(toKey.map(({ row, from, to }) => [row, to - from])).toEqual([
      [4, inch(0.008)],
      [5, inch(0.0084)],
    ]);
    done(await key());
    done(await measure('finish', 0.5907));
    done(await measure('off', 0.5906));
    expect((await open()).state.step).toEqual({ do: 'done', right: true, words: [] });
    expect((await open()).done.map(({ person }) => person)).toEqual(
      [cell.lead, cell.operator, cell.operator, cell.setter, cell.operator, cell.operator].map(
        ({ name }) => name,
      ),
    );
    done(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: null }));
    expect(await openFirstPart(pool(), curlew)).toBeNull();
    expect([(await wear(4)) - w4, (await wear(5)) - w5]).toEqual([0, inch(0.0004)]);
    // what was finished is a reading of the bore; what the rougher left is not
    expect(
      await cell.count(
        `FROM reading WHERE recut AND first_off IS NOT NULL AND feature_id = $1`,
        await cell.feature('O1402', 'Bore'),
      ),
    ).toBeGreaterThanOrEqual(3);
  });

  it('one row that shows something else is named and stays to be keyed; the rest is on record', async () => {
    done(await begin());
    const { id, toKey } = await open();
    const shown = toKey.map(({ registerId, to }, i) => ({
      registerId,
      value: (i === 0 ? to : -to) as Length,
    }));
    expect(done(await keyFirst(as(cell.setter), curlew, { id, shown }))).toMatchObject([
      { kept: true },
      { kept: false, said: expect.stringMatching(/sign/) as string },
    ]);
    expect((await open()).toKey.map(({ row }) => row)).toEqual([5]);
    expect(done(await key())[0]!.kept).toBe(true);
    expect((await open()).state.step.do).toBe('measure');
  });

  it('two who measure the same at once: one is taken, the other hears by whom', async () => {
    done(await begin());
    done(await key());
    const both = await Promise.all([measure('rough', 0.5622), measure('rough', 0.5623, cell.inspector)]);
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(both.map(refused).find((words) => words !== null)).toMatch(
      /did this already: Bore after the rougher: 0.562/,
    );
    expect((await open()).done).toHaveLength(2);
  });

  it('two who key at once: each row moves once', async () => {
    const before = await wear(5);
    done(await begin());
    const both = await Promise.all([key(), key(cell.lead)]);
    expect(both.some(({ ok }) => ok)).toBe(true);
    expect((await wear(5)) - before).toBe(inch(-0.008));
    expect((await open()).done.filter(({ event }) => event.what === 'keyed')).toHaveLength(1);
  });

  it('a row that somebody else moves ends what was known: begin anew', async () => {
    done(await begin());
    done(await key());
    done(await measure('rough', 0.5622));
    const { id, value } = await cell.register('Curlew', 5, 'xWear');
    done(
      await foundAtControl(as(cell.setter), {
        registerId: id,
        before: value as Length,
        after: (value + inch(0.001)) as Length,
        why: 'Found on the screen.',
      }),
    );
    expect((await open()).disturbed).toMatch(/X wear of row 5 was found at the control/);
    expect(refused(await measure('finish', 0.5823))).toMatch(/drop this first part/);
    expect(refused(await key())).toMatch(/drop this first part/);
    done(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: 'Row 5 was moved.' }));
    expect(await openFirstPart(pool(), curlew)).toBeNull();
    done(await begin());
  });

  it('a slip is asked about before it counts, and kept either way', async () => {
    done(await begin());
    done(await key());
    done(await measure('rough', 0.5622));
    const before = await cell.count('FROM reading');
    expect(done(await measure('finish', 5.823)).doubt).toMatch(/decimal point/);
    expect((await open()).state.step).toMatchObject({ do: 'measure', tasks: [{ stage: 'finish' }] });
    expect(await cell.count('FROM reading')).toBe(before + 1);
    expect(await cell.count('FROM reading WHERE doubt IS NOT NULL AND measured = $1', inch(5.823))).toBe(1);
  });

  it('what halts is looked at by somebody, whose words stand in the ledger', async () => {
    done(await begin());
    done(await key());
    done(await measure('rough', 0.5622));
    done(await measure('finish', 0.5623));
    const { id, state } = await open();
    expect(state.step).toMatchObject({ do: 'halt', final: false });
    expect(refused(await key())).toBeNull();
    done(await lookedFirst(as(cell.setter), curlew, { id, found: 'T5 was skipped.' }));
    expect(await cell.count(`FROM ledger WHERE stage = 'firstPart' AND why = 'T5 was skipped.'`)).toBe(1);
    done(await measure('finish', 0.5823));
    expect((await open()).toKey).toHaveLength(2);
  });

  it('only one on a machine; not finished before its end; a plan that cannot be is refused', async () => {
    done(await begin());
    expect(refused(await begin(cell.lead))).toMatch(/already being brought to size/);
    expect(
      refused(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: null })),
    ).toMatch(/not finished/);
    done(await endFirstPart(as(cell.setter), curlew, { id: (await open()).id, why: 'Wrong bar.' }));
    const programId = await cell.program('O1402');
    const feature = (name: string) => cell.feature('O1402', name);
    const asked = async (sizes: { featureId: number; allowance: Length }[]) =>
      refused(await beginFirstPart(as(cell.setter), curlew, { programId, school: 'equalPasses', sizes }));
    expect(await asked([])).toMatch(/at least one size/);
    expect(await asked([{ featureId: await feature('Bore'), allowance: inch(0) }])).toMatch(
      /by how much a tool stays away/,
    );
    expect(await asked([{ featureId: 999_999, allowance: inch(0) }])).toMatch(/no longer exists/);
  });
});
