import { z } from 'zod';
import type { ControlTool } from '$core/formats/cutting-tools';
import { NEXT_RULES, playGroup, memberInUse, RENEWED_RULES, ROLES, type GroupMember } from '$core/life/group';
import { groupDid } from '$core/life/group-did';
import { lifeNumbers } from '$core/life/life-card';
import { may } from '$core/people/roles';
import { controlTools } from '$server/control-link';
import { shownLeft, unrecordedCycles } from '$server/counters';
import { pool } from '$server/db';
import {
  asSeen,
  groupsOf,
  initialiseGroup,
  keyedLives,
  playedBy,
  playing,
  readLives,
  removeGroup,
  writeGroup,
} from '$server/groups';
import { jobsOf } from '$server/jobs';
import { callsOf } from '$server/programs';
import { actAtMachine, id, ticked, whole, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ parent, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const [groups, jobs, held, cycles] = await Promise.all([
    groupsOf(db, machine.id),
    jobsOf(db, machine.id),
    controlTools(machine),
    unrecordedCycles(db, machine),
  ]);
  const running = jobs.find(({ state }) => state === 'running') ?? null;
  const calls = running ? await callsOf(db, running.programId) : [];
  const { role } = locals.person!;
  return {
    mayWrite: may(role, 'setLives'),
    mayKey: may(role, 'renewTools'),
    job: running && { number: running.number, togo: Math.max(0, running.quantity - running.made) },
    groups: groups.map((group) => {
      const use = calls.some((call) => call.tool === group.number);
      const parts = use ? Math.max(1, running!.quantity - running!.made) : Infinity;
      // a group that nothing running calls is played by pieces, or by what one hole or minute takes
      const members = use
        ? playedBy(group, groups, calls, running!.partsPerCycle)
        : playing(group, { holes: 1, cutMilliseconds: 60_000, parts: 1 });
      return {
        ...group,
        seen: asSeen(group),
        next: memberInUse(group.rules, members, group.inUse)?.tool ?? null,
        play: use ? playGroup(group.rules, members, group.inUse, parts) : null,
        did:
          use && held?.ok && cycles !== null
            ? groupDid({
                rules: group.rules,
                members,
                inUse: group.inUse,
                parts: cycles * running!.partsPerCycle,
                shown: shownOf(held.tools, members),
                expiry: machine.expiry,
              })
            : null,
        card: keyedLives(group).map((keyed) => ({
          ...keyed,
          ...lifeNumbers(keyed, machine.expiry),
          row: group.members.find(({ tool }) => tool === keyed.tool)!.lengthRows,
        })),
      };
    }),
  };
};

/** What the control shows as left of each member that is counted. */
const shownOf = (tools: readonly ControlTool[], members: readonly GroupMember[]) =>
  new Map(
    members.flatMap(({ tool, life }): [number, number][] => {
      const left =
        life &&
        shownLeft(
          tools.find((each) => each.tool === tool),
          life.basis,
        );
      return left === null ? [] : [[tool, left]];
    }),
  );

/** Rows as they are typed: whole numbers, parted as one likes. */
const rowsIn = (name: string) =>
  z
    .string()
    .max(60)
    .default('')
    .transform((text, context) => {
      const rows = text.split(/[\s,;]+/).filter(Boolean);
      if (rows.every((row) => /^\d{1,4}$/.test(row) && Number(row) > 0)) return rows.map(Number);
      context.addIssue({ code: 'custom', message: `${name} are whole numbers, such as 5 25.` });
      return z.NEVER;
    });

/** Members that one form may have. */
const MOST = 12;
const member = z.object({
  tool: whole('T of a member', 1, 99_999_999),
  role: z.enum(ROLES, { error: 'Choose original or spare.' }),
  length: rowsIn('Rows'),
  radius: rowsIn('D rows'),
});

export const actions: Actions = {
  write: actAtMachine(
    () =>
      z
        .object({
          group: z.string().regex(/^\d{0,9}$/),
          seen: z.string().max(4000).default(''),
          number: whole('The number of the group', 1, 99_999_999),
          purpose: z.string().trim().max(80, 'What it is for: up to 80 letters.').default(''),
          next: z.enum(NEXT_RULES, { error: 'Choose which member is taken next.' }),
          renewed: z.enum(RENEWED_RULES, { error: 'Choose what a renewed original does.' }),
          spares: ticked,
          initialise: ticked,
        })
        .catchall(z.string().max(60)),
    async ({ input, asking, on }) => {
      const members = [];
      for (let i = 0; i < MOST; i += 1) {
        const tool = input[`tool${i}`]?.trim() ?? '';
        if (tool === '') continue;
        const read = member.safeParse({
          tool,
          role: input[`role${i}`],
          // a row that is not said is the tool's own
          length: input[`length${i}`]?.trim() || tool,
          radius: input[`radius${i}`],
        });
        if (!read.success)
          return { ok: false, reason: read.error.issues.map(({ message }) => message).join(' ') };
        members.push({
          tool: read.data.tool,
          role: read.data.role,
          lengthRows: read.data.length,
          radiusRows: read.data.radius,
        });
      }
      const { number, purpose, next, renewed, spares, initialise } = input;
      return writeGroup(asking, on, {
        id: input.group === '' ? null : Number(input.group),
        seen: input.seen,
        group: { number, purpose, next, renewed, spares, initialise, members },
      });
    },
  ),
  remove: actAtMachine(
    () => z.object({ group: id }),
    ({ input, asking, on }) => removeGroup(asking, on, { id: input.group }),
  ),
  readBack: actAtMachine(
    () => z.object({ group: id }).catchall(z.string().max(60)),
    async ({ input, asking, on }) => {
      const shown = [];
      for (const [name, text] of Object.entries(input)) {
        const tool = /^left(\d{1,8})$/.exec(name)?.[1];
        if (!tool || String(text).trim() === '') continue;
        const value = Number(String(text).replace(',', '.').replace('−', '-'));
        if (!Number.isFinite(value))
          return { ok: false, reason: `T${tool}: type the number that the control shows.` };
        shown.push({ tool: Number(tool), value });
      }
      if (shown.length === 0)
        return { ok: false, reason: 'Type what the control shows, for one member at least.' };
      return readLives(asking, on, { id: input.group, shown });
    },
  ),
  initialise: actAtMachine(
    () => z.object({ group: id, tools: words('The members', 200) }),
    ({ input, asking, on }) =>
      initialiseGroup(asking, on, { id: input.group, tools: input.tools.split(' ').map(Number) }),
  ),
};
