import { dueUnwatched, unwatched, type Unwatched } from '../core/correction/unwatched.ts';
import { playNight, type NightPlay, type NightQuestion } from '../core/life/night.ts';
import { begunBetween, partsBy, whenCut } from '../core/life/parts-by.ts';
import { rows, type Db } from './db.ts';
import { sizeQuestion } from './drift.ts';
import { meantBy } from './groups.ts';
import type { Job } from './jobs.ts';
import type { Machine } from './machines.ts';
import { nextOnJob } from './now.ts';
import { featuresOf } from './programs.ts';

/** A size that is cut while nobody is there to measure it. */
export interface UnwatchedSize extends Unwatched {
  id: number;
  name: string;
  every: number | null;
  /** When it falls due, even if the last part before their leaving is measured; null: it does not. */
  due: Date | null;
  /** Nothing was measured on this job, or no register holds it: where it stands nobody knows. */
  notKnown: boolean;
}

/** What nobody looks at until people come back. */
export interface Unseen {
  /** Of the job that runs, the sizes that fall due or are likely to go out, the worst first. */
  sizes: UnwatchedSize[];
  /** Programs whose first part is cut, with when. */
  begun: { program: string; at: Date }[];
  /** Tools whose last check for breakage could not tell: where the control checks them, it may stop there. */
  doubted: number[];
}

/** A night as it is played: from when, with how many parts of the job that runs made by then, and while nobody is there. */
interface Played {
  play: NightPlay;
  order: readonly number[];
  question: NightQuestion;
  begins: Date;
  made: number;
  away: { from: Date; to: Date };
}

export async function unseenIn(
  db: Db,
  machine: Machine,
  job: Job | null,
  { play, order, question, begins, made, away }: Played,
  now: Date,
): Promise<Unseen> {
  // what lets it stop is told beside this; what nobody looks at is asked as if it were seen to
  const goesOn = play.stop === null ? play : playNight(lasting(question), order);
  const programOf = (pallet: number) => question.pallets.find(({ id }) => id === pallet)!.program;
  const [from, to] = [away.from.getTime() - begins.getTime(), away.to.getTime() - begins.getTime()];
  const running = job && question.programs.find(({ program }) => program === job.number);
  const cut = (at: number) => made + partsBy(goesOn, programOf, running!, at);
  const when = (parts: number) => {
    const at = whenCut(goesOn, programOf, running!, parts - made);
    return at === null ? null : new Date(begins.getTime() + at);
  };
  return {
    sizes: running
      ? await unwatchedOn(db, machine, job, { leaving: cut(from), back: cut(to), when }, now)
      : [],
    begun: begunBetween(goesOn, programOf, { from, to })
      .filter(({ program }) => program !== job?.number)
      .map(({ program, at }) => ({ program, at: new Date(begins.getTime() + at) })),
    doubted: await doubtedOn(db, machine.id, question),
  };
}

/** The same night with tools that last. */
const lasting = (question: NightQuestion): NightQuestion => ({
  ...question,
  tools: question.tools.map((tool) => ({ ...tool, life: null, flag: null })),
  groups: question.groups.map((group) => ({
    ...group,
    members: group.members.map((member) => ({ ...member, life: null, flag: null })),
  })),
});

async function doubtedOn(db: Db, machineId: number, { programs, groups }: NightQuestion): Promise<number[]> {
  const called = programs.flatMap(({ uses }) => uses.flatMap(({ tool }) => meantBy(groups, tool)));
  const found = await rows<{ tool: number }>(
    db,
    `SELECT s.tool FROM placement s CROSS JOIN LATERAL (
       SELECT k.verdict FROM tool_check k WHERE k.assembly_id = s.assembly_id ORDER BY k.id DESC LIMIT 1) last
     WHERE s.machine_id = $1 AND s.tool = ANY($2) AND last.verdict = 'cannotTell' ORDER BY s.tool`,
    [machineId, called],
  );
  return found.map(({ tool }) => tool);
}

/** @param cut parts of the job by when people leave, and by when they are back; and when so many are cut */
async function unwatchedOn(
  db: Db,
  machine: Machine,
  job: Job,
  cut: { leaving: number; back: number; when: (parts: number) => Date | null },
  now: Date,
): Promise<UnwatchedSize[]> {
  const parts = cut.back - cut.leaving;
  if (parts <= 0) return [];
  const [features, measured] = [
    await featuresOf(db, machine.id, job.number),
    await nextOnJob(db, { machineId: machine.id, number: job.number }, job, now),
  ];
  const found: UnwatchedSize[] = [];
  for (const feature of features) {
    const { id, name, every } = feature;
    const after = dueUnwatched(every, parts);
    const due = after === null ? null : cut.when(cut.leaving + after);
    const ago = measured.find((each) => each.id === id)?.ago ?? null;
    const asks = ago === null ? null : await sizeQuestion(db, machine, feature);
    // from the part after the last that this size was measured on
    const since = (ago ?? 0) - job.made;
    const goes = asks && placesUnwatched(asks, cut.leaving + since, cut.back + since);
    if (due === null && (goes?.riskyFrom ?? null) === null) continue;
    const { bad, riskyFrom, foreseen } = goes ?? { bad: 0, riskyFrom: null, foreseen: false };
    found.push({ id, name, every, due, parts, bad, riskyFrom, foreseen, notKnown: goes === null });
  }
  return found.sort(
    (a, b) =>
      Number(b.foreseen) - Number(a.foreseen) ||
      b.bad - a.bad ||
      (a.due?.getTime() ?? Infinity) - (b.due?.getTime() ?? Infinity),
  );
}

/** Of a size that is cut in several places, each place has its share of the parts. */
function placesUnwatched(
  { question, places, evidence }: NonNullable<Awaited<ReturnType<typeof sizeQuestion>>>,
  from: number,
  to: number,
): Omit<Unwatched, 'parts'> {
  const sizes = places.length > 0 ? places : [question.size];
  // the model counts from the last part of all that share its rows
  const last = evidence.readings.findLast(({ size, held }) => held !== null && sizes.includes(size))!.at;
  const less = question.model.next - last - 1;
  const each = sizes.map((size) =>
    unwatched({ ...question, size }, Math.max(0, from - less), Math.max(0, to - less)),
  );
  const risky = each.flatMap(({ riskyFrom }) => riskyFrom ?? []);
  return {
    bad: each.reduce((sum, { bad }) => sum + bad, 0) / each.length,
    riskyFrom: risky.length > 0 ? Math.min(...risky) : null,
    foreseen: each.some(({ foreseen }) => foreseen),
  };
}
