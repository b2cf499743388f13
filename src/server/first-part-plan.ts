import type { FirstPlan, FirstSchool, FirstSize } from '../core/correction/first-part-plan.ts';
import { movesOf, type RegisterRole } from '../core/inspection/feature.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { nanometres, subtract, type Length } from '../core/units/length.ts';
import { rows, type Db } from './db.ts';
import { gauges } from './gauges.ts';
import { keptAwayOn } from './kept-away.ts';
import type { Machine } from './machines.ts';
import { cutFirst } from './members.ts';
import { Refused } from './outcome.ts';
import { featureById, type Feature } from './programs.ts';

export interface BegunFirstPart {
  programId: number;
  school: FirstSchool;
  sizes: readonly { featureId: number; allowance: Length }[];
}

/** What a first part would be brought in by: its sizes and the registers that they and their roughers answer to. */
export async function planFor(db: Db, machine: Machine, begun: BegunFirstPart) {
  const planned: Feature[] = [];
  for (const { featureId } of begun.sizes) {
    const feature = await featureById(db, featureId);
    if (!feature) throw new Refused('That feature no longer exists.');
    planned.push(feature);
  }
  const features = await cutFirst(db, machine.id, planned);
  const wanted = new Map<string, { row: number; role: RegisterRole }>();
  const name = (number: number, role: RegisterRole) => `${number} ${role}`;
  for (const feature of features)
    for (const { row: number, role } of movesOf(feature, machine)) {
      wanted.set(name(number, role), { row: number, role });
      if (feature.rough) wanted.set(name(feature.rough.row, role), { row: feature.rough.row, role });
    }
  const list = [...wanted.values()];
  const held = await rows<{ id: number; row: number; kind: RegisterRole; value: Length }>(
    db,
    `SELECT g.id, g.row, g.kind, g.value FROM register g JOIN unnest($2::integer[], $3::text[]) AS w (row, kind) USING (row, kind)
     WHERE g.machine_id = $1 ORDER BY g.row, g.kind`,
    [machine.id, list.map((each) => each.row), list.map((each) => each.role)],
  );
  const place = new Map(held.map((each, i) => [name(each.row, each.kind), i]));
  const missing = list.find((each) => !place.has(name(each.row, each.role)));
  if (missing)
    throw new Refused(`${machine.name} has no ${REGISTER_WORDS[missing.role]} in row ${missing.row}.`);
  const [listed, away] = [await gauges(db), await keptAwayOn(db, machine.id)];
  const sizes = features.map((feature, i): FirstSize => {
    const moves = movesOf(feature, machine);
    const own = moves.find((each) => each.row === feature.row) ?? null;
    const { nominal, upper, lower, kind, target, tool, rough } = feature;
    return {
      nominal,
      upper,
      lower,
      kind,
      target,
      tool,
      row: feature.row,
      name: feature.name,
      moves: moves.map(({ row: number, role, by }) => ({ register: place.get(name(number, role))!, by })),
      own: own && place.get(name(own.row, own.role))!,
      rough: rough && own && { ...rough, register: place.get(name(rough.row, own.role))! },
      allowance: begun.sizes[i]!.allowance,
      uncertainty:
        listed.find(({ name: of }) => of.toLowerCase() === feature.gauge.toLowerCase())?.uncertainty ?? null,
    };
  });
  const plan: FirstPlan = {
    school: begun.school,
    unit: machine.unit,
    increment: machine.increment,
    limit: machine.wearLimit,
    registers: held.map(({ row: number, kind, value }) => {
      const left = away.find((each) => each.row === number && each.kind === kind)?.change ?? nanometres(0);
      return {
        row: number,
        role: kind,
        held: subtract(value, left),
        ...(left !== 0 && { away: left }),
      };
    }),
    sizes,
    off: machine.kind === 'lathe' ? 'parted' : 'unclamped',
  };
  return { plan, registers: held.map(({ id }) => id) };
}
