import {
  cutWhen,
  heldFor,
  positionsOf,
  seriesOf,
  type Change,
  type CutPart,
  type RegisterMove,
} from '../core/correction/cut-with.ts';
import type { ModelEdge, ModelSetUp } from '../core/correction/edge-state.ts';
import { gapsOf } from '../core/correction/gaps.ts';
import { onePart, type OneReading, type TypedReading } from '../core/correction/one-part.ts';
import type { JudgedReading, JudgedRegister, JudgedSize } from '../core/correction/judge-question.ts';
import { setUpsOf } from '../core/correction/set-ups.ts';
import { movesOf, toleranceWidth, type Moves } from '../core/inspection/feature.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import type { Length } from '../core/units/length.ts';
import type { Db } from './db.ts';
import {
  READINGS,
  entriesOf,
  heldBy,
  locksOf,
  readingsOf,
  type EntryRow,
  type ReadingRow,
} from './evidence-rows.ts';
import type { Machine } from './machines.ts';
import { calledGroups, cutBy, groupsOfFeature, whoCut, type CalledGroup } from './members.ts';
import { featuresOn, type Feature } from './programs.ts';
import { begunAnew } from './set-ups.ts';

export interface Evidence {
  /** Sizes that share rows with the one asked for, itself among them. */
  features: Feature[];
  sizes: JudgedSize[];
  registers: (JudgedRegister & { id: number })[];
  /** One for each part; the id is of the reading that was typed last of it, and `typed` are all of them. */
  readings: (JudgedReading & { id: number; typed: readonly Length[] })[];
  edges: ModelEdge[];
  setUps: ModelSetUp[];
  /** Corrections that were keyed since the first of the readings. */
  keyed: Keyed[];
  /** All moves of the rows since then, in the order of the entries, with where they lie in the row of parts. */
  moved: Moved[];
  /** Position of the next part. */
  next: number;
  /** Parts between two readings, as they are felt by a drift; and as they are said. */
  every: number;
  measured: number;
}

/** A move of a row, or a new edge in it (`anew`, which may move nothing). */
export interface Moved {
  entry: number;
  register: number;
  from: Length;
  to: Length;
  anew: boolean;
  /** Nobody knows who set it by hand. */
  found: boolean;
  at: number;
}

export interface Keyed {
  proposalId: number;
  register: number;
  from: Length;
  to: Length;
  /** Readings of parts that were cut after it, by their place, and those that were cut with the same set-up as well; and whether the row's edge is still the same. */
  since: number[];
  tells: number[];
  sameEdge: boolean;
}

const GEOMETRY: Readonly<Record<string, string>> = {
  xWear: 'xGeometry',
  zWear: 'zGeometry',
  lengthWear: 'lengthGeometry',
  cutterWear: 'cutterGeometry',
};

/** Sizes that touch each other by the rows they answer to, starting from one. */
function together(
  features: readonly Feature[],
  machine: Machine,
  from: Feature,
): { feature: Feature; moves: Moves[] }[] {
  const all = features.map((feature) => ({ feature, moves: movesOf(feature, machine) }));
  const found = all.filter(({ feature }) => feature.id === from.id);
  const name = ({ row, role }: Moves) => `${row} ${role}`;
  const touched = new Set(found.flatMap(({ moves }) => moves.map(name)));
  for (let before = -1; before !== found.length;) {
    before = found.length;
    for (const each of all)
      if (!found.includes(each) && each.moves.some((moves) => touched.has(name(moves)))) {
        found.push(each);
        for (const moves of each.moves) touched.add(name(moves));
      }
  }
  return found;
}

/**
 * The sizes of a machine as they are cut when the tools of one of them cut: where a program calls a group, the member that the size
 * is asked for with, and of other groups the one that cuts next.
 */
async function asCut(db: Db, machine: Machine, feature: Feature) {
  const features = await featuresOn(db, machine.id);
  const groups = await calledGroups(db, machine.id);
  const own = groupsOfFeature(groups, feature);
  const ends = [feature.tool, feature.other?.tool];
  const chosen = (group: CalledGroup) => {
    const named = own.includes(group) && group.members.find(({ tool }) => ends.includes(tool));
    return named ? named.tool : group.next;
  };
  return {
    groups,
    chosen,
    features: features.flatMap((each) => {
      const cut = cutBy(each, groups, chosen);
      return cut ? [cut] : each.id === feature.id ? [feature] : [];
    }),
  };
}

/**
 * All that is known about the rows a size answers to: the sizes they cut, on whatever program; their readings, each with what its
 * part was cut with; and where an edge or a row began anew. Questioned readings are left out, and those of parts that another
 * member of its tool's group cut: they tell of another edge.
 */
export async function evidenceOf(db: Db, machine: Machine, feature: Feature): Promise<Evidence> {
  const cut = await asCut(db, machine, feature);
  const group = together(cut.features, machine, feature);
  const features = group.map((each) => each.feature);
  const names = [
    ...new Map(
      group.flatMap(({ moves }) => moves).map((moves) => [`${moves.row} ${moves.role}`, moves]),
    ).values(),
  ];
  const held = await heldBy(
    db,
    JSON.stringify([machine.id, names.map(({ row }) => row), names.map(({ role }) => role)]),
  );
  // the size's own row first: where two rows would serve alike, it is the one that is moved
  const order = new Map(names.map(({ row, role }, i) => [`${row} ${role}`, i]));
  held.sort((a, b) => order.get(`${a.row} ${a.kind}`)! - order.get(`${b.row} ${b.kind}`)!);
  const index = new Map(held.map(({ row, kind }, i) => [`${row} ${kind}`, i]));
  const ids = held.map(({ id }) => id);
  const typed = await readingsOf(db, JSON.stringify([features.map(({ id }) => id)]));
  const every = partsOf(typed, features);
  const { read, unsure } = await ofThisEdge(db, every, features, cut);
  const tools = [...new Set(group.flatMap(({ moves }) => moves.map(({ tool }) => tool)))];
  // what changed before the first of these readings was typed, and before their jobs began, is in what the rows held then; where older
  // readings are left out, the first of these is one of many
  const partly = features.some(({ id }) => typed.filter((each) => each.featureId === id).length >= READINGS);
  const jobs = partly ? [] : [...new Set(read.flatMap(({ jobId }) => jobId ?? []))];
  const since = read[0]?.entry;
  const entries = await entriesOf(
    db,
    JSON.stringify([machine.id, held.map(({ row }) => row), tools, jobs, since ?? 0]),
  );
  const change = (each: EntryRow): Change => ({ entry: each.entry, cut: each.cut, jobs: each.jobs ?? 0 });
  const moves = ids.map((id) =>
    entries
      .filter((each) => each.registerId === id)
      .map((each): RegisterMove => ({
        ...change(each),
        before: each.before!,
        after: each.after!,
        found: each.stage === 'found',
      })),
  );
  const parts = read.map((each): CutPart => ({
    series: each.series,
    part: each.part,
    entry: each.entry,
    recut: each.recut,
  }));
  const positions = positionsOf(parts);
  const begins = edgesOf(entries, held, group);
  const edges = begins.flatMap(({ register, entry }): ModelEdge[] => {
    const when = parts.map((part) => cutWhen(part, change(entry)));
    when.forEach((each, i) => {
      const own = group.find((other) => other.feature.id === read[i]!.featureId)!;
      if (each === 'unknown' && own.moves.some((m) => index.get(`${m.row} ${m.role}`) === register))
        unsure.add(i);
    });
    const before = positions.filter((_, i) => when[i] === 'before');
    return before.length === 0 ? [] : [{ register, at: Math.max(...before) + 0.5 }];
  });
  const placeOf = (entry: EntryRow) => {
    const before = positions.filter((_, i) => cutWhen(parts[i]!, change(entry)) === 'before');
    return before.length === 0 ? -0.5 : Math.max(...before) + 0.5;
  };
  const size = new Map(features.map(({ id }, i) => [id, i]));
  const numbers = [...new Set(features.map((each) => each.programNumber))];
  const begun = await begunAnew(db, machine.id, numbers, jobs, since);
  const programOf = (each: PartRow) => features[size.get(each.featureId)!]!.programNumber;
  // nobody knows whether they were cut before it was changed
  read.forEach((each, i) => {
    if (
      begun.some(
        ({ program, change: set }) =>
          program === programOf(each) &&
          !(each.firstOff && each.entry > set.entry) &&
          cutWhen(parts[i]!, set) === 'unknown',
      )
    )
      unsure.add(i);
  });
  const anew = setUpsOf(
    read.map((each, i) => ({
      ...parts[i]!,
      at: positions[i]!,
      program: programOf(each),
      programId: each.programId,
      firstOff: each.firstOff,
    })),
    begun,
  );
  const setUps = features.flatMap(({ programNumber }, i) =>
    anew.filter(({ program }) => program === programNumber).map(({ at }): ModelSetUp => ({ size: i, at })),
  );
  const readings = read.map((each, i): Evidence['readings'][number] => {
    const own = group[size.get(each.featureId)!]!.moves.map((m) => index.get(`${m.row} ${m.role}`)!);
    const values = held.map(({ value }, r) => (own.includes(r) ? heldFor(parts[i]!, moves[r]!, value) : 0));
    return {
      id: each.id,
      size: size.get(each.featureId)!,
      at: positions[i]!,
      measured: each.measured,
      meant: each.meant,
      last: each.typed.at(-1)!,
      typed: each.typed,
      held: unsure.has(i) || values.includes(null) ? null : (values as number[]),
      place: each.place,
    };
  });
  readings.sort((a, b) => a.at - b.at || a.id - b.id);
  const partOf = new Map(read.map(({ id }, i) => [id, parts[i]!]));
  const locks = await locked(db, ids);
  const gaps = gapsOf(readings.filter((each) => each.size === 0).map(({ at }) => at));
  return {
    features,
    sizes: group.map(({ feature: each, moves: own }) => ({
      ...each,
      moves: own.flatMap((m) => {
        const register = index.get(`${m.row} ${m.role}`);
        return register === undefined ? [] : [{ register, by: m.by }];
      }),
    })),
    registers: held.map(({ id, row, kind, value }) => ({
      id,
      row,
      role: kind as JudgedRegister['role'],
      value,
      locked: locks.get(id) ?? null,
    })),
    readings,
    edges,
    setUps,
    keyed: entries.flatMap((each): Keyed[] => {
      const register = each.registerId === null ? -1 : ids.indexOf(each.registerId);
      if (each.proposalId === null || register < 0 || each.stage !== 'corrected') return [];
      const since = readings.flatMap((reading, i) =>
        cutWhen(partOf.get(reading.id)!, change(each)) === 'after' ? [i] : [],
      );
      const at = placeOf(each);
      return [
        {
          proposalId: each.proposalId,
          register,
          from: each.before as Length,
          to: each.after as Length,
          since,
          tells: since.filter((i) => {
            const { size: of, at: cut } = readings[i]!;
            return !setUps.some((setUp) => setUp.size === of && setUp.at >= at && setUp.at <= cut);
          }),
          sameEdge: begins.every((other) => other.register !== register || other.entry.entry < each.entry),
        },
      ];
    }),
    moved: entries.flatMap((each): Moved[] => {
      const found = each.stage === 'found';
      const renewed = begins.filter(({ entry }) => entry === each).map(({ register }) => register);
      const own = each.registerId === null ? -1 : ids.indexOf(each.registerId);
      return [...new Set(own < 0 ? renewed : [own, ...renewed])].map((register) => ({
        entry: each.entry,
        register,
        from: (register === own ? each.before : 0) as Length,
        to: (register === own ? each.after : 0) as Length,
        anew: renewed.includes(register) && !found,
        found: found && register === own,
        at: placeOf(each),
      }));
    }),
    next: readings.length === 0 ? 0 : readings.at(-1)!.at + 1,
    every: gaps.felt,
    measured: gaps.usual,
  };
}

type PartRow = OneReading<ReadingRow & TypedReading>;

/** The parts of which some sizes were measured, each once. */
function partsOf(typed: readonly ReadingRow[], features: readonly Feature[]): PartRow[] {
  const widths = new Map(features.map((feature) => [feature.id, toleranceWidth(feature)]));
  return onePart(
    typed.map((each) => ({ ...each, series: seriesOf(each), where: JSON.stringify(each.place) })),
    (featureId) => widths.get(featureId)!,
  );
}

/** Readings of parts that the same members cut; `unsure`: places of those of which nobody can tell. */
async function ofThisEdge(
  db: Db,
  every: readonly PartRow[],
  features: readonly Feature[],
  { groups, chosen }: Pick<Awaited<ReturnType<typeof asCut>>, 'groups' | 'chosen'>,
) {
  const read: PartRow[] = [];
  const unsure = new Set<number>();
  const who = whoCut(db);
  const own = new Map(features.map((feature) => [feature.id, groupsOfFeature(groups, feature)]));
  for (const each of every) {
    const cutters = [];
    for (const group of own.get(each.featureId)!)
      cutters.push({ member: await who(group, each), asked: chosen(group) });
    if (cutters.some(({ member, asked }) => member !== null && member !== asked)) continue;
    if (cutters.some(({ member }) => member === null)) unsure.add(read.length);
    read.push(each);
  }
  return { read, unsure };
}

/** What of the ledger makes an edge or a row begin anew: another edge or tool under the T, its geometry measured, its wear set otherwise than by a correction. */
function edgesOf(
  entries: readonly EntryRow[],
  registers: readonly { id: number; row: number; kind: string }[],
  group: readonly { moves: readonly Moves[] }[],
): { register: number; entry: EntryRow }[] {
  return entries.flatMap((entry) =>
    registers.flatMap(({ id, row, kind }, register) => {
      const cutBy = group.flatMap(({ moves }) =>
        moves.filter((m) => m.row === row && m.role === kind).map(({ tool }) => tool),
      );
      const begins =
        entry.kind === 'register'
          ? entry.registerId === id
            ? entry.stage !== 'corrected'
            : entry.row === row && entry.registerKind === GEOMETRY[kind]
          : cutBy.includes(entry.tool!);
      return begins ? [{ register, entry }] : [];
    }),
  );
}

/** Rows whose last correction did not do what was asked, and that nobody has looked at since: no further one on them (H14). */
async function locked(db: Db, registerIds: readonly number[]): Promise<Map<number, string>> {
  const found = await locksOf(db, JSON.stringify([registerIds]));
  return new Map(
    found.map(({ registerId, row, kind, words }) => [
      registerId,
      `Nothing more on ${REGISTER_WORDS[kind]} of row ${row} until somebody has read it off the control. ${words}`,
    ]),
  );
}
