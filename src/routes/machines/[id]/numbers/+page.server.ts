import { z } from 'zod';
import { mixedMethods } from '$core/length/transfer';
import { may } from '$core/people/roles';
import { parseLength } from '$core/units/parse-length';
import { lastEntry } from '$server/control-roads';
import { pool } from '$server/db';
import {
  lengthSince,
  rebase,
  rebaseTable,
  toolLengths,
  transferCard,
  transferLengths,
  type ReadRow,
} from '$server/lengths';
import { machineById, machines } from '$server/machines';
import { placesOf } from '$server/places';
import { foundTyped, registersOf } from '$server/registers';
import { act, actAtMachine, id, lengthIn, shownLength, words } from '../../../action';
import type { Actions, PageServerLoad } from './$types';

/** The rows with their registers: those in use, or all. */
async function offsetRows(machineId: number, all: boolean) {
  const [registers, places] = await Promise.all([
    registersOf(pool(), machineId),
    placesOf(pool(), machineId),
  ]);
  const tools = new Map(
    places.filter((place) => place.assembly).map((place) => [place.tool!, place.assembly!.number]),
  );
  const byRow = new Map<number, typeof registers>();
  for (const register of registers) byRow.set(register.row, [...(byRow.get(register.row) ?? []), register]);
  const rows = [...byRow].map(([row, cells]) => ({ row, tool: tools.get(row) ?? null, cells }));
  return {
    kinds: [...new Set(registers.map((register) => register.kind))],
    rows: all ? rows : rows.filter((row) => row.tool !== null || row.cells.some((cell) => cell.value !== 0)),
    all,
  };
}

export const load: PageServerLoad = async ({ parent, url, locals }) => {
  const { machine } = await parent();
  const db = pool();
  const mill = machine.kind === 'mill';
  const others = (await machines(db)).filter((each) => each.kind === 'mill' && each.id !== machine.id);
  const to = others.find((each) => String(each.id) === url.searchParams.get('to')) ?? null;
  const typed = url.searchParams.get('reference');
  const reference = typed === null ? null : parseLength(typed, machine.unit);
  const entry = await lastEntry(db);
  const seen = Number(/^\d{1,15}$/.exec(url.searchParams.get('seen') ?? '')?.[0] ?? entry);
  const lengths = mill ? await toolLengths(db, machine) : [];
  const { role } = locals.person!;
  return {
    others: others.map(({ id: otherId, name }) => ({ id: otherId, name })),
    lengths,
    mixed: mixedMethods(
      lengths.flatMap(({ tool, method, gaugeLength, own }) =>
        method && own && gaugeLength !== null ? [{ tool, method }] : [],
      ),
    ),
    to,
    card: mill && to ? await transferCard(db, machine, to) : [],
    reference: typed,
    entry,
    /** Up to which entry the table was shown that is being keyed, and who wrote a length since. */
    seen,
    lengthSince: typed === null ? null : await lengthSince(db, machine.id, seen),
    referenceProblem: reference && !reference.ok ? reference.reason : null,
    rebased:
      mill && reference?.ok && machine.lengthSchool !== 'gaugeLength'
        ? await rebaseTable(db, machine, reference.value)
        : null,
    turned: mill ? [] : await turned(machine.id),
    ...(await offsetRows(machine.id, url.searchParams.has('all'))),
    mayEdit: may(role, 'placeTools'),
    mayTransfer: may(role, 'measureTools'),
    mayRebase: may(role, 'editMachines'),
  };
};

/** A lathe's tools with the registers that say where the tip is and how it points. */
async function turned(machineId: number) {
  const db = pool();
  const [places, registers] = await Promise.all([placesOf(db, machineId), registersOf(db, machineId)]);
  return places.flatMap((place) => {
    if (!place.assembly || place.tool === null) return [];
    const value = (kind: string) =>
      registers.find((register) => register.row === place.tool && register.kind === kind)?.value ?? null;
    return [
      {
        station: place.number,
        tool: place.tool,
        number: place.assembly.number,
        name: place.assembly.name,
        x: value('xGeometry'),
        z: value('zGeometry'),
        noseRadius: value('noseRadius'),
        tip: Number(value('tipDirection') ?? 0),
      },
    ];
  });
}

export const actions: Actions = {
  found: actAtMachine(
    () =>
      z.object({
        register: id,
        before: shownLength,
        shown: z.string().trim().min(1, 'Type what the control shows.').max(60),
        why: words('The reason', 300),
      }),
    ({ input, asking, on }) =>
      foundTyped(asking, on, {
        registerId: input.register,
        before: input.before,
        shown: input.shown,
        why: input.why,
      }),
  ),
  transfer: act(z.looseObject({ to: id }), async ({ input, asking, event }) => {
    const to = await machineById(pool(), input.to);
    if (!to) return { ok: false, reason: 'There is no such machine.' };
    const read: ReadRow[] = [];
    for (const [name, value] of Object.entries(input)) {
      const tool = Number(/^shown\.(\d{1,4})$/.exec(name)?.[1]);
      if (!tool || typeof value !== 'string' || value.trim() === '') continue;
      const shown = parseLength(value, to.unit);
      if (!shown.ok) return { ok: false, reason: `T${tool}: ${shown.reason}` };
      const before = shownLength.safeParse(input[`before.${tool}`]);
      if (!before.success)
        return { ok: false, reason: `T${tool}: the form does not say what its row held. Look again.` };
      read.push({ tool, before: before.data, shown: shown.value });
    }
    if (read.length === 0)
      return { ok: false, reason: `Key the rows on ${to.name} first, then type back what it shows.` };
    return transferLengths(asking, Number(event.params.id), to.id, read);
  }),
  rebase: actAtMachine(
    ({ unit }) =>
      z.object({
        before: shownLength,
        entry: z.coerce.number().int().min(0),
        value: lengthIn(unit),
        why: words('The reason', 300),
        keyed: z.literal('yes', { error: 'Key the rows first, read them back, and tick that you did.' }),
      }),
    ({ input, asking, on }) =>
      rebase(asking, {
        machineId: on.id,
        before: input.before,
        value: input.value,
        why: input.why,
        entry: input.entry,
      }),
  ),
};
