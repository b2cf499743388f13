import { memberInUse, type GroupMember, type GroupRules } from '../life/group.ts';

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

/** A member as the parts go by. */
interface Cutting extends GroupMember {
  life: NonNullable<GroupMember['life']>;
  /** It has run out, so many parts of the group having been cut: it is renewed while the next one is; null: it has not. */
  out: number | null;
}

/** The sisters under a T or a group's number, part after part by the machine's own rule. */
class Sisters {
  readonly members: Cutting[];
  private current: number | null;
  private made = 0;

  constructor(private readonly of: AheadTool) {
    this.members = of.members
      .filter(({ flag, life }) => life !== null && flag !== 'broken' && flag !== 'locked')
      .map((member) => ({
        ...member,
        flag: null,
        fresh: false,
        life: { ...member.life! },
        out: member.life!.remaining <= EPSILON ? 0 : null,
      }));
    this.current = of.inUse;
  }

  /** Who cuts the next part. */
  next(): Cutting {
    for (const each of this.members) if (each.out !== null && each.out < this.made) this.renew(each);
    const { rules } = this.of;
    const present = this.members.find(({ tool }) => tool === this.current);
    const stops = present !== undefined && present.out !== null && !rules?.spares;
    const picked = rules && !stops ? memberInUse(rules, this.members, this.current) : null;
    const found = picked
      ? this.members.find(({ tool }) => tool === picked.tool)!
      : // with nobody else the machine waits until the one that ran out is renewed
        (present ?? this.members[0]!);
    if (found.out !== null) this.renew(found);
    this.current = found.tool;
    return found;
  }

  /** Cuts up to so many parts with it; how many: an original that comes back at once takes its place in the next but one. */
  cut(member: Cutting, perPart: number, parts: number): number {
    const lasts = perPart > 0 ? Math.max(1, Math.ceil(member.life.remaining / perPart - EPSILON)) : Infinity;
    const back =
      this.of.rules?.renewed === 'atOnce' &&
      member.role === 'spare' &&
      this.members.some(({ role }) => role === 'original');
    const cut = Math.min(back ? 1 : lasts, parts);
    this.made += cut;
    member.life.remaining -= cut * perPart;
    if (member.life.remaining <= EPSILON) member.out = this.made;
    return cut;
  }

  private renew(member: Cutting): void {
    member.life.remaining = member.life.limit;
    member.out = null;
  }
}

/**
 * Every edge that the jobs of a machine use up, one after the other as they stand on its list, each renewed to its full limit when it has
 * run out (H11: in the cut it finishes its part). Of sisters the one that runs out is renewed while the next part is cut, and takes its place
 * back where that is the machine's way; one without spares stands until it is renewed. A tool that is broken or locked is passed over: that
 * is a matter of now.
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
    const sisters = new Sisters(tool);
    if (sisters.members.length === 0) continue;
    let begun = 0;
    let edges = 0;
    for (const job of jobs) {
      const use = job.uses.find((each) => each.tool === tool.tool);
      let made = 0;
      while (use && made < job.parts && edges < MOST) {
        const member = sisters.next();
        made += sisters.cut(member, use.perPart(member), job.parts - made);
        if (member.out === null) continue;
        const after = begun + made * job.milliseconds;
        if (after > horizon) break;
        edges += 1;
        spent.push({ tool: member.tool, job: job.job, part: made, after });
      }
      begun += job.parts * job.milliseconds;
      if (begun > horizon) break;
    }
  }
  return spent.sort((a, b) => a.after - b.after || a.tool - b.tool);
}
