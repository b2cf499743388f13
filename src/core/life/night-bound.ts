import { isExpired, takenByPart } from './count.ts';
import type { GroupMember } from './group.ts';
import type { NightProgram, NightQuestion, NightTool, Pallet } from './night.ts';

/** Parts of a pallet that are still to be cut. */
export const toCut = ({ parts, cut, isolated }: Pallet) => (isolated ? 0 : parts - (cut ?? 0));

const EPSILON = 1e-9;

/**
 * Parts that no order of the pallets exceeds: of each tool, or group, those that do not call it, and of the others as many as its members
 * can cut if each cuts those that take least of it. What expires in the cut finishes its part.
 */
export function mostParts(question: NightQuestion): number {
  const parts = new Map<NightProgram, number>();
  for (const pallet of question.pallets) {
    const program = question.programs.find((each) => each.program === pallet.program)!;
    parts.set(program, (parts.get(program) ?? 0) + toCut(pallet));
  }
  const whole = [...parts.values()].reduce((sum, each) => sum + each, 0);
  const tools = new Set([...parts.keys()].flatMap(({ uses }) => uses.map(({ tool }) => tool)));
  return Math.min(
    whole,
    ...[...tools].map((tool) => {
      const calls = [...parts].flatMap(([{ uses }, count]) => {
        const call = uses.find((each) => each.tool === tool);
        return call ? [{ use: call.use, count }] : [];
      });
      const called = calls.reduce((sum, { count }) => sum + count, 0);
      const group = question.groups.find(({ number }) => number === tool);
      const members = group?.members ?? question.tools.filter((each) => each.tool === tool);
      const can = members.some(({ flag }) => flag === 'broken')
        ? 0
        : members.reduce((sum, member) => sum + mostBy(member, calls), 0);
      return whole - called + Math.min(called, can);
    }),
  );
}

/** The most parts that one member cuts: all but the last of them take less than it has left. */
function mostBy(
  member: NightTool & Pick<GroupMember, 'fresh'>,
  calls: readonly { use: Parameters<typeof takenByPart>[1]; count: number }[],
): number {
  const { life, flag, fresh } = member;
  if (flag !== null || fresh || (life && isExpired(life.remaining))) return 0;
  if (life === null) return Infinity;
  const each = calls
    .map(({ use, count }) => ({ takes: takenByPart(life.basis, use, life.perPart ?? 0), count }))
    .sort((a, b) => a.takes - b.takes);
  let [left, made] = [life.remaining, 0];
  for (const { takes, count } of each) {
    const fit = takes <= 0 ? count : Math.min(count, Math.ceil((left - EPSILON) / takes));
    made += fit;
    left -= fit * takes;
    if (left <= EPSILON) break;
  }
  return made;
}
