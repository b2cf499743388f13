import type { Flag } from './flag.ts';
import { inCycle, isExpired, together, type CycleUse, type CountedLife } from './count.ts';

/** How a control picks the next member of a group when the one in use has expired (H11). */
export const NEXT_RULES = ['lowest', 'mostUsed', 'leastUsed'] as const;
export type NextRule = (typeof NEXT_RULES)[number];

/** What an original does once it has been renewed while a spare runs (H11): both schools exist. */
export const RENEWED_RULES = ['atOnce', 'spareRuns'] as const;
export type RenewedRule = (typeof RENEWED_RULES)[number];

export const ROLES = ['original', 'spare'] as const;
export type MemberRole = (typeof ROLES)[number];

export interface GroupRules {
  next: NextRule;
  renewed: RenewedRule;
  /** False: the machine stops with an alarm as soon as the one in use expires. */
  spares: boolean;
}

export interface GroupMember {
  /** T on a mill, station on a lathe. */
  tool: number;
  role: MemberRole;
  /** Uses left and the full limit, in units of its basis; null: it is not counted and never expires. */
  life: CountedLife | null;
  flag: Flag | null;
  /** Its data is new and the control has not taken it up yet: the group must be initialised first. */
  fresh?: boolean;
  /** What one cycle takes of it by calls of the group, where it is the one that is picked. */
  use: CycleUse;
  /** What one cycle takes of it besides, by calls of its own T; null or missing: it is called by the group alone. */
  alone?: CycleUse | null;
}

/** A member as it stands on a machine: its rows, what the control knows of it, and the assembly under its T; null: none is there. */
export interface StandingMember {
  tool: number;
  role: MemberRole;
  lengthRows: number[];
  radiusRows: number[];
  /** Its data is new, and was not keyed and read back yet. */
  unkeyed: boolean;
  /** The same where the control passes over what was not initialised. */
  fresh: boolean;
  assembly: {
    id: number;
    number: string;
    name: string;
    flag: Flag | null;
    life: GroupMember['life'];
  } | null;
}

/** A group as it stands on a machine. */
export interface StandingGroup {
  id: number;
  number: number;
  purpose: string;
  rules: GroupRules;
  initialise: boolean;
  /** T that cut the last part. */
  inUse: number | null;
  members: StandingMember[];
}

/** Parts made one after the other with one member, counted from the next part on: `from` 1 is the next. */
export interface GroupRun {
  tool: number;
  from: number;
  to: number;
  /** It expires in its last part, which it finishes. */
  expires: boolean;
}

/** `ownCall`: a member that the program calls by its own T too is spent or flagged. */
export type GroupStop = 'broken' | 'out' | 'noSpare' | 'ownCall' | 'empty';

export interface GroupPlay {
  runs: GroupRun[];
  /** Parts made before the machine stops; null: it does not, for as many parts as were asked for. */
  stopsAfter: number | null;
  why: GroupStop | null;
  /** T whose own call stops it, where that is why. */
  own?: number;
}

const used = ({ life }: GroupMember) => (life === null ? 0 : life.limit - life.remaining);
/** May be picked: not flagged, not expired, and known to the control. */
const ready = (member: GroupMember) =>
  member.flag === null && !member.fresh && (member.life === null || !isExpired(member.life.remaining));

/** The member that a control picks of those that may be picked; null: none may. */
export function pickMember(members: readonly GroupMember[], next: NextRule): GroupMember | null {
  const order = {
    lowest: () => 0,
    mostUsed: (a: GroupMember, b: GroupMember) => used(b) - used(a),
    leastUsed: (a: GroupMember, b: GroupMember) => used(a) - used(b),
  }[next];
  return members.filter(ready).sort((a, b) => order(a, b) || a.tool - b.tool)[0] ?? null;
}

/**
 * The member that cuts the next part: the one in use as long as it may, else the one that the rule picks. An original that was renewed
 * takes its place back where that is the machine's way.
 */
export function memberInUse(
  rules: GroupRules,
  members: readonly GroupMember[],
  inUse: number | null,
): GroupMember | null {
  const present = members.find(({ tool }) => tool === inUse);
  if (!present || !ready(present)) return pickMember(members, rules.next);
  if (rules.renewed === 'atOnce' && present.role === 'spare') {
    const originals = members.filter(({ role }) => role === 'original');
    return pickMember(originals, rules.next) ?? present;
  }
  return present;
}

/** What a part takes of a member by what cuts it: the group, where it is the one that is picked, and calls of its own T. */
const takes = ({ life, use, alone }: GroupMember, picked: boolean): number =>
  picked || alone ? inCycle(life!, together(picked ? use : null, alone ?? null)!) : 0;

/** What is left of a member in the middle of a play. */
class Playing {
  /** In units of its counter, times the parts that a cycle makes: so many parts of a cycle take a whole number of it. */
  private left: number;
  private readonly parts: number;

  constructor(readonly of: GroupMember) {
    this.parts = Math.max(1, of.use.parts);
    this.left = of.life === null ? Infinity : of.life.remaining * this.parts;
  }

  /** Parts that it lasts, the one in which it expires included; Infinity: it is not worn by them. */
  lasts(picked: boolean): number {
    if (this.of.life === null) return Infinity;
    if (isExpired(this.left)) return 0;
    const each = takes(this.of, picked);
    return each > 0 ? Math.ceil(this.left / each) : Infinity;
  }

  cut(parts: number, picked: boolean): void {
    if (this.of.life === null) return;
    // nothing is left of what was cut to its end, whatever the fractions of a counted wear add up to
    this.left = parts >= this.lasts(picked) ? 0 : this.left - parts * takes(this.of, picked);
  }

  get now(): GroupMember {
    const { life } = this.of;
    return life === null ? this.of : { ...this.of, life: { ...life, remaining: this.left / this.parts } };
  }

  /** Its own T cannot be called: it is spent or flagged. What the group has not taken up yet is called all the same. */
  get stops(): boolean {
    return Boolean(this.of.alone) && (this.of.flag !== null || isExpired(this.left));
  }
}

/**
 * Plays the machine's own rule over so many parts: which member cuts each, in which part each expires (it finishes that part), and
 * when the machine stops. A member is picked at the first call of a part and cuts it to its end, however often the program calls the
 * group within it. A broken member stops the group: its part is suspect, and no sister takes over (H12). A member that the program also
 * calls by its own T is worn by every part, and by those for which it is picked twice; once it is spent that call stops the machine,
 * whatever its sisters have left.
 *
 * @param inUse T that cut the last part; null: none yet
 * @param parts how many are wanted; Infinity: until it stops
 */
export function playGroup(
  rules: GroupRules,
  members: readonly GroupMember[],
  inUse: number | null,
  parts: number,
): GroupPlay {
  const runs: GroupRun[] = [];
  if (members.length === 0) return { runs, stopsAfter: 0, why: 'empty' };
  if (members.some(({ flag }) => flag === 'broken')) return { runs, stopsAfter: 0, why: 'broken' };
  const all = members.map((member) => new Playing(member));
  const ownCall = (stopsAfter: number): GroupPlay | null => {
    const own = all.find(({ stops }) => stops)?.of.tool;
    return own === undefined ? null : { runs, stopsAfter, why: 'ownCall', own };
  };
  const atOnce = ownCall(0);
  if (atOnce) return atOnce;
  let made = 0;
  let present = memberInUse(rules, members, inUse);
  // a control without spares does not look for another: what was in use and has expired stops it
  const last = members.find(({ tool }) => tool === inUse);
  if (!rules.spares && last && !ready(last)) return { runs, stopsAfter: 0, why: 'noSpare' };
  while (made < parts) {
    if (!present) return { runs, stopsAfter: made, why: 'out' };
    const cutting = all.find(({ of }) => of.tool === present!.tool)!;
    const can = cutting.lasts(true);
    const others = all.filter((each) => each !== cutting && each.of.alone);
    const cut = Math.min(can, parts - made, ...others.map((each) => each.lasts(false)));
    runs.push({ tool: present.tool, from: made + 1, to: made + cut, expires: cut === can });
    made += cut;
    if (made >= parts) break;
    cutting.cut(cut, true);
    for (const each of others) each.cut(cut, false);
    const stop = ownCall(made);
    if (stop) return stop;
    if (!rules.spares) return { runs, stopsAfter: made, why: 'noSpare' };
    present = pickMember(
      all.map(({ now }) => now),
      rules.next,
    );
  }
  return { runs, stopsAfter: null, why: null };
}

/** Parts that a group makes from now on until the machine stops; Infinity: it never does. */
export const groupParts = (
  rules: GroupRules,
  members: readonly GroupMember[],
  inUse: number | null,
): number => playGroup(rules, members, inUse, Infinity).stopsAfter ?? Infinity;

/** Words for each choice, as they stand on screen. */
export const NEXT_WORDS: Readonly<Record<NextRule, string>> = {
  lowest: 'the lowest number first',
  mostUsed: 'the most used first',
  leastUsed: 'the least used first',
};
export const RENEWED_WORDS: Readonly<Record<RenewedRule, string>> = {
  atOnce: 'an original is taken again as soon as it is renewed',
  spareRuns: 'the spare runs on until it expires',
};
