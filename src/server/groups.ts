import type { Flag } from '../core/life/flag.ts';
import { cycleUse, ownUse, type CycleUse, type LifeBasis } from '../core/life/count.ts';
import {
  playGroup,
  type GroupMember,
  type GroupRules,
  type MemberRole,
  type StandingGroup,
} from '../core/life/group.ts';
import { groupFaults, type WrittenGroup } from '../core/life/group-check.ts';
import { explainLife, type LifeKeyed } from '../core/life/life-card.ts';
import type { ToolCall } from '../core/program/reading.ts';
import type { AskedGroup } from '../core/readiness/question.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, rows, type Db } from './db.ts';
import { gathered } from './gather.ts';
import { append } from './ledger.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export type Group = StandingGroup;

const groupRows = gathered((db, ids: readonly number[]) =>
  rows<Omit<Group, 'members' | 'rules'> & GroupRules & { of: number }>(
    db,
    `SELECT machine_id AS "of", id, number, purpose, next, renewed, spares, initialise, in_use AS "inUse" FROM tool_group WHERE machine_id = ANY($1) ORDER BY number`,
    [ids],
  ),
);
const memberRows = gathered((db, ids: readonly number[]) =>
  rows<{
    of: number;
    groupId: number;
    tool: number;
    role: MemberRole;
    lengthRows: number[];
    radiusRows: number[];
    fresh: boolean;
    id: number | null;
    number: string;
    name: string;
    flag: Flag | null;
    basis: LifeBasis | null;
    remaining: number;
    limit: number;
    perPart: number | null;
  }>(
    db,
    `SELECT g.machine_id AS "of", g.group_id AS "groupId", g.tool, g.role, g.length_rows AS "lengthRows", g.radius_rows AS "radiusRows", g.fresh,
            a.id, a.number, a.name, a.flag, c.basis, c.value AS remaining, c.full_life AS limit, c.per_part AS "perPart"
     FROM group_member g LEFT JOIN placement s ON s.machine_id = g.machine_id AND s.tool = g.tool LEFT JOIN assembly a ON a.id = s.assembly_id
       LEFT JOIN life_counter c ON c.assembly_id = a.id
     WHERE g.machine_id = ANY($1) ORDER BY g.ord`,
    [ids],
  ),
);

/** The groups of a machine, members in their order. */
export async function groupsOf(db: Db, machineId: number): Promise<Group[]> {
  const groups = await groupRows(db, machineId);
  if (groups.length === 0) return [];
  const members = await memberRows(db, machineId);
  return groups.map(({ next, renewed, spares, ...group }) => ({
    ...group,
    rules: { next, renewed, spares },
    members: members
      .filter(({ groupId }) => groupId === group.id)
      .map(
        ({
          tool,
          role,
          lengthRows,
          radiusRows,
          fresh,
          id,
          number,
          name,
          flag,
          basis,
          remaining,
          limit,
          perPart,
        }) => ({
          tool,
          role,
          lengthRows,
          radiusRows,
          unkeyed: fresh,
          fresh: fresh && group.initialise,
          assembly:
            id === null
              ? null
              : {
                  id,
                  number,
                  name,
                  flag,
                  life: basis === null ? null : { basis, remaining, limit, perPart },
                },
        }),
      ),
  }));
}

/** The tools that are meant by a T of a program: the members of the group of that number, or the tool itself. */
export const meantBy = (
  groups: readonly { number: number; members: readonly { tool: number }[] }[],
  tool: number,
): number[] => groups.find(({ number }) => number === tool)?.members.map((member) => member.tool) ?? [tool];

/** A group as readiness asks for it. */
export const askedGroup = ({ number, purpose, rules, inUse, members }: Group): AskedGroup => ({
  number,
  purpose,
  rules,
  inUse,
  members,
});

/** The members that stand in the machine, as the machine's rule is played with them. */
export const playing = (
  group: Group,
  use: GroupMember['use'],
  alone: (tool: number) => CycleUse | null = () => null,
): GroupMember[] =>
  group.members.flatMap(({ assembly, ...member }) =>
    assembly ? [{ ...member, life: assembly.life, flag: assembly.flag, use, alone: alone(member.tool) }] : [],
  );

/** The same, as a program calls them: by the group, and those that it calls by their own T by that as well. */
export const playedBy = (
  group: Group,
  groups: readonly { number: number }[],
  calls: readonly ToolCall[],
  partsPerCycle: number,
): GroupMember[] =>
  playing(group, cycleUse(calls, group.number, partsPerCycle), (tool) =>
    ownUse(calls, tool, partsPerCycle, groups),
  );

/**
 * Shares parts that were made out among the members, by the machine's rule. Parts beyond what the group should have lasted were cut
 * all the same: they count against the one that cut last.
 */
export function shareOut(group: Group, members: readonly GroupMember[], parts: number) {
  const { runs, stopsAfter } = playGroup(group.rules, members, group.inUse, parts);
  const shares = runs.map(({ tool, from, to }) => ({ tool, from, parts: to - from + 1 }));
  const beyond = stopsAfter === null ? 0 : parts - stopsAfter;
  if (beyond > 0) {
    const last = shares.at(-1);
    if (last) last.parts += beyond;
    else {
      const tool = (members.find((each) => each.tool === group.inUse) ?? members[0])?.tool;
      if (tool !== undefined) shares.push({ tool, from: 1, parts });
    }
  }
  return shares;
}

export interface GroupWritten {
  /** Null: a new one. */
  id: number | null;
  group: WrittenGroup;
  /** The group as the page showed it, where it is changed. */
  seen: string;
}

/** How a group is compared with what a page showed of it. */
export const asSeen = ({ number, purpose, rules, initialise, members }: Group) =>
  JSON.stringify([
    number,
    purpose,
    rules.next,
    rules.renewed,
    rules.spares,
    initialise,
    members.map(({ tool, role, lengthRows, radiusRows }) => [tool, role, lengthRows, radiusRows]),
  ]);

/** Writes a group down, or changes it. Members that were in it as they are keep what the control knows of them. */
export function writeGroup(asking: Asking, machine: Machine, written: GroupWritten) {
  return once(asking, 'writeGroup', { machineId: machine.id, ...written }, async (db) => {
    await lockMachine(db, machine.id);
    const groups = await groupsOf(db, machine.id);
    const old = groups.find(({ id }) => id === written.id);
    if (written.id !== null && !old) throw new Refused('This group was removed meanwhile.');
    if (old && asSeen(old) !== written.seen)
      throw new Refused('Somebody changed this group meanwhile. Look at it again, then change it.');
    const { group } = written;
    const rowsThere = await rows<{ row: number }>(
      db,
      'SELECT DISTINCT row FROM register WHERE machine_id = $1',
      [machine.id],
    );
    const faults = groupFaults(group, {
      ...machine,
      rows: rowsThere.map((each) => each.row),
      others: groups
        .filter(({ id }) => id !== written.id)
        .map(({ number, members }) => ({ number, tools: members.map(({ tool }) => tool) })),
    });
    if (faults.length > 0) throw new Refused(faults.slice(0, 5).join(' '));
    const fields = [
      group.number,
      group.purpose.trim(),
      group.next,
      group.renewed,
      group.spares,
      group.initialise,
    ];
    if (old)
      await db.query(
        'UPDATE tool_group SET number = $2, purpose = $3, next = $4, renewed = $5, spares = $6, initialise = $7 WHERE id = $1',
        [old.id, ...fields],
      );
    const id =
      old?.id ??
      (await row<{ id: number }>(
        db,
        `INSERT INTO tool_group (machine_id, number, purpose, next, renewed, spares, initialise) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id`,
        [machine.id, ...fields],
      ))!.id;
    await db.query('DELETE FROM group_member WHERE group_id = $1', [id]);
    for (const [i, member] of group.members.entries()) {
      const before = old?.members.find(({ tool }) => tool === member.tool);
      const same =
        before?.role === member.role &&
        String(before.lengthRows) === String(member.lengthRows) &&
        String(before.radiusRows) === String(member.radiusRows);
      await db.query(
        `INSERT INTO group_member (group_id, machine_id, tool, ord, role, length_rows, radius_rows, fresh) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
        [
          id,
          machine.id,
          member.tool,
          i + 1,
          member.role,
          member.lengthRows,
          member.radiusRows,
          same ? before.unkeyed : true,
        ],
      );
    }
    const tools = group.members.map(({ tool }) => `T${tool}`).join(', ');
    await append(
      db,
      entry.machine('group', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Group ${group.number} of ${machine.name}${group.purpose.trim() ? ` (${group.purpose.trim()})` : ''} ${old ? 'is now' : 'was made of'} ${tools}.`,
        detail: { group: group.number },
      }),
    );
    return { id };
  });
}

/** Takes a group apart; its tools stay where they are. */
export function removeGroup(asking: Asking, machine: Machine, given: { id: number }) {
  return once(asking, 'removeGroup', { machineId: machine.id, ...given }, async (db) => {
    const group = await held(db, machine, given.id);
    await db.query('DELETE FROM tool_group WHERE id = $1', [group.id]);
    await append(
      db,
      entry.machine('groupRemoved', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Group ${group.number} of ${machine.name} was taken apart.`,
        detail: { group: group.number },
      }),
    );
  });
}

/** The group, with the machine held: whoever acts at the same time waits and then sees what was done. */
async function held(db: Db, machine: Machine, id: number): Promise<Group> {
  await lockMachine(db, machine.id);
  const group = (await groupsOf(db, machine.id)).find((each) => each.id === id);
  if (!group) throw new Refused('This group was removed meanwhile.');
  return group;
}

/** What is to be keyed of a group: its members that are there and are counted. */
export const keyedLives = (group: Group): LifeKeyed[] =>
  group.members.flatMap(({ tool, assembly }) =>
    assembly?.life
      ? [{ tool, basis: assembly.life.basis, remaining: assembly.life.remaining, limit: assembly.life.limit }]
      : [],
  );

export interface LivesShown {
  id: number;
  /** The number left that the control shows for each T. */
  shown: { tool: number; value: number }[];
}
export interface LifeAnswer {
  tool: number;
  kept: boolean;
  said: string;
}

/** Takes what the control shows for members after their lives were keyed: what is right is kept, of the rest the slip is named. */
export function readLives(asking: Asking, machine: Machine, given: LivesShown) {
  return once(asking, 'readLives', { machineId: machine.id, ...given }, async (db) => {
    const group = await held(db, machine, given.id);
    const lives = keyedLives(group);
    const answers = given.shown.map(({ tool, value }): LifeAnswer => {
      const keyed = lives.find((each) => each.tool === tool);
      if (!keyed) throw new Refused(`T${tool} changed meanwhile. Look at the card again.`);
      const read = explainLife(value, keyed, machine.expiry, lives);
      return read.matches ? { tool, kept: true, said: '' } : { tool, kept: false, said: read.reason };
    });
    const right = answers.filter(({ kept }) => kept).map(({ tool }) => tool);
    if (right.length > 0)
      await append(
        db,
        entry.machine('groupKeyed', {
          personId: asking.personId,
          machineId: machine.id,
          said: `Lives of group ${group.number} were keyed and read back: ${right
            .map((tool) => `T${tool} ${given.shown.find((each) => each.tool === tool)!.value}`)
            .join(', ')}.`,
          detail: { group: group.number, tools: right },
        }),
      );
    // where nothing is to be initialised, what was read back is what the control counts by
    if (!group.initialise)
      await db.query('UPDATE group_member SET fresh = false WHERE group_id = $1 AND tool = ANY($2)', [
        group.id,
        right,
      ]);
    return answers;
  });
}

/** The group was initialised on the control, with the lives that the card asks for: what is new is taken up. */
export function initialiseGroup(asking: Asking, machine: Machine, given: { id: number; tools: number[] }) {
  return once(asking, 'initialiseGroup', { machineId: machine.id, ...given }, async (db) => {
    const group = await held(db, machine, given.id);
    const fresh = group.members.filter((each) => each.fresh).map(({ tool }) => tool);
    if (fresh.length === 0) throw new Refused('Nothing of this group is new to the control.');
    // somebody renewed another one while this page was open: its life was not read back
    if (fresh.some((tool) => !given.tools.includes(tool)))
      throw new Refused('Another member has new data meanwhile. Look at the card again.');
    await db.query('UPDATE group_member SET fresh = false WHERE group_id = $1', [group.id]);
    await append(
      db,
      entry.machine('groupInitialised', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Group ${group.number} was initialised on ${machine.name}: it has taken up ${fresh.map((tool) => `T${tool}`).join(', ')}.`,
        detail: { group: group.number, tools: fresh },
      }),
    );
  });
}
