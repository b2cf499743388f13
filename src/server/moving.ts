import {
  bySetUp,
  ofSetUp,
  carriedWear,
  edgesBegan,
  wearShares,
  type WearShares,
} from '../core/correction/carried-wear.ts';
import { registerProgram } from '../core/correction/register-text.ts';
import { movesOf, type Moves, type RegisterRole } from '../core/inspection/feature.ts';
import type { Elsewhere, ToolThere } from '../core/program/elsewhere.ts';
import type { Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { elsewhereOn } from './elsewhere.ts';
import { stateOf } from './edge-states.ts';
import { evidenceOf } from './evidence.ts';
import { transferCard, type TransferLine } from './lengths.ts';
import type { Machine } from './machines.ts';
import { placesOf, whereOn } from './places.ts';
import { featuresOf, featuresOn, programText, type Feature, type Program } from './programs.ts';
import { registersOf } from './registers.ts';

/** A wear register of the program, at home and there. */
export interface WearMoved {
  tool: number;
  row: number;
  kind: RegisterRole;
  /** The size by which it is judged. */
  size: string;
  held: Length;
  home: WearShares;
  away: WearShares;
  /** What the other machine's register holds now and is to begin with. */
  now: Length;
  there: Length;
  words: string;
}

export interface MovingSheet {
  found: Elsewhere;
  /** Tools that are carried over themselves; of the others another one serves, or one is to be built. */
  carried: number[];
  /** Tools that stay, since the spindle there does not take them: why, by T. */
  stay: Record<number, { number: string; why: string }>;
  /** Carried tools whose T another tool stands under there, by that tool's number: nothing of their rows is keyed until it is free. */
  taken: Record<number, string>;
  lengths: TransferLine[];
  wears: WearMoved[];
  keyText: string[] | null;
}

/** Whether nothing else serves for a T than the very tool that cuts at home. */
const isWanted = ({ state, serves }: ToolThere, number: string, home: string) =>
  state === 'none' || state === 'unknown' || (state === 'elsewhere' && serves === `${number} in ${home}`);

/** A job that moves from its machine to another, as one sheet: its tools, their lengths, what of the wear goes with them, what to key. */
export async function movingSheet(
  db: Db,
  program: Program,
  home: Machine,
  to: Machine,
): Promise<MovingSheet> {
  const found = await elsewhereOn(db, program, home, to, await programText(db, program.id));
  const standing = await placesOf(db, home.id);
  const wanted = found.tools.flatMap((each) => {
    const assembly = standing.find(({ tool }) => tool === each.tool)?.assembly;
    return assembly && isWanted(each, assembly.number, home.name) ? [{ tool: each.tool, assembly }] : [];
  });
  const stay = Object.fromEntries(
    wanted.flatMap(({ tool, assembly }) => {
      const { verdict, reasons } = whereOn(to, assembly);
      return verdict === 'notAtAll' ? [[tool, { number: assembly.number, why: reasons.join(', ') }]] : [];
    }),
  ) as MovingSheet['stay'];
  const carried = wanted.flatMap(({ tool }) => (stay[tool] === undefined ? [tool] : []));
  const lengths =
    home.kind === 'mill'
      ? (await transferCard(db, home, to)).filter(({ tool }) => carried.includes(tool))
      : [];
  const [here, there] = await Promise.all([registersOf(db, home.id), registersOf(db, to.id)]);
  const wears: WearMoved[] = [];
  for (const feature of await featuresOf(db, home.id, program.number))
    for (const { tool, row, role } of movesOf(feature, home)) {
      if (wears.some((each) => each.row === row && each.kind === role)) continue;
      const held = here.find((each) => each.row === row && each.kind === role);
      const target = there.find((each) => each.row === row && each.kind === role);
      if (!held || !target) continue;
      const [own, other] = [
        await sharesOn(db, home, [feature], { row, role }, 'this set-up'),
        await sharesOn(db, to, await featuresOn(db, to.id), { row, role }, 'any set-up'),
      ];
      wears.push({
        tool,
        row,
        kind: role,
        size: feature.name,
        held: held.value,
        home: own,
        away: other,
        now: target.value,
        ...carriedWear(held.value, own, other, carried.includes(tool), to.increment),
      });
    }
  const taken = Object.fromEntries(
    (
      await rows<{ tool: number; number: string }>(
        db,
        'SELECT s.tool, a.number FROM placement s JOIN assembly a ON a.id = s.assembly_id WHERE s.machine_id = $1 AND s.tool = ANY($2)',
        [to.id, carried],
      )
    ).map(({ tool, number }) => [tool, number]),
  );
  const free = wears.filter(({ tool }) => taken[tool] === undefined);
  return { found, carried, stay, taken, lengths, wears, keyText: keyText(to, lengths, free) };
}

/** How the edges of a row began on a machine, by the first of these sizes that it alone moves; in the set-up that stands, or in all that there were. */
async function sharesOn(
  db: Db,
  machine: Machine,
  features: readonly Feature[],
  { row, role }: Pick<Moves, 'row' | 'role'>,
  which: 'this set-up' | 'any set-up',
): Promise<WearShares> {
  const feature = features.find((each) => {
    const moves = movesOf(each, machine);
    return moves.length === 1 && moves[0]!.row === row && moves[0]!.role === role;
  });
  if (!feature) return wearShares([]);
  const evidence = await evidenceOf(db, machine, feature);
  const size = evidence.features.findIndex(({ id }) => id === feature.id);
  const own = evidence.sizes[size]!.moves[0];
  if (!own) return wearShares([]);
  const setUps = evidence.setUps.filter((each) => each.size === size).map(({ at }) => at);
  const began = edgesBegan(
    evidence.readings.flatMap(({ size: of, at, measured, held }) =>
      of === size && held !== null
        ? [{ at, deviation: measured - evidence.sizes[size]!.target, held: held[own.register]! }]
        : [],
    ),
    evidence.edges.filter(({ register }) => register === own.register).map(({ at }) => at),
    setUps,
    own.by,
    stateOf(evidence).sizes[size]!.noise,
  );
  return wearShares(which === 'this set-up' ? ofSetUp(began, setUps.length) : bySetUp(began));
}

function keyText(
  to: Machine,
  lengths: readonly TransferLine[],
  wears: readonly WearMoved[],
): string[] | null {
  const changes = [
    ...lengths
      .filter(({ takenBy, blocked }) => takenBy === null && blocked === null)
      .map(({ tool, before, after }) => ({
        registerKind: 'lengthGeometry',
        row: tool,
        from: before,
        to: after,
      })),
    ...wears.map(({ kind, row, now, there }) => ({ registerKind: kind, row, from: now, to: there })),
  ].filter(({ from, to: after }) => from !== after);
  return changes.length === 0 ? null : registerProgram(to.dialect, to.unit, changes);
}
