import { traitsOf } from '../core/changer/traits.ts';
import { widestOf } from '../core/assembly/silhouette.ts';
import { hangingRadius } from '../core/changer/clearance.ts';
import type { LoadStep, LoadTick } from '../core/changer/load-plan.ts';
import { otherPocket } from '../core/changer/load-held.ts';
import type { PlaceRow } from '../core/changer/place.ts';
import { orientationOf, wantedFault, type Wanted, type WantedTool } from '../core/changer/wanted.ts';
import { assembliesOf, heldAssembly } from './assemblies.ts';
import { aimNow } from './load-aim.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { foundState, stepsLeft, type SaidStep } from './load-steps.ts';
import { changePocketIn, declareIn } from './magazines.ts';
import { calledIn } from './pocket-calls.ts';
import { lockMachine, machineById, shapeOf, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { keepLook } from './oriented.ts';
import { Refused } from './outcome.ts';
import { bearingOf, placeIn, placesOf, takenOut } from './places.ts';
import { writeMeasurement, type Measuring } from './registers.ts';

interface PlanRow {
  id: number;
  machineId: number;
  wanted: Wanted;
  madeBy: string;
  madeAt: Date;
  closedAt: Date | null;
  outcome: 'done' | 'dropped' | null;
}

const PLAN = `SELECT l.id, l.machine_id AS "machineId", l.wanted, p.name AS "madeBy", l.made_at AS "madeAt", l.closed_at AS "closedAt", l.outcome
  FROM load_plan l JOIN person p ON p.id = l.made_by`;

/** The open load plan of a machine: what was ticked, and what is left from what really stands; null when none is open. */
export async function openLoadPlan(db: Db, machine: Machine) {
  const plan = await row<PlanRow>(db, `${PLAN} WHERE l.machine_id = $1 AND l.closed_at IS NULL`, [
    machine.id,
  ]);
  if (!plan) return null;
  return {
    ...plan,
    ticks: await ticksOf(db, plan.id),
    left: await stepsLeft(db, machine, await placesOf(db, machine.id), plan.wanted),
  };
}

/** The plan of a machine that was closed last, with what was ticked. */
export async function lastLoadPlan(db: Db, machineId: number) {
  const plan = await row<PlanRow>(
    db,
    `${PLAN} WHERE l.machine_id = $1 AND l.closed_at IS NOT NULL ORDER BY l.closed_at DESC LIMIT 1`,
    [machineId],
  );
  return plan && { ...plan, ticks: await ticksOf(db, plan.id) };
}

const ticksOf = (db: Db, planId: number) =>
  rows<LoadTick>(
    db,
    `SELECT t.id, t.said, t.outcome, t.why, p.name AS person, t.at FROM load_tick t JOIN person p ON p.id = t.person_id
     WHERE t.plan_id = $1 ORDER BY t.id`,
    [planId],
  );

/** Makes a plan that is to be worked off at the machine; one at a time for each. */
export function makeLoadPlan(asking: Asking, made: { machineId: number; wanted: Wanted }) {
  return once(asking, 'makeLoadPlan', made, async (db) => {
    const machine = await machineById(db, made.machineId);
    if (!machine) throw new Refused('There is no such machine.');
    await lockMachine(db, machine.id);
    const places = await placesOf(db, machine.id);
    await mayBe(db, machine, places, made.wanted);
    const left = await stepsLeft(db, machine, places, made.wanted);
    if (!left.ok) throw new Refused(left.reason);
    if (left.held.length > 0) throw new Refused(left.held.map((each) => each.reason).join(' '));
    if (left.steps.length === 0) throw new Refused('Everything already stands where it is wanted.');
    const { id } = (await row<{ id: number }>(
      db,
      'INSERT INTO load_plan (machine_id, wanted, made_by) VALUES ($1, $2, $3) RETURNING id',
      [machine.id, JSON.stringify(made.wanted), asking.personId],
    ))!;
    await append(
      db,
      entry.machine('loadPlanMade', {
        personId: asking.personId,
        machineId: machine.id,
        said: `A load plan of ${left.steps.length} steps was made for ${machine.name}.`,
        detail: { plan: id },
      }),
    );
    return { id };
  });
}

/** Refuses an aim that could never stand in the machine. */
async function mayBe(db: Db, machine: Machine, places: readonly PlaceRow[], said: Wanted): Promise<void> {
  const wanted = await aimNow(db, machine, places, said);
  const pockets = places.filter((place) => place.kind === 'pocket');
  const ids = [
    ...wanted.tools.flatMap((each) => each.assemblyId ?? []),
    ...pockets.flatMap((place) => place.assembly?.id ?? []),
  ];
  const assemblies = new Map((await assembliesOf(db, ids)).map((each) => [each.id, each]));
  const widths = new Map(
    [...assemblies.values()].map((each) => [
      each.id,
      { radius: hangingRadius(shapeOf(machine), each), widest: widestOf(each) },
    ]),
  );
  const fault = wantedFault(
    shapeOf(machine),
    machine.highestTool,
    pockets.map((place) => ({ ...place, assemblyId: place.assembly?.id ?? null })),
    wanted,
    widths,
  );
  if (fault) throw new Refused(fault);
  const aimed = wanted.tools.flatMap(({ assemblyId, pocket, tool }) =>
    assemblyId === null ? [] : [{ number: pocket, tool, assembly: assemblies.get(assemblyId) ?? null }],
  );
  const stays = places.filter(
    ({ assembly }) =>
      assembly &&
      !wanted.out.includes(assembly.id) &&
      aimed.every((each) => each.assembly?.id !== assembly.id),
  );
  const over = bearingOf(machine, [...aimed, ...stays]).over[0];
  if (over !== undefined) throw new Refused(over);
}

/** A plan that is open, with its machine held: nobody else ticks at it, or acts at the machine, meanwhile. */
async function heldPlan(db: Db, planId: number): Promise<PlanRow> {
  const of = await row<PlanRow>(db, `${PLAN} WHERE l.id = $1`, [planId]);
  if (of) await lockMachine(db, of.machineId);
  const plan = await row<PlanRow>(db, `${PLAN} WHERE l.id = $1`, [planId]);
  if (!plan || plan.closedAt) throw new Refused('This load plan is already closed.');
  return plan;
}

/** The plan, its machine and the step that is next. */
async function nextOf(db: Db, planId: number, key: string) {
  const plan = await heldPlan(db, planId);
  const machine = (await machineById(db, plan.machineId))!;
  const places = await placesOf(db, machine.id);
  const left = await stepsLeft(db, machine, places, plan.wanted);
  if (!left.ok) throw new Refused(left.reason);
  const said = left.steps.find((each) => each.key === key);
  if (!said)
    throw new Refused('Somebody has already ticked this step, or the machine has changed. Look again.');
  if (said.step.act !== 'build' && left.steps[0] !== said)
    throw new Refused('Take the steps in order: another comes first.');
  // a plan with much more to do than this step is not closed by it: only near its end is it worked out again
  const last = left.steps.length <= 2;
  return { plan, machine, places, said, last };
}

const ticked = (
  db: Db,
  personId: number,
  planId: number,
  said: SaidStep,
  outcome: LoadTick['outcome'],
  why = '',
) =>
  db.query(
    'INSERT INTO load_tick (plan_id, step, said, outcome, why, person_id) VALUES ($1, $2, $3, $4, $5, $6)',
    [planId, said.key, said.title, outcome, why, personId],
  );

export interface Ticking {
  planId: number;
  key: string;
  /** How many of the step's confirmations were made; all of them are needed. */
  confirmed: number;
  /** How the tool is turned, as the confirmations said it. */
  turned?: SaidStep['turned'];
}

/** Ticks the next step: what it says is entered in the ledger, and the tick is kept. */
export function tickStep(asking: Asking, ticking: Ticking) {
  return once(asking, 'tickStep', ticking, async (db) => {
    const { plan, machine, places, said, last } = await nextOf(db, ticking.planId, ticking.key);
    if (ticking.confirmed < said.confirm.length)
      throw new Refused('Confirm each line of the step first: that is what the step is for.');
    if (said.turned !== ticking.turned)
      throw new Refused('Which way it must point was changed meanwhile. Look at the step again.');
    await done(db, asking.personId, machine, places, said.step);
    if (said.turned && said.step.act === 'load')
      await keepLook(db, asking.personId, {
        machineId: machine.id,
        assemblyId: said.step.wanted.assemblyId!,
        turned: said.turned,
      });
    await ticked(db, asking.personId, plan.id, said, 'done');
    if (last) await closeWhenDone(db, asking.personId, plan, machine);
  });
}

async function done(
  db: Db,
  personId: number,
  machine: Machine,
  places: readonly PlaceRow[],
  step: LoadStep,
): Promise<void> {
  const placeAt = (number: number) =>
    places.find((place) =>
      number === 0 ? place.kind === 'spindle' : place.kind === 'pocket' && place.number === number,
    )!;
  switch (step.act) {
    case 'call':
      return calledIn(
        db,
        personId,
        {
          machineId: machine.id,
          pocket: step.pocket,
          spindle: step.puts?.assemblyId ?? null,
          inPocket: step.takes?.assemblyId ?? null,
        },
        { machine, places },
      );
    case 'unload':
      return takenOut(db, personId, {
        placeId: placeAt(step.pocket).id,
        assemblyId: step.tool.assemblyId,
        why: 'By the load plan.',
      });
    case 'declare':
      return declareIn(db, personId, {
        placeId: placeAt(step.pocket).id,
        tool: step.wanted.tool,
        seenEmpty: true,
      });
    case 'load':
      return placeIn(db, personId, {
        placeId: placeAt(step.pocket).id,
        assemblyId: step.wanted.assemblyId!,
        tool: step.wanted.tool,
        // each of its lines was confirmed
        knob: machine.knob,
      });
    case 'measure':
      throw new Refused('Type what was measured: a tick alone is no measurement.');
    case 'build':
      throw new Refused('Say which assembly was built.');
  }
}

/** Ticks a measuring step with what was measured. */
export function tickMeasured(
  asking: Asking,
  measured: { planId: number; key: string; measuring: Measuring },
) {
  return once(asking, 'tickMeasured', measured, async (db) => {
    const { plan, machine, said, last } = await nextOf(db, measured.planId, measured.key);
    if (said.step.act !== 'measure' || said.step.tool.assemblyId !== measured.measuring.assemblyId)
      throw new Refused('Another step comes first. Look again.');
    await writeMeasurement(db, asking.personId, measured.measuring);
    await ticked(db, asking.personId, plan.id, said, 'done');
    if (last) await closeWhenDone(db, asking.personId, plan, machine);
  });
}

/** Names the assembly that was built for a T of the plan. */
export function tickBuilt(asking: Asking, built: { planId: number; key: string; assemblyId: number }) {
  return once(asking, 'tickBuilt', built, async (db) => {
    const { plan, machine, places, said } = await nextOf(db, built.planId, built.key);
    if (said.step.act !== 'build') throw new Refused('This step is not about building.');
    const assembly = await heldAssembly(db, built.assemblyId, [machine.id]);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (assembly.interface !== machine.interface)
      throw new Refused(
        `${assembly.number} has a ${assembly.interface} end; ${machine.name} takes ${machine.interface}.`,
      );
    if (assembly.machine) throw new Refused(`${assembly.number} already stands in ${assembly.machine}.`);
    const wish = said.step.wanted;
    if (plan.wanted.tools.some((each) => each.assemblyId === assembly.id))
      throw new Refused(`${assembly.number} is already in this plan.`);
    const wanted: Wanted = {
      // what was to go, and went, may be what comes
      out: plan.wanted.out.filter((id) => id !== assembly.id),
      tools: plan.wanted.tools.map((each): WantedTool =>
        each.tool === wish.tool
          ? {
              ...each,
              assemblyId: assembly.id,
              number: assembly.number,
              name: assembly.name,
              radius: hangingRadius(shapeOf(machine), assembly),
              orientation: orientationOf(assembly.kind),
            }
          : each,
      ),
    };
    await mayBe(db, machine, places, wanted);
    await db.query('UPDATE load_plan SET wanted = $2 WHERE id = $1', [plan.id, JSON.stringify(wanted)]);
    await ticked(
      db,
      asking.personId,
      plan.id,
      { ...said, title: `T${wish.tool} is ${assembly.number} ${assembly.name}.` },
      'done',
    );
  });
}

/** Says that a step found something else than the record: the plan stops there until the record is put right. */
export function stepWrong(asking: Asking, wrong: { planId: number; key: string; why: string }) {
  return once(asking, 'stepWrong', wrong, async (db) => {
    const { plan, machine, said } = await nextOf(db, wrong.planId, wrong.key);
    if (wrong.why.trim() === '') throw new Refused('Say what you found instead.');
    await ticked(db, asking.personId, plan.id, said, 'wrong', wrong.why.trim());
    if (machine.spindleSure && traitsOf(shapeOf(machine)).throughSpindle)
      await append(
        db,
        entry.machine('spindleUnsure', {
          personId: asking.personId,
          machineId: machine.id,
          said: `Nobody is sure what is in the spindle of ${machine.name}.`,
          why: wrong.why.trim(),
        }),
      );
  });
}

/**
 * Says that the pocket of a step is broken: it is taken out of service at once, and the tool that was to stand there gets the
 * nearest other pocket, where there is one; otherwise it waits, and everything else goes on. A tool that stood in it cannot be
 * called any more: somebody must have taken it out by hand, and says so.
 */
export function pocketBroken(
  asking: Asking,
  broken: { planId: number; key: string; pocket: number; why: string; takenOut?: boolean },
) {
  return once(asking, 'pocketBroken', broken, async (db) => {
    const { plan, machine, places, said } = await nextOf(db, broken.planId, broken.key);
    if (broken.why.trim() === '')
      throw new Refused('Say what is wrong with the pocket: the next shift will ask.');
    const place = places.find((each) => each.kind === 'pocket' && each.number === broken.pocket);
    if (!place) throw new Refused(`There is no pocket ${broken.pocket}.`);
    if (place.assembly && !broken.takenOut)
      throw new Refused(
        `T${place.tool} (${place.assembly.number}) stands in pocket ${place.number}, and the changer cannot bring it any more. Take it out by hand as the machine's manual says, tick that it is out, and press again.`,
      );
    if (place.assembly)
      await takenOut(db, asking.personId, {
        placeId: place.id,
        assemblyId: place.assembly.id,
        why: `By hand, out of a broken pocket: ${broken.why.trim()}`,
      });
    if (place.inService)
      await changePocketIn(db, asking.personId, place.id, 'outOfService', broken.why.trim());
    await ticked(
      db,
      asking.personId,
      plan.id,
      said,
      'wrong',
      `Pocket ${broken.pocket}: ${broken.why.trim()}`,
    );
    const found = foundState(machine, await placesOf(db, machine.id));
    const waits = plan.wanted.tools.find((each) => each.pocket === broken.pocket);
    const other = waits ? otherPocket(found, plan.wanted, waits) : null;
    if (!waits || other === null) return { moved: null };
    const wanted = {
      ...plan.wanted,
      tools: plan.wanted.tools.map((each) => (each === waits ? { ...each, pocket: other } : each)),
    };
    await mayBe(db, machine, await placesOf(db, machine.id), wanted);
    await db.query('UPDATE load_plan SET wanted = $2 WHERE id = $1', [plan.id, JSON.stringify(wanted)]);
    return { moved: { tool: waits.tool, pocket: other } };
  });
}

/** Drops a plan: what was ticked stays in the record. */
export function dropLoadPlan(asking: Asking, planId: number) {
  return once(asking, 'dropLoadPlan', { planId }, async (db) => {
    const plan = await heldPlan(db, planId);
    await close(db, asking.personId, plan, 'dropped', (await machineById(db, plan.machineId))!);
  });
}

async function closeWhenDone(db: Db, personId: number, plan: PlanRow, machine: Machine): Promise<void> {
  const left = await stepsLeft(db, machine, await placesOf(db, machine.id), plan.wanted);
  if (left.ok && left.steps.length === 0 && left.held.length === 0)
    await close(db, personId, plan, 'done', machine);
}

async function close(
  db: Db,
  personId: number,
  plan: PlanRow,
  outcome: 'done' | 'dropped',
  machine: Machine,
): Promise<void> {
  await db.query('UPDATE load_plan SET closed_by = $2, closed_at = tin_now(), outcome = $3 WHERE id = $1', [
    plan.id,
    personId,
    outcome,
  ]);
  await append(
    db,
    entry.machine(outcome === 'done' ? 'loadPlanDone' : 'loadPlanDropped', {
      personId,
      machineId: machine.id,
      said: `The load plan of ${machine.name} ${outcome === 'done' ? 'was worked off: everything stands as wanted, and is measured' : 'was dropped; what was ticked stays in the record'}.`,
      detail: { plan: plan.id },
    }),
  );
}
