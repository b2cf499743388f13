import { seriesOf, type Change, type CutPart } from '../core/correction/cut-with.ts';
import { endBy, memberOf, type CutEnd, type TakeOver } from '../core/life/member-rows.ts';
import { memberInUse, playGroup } from '../core/life/group.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { groupsOf, playedBy, playing, type Group } from './groups.ts';
import { Refused } from './outcome.ts';
import { callsOf, programById, type Feature } from './programs.ts';

/** Which member of a group cuts what is measured: a control takes the next one silently, and it cuts with rows of its own (H11). */
export interface CalledGroup extends Group {
  /** Numbers of the programs that call the group by its number. */
  programs: ReadonlySet<string>;
  takeOvers: readonly TakeOver[];
  /** The member that cuts the next part; null: none may. */
  next: number | null;
}

const calledBy = gathered((db, ids: readonly number[]) =>
  rows<{ of: number; program: string; tool: number }>(
    db,
    `SELECT DISTINCT g.machine_id AS "of", g.number AS program, c.tool
     FROM tool_group t JOIN program g ON g.machine_id = t.machine_id JOIN program_call c ON c.program_id = g.id AND c.tool = t.number
     WHERE t.machine_id = ANY($1)`,
    [ids],
  ),
);
const takeOversOf = gathered((db, ids: readonly number[]) =>
  rows<Change & { of: number; group: number; from: number; to: number }>(
    db,
    // those of before 0071 say it in words alone, and not between which parts: then what was typed before was cut before
    `SELECT m.id AS "of", l.id AS entry, cut_known(l.id, l.detail) AS cut, coalesce((l.detail ->> 'jobs')::integer, 0) AS jobs, t.id AS "group",
            coalesce((l.detail -> 'took' ->> 'from')::integer, substring(l.said from 'took over from T([0-9]+)')::integer, 0) AS "from",
            coalesce((l.detail -> 'took' ->> 'to')::integer, l.tool, 0) AS "to"
     FROM machine m JOIN ledger l ON l.machine_id = m.id JOIN tool_group t ON t.machine_id = m.id
       AND CASE WHEN l.detail ? 'took' THEN t.id = (l.detail -> 'took' ->> 'group')::integer ELSE t.number = (l.detail ->> 'group')::integer END
     WHERE m.id = ANY($1) AND l.kind = 'machine' AND l.stage = 'group' AND (l.detail ? 'took' OR l.said LIKE '%took over from T%')
     ORDER BY l.id`,
    [ids],
  ),
);

/** The groups of a machine that its programs call, with who of them cut when. */
export async function calledGroups(db: Db, machineId: number): Promise<CalledGroup[]> {
  const groups = await groupsOf(db, machineId);
  if (groups.length === 0) return [];
  const called = await calledBy(db, machineId);
  const took = await takeOversOf(db, machineId);
  return groups.flatMap((group): CalledGroup[] => {
    const programs = new Set(called.filter(({ tool }) => tool === group.number).map((each) => each.program));
    if (programs.size === 0) return [];
    const next = memberInUse(
      group.rules,
      playing(group, { holes: 0, cutMilliseconds: 0, parts: 1 }),
      group.inUse,
    );
    return [
      {
        ...group,
        programs,
        takeOvers: took.filter((each) => each.group === group.id),
        next: next?.tool ?? null,
      },
    ];
  });
}

const isIn = (group: CalledGroup, tool: number) =>
  tool === group.number || group.members.some((member) => member.tool === tool);

/** Groups whose members cut a size: its program calls them, and its plan names one of their tools. */
export const groupsOfFeature = (groups: readonly CalledGroup[], feature: Feature): CalledGroup[] =>
  groups.filter(
    (group) =>
      group.programs.has(feature.programNumber) &&
      (isIn(group, feature.tool) || (feature.other !== null && isIn(group, feature.other.tool))),
  );

/** A size with the tools and rows that cut it when certain members do; null: which rows those are cannot be told. */
export function cutBy(
  feature: Feature,
  groups: readonly CalledGroup[],
  memberOfGroup: (group: CalledGroup) => number | null,
): Feature | null {
  let cut: Feature | null = feature;
  for (const group of groupsOfFeature(groups, feature)) {
    const member = memberOfGroup(group);
    if (member === null || cut === null) return null;
    const own: CutEnd | null = isIn(group, cut.tool)
      ? endBy(cut, group, member)
      : { tool: cut.tool, row: cut.row };
    const other: Feature['other'] =
      cut.other && isIn(group, cut.other.tool) ? endBy(cut.other, group, member) : cut.other;
    cut = own && (cut.other === null || other !== null) ? { ...cut, ...own, other } : null;
  }
  return cut;
}

/**
 * Sizes with the tools and rows that cut them next, or would if a certain tool were the one of its group. One of which that cannot be told
 * stays as the plan names it.
 */
export async function cutNow(
  db: Db,
  machineId: number,
  features: readonly Feature[],
  tool: number | null = null,
): Promise<Feature[]> {
  const groups = await calledGroups(db, machineId);
  const cutting = (group: CalledGroup) =>
    group.members.find((member) => member.tool === tool)?.tool ?? group.next;
  return features.map((feature) => cutBy(feature, groups, cutting) ?? feature);
}

/**
 * Sizes with the tools and rows that cut them next, and their roughers likewise: what a first part is brought in by is keyed into them.
 *
 * @throws Refused where it cannot be told of one
 */
export async function cutFirst(db: Db, machineId: number, features: readonly Feature[]): Promise<Feature[]> {
  const groups = await calledGroups(db, machineId);
  return features.map((feature) => {
    const cut = cutBy(feature, groups, ({ next }) => next);
    const rough = feature.rough && roughedBy(feature, feature.rough, groups);
    if (!cut || (feature.rough && !rough))
      throw new Refused(
        `${feature.name}: nobody can tell which row the tool of its group that cuts next has for it. Write its rows into the group, then begin.`,
      );
    return { ...cut, rough };
  });
}

/** The rougher of a size as it cuts next; null: which row that is cannot be told. */
function roughedBy<R extends CutEnd>(feature: Feature, rough: R, groups: readonly CalledGroup[]): R | null {
  const group = groups.find((each) => each.programs.has(feature.programNumber) && isIn(each, rough.tool));
  if (!group) return rough;
  const end = group.next === null ? null : endBy(rough, group, group.next);
  return end && { ...rough, ...end };
}

/** A part, and how many of its job are counted. */
export interface MeasuredPart extends CutPart {
  jobId: number | null;
  programId: number;
}

/** A part that is measured now: typed after all that is on record. */
export const measuredPart = (taken: {
  jobId: number | null;
  programId: number;
  part: number;
  recut?: boolean | undefined;
}): MeasuredPart => ({
  jobId: taken.jobId,
  programId: taken.programId,
  series: seriesOf(taken),
  part: taken.part,
  entry: Number.MAX_SAFE_INTEGER,
  recut: taken.recut ?? false,
});

/**
 * Who of a group cut a part: by the counts, and beyond what is counted by the machine's own rule, played over the parts until then. Null:
 * nobody can tell.
 */
export function whoCut(db: Db): (group: CalledGroup, part: MeasuredPart) => Promise<number | null> {
  const made = new Map<number, Promise<number>>();
  const members = async (programId: number, group: CalledGroup) => {
    const program = await programById(db, programId);
    const groups = program ? await groupsOf(db, program.machineId) : [group];
    return playedBy(group, groups, await callsOf(db, programId), program?.partsPerCycle ?? 1);
  };
  return async (group, part) => {
    if (part.jobId === null) return memberOf(part, group.takeOvers, group.inUse ?? group.next);
    if (!made.has(part.jobId)) made.set(part.jobId, madeOf(db, part.jobId));
    const beyond = part.part - (await made.get(part.jobId)!);
    if (beyond <= 0) return memberOf(part, group.takeOvers, group.inUse ?? group.next);
    const standing = await members(part.programId, group);
    const { runs } = playGroup(group.rules, standing, group.inUse, beyond);
    const run = runs.at(-1);
    // cut beyond what the group should have lasted: it is counted against the one that cut last
    return run?.tool ?? group.inUse ?? group.next;
  };
}
const madeOf = async (db: Db, jobId: number) =>
  (await row<{ made: number }>(db, 'SELECT made FROM job WHERE id = $1', [jobId]))?.made ?? 0;

/** A size as the part that is measured was cut. */
export type CutAs =
  /** `late`: another member cuts now, so that nothing is keyed for the one that cut the part. */
  { ok: true; feature: Feature; late: string | null } | { ok: false; reason: string };

/** The tools and rows that cut a size of a part: those the plan names, or those of the member of a group that cut it. */
export async function cutAs(db: Db, feature: Feature, part: MeasuredPart): Promise<CutAs> {
  const groups = groupsOfFeature(await calledGroups(db, feature.machineId), feature);
  const who = whoCut(db);
  const members = new Map<CalledGroup, number | null>();
  for (const group of groups) members.set(group, await who(group, part));
  const unknown = groups.find((group) => members.get(group) === null);
  if (unknown)
    return {
      ok: false,
      reason: `Kept. Nobody can tell which tool of group ${unknown.number} cut part ${part.part}: nothing is keyed by it. Measure the next one.`,
    };
  const cut = cutBy(feature, groups, (group) => members.get(group)!);
  if (!cut) {
    const [group] = groups;
    return {
      ok: false,
      reason: `Kept. T${members.get(group!)!} of group ${group!.number} cut this part, and its rows do not say which of them stands for row ${feature.row}: write them into the group, then measure the next one.`,
    };
  }
  const made = part.jobId === null ? null : await madeOf(db, part.jobId);
  const gone = groups.find(
    (group) => made !== null && part.part <= made && group.next !== null && group.next !== members.get(group),
  );
  return {
    ok: true,
    feature: cut,
    late: gone
      ? `T${members.get(gone)!} cut part ${part.part}, and T${gone.next!} cuts now: nothing is keyed for an edge that does not cut. Measure a part of T${gone.next!}.`
      : null,
  };
}
