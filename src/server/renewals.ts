import { capital } from '../core/words/capital.ts';
import { isExpired } from '../core/life/count.ts';
import { renewalRefusal, type RenewalStep } from '../core/life/renewal.ts';
import type { Length } from '../core/units/length.ts';
import { assemblyById, heldAssembly, setFlag, type Assembly } from './assemblies.ts';
import { indexed } from './builds.ts';
import { countUpTo, cutsOn, type MadeUntilNow } from './made-now.ts';
import { row, rows, type Db } from './db.ts';
import { endedWords, keepEdgeEnd, NOBODY_SAID, ranOf, type Ended } from './edge-ends.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { LENGTH_KINDS, WEAR_KINDS } from './machines.ts';
import { writeMeasurement } from './registers.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

export interface Renewal {
  id: number;
  assemblyId: number;
  startedBy: string;
  startedAt: Date;
  steps: { step: RenewalStep; person: string; at: Date }[];
  /** What was counted of it since its edge was changed, in units of its counter: the fresh one has cut that. */
  cutSince: number;
}

export async function openRenewal(db: Db, assemblyId: number): Promise<Renewal | null> {
  const renewal = await row<Omit<Renewal, 'steps' | 'cutSince'>>(
    db,
    `SELECT r.id, r.assembly_id AS "assemblyId", p.name AS "startedBy", r.started_at AS "startedAt"
     FROM renewal r JOIN person p ON p.id = r.started_by WHERE r.assembly_id = $1 AND r.finished_at IS NULL`,
    [assemblyId],
  );
  if (!renewal) return null;
  const steps = await rows<Renewal['steps'][number]>(
    db,
    'SELECT s.step, p.name AS person, s.at FROM renewal_step s JOIN person p ON p.id = s.person_id WHERE s.renewal_id = $1 ORDER BY s.at',
    [renewal.id],
  );
  const since = await row<{ cut: number }>(
    db,
    `SELECT coalesce(sum(-l.change_value), 0)::bigint AS cut FROM renewal_step s JOIN life_counter c ON c.assembly_id = $2
       JOIN ledger l ON l.counter_id = c.id AND l.kind = 'life' AND l.stage IN ('used', 'given back') AND l.id > s.entry
     WHERE s.renewal_id = $1 AND s.step = 'changed'`,
    [renewal.id, assemblyId],
  );
  return { ...renewal, steps, cutSince: since!.cut };
}

/** The same, held: whoever takes a step of it or drops it at this moment waits, and then sees what was done. */
export async function heldRenewal(db: Db, assemblyId: number): Promise<Renewal | null> {
  const held = await row(
    db,
    'SELECT 1 FROM renewal WHERE assembly_id = $1 AND finished_at IS NULL FOR NO KEY UPDATE',
    [assemblyId],
  );
  return held && openRenewal(db, assemblyId);
}

export const openRenewals = (db: Db) =>
  rows<{
    assemblyId: number;
    number: string;
    name: string;
    machine: string | null;
    tool: number | null;
    done: number;
  }>(
    db,
    `SELECT a.id AS "assemblyId", a.number, a.name, m.name AS machine, s.tool, (SELECT count(*)::integer FROM renewal_step t WHERE t.renewal_id = r.id) AS done
     FROM renewal r JOIN assembly a ON a.id = r.assembly_id LEFT JOIN placement s ON s.assembly_id = a.id LEFT JOIN machine m ON m.id = s.machine_id
     WHERE r.finished_at IS NULL ORDER BY r.id`,
  );

export function startRenewal(asking: Asking, assemblyId: number) {
  return once(asking, 'startRenewal', { assemblyId }, async (db) => {
    const assembly = await heldAssembly(db, assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    await db.query('INSERT INTO renewal (assembly_id, started_by) VALUES ($1, $2)', [
      assemblyId,
      asking.personId,
    ]);
    await append(
      db,
      entry.assembly('renewal', {
        personId: asking.personId,
        assemblyId,
        machineId: assembly.machineId,
        tool: assembly.tool,
        said: `Renewal of ${assembly.number} was begun.`,
      }),
    );
  });
}

/** What a step brings with it. */
export interface StepData extends MadeUntilNow {
  assemblyId: number;
  step: RenewalStep;
  /** `changed`: what was done, in words, and how the old edge ended. */
  what: string;
  ended?: Ended | null;
  /** `changed`: its inserts were indexed, or got new. */
  index?: boolean;
  /** `lifeSet`: the uses it now has, in counter units. */
  life: number | null;
  /** `measured`: the row and its new values, or the gauge length alone when it stands in no machine. */
  row: number | null;
  values: { kind: string; value: Length; before: Length }[];
  gaugeLength: Length | null;
  /** `measured`: the geometry of every other row that the edge is called with, typed anew. */
  others: { registerId: number; value: Length; before: Length }[];
  /** `wearZeroed`: what each worn register shows after zero was keyed. */
  shown: { registerId: number; value: Length }[];
}

/** Takes the next step of a renewal. Each step is kept by itself, so that anybody can go on. */
export function takeStep(asking: Asking, data: StepData) {
  return once(asking, 'renewalStep', data, async (db) => {
    const assembly = await heldAssembly(db, data.assemblyId);
    const renewal = await heldRenewal(db, data.assemblyId);
    if (!renewal || !assembly) throw new Refused('No renewal of this assembly is under way.');
    const refusal = renewalRefusal(
      renewal.steps.map((step) => step.step),
      data.step,
    );
    if (refusal) throw new Refused(refusal);
    await STEPS[data.step](db, asking.personId, assembly, data, renewal);
    await db.query('INSERT INTO renewal_step (renewal_id, step, person_id) VALUES ($1, $2, $3)', [
      renewal.id,
      data.step,
      asking.personId,
    ]);
    if (data.step === 'wearZeroed')
      await db.query('UPDATE renewal SET finished_at = tin_now() WHERE id = $1', [renewal.id]);
  });
}

type TakeStep = (
  db: Db,
  personId: number,
  assembly: Assembly,
  data: StepData,
  renewal: Renewal,
) => Promise<void>;

const stepEntry = (db: Db, personId: number, assembly: Assembly, said: string, why = '') =>
  append(
    db,
    entry.assembly('step', {
      personId,
      assemblyId: assembly.id,
      machineId: assembly.machineId,
      tool: assembly.tool,
      said,
      why,
    }),
  );

const STEPS: Record<RenewalStep, TakeStep> = {
  async changed(db, personId, assembly, data) {
    if (data.what.trim() === '' && !data.index)
      throw new Refused('Say what was changed: a fresh edge, a new insert, a new cutter.');
    const ended = data.ended ?? NOBODY_SAID;
    const job = await cutsOn(db, assembly);
    const late =
      job !== null && (await countUpTo(db, personId, job, data, 'Counted as the edge was changed.'));
    const old = late ? (await assemblyById(db, assembly.id))! : assembly;
    await keepEdgeEnd(db, personId, old, ended, await ranOf(db, old));
    const turned = data.index ? await indexed(db, personId, assembly) : null;
    const said = data.what.trim() === '' ? turned!.said : `${assembly.number}: ${data.what.trim()}`;
    const why = ended.end === 'unknown' ? '' : `The old edge: ${endedWords(ended)}.`;
    if (turned) await stepEntry(db, personId, assembly, said, why);
    // from here on another edge cuts, whoever runs the machine before its life is set: what was measured before says nothing of it
    else
      await append(
        db,
        entry.assembly('indexed', {
          personId,
          assemblyId: assembly.id,
          machineId: assembly.machineId,
          tool: assembly.tool,
          said,
          why,
        }),
      );
  },
  async lifeSet(db, personId, assembly, data, { cutSince }) {
    if (assembly.counterId === null)
      return void (await stepEntry(
        db,
        personId,
        assembly,
        `${assembly.number} has a fresh edge; it is not counted.`,
      ));
    if (data.life === null || data.life <= 0) throw new Refused('Type the life it now has, above zero.');
    if (data.life > assembly.fullLife!)
      throw new Refused('That is more than its full life: check the number.');
    await append(
      db,
      entry.life('renewed', {
        personId,
        assemblyId: assembly.id,
        machineId: assembly.machineId,
        tool: assembly.tool,
        counterId: assembly.counterId,
        before: assembly.remaining!,
        after: data.life,
        said: `The life of ${assembly.number} was set.`,
        // it was reckoned from what was counted since the edge was changed: a count that is taken back takes itself back here as well
        detail: cutSince !== 0 && data.life === assembly.fullLife! - cutSince ? { cutSince } : {},
      }),
    );
  },
  async flagCleared(db, personId, assembly) {
    if (assembly.counterId !== null && isExpired(assembly.remaining!))
      throw new Refused('Its counter still stands as expired: set its life first.');
    if (assembly.flag === 'expired') await setFlag(db, personId, assembly, null, 'Renewed.');
    else if (assembly.flag === 'broken')
      await stepEntry(
        db,
        personId,
        assembly,
        `${assembly.number} has a fresh edge, and stays flagged broken until its quarantine ends.`,
      );
    else await stepEntry(db, personId, assembly, `${assembly.number} carries no expired flag.`);
  },
  async measured(db, personId, assembly, data) {
    if (assembly.machineId !== null) {
      if (data.row === null || data.values.length === 0)
        throw new Refused('Type the length that was measured.');
      await writeMeasurement(db, personId, {
        machineId: assembly.machineId,
        assemblyId: assembly.id,
        row: data.row,
        values: data.values,
        gaugeLength: data.gaugeLength,
        how: 'Measured again at renewal.',
        method: 'typed',
      });
      for (const register of await otherGeometry(db, assembly.machineId, assembly.tool!)) {
        const typed = data.others.find(({ registerId }) => registerId === register.id);
        if (!typed)
          throw new Refused(
            `T${assembly.tool} is called with row ${register.row} too: measure its ${REGISTER_WORDS[register.kind]} as well, or it keeps the old edge’s.`,
          );
        await append(
          db,
          entry.register('measured', {
            personId,
            machineId: assembly.machineId,
            assemblyId: assembly.id,
            tool: assembly.tool,
            registerId: register.id,
            before: typed.before,
            after: typed.value,
            said: `${REGISTER_WORDS[register.kind]} of row ${register.row} was measured again.`,
            why: 'Measured again at renewal.',
            detail: { method: 'typed' },
          }),
        );
      }
      return;
    }
    if (data.gaugeLength === null || data.gaugeLength <= 0)
      throw new Refused('Type the gauge length that was measured.');
    await db.query('UPDATE assembly SET gauge_length = $2 WHERE id = $1', [assembly.id, data.gaugeLength]);
    await stepEntry(
      db,
      personId,
      assembly,
      `${assembly.number} was measured again; measure it in the machine after loading.`,
    );
  },
  async wearZeroed(db, personId, assembly, data) {
    const worn = assembly.machineId === null ? [] : await wearOf(db, assembly.machineId, assembly.tool!);
    for (const register of worn) {
      const name = `${REGISTER_WORDS[register.kind]} of row ${register.row}`;
      const shown = data.shown.find(({ registerId }) => registerId === register.id)?.value;
      if (shown === undefined) throw new Refused(`Type what ${name} shows after zero was keyed.`);
      if (shown !== 0)
        throw new Refused(
          shown === register.value
            ? `${capital(name)} still shows the old edge’s wear: key zero, and read it again.`
            : `${capital(name)} does not show zero: look whether the right row was read, and key zero.`,
        );
      await append(
        db,
        entry.register('zeroed', {
          personId,
          machineId: assembly.machineId,
          assemblyId: assembly.id,
          tool: assembly.tool,
          registerId: register.id,
          before: register.value,
          after: 0,
          said: `Wear of row ${register.row} was zeroed for a fresh edge.`,
          why: 'The old edge’s wear is not the new one’s.',
        }),
      );
    }
    await stepEntry(
      db,
      personId,
      assembly,
      worn.length === 0 ? `${assembly.number} had no wear to clear.` : `${assembly.number} is renewed.`,
    );
  },
};

/** Rows that a T is used with on a machine: its own, and those that a program, its group or the measuring plan names; but for a row that is another loaded tool's own. */
const CALLED_ROWS = `r.row IN (SELECT $2::integer UNION SELECT u.row FROM tool_row u WHERE u.machine_id = $1 AND u.tool = $2)
       AND NOT EXISTS (SELECT 1 FROM placement s WHERE s.machine_id = $1 AND s.tool = r.row AND s.tool <> $2)`;

/** The length geometry of the other rows a T is called with, where they hold any: a second part on the bar, a second offset of a feature. */
export const otherGeometry = (db: Db, machineId: number, tool: number) =>
  rows<{ id: number; row: number; kind: string; value: Length }>(
    db,
    `SELECT r.id, r.row, r.kind, r.value FROM register r
     WHERE r.machine_id = $1 AND r.kind = ANY($3) AND r.value <> 0 AND r.row <> $2 AND ${CALLED_ROWS}
     ORDER BY r.row, r.id`,
    [machineId, tool, LENGTH_KINDS],
  );

/** Wear registers that hold something, in every row that a T uses on a machine: its own, and those its programs name, but for a row that is another loaded tool's own. */
export const wearOf = (db: Db, machineId: number, tool: number) =>
  rows<{ id: number; row: number; kind: string; value: Length }>(
    db,
    `SELECT r.id, r.row, r.kind, r.value FROM register r
     WHERE r.machine_id = $1 AND r.kind = ANY($3) AND r.value <> 0 AND ${CALLED_ROWS}
     ORDER BY r.row, r.id`,
    [machineId, tool, WEAR_KINDS],
  );
