import { takenByPart, together, type CountedLife, type CycleUse } from './count.ts';
import { playGroup, type GroupMember, type GroupRules, type GroupRun } from './group.ts';

/** A job that is cut before another one, with what a cycle of it takes of a tool or group; null: it does not call it. */
export interface CutBefore {
  job: string;
  parts: number;
  use: CycleUse | null;
  /** Of a group: what it takes of members that it calls by their own T. */
  alone?: ReadonlyMap<number, CycleUse>;
}

/** What jobs leave of an edge to the one that comes after them. */
export interface LeftAfter {
  life: CountedLife;
  /** Jobs that use it, in their order. */
  by: string[];
  /** Edges that are changed in them; the last one may be spent as they end, and is to be changed before the next job. */
  renewed: number;
}

const EPSILON = 1e-9;

/**
 * What a tool has left when the jobs before are through. One that runs out in the middle of them is renewed to its full limit, or they would
 * not come to their end, and finishes the part in which it expires (H11).
 */
export function leftAfter(life: CountedLife, before: readonly CutBefore[]): LeftAfter {
  const by: string[] = [];
  let { remaining } = life;
  let renewed = 0;
  for (const { job, parts, use } of before) {
    const takes = use && parts > 0 ? takenByPart(life.basis, use, life.perPart) : 0;
    if (takes <= 0 || life.limit <= 0) continue;
    by.push(job);
    const lasts = (left: number) => Math.max(1, Math.ceil(left / takes - EPSILON));
    const first = remaining > EPSILON ? lasts(remaining) : 0;
    if (parts <= first) {
      remaining = parts === first ? 0 : remaining - parts * takes;
      continue;
    }
    // the last of the edges that follow has cut one part at least
    const each = lasts(life.limit);
    const last = ((parts - first - 1) % each) + 1;
    renewed += Math.ceil((parts - first) / each);
    remaining = last === each ? 0 : life.limit - last * takes;
  }
  return { life: { ...life, remaining }, by, renewed };
}

/** What jobs leave of a group to the one that comes after them; `out`: it is out before they are through. */
export type GroupAfter =
  | {
      out: false;
      members: GroupMember[];
      inUse: number | null;
      by: string[];
      /** Of each T that is used: the jobs that use it, and how often it is changed in those that call it by its T alone. */
      each: Map<number, Omit<LeftAfter, 'life'>>;
    }
  | { out: true; job: string; afterPart: number };

/**
 * What the members of a group have left when the jobs before are through, by the machine's own rule; who cut the last part is in use then.
 * A job that calls a member by its own T alone has it renewed where it runs out, as with any tool.
 *
 * @param members with what a part of any job takes of them left open: each job brings its own
 */
export function groupAfter(
  rules: GroupRules,
  members: readonly GroupMember[],
  inUse: number | null,
  before: readonly CutBefore[],
): GroupAfter {
  let left = [...members];
  let cutting = inUse;
  const by: string[] = [];
  const each: (GroupAfter & { out: false })['each'] = new Map();
  for (const cut of before) {
    const { job, parts, use, alone } = cut;
    if ((!use && !alone?.size) || parts <= 0) continue;
    by.push(job);
    const own = (tool: number) => alone?.get(tool) ?? null;
    const played =
      use &&
      playGroup(
        rules,
        left.map((member) => ({ ...member, use, alone: own(member.tool) })),
        cutting,
        parts,
      );
    if (played && played.stopsAfter !== null) return { out: true, job, afterPart: played.stopsAfter };
    left = left.map((member) => {
      if (member.life === null) return member;
      const {
        life,
        renewed,
        by: took,
      } = played
        ? afterPlay(
            member.life,
            cut,
            played.runs.filter(({ tool }) => tool === member.tool),
            own(member.tool),
          )
        : leftAfter(member.life, [{ job, parts, use: own(member.tool) }]);
      const known = each.get(member.tool) ?? { by: [], renewed: 0 };
      if (took.length > 0)
        each.set(member.tool, { by: [...known.by, ...took], renewed: known.renewed + renewed });
      return { ...member, life };
    });
    cutting = played?.runs.at(-1)?.tool ?? cutting;
  }
  return { out: false, members: left, inUse: cutting, by, each };
}

/** What a job leaves of a member by the parts for which its group picked it, and by those that call its T. */
function afterPlay(
  life: CountedLife,
  { job, parts, use }: CutBefore,
  runs: readonly GroupRun[],
  alone: CycleUse | null,
): LeftAfter {
  const picked = runs.reduce((sum, { from, to }) => sum + to - from + 1, 0);
  const takes = (by: CycleUse | null) => (by ? takenByPart(life.basis, by, life.perPart) : 0);
  const took = picked * takes(together(use, alone)) + (parts - picked) * takes(alone);
  return {
    life: { ...life, remaining: life.remaining - took },
    by: took > 0 ? [job] : [],
    renewed: 0,
  };
}
