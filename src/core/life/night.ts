import { takenByPart, together, type CountedLife, type CycleUse, type LifeBasis } from './count.ts';
import type { Flag } from './flag.ts';
import { memberInUse, type GroupMember, type GroupRules } from './group.ts';
import { mostParts, toCut } from './night-bound.ts';

/** Hours without people (H11, H12, H18): pallets one after the other, each tool and sister with its life, until something stops. */

export interface NightTool {
  tool: number;
  life: CountedLife | null;
  flag: Flag | null;
}
export interface NightGroup {
  number: number;
  rules: GroupRules;
  inUse: number | null;
  members: readonly Omit<GroupMember, 'use'>[];
}
/** What one part of a program takes: its time, and of each T or group that it calls what a cycle takes. */
export interface NightProgram {
  program: string;
  /** Milliseconds from part to part. */
  milliseconds: number;
  /** No job says how long a part takes: it is reckoned from its time in cut. */
  guessed?: boolean;
  uses: readonly { tool: number; use: CycleUse }[];
}
export interface Pallet {
  id: number;
  number: number;
  program: string;
  parts: number;
  /** Parts of it that are cut already. */
  cut?: number;
  /** Set aside: it is not cut. */
  isolated: boolean;
}

export interface NightQuestion {
  pallets: readonly Pallet[];
  programs: readonly NightProgram[];
  /** Tools that are called by themselves; one that is not here is not in the machine. */
  tools: readonly NightTool[];
  groups: readonly NightGroup[];
  /** What the machine does where a tool cannot cut: stop, or set the pallet aside and go on with the next. */
  school: 'stop' | 'isolate';
}

export type NightWhy = 'expired' | 'out' | 'broken' | 'locked' | 'missing';

/** A pallet as the night goes: when it is begun and left, how many of its parts are made, and what stopped it. */
export interface NightStep {
  pallet: number;
  from: number;
  to: number;
  made: number;
  stopped: { tool: number; why: NightWhy } | null;
}
export interface NightPlay {
  steps: NightStep[];
  /** When the machine stops, in milliseconds from now, and where; null: it runs through. */
  stop: { at: number; pallet: number; tool: number; why: NightWhy } | null;
  parts: number;
  /** When the last part is made or the machine stops. */
  to: number;
  /** What each counted tool that cut has left in the end. */
  left: { tool: number; basis: LifeBasis; limit: number; before: number; after: number }[];
}

interface Standing {
  tool: number;
  left: number;
  before: number;
  limit: number;
  basis: LifeBasis | null;
  /** What a part takes of one that is counted by wear. */
  wear: number;
  flag: Flag | null;
}
const EPSILON = 1e-9;
const spent = ({ left }: Standing) => left <= EPSILON;

/** Units of its counter that one part takes of a tool; none of one that is not counted. */
export const perPart = (basis: LifeBasis | null, use: CycleUse, wear: number) =>
  basis === null ? 0 : takenByPart(basis, use, wear);

/** A renewed original takes its place back at the start only: nobody renews anything in the night. */
const rulesNow = ({ rules, inUse: first }: NightGroup, inUse: number | null): GroupRules =>
  inUse === first ? rules : { ...rules, renewed: 'spareRuns' };

/** The machine at work: what each tool has left, and which member of each group cuts. */
class Machine {
  private readonly single = new Map<number, Standing>();
  private readonly groups: { of: NightGroup; inUse: number | null; members: Map<number, Standing> }[];

  constructor(question: NightQuestion) {
    const standing = ({ tool, life, flag }: NightTool): Standing => ({
      tool,
      left: life?.remaining ?? Infinity,
      before: life?.remaining ?? Infinity,
      limit: life?.limit ?? Infinity,
      basis: life?.basis ?? null,
      wear: life?.perPart ?? 0,
      flag,
    });
    for (const tool of question.tools) this.single.set(tool.tool, standing(tool));
    this.groups = question.groups.map((of) => ({
      of,
      inUse: of.inUse,
      // one that is called by its own T as well has one life, by whichever number it is called
      members: new Map(
        of.members.map((member) => [member.tool, this.single.get(member.tool) ?? standing(member)]),
      ),
    }));
  }

  /** Cuts one part, or says what it cannot be cut with; a tool that expires in it finishes it. */
  cut(program: NightProgram): { tool: number; why: NightWhy } | null {
    const cutting = new Map<Standing, CycleUse>();
    for (const { tool, use } of program.uses) {
      const group = this.groups.find(({ of }) => of.number === tool);
      const found = group ? this.ofGroup(group) : this.ofTool(tool);
      if ('why' in found) return { tool, why: found.why };
      // by its group and by its own T: one part of it
      cutting.set(found, together(cutting.get(found) ?? null, use)!);
    }
    for (const [at, use] of cutting) at.left -= perPart(at.basis, use, at.wear);
    return null;
  }

  /** The question with what its tools have left now. */
  asItStands(question: NightQuestion): NightQuestion {
    const now = <T extends NightTool>(tool: T, { left }: Standing): T =>
      tool.life ? { ...tool, life: { ...tool.life, remaining: left <= EPSILON ? 0 : left } } : tool;
    return {
      ...question,
      tools: question.tools.map((tool) => now(tool, this.single.get(tool.tool)!)),
      groups: this.groups.map(({ of, inUse, members }) => ({
        ...of,
        inUse,
        rules: rulesNow(of, inUse),
        members: of.members.map((member) => now(member, members.get(member.tool)!)),
      })),
    };
  }

  /** What each counted tool that cut has left. */
  lefts(): NightPlay['left'] {
    const all = new Set([
      ...this.single.values(),
      ...this.groups.flatMap(({ members }) => [...members.values()]),
    ]);
    return [...all].flatMap(({ tool, basis, limit, left, before }) =>
      basis === null || left === before ? [] : [{ tool, basis, limit, before, after: left }],
    );
  }

  private ofTool(tool: number): Standing | { why: NightWhy } {
    const at = this.single.get(tool);
    if (!at) return { why: 'missing' };
    if (at.flag === 'broken' || at.flag === 'locked') return { why: at.flag };
    return at.flag === 'expired' || spent(at) ? { why: 'expired' } : at;
  }

  private ofGroup(group: Machine['groups'][number]): Standing | { why: NightWhy } {
    const { of, members } = group;
    if (members.size === 0) return { why: 'missing' };
    if ([...members.values()].some(({ flag }) => flag === 'broken')) return { why: 'broken' };
    const now = of.members.map((member): GroupMember => {
      const { left, limit, basis } = members.get(member.tool)!;
      return {
        ...member,
        life: basis === null ? null : { basis, remaining: left <= EPSILON ? 0 : left, limit },
        use: { holes: 0, cutMilliseconds: 0, parts: 1 },
      };
    });
    const last = group.inUse === null ? null : members.get(group.inUse);
    if (!of.rules.spares && last && (spent(last) || last.flag !== null)) return { why: 'out' };
    const member = memberInUse(rulesNow(of, group.inUse), now, group.inUse);
    if (!member) return { why: 'out' };
    group.inUse = member.tool;
    return members.get(member.tool)!;
  }
}

/** Plays the pallets in an order, part by part, until the machine stops or all are done. */
export function playNight(question: NightQuestion, order: readonly number[]): NightPlay {
  const machine = new Machine(question);
  const steps: NightStep[] = [];
  let [at, parts] = [0, 0];
  for (const id of order) {
    const pallet = question.pallets.find((each) => each.id === id)!;
    if (pallet.isolated) continue;
    const program = question.programs.find((each) => each.program === pallet.program)!;
    const cut = pallet.cut ?? 0;
    if (cut >= pallet.parts) continue;
    const step: NightStep = { pallet: id, from: at, to: at, made: cut, stopped: null };
    steps.push(step);
    for (; step.made < pallet.parts; step.made += 1) {
      step.stopped = machine.cut(program);
      if (step.stopped) break;
      at += program.milliseconds;
      parts += 1;
    }
    step.to = at;
    if (step.stopped && question.school === 'stop')
      return { steps, stop: { at, pallet: id, ...step.stopped }, parts, to: at, left: machine.lefts() };
  }
  return { steps, stop: null, parts, to: at, left: machine.lefts() };
}

/**
 * The same night, so many parts later: what the first pallets of a program were cut with is used up, and they are cut as far. Nobody counts
 * every part, and a queue that is played from its first pallet tells the later of a tool the longer nobody counted.
 *
 * @param parts made since the tools' lives were counted
 * @returns the question as it stands, and how many of the parts that is: fewer where the machine must have stopped before
 */
export function nightSince(
  question: NightQuestion,
  program: string,
  parts: number,
): { question: NightQuestion; cut: number } {
  const machine = new Machine(question);
  const calls = question.programs.find((each) => each.program === program);
  let cut = 0;
  const pallets = question.pallets.map((pallet) => ({ ...pallet }));
  for (const pallet of pallets) {
    if (pallet.isolated) continue;
    // of what stands behind another program's pallet nobody knows that it was begun
    if (!calls || pallet.program !== program) break;
    for (pallet.cut ??= 0; pallet.cut < pallet.parts && cut < parts; pallet.cut += 1) {
      if (machine.cut(calls)) return { question: { ...machine.asItStands(question), pallets }, cut };
      cut += 1;
    }
  }
  return { question: { ...machine.asItStands(question), pallets }, cut };
}

export interface BestOrder {
  order: number[];
  play: NightPlay;
  /** No order makes more parts. */
  proven: boolean;
  /** Parts that no order exceeds, as far as is known. */
  most: number;
}

/** Parts played before a search is cut short, over all orders: about a second. */
const MOST_PLAYED = 500_000;

/**
 * The order in which most parts are made before anything stops; of equals the one nearest to the present order. Pallets of one program
 * and quantity are interchangeable: they are tried once. An order that runs through is the best there is.
 */
export function bestOrder(question: NightQuestion): BestOrder {
  const ids = question.pallets.filter(({ isolated }) => !isolated).map(({ id }) => id);
  let best = { order: ids, play: playNight(question, ids) };
  const most = mostParts(question);
  if (best.play.parts >= most) return { ...best, proven: true, most: best.play.parts };
  const like = new Map(
    question.pallets.map((pallet) => [pallet.id, `${pallet.program} ${toCut(pallet)}`] as const),
  );
  // what is begun is in the machine, and stays the first
  const begun = ids.filter((id) => (question.pallets.find((each) => each.id === id)!.cut ?? 0) > 0);
  let played = 0;
  const through = (order: number[], rest: number[]): boolean => {
    if (rest.length === 0) {
      const play = playNight(question, order);
      played += 1 + play.parts;
      if (play.parts > best.play.parts) best = { order: [...order], play };
      return best.play.parts >= most || played >= MOST_PLAYED;
    }
    const seen = new Set<string>();
    for (const id of rest) {
      if (seen.has(like.get(id)!)) continue;
      seen.add(like.get(id)!);
      if (
        through(
          [...order, id],
          rest.filter((each) => each !== id),
        )
      )
        return true;
    }
    return false;
  };
  through(
    begun,
    ids.filter((id) => !begun.includes(id)),
  );
  const proven = best.play.parts >= most || played < MOST_PLAYED;
  return { ...best, proven, most: proven ? best.play.parts : most };
}
