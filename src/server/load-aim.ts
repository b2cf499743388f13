import { INTERFACES, widestOf } from '../core/assembly/silhouette.ts';
import { hangingRadius } from '../core/changer/clearance.ts';
import { comesOut } from '../core/changer/load-held.ts';
import type { PlaceRow } from '../core/changer/place.ts';
import { noArmWords } from '../core/changer/where.ts';
import { traitsOf } from '../core/changer/traits.ts';
import { orientationOf, type Wanted, type WantedTool } from '../core/changer/wanted.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { assembliesOf, type Assembly } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { isHeavy } from './magazines.ts';
import { shapeOf, type Machine } from './machines.ts';
import { bearingOf, whereOn } from './places.ts';

/**
 * What a load plan wants, as its tools are by now: one may have been built anew, have broken or have gone into another machine since the plan
 * was made. What the plate says of each, and of all together, is asked here as it is when a tool is put in.
 */
export async function aimNow(
  db: Db,
  machine: Machine,
  places: readonly PlaceRow[],
  wanted: Wanted,
): Promise<Wanted> {
  const ids = wanted.tools.flatMap(({ assemblyId }) => assemblyId ?? []);
  const known = new Map((await assembliesOf(db, ids)).map((each) => [each.id, each]));
  const shape = shapeOf(machine);
  const at = new Map(places.flatMap((place) => (place.assembly ? [[place.assembly.id, place]] : [])));
  const noRow = await withoutRow(
    db,
    machine,
    wanted.tools.map(({ tool }) => tool),
  );
  const tools = wanted.tools.map((wish): WantedTool => {
    if (wish.assemblyId === null) return wish;
    const assembly = known.get(wish.assemblyId);
    if (!assembly) return { ...wish, kept: { loading: `${wish.number} is no longer there.`, pocket: null } };
    const place = at.get(assembly.id);
    const stays = place?.number === wish.pocket && place.tool === wish.tool;
    const alone = !stays && whereOn(machine, assembly).verdict === 'neighboursEmpty';
    return {
      ...wish,
      number: assembly.number,
      name: assembly.name,
      radius: hangingRadius(shape, assembly),
      wide: wish.wide || alone,
      heavy: wish.heavy || isHeavy(machine, assembly),
      orientation: orientationOf(assembly.kind),
      kept: {
        loading: noRow.has(wish.tool)
          ? `${machine.name} has no offset row ${wish.tool}, and no program reads another for T${wish.tool}: nothing could be measured into it. Choose another T.`
          : loadingRefusal(machine, places, wish, assembly),
        pocket: pocketRefusal(machine, places, wish, assembly),
      },
    };
  });
  return { ...wanted, tools: borneTogether(machine, places, { ...wanted, tools }, known) };
}

/** Those T that have no row of their own, and none that a program reads for them. */
async function withoutRow(db: Db, machine: Machine, tools: readonly number[]): Promise<Set<number>> {
  const found = await rows<{ tool: number }>(
    db,
    `SELECT row AS tool FROM register WHERE machine_id = $1 AND row = ANY($2)
     UNION SELECT tool FROM tool_row WHERE machine_id = $1 AND tool = ANY($2)`,
    [machine.id, tools],
  );
  const without = new Set(tools);
  for (const { tool } of found) without.delete(tool);
  return without;
}

/** Why an assembly may not be loaded, whatever stands in the magazine. */
function loadingRefusal(
  machine: Machine,
  places: readonly PlaceRow[],
  { tool, pocket }: WantedTool,
  assembly: Assembly,
): string | null {
  if (assembly.flag === 'broken')
    return `${assembly.number} is flagged broken: inspect, replace and clear the flag before it goes into a machine.`;
  if (assembly.machineId !== null && assembly.machineId !== machine.id)
    return `${assembly.number} stands in ${assembly.machine}.`;
  if (assembly.interface !== machine.interface)
    return `${assembly.number} has a ${INTERFACES[assembly.interface].words} end; ${machine.name} takes ${INTERFACES[machine.interface].words}.`;
  const where = whereOn(machine, assembly);
  return where.verdict === 'byHand' && traitsOf(shapeOf(machine)).hangs
    ? `${noArmWords({ comes: false, reasons: where.reasons.join(', ') }, `T${tool} (${assembly.number})`)} It is loaded into the spindle by hand, and taken out by hand.`
    : pocketRefusal(machine, places, { tool, pocket }, assembly);
}

/** Why an assembly may not stand in the pocket it is wanted in. */
function pocketRefusal(
  machine: Machine,
  places: readonly PlaceRow[],
  wish: Pick<WantedTool, 'pocket' | 'tool'>,
  assembly: Assembly,
): string | null {
  const place = places.find(({ kind, number }) => kind === 'pocket' && number === wish.pocket);
  if (place?.reserved && assembly.kind !== 'probe') return `Pocket ${place.number} is reserved.`;
  return place && place.cell !== null && widestOf(assembly) > place.cell
    ? `Pocket ${place.number} takes holders up to ${formatWithUnit(place.cell, machine.unit)}, and ${assembly.number} is ${formatWithUnit(widestOf(assembly), machine.unit)} across.`
    : null;
}

/** What the changer bears as a whole (H5): what would be too much in the order in which it is loaded is kept out. */
function borneTogether(
  machine: Machine,
  places: readonly PlaceRow[],
  { tools, out }: Wanted,
  known: ReadonlyMap<number, Assembly>,
): WantedTool[] {
  const shape = shapeOf(machine);
  const pockets = places.filter(({ kind }) => kind === 'pocket');
  const standing = places.flatMap((place) => {
    const wish = tools.find(({ assemblyId }) => assemblyId === place.assembly?.id);
    const goes =
      !place.assembly ||
      out.includes(place.assembly.id) ||
      comesOut({ shape, pockets }, wish, { tool: place.tool! }, place.kind === 'spindle' ? 0 : place.number);
    return goes ? [] : [{ number: place.number, tool: place.tool, assembly: place.assembly }];
  });
  const borne: Parameters<typeof bearingOf>[1][number][] = [...standing];
  const refused = new Map<WantedTool, string>();
  const inside = new Set(standing.map(({ assembly }) => assembly!.id));
  for (const wish of [...tools].sort((a, b) => Number(b.wide) - Number(a.wide) || a.tool - b.tool)) {
    const assembly = known.get(wish.assemblyId ?? 0);
    if (!assembly || inside.has(assembly.id) || wish.kept?.loading) continue;
    const one = { number: wish.pocket, tool: wish.tool, assembly };
    const before = bearingOf(machine, borne).over;
    const over = bearingOf(machine, [...borne, one]).over.find((sentence) => !before.includes(sentence));
    if (over === undefined) borne.push(one);
    else refused.set(wish, over);
  }
  return tools.map((wish) => {
    const over = refused.get(wish);
    return over === undefined
      ? wish
      : { ...wish, kept: { loading: `T${wish.tool} (${wish.number}): ${over}`, pocket: null } };
  });
}
