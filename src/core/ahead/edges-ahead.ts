import { pickMember, type GroupMember, type GroupRules } from '../life/group.ts';

/** What stands under a T, or under the number of a group: one tool, or its sisters with the machine's rule. */
export interface AheadTool {
  tool: number;
  rules: GroupRules | null;
  inUse: number | null;
  members: readonly GroupMember[];
}

/** A job in the order in which its machine makes them. */
export interface AheadJob {
  job: number;
  parts: number;
  /** From part to part. */
  milliseconds: number;
  /** What a part takes of what is called, in units of the member's counter. */
  uses: readonly { tool: number; perPart: (member: GroupMember) => number }[];
}

/** An edge that will be used up. */
export interface EdgeSpent {
  /** T that it stands under. */
  tool: number;
  job: number;
  /** The part of the job that it finishes, counted from the next on. */
  part: number;
  /** Working time until that part is made. */
  after: number;
}

const EPSILON = 1e-9;
/** Edges of one tool that are looked at: a limit of next to nothing would be changed for ever. */
const MOST = 400;

/**
 * Every edge that the jobs of a machine use up, one after the other as they stand on its list, each renewed to its full limit when it has
 * run out (H11: in the cut it finishes its part). Of sisters the one that runs out is renewed while the next one cuts. A tool that is
 * broken or locked is passed over: that is a matter of now.
 *
 * @param horizon working time that is looked at, in milliseconds
 */
export function edgesAhead(
  jobs: readonly AheadJob[],
  tools: readonly AheadTool[],
  horizon: number,
): EdgeSpent[] {
  const spent: EdgeSpent[] = [];
  for (const tool of tools) {
    const members = tool.members
      .filter(({ flag, life }) => life !== null && flag !== 'broken' && flag !== 'locked')
      .map((member) => ({ ...member, flag: null, fresh: false, life: { ...member.life! } }));
    if (members.length === 0) continue;
    let current = members.find((each) => each.tool === tool.inUse) ?? members[0]!;
    /** It has run out: it is renewed while the next one cuts, or before it goes on where there is none. */
    const handOver = () => {
      const others = members.filter((each) => each !== current);
      const next = tool.rules && pickMember(others, tool.rules.next);
      current.life.remaining = current.life.limit;
      if (next) current = members.find((each) => each.tool === next.tool)!;
    };
    let begun = 0;
    let edges = 0;
    for (const job of jobs) {
      const use = job.uses.find((each) => each.tool === tool.tool);
      let made = 0;
      while (use && made < job.parts && edges < MOST) {
        // found spent
        if (current.life.remaining <= EPSILON) handOver();
        const perPart = use.perPart(current);
        if (perPart <= 0) break;
        const can = Math.max(1, Math.ceil(current.life.remaining / perPart - EPSILON));
        const cut = Math.min(can, job.parts - made);
        made += cut;
        current.life.remaining -= cut * perPart;
        if (current.life.remaining > EPSILON) continue;
        const after = begun + made * job.milliseconds;
        if (after > horizon) break;
        edges += 1;
        spent.push({ tool: current.tool, job: job.job, part: made, after });
        handOver();
      }
      begun += job.parts * job.milliseconds;
      if (begun > horizon) break;
    }
  }
  return spent.sort((a, b) => a.after - b.after || a.tool - b.tool);
}
