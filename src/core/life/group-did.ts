import { countsWhole, usedBy, type ExpiryRule } from './count.ts';
import { playGroup, type GroupMember, type GroupRules } from './group.ts';

export interface GroupSeen {
  rules: GroupRules;
  /** Lives as the record has them. */
  members: readonly GroupMember[];
  inUse: number | null;
  /** Parts that the control has made since. */
  parts: number;
  /** What the control shows as left of each, in units of its basis and its own way of writing. */
  shown: ReadonlyMap<number, number>;
  expiry: ExpiryRule;
}

export interface MemberDid {
  tool: number;
  /** What it should have cut of these parts, and what the control took off it, in units of its basis. */
  foretold: number;
  took: number;
}

export type GroupDid =
  | { told: 'cannotTell' }
  | { told: 'asForetold' }
  /** Another member cut, or each another share. */
  | { told: 'otherwise'; members: MemberDid[] };

/**
 * Whether a control did with a group what its rule says (H11): the parts made since the record are played by the rule, and what each
 * member should have lost is held against what its counter shows. Where a counter is not shown nobody can tell.
 */
export function groupDid({ rules, members, inUse, parts, shown, expiry }: GroupSeen): GroupDid {
  const counted = members.filter(({ life }) => life !== null);
  if (counted.length === 0 || counted.some(({ tool }) => !shown.has(tool))) return { told: 'cannotTell' };
  const { runs } = playGroup(rules, members, inUse, parts);
  const did = counted.map(({ tool, life, use }): MemberDid & { slack: number } => {
    const { basis, remaining } = life!;
    const left = shown.get(tool)! + (countsWhole(basis) && expiry === 'belowZero' ? 1 : 0);
    return {
      tool,
      foretold: runs
        .filter((run) => run.tool === tool)
        .reduce((sum, { from, to }) => sum + usedBy(to - from + 1, basis, use, from - 1), 0),
      took: remaining - left,
      // a control shows tenths of a minute
      slack: basis === 'minutes' ? 6000 : 0,
    };
  });
  return did.every(({ foretold, took, slack }) => Math.abs(foretold - took) <= slack)
    ? { told: 'asForetold' }
    : { told: 'otherwise', members: did.map(({ tool, foretold, took }) => ({ tool, foretold, took })) };
}
