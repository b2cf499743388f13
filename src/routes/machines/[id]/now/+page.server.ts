import { z } from 'zod';
import { madeByNow } from '$core/shift/job';
import { partsLeft } from '$core/life/count';
import { may, ROLE_WORDS, rolesFor } from '$core/people/roles';
import { againstNextPart } from '$core/readiness/check';
import { parseMinutesAndSeconds } from '$core/shift/clock';
import { shiftAt } from '$core/shift/calendar';
import { cellNow } from '$server/clock';
import { cellOf } from '$server/cell';
import { controlCount } from '$server/control-link';
import { openCorrections } from '$server/corrections';
import { withEnds } from '$server/edge-at-end';
import { pool, type Db } from '$server/db';
import { openFirstParts } from '$server/brought-in';
import { countedTools, cycleBrokenOff, recordParts } from '$server/counts';
import { lastCount, takeBackCount } from '$server/wrong-counts';
import { scrapParts } from '$server/scrapped';
import {
  addJob,
  changeJob,
  isWaiting,
  jobsOf,
  lastCycles,
  moveAhead,
  moveJob,
  setUpAgain,
} from '$server/jobs';
import { reckoned } from '$server/made-now';
import { writeNote } from '$server/leaf-notes';
import { measuringOn, sistersOf } from '$server/now';
import { callsOf, programById, programs } from '$server/programs';
import { heldBack } from '$server/quarantine';
import { readinessOf } from '$server/readiness';
import { takeReading } from '$server/readings';
import { takeBackReading } from '$server/wrong-readings';
import { shared } from '$server/shared';
import type { Machine } from '$server/machines';
import { oneReading } from '$server/one-reading';
import { openRenewals } from '$server/renewals';
import {
  act,
  actAtMachine,
  id,
  orEmpty,
  palletOn,
  placeIn,
  readingIn,
  sureOf,
  ticked,
  warmFields,
  warmOf,
  whole,
  words,
} from '../../../action';
import { firstFields, firstPart } from '../../../first-part';
import { MACHINE_COOKIE } from '../../../tablet';
import type { Actions, PageServerLoad } from './$types';

/** What a machine asks of whoever stands at it, with one of its programs to measure by; null: the one that runs. */
const machineNow = shared(
  (machine: Machine, program: number | null) => `${machine.id} ${program ?? ''}`,
  async (machine, program) => {
    const db = oneReading(pool());
    const [jobs, control, all, cycles] = await Promise.all([
      jobsOf(db, machine.id),
      controlCount(machine),
      programs(db, machine.id),
      lastCycles(db, machine.id),
    ]);
    const job = jobs.find((each) => each.state === 'running') ?? null;
    const own = all.filter((each) => each.newest);
    const wanted = program ?? job?.programId;
    const made = job ? madeByNow(job, control?.ok ? control.count : null) : 0;
    const likely = job && (await reckoned(db, job, control?.ok ? control.count : null));
    const [counted, tools, measuring, corrections, firstParts, held, against] = await Promise.all([
      job ? lastCount(db, job.id) : null,
      toolsNow(db, job),
      measuringOn(db, machine, job, wanted ?? own.find((each) => each.features > 0)?.id, made, likely),
      openCorrections(db, machine.id).then((open) => withEnds(db, machine.id, open)),
      openFirstParts(db),
      heldBack(db, machine.id),
      job ? againstNext(db, job) : [],
    ]);
    return {
      job,
      waiting: jobs.filter(isWaiting),
      control,
      counted,
      made,
      likely,
      called: job ? [...new Set((await callsOf(db, job.programId)).map(({ tool }) => tool))] : [],
      tools,
      measuring,
      corrections,
      held,
      against,
      firstPart: firstParts.find((each) => each.machineId === machine.id) ?? null,
      programs: own.map(({ id: programId, number, title, features, cutMilliseconds }) => ({
        id: programId,
        number,
        title,
        features,
        cutMilliseconds,
        lastCycle: cycles.find((each) => each.number === number)?.cycleMilliseconds ?? null,
      })),
    };
  },
);

export const load: PageServerLoad = async ({ parent, locals, url, cookies, request }) => {
  const { machine } = await parent();
  // a tablet that keeps this page for later is not looking at it
  if (!request.headers.has('x-keeps'))
    cookies.set(MACHINE_COOKIE, String(machine.id), {
      path: '/',
      httpOnly: true,
      sameSite: 'strict',
      maxAge: 365 * 86_400,
      secure: process.env.TIN_HTTPS === '1',
    });
  const { role } = locals.person!;
  return {
    ...(await machineNow(machine, Number(url.searchParams.get('program')) || null)),
    renewers: rolesFor('renewTools').map((each) => ROLE_WORDS[each]),
    may: {
      record: may(role, 'recordParts'),
      run: may(role, 'runJobs'),
      measure: may(role, 'takeReadings'),
      renew: may(role, 'renewTools'),
      flag: may(role, 'flagTools'),
      place: may(role, 'placeTools'),
      call: may(role, 'writeNotes'),
    },
  };
};

type Job = Awaited<ReturnType<typeof jobsOf>>[number];

/** What stops the next part of the running job, by what was changed since it began. */
async function againstNext(db: Db, job: Job) {
  const program = await programById(db, job.programId);
  if (!program) return [];
  const findings = await readinessOf(db, program, Math.max(1, job.quantity - job.made), []);
  return againstNextPart(findings).map(({ tool, code, sentence, remedy }) => ({
    tool,
    atControl: code === 'controlDiffers',
    sentence,
    remedy,
  }));
}

/** The counted tools of the running job, those that stop it first at the head. */
async function toolsNow(db: Db, job: Job | null) {
  if (!job) return [];
  const tools = await countedTools(db, job);
  const [sisters, renewals] = await Promise.all([
    sistersOf(
      db,
      tools.map((tool) => tool.number),
    ),
    openRenewals(db),
  ]);
  return tools
    .map((tool) => ({
      ...tool,
      parts: tool.flag ? 0 : partsLeft(tool.remaining, tool.basis, tool.use, tool.perPart),
      sister: sisters.find((each) => each.like === tool.number) ?? null,
      renewal: renewals.some((each) => each.assemblyId === tool.assemblyId),
    }))
    .filter((tool) => Number.isFinite(tool.parts))
    .sort((a, b) => Number(b.flag === 'broken') - Number(a.flag === 'broken') || a.parts - b.parts);
}

const quantity = whole('The number of parts', 1, 100_000);
const CYCLE_MISSING =
  'The cycle time is missing, so nothing was added: without it nobody can say when its tools run out. Time one part from one start to the next, and write minutes:seconds.';
const cycle = z
  .string({ error: 'The cycle time is missing.' })
  .trim()
  .min(1, CYCLE_MISSING)
  .transform((text, context) => {
    const milliseconds = parseMinutesAndSeconds(text);
    if (milliseconds !== null) return milliseconds;
    context.addIssue({
      code: 'custom',
      message: 'Write the cycle time as minutes:seconds, longer than nothing, such as 9:30.',
    });
    return z.NEVER;
  });

export const actions: Actions = {
  parts: act(
    z.object({
      job: id,
      before: z.coerce.number().int().min(0),
      parts: whole('The number of parts', 1, 500),
      source: z.string().max(60),
      ...sureOf,
    }),
    ({ input, asking }) =>
      recordParts(asking, {
        jobId: input.job,
        before: input.before,
        parts: input.parts,
        source: input.source,
        doubted: input.sure !== input.parts,
      }),
  ),
  job: act(z.object({ program: id, quantity, cycle }), ({ input, asking }) =>
    addJob(asking, {
      programId: input.program,
      quantity: input.quantity,
      cycleMilliseconds: input.cycle,
    }),
  ),
  move: act(
    z.object({
      job: id,
      move: z.enum(['start', 'pause', 'finish', 'remove']),
      why: z.string().trim().max(200, 'The reason is longer than 200 characters.').default(''),
    }),
    ({ input, asking }) => moveJob(asking, { jobId: input.job, move: input.move, why: input.why }),
  ),
  setUp: act(
    z.object({ ...firstFields, job: id, why: words('What was changed', 200) }),
    ({ input, asking }) =>
      setUpAgain(asking, {
        jobId: input.job,
        why: input.why,
        first: firstPart(input),
        until: input.until,
      }),
  ),
  ahead: act(z.object({ job: id, of: id }), ({ input, asking }) =>
    moveAhead(asking, { jobId: input.job, of: input.of }),
  ),
  change: act(
    z.object({
      job: id,
      quantity,
      cycle,
      shownQuantity: z.coerce.number().int(),
      shownCycle: z.coerce.number().int(),
    }),
    ({ input, asking }) =>
      changeJob(asking, {
        jobId: input.job,
        quantity: input.quantity,
        cycleMilliseconds: input.cycle,
        shown: { quantity: input.shownQuantity, cycleMilliseconds: input.shownCycle },
      }),
  ),
  scrapped: act(
    z.object({
      job: id,
      shown: z.coerce.number().int().min(0),
      scrapped: whole('The number of parts that are scrap', 0, 100_000),
      again: ticked,
      why: words('What is wrong with them', 200),
    }),
    ({ input, asking }) =>
      scrapParts(asking, {
        jobId: input.job,
        shown: input.shown,
        scrapped: input.scrapped,
        again: input.again,
        why: input.why,
      }),
  ),
  brokenOff: act(
    z.object({
      job: id,
      before: z.coerce.number().int().min(0),
      tool: whole('T', 1, 99_999_999),
      why: words('Why it was broken off', 200),
    }),
    ({ input: { job, ...rest }, asking }) => cycleBrokenOff(asking, { jobId: job, ...rest }),
  ),
  takeBack: act(
    z.object({
      job: id,
      count: z.coerce.number().int().positive(),
      before: z.coerce.number().int().min(0),
      why: words('What was wrong', 200),
      // empty: it is taken back whole
      really: z.union([z.literal('').transform(() => 0), whole('How many it really was', 0, 500)]).default(0),
    }),
    ({ input: { job, ...rest }, asking }) => takeBackCount(asking, { jobId: job, ...rest }),
  ),
  take: actAtMachine(
    ({ unit }) =>
      z.object({
        feature: id,
        program: id,
        job: orEmpty,
        part: whole('The part', 0, 10_000_000),
        measured: readingIn(unit),
        confirmed: ticked,
        partSure: ticked,
        firstOff: ticked,
        recut: ticked,
        place: placeIn,
        pallet: palletOn,
        ...warmFields,
      }),
    ({ input, asking }) =>
      takeReading(asking, {
        featureId: input.feature,
        programId: input.program,
        jobId: input.job,
        part: input.part,
        ...input.measured,
        confirmed: input.confirmed,
        partSure: input.partSure,
        firstOff: input.firstOff,
        recut: input.recut,
        place: input.place,
        pallet: input.pallet,
        warm: warmOf(input),
      }),
  ),
  takeBackReading: actAtMachine(
    () => z.object({ reading: id, why: words('What was wrong', 200) }),
    ({ input, asking, on }) =>
      takeBackReading(asking, { machineId: on.id, readingId: input.reading, why: input.why }),
  ),
  /** Calls somebody to the machine: a question on the leaf of this shift, which everybody sees until it is answered. */
  callFor: actAtMachine(
    () => z.object({ text: words('What it is about', 300) }),
    async ({ input, asking, on }) => {
      const cell = await cellOf(pool());
      const shift = shiftAt(cellNow(), cell.patterns, cell.timeZone);
      if (!shift) return { ok: false, reason: 'No shift is running: nobody would see the call.' };
      return writeNote(asking, { leaf: shift.key, kind: 'question', machineId: on.id, text: input.text });
    },
  ),
};
