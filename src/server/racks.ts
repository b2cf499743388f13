import { traitsOf } from '../core/changer/traits.ts';
import {
  forkLine,
  oddFork,
  onLine,
  RACK_STEPS,
  slideDistance,
  straightness,
  type ForkSpot,
  type RackStep,
} from '../core/changer/rack.ts';
import { formatLength } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { row, rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { entry } from '../core/ledger/entry.ts';
import { laidOver } from '../core/words/laid-over.ts';
import { type Machine, heldMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

interface CapturedFork extends ForkSpot {
  person: string;
  at: Date;
}
export interface RackSetting {
  opening: '' | 'X+' | 'X-' | 'Y+' | 'Y-';
  slideIn: Length | null;
  slideClear: Length | null;
  clearance: Length | null;
  bump: Length | null;
  spindleSeconds: number | null;
}

const capturedForks = (db: Db, machineId: number) =>
  rows<CapturedFork>(
    db,
    `SELECT DISTINCT ON (c.fork) c.fork, c.x, c.y, c.z, p.name AS person, c.at
     FROM fork_capture c JOIN person p ON p.id = c.person_id WHERE c.machine_id = $1 ORDER BY c.fork, c.id DESC`,
    [machineId],
  );

/** Everything of a rack: forks as captured, where the line has the others, the odd one, settings and what was confirmed. */
export async function rackOf(db: Db, machine: Machine) {
  const forks = await capturedForks(db, machine.id);
  const setting = await row<RackSetting>(
    db,
    `SELECT opening, slide_in AS "slideIn", slide_clear AS "slideClear", clearance, bump, spindle_seconds AS "spindleSeconds"
     FROM rack_setting WHERE machine_id = $1`,
    [machine.id],
  );
  const confirmed = await rows<{ step: RackStep; person: string; at: Date }>(
    db,
    'SELECT c.step, p.name AS person, c.at FROM rack_confirmation c JOIN person p ON p.id = c.person_id WHERE c.machine_id = $1',
    [machine.id],
  );
  const empty = await row<{ n: number }>(
    db,
    'SELECT count(*)::integer AS n FROM placement WHERE machine_id = $1',
    [machine.id],
  );
  const odd = oddFork(forks);
  const line = forkLine(odd ? forks.filter((each) => each.fork !== odd.fork) : forks);
  return {
    forks: Array.from({ length: machine.places }, (_, i) => ({
      fork: i + 1,
      captured: forks.find((each) => each.fork === i + 1) ?? null,
      proposed: line ? onLine(line, i + 1) : null,
    })),
    odd,
    straightness: straightness(forks),
    setting: setting ?? {
      opening: '' as const,
      slideIn: null,
      slideClear: null,
      clearance: null,
      bump: null,
      spindleSeconds: null,
    },
    slide:
      setting && setting.slideIn !== null && setting.slideClear !== null
        ? slideDistance(setting.slideIn, setting.slideClear)
        : null,
    steps: RACK_STEPS.map((step) => ({
      ...step,
      done: confirmed.find((each) => each.step === step.name) ?? null,
    })),
    toolsOnTable: empty!.n,
  };
}

/** The machine behind a rack page, held; only a linear rack has forks to be captured. */
async function rackMachine(db: Db, id: number): Promise<Machine> {
  const machine = await heldMachine(db, id);
  if (!traitsOf({ kind: machine.changerKind }).commissioned)
    throw new Refused('This machine has no linear rack.');
  return machine;
}

/** Keeps where a fork was captured. Whatever was proved of the rack must be proved again. */
export function captureFork(asking: Asking, captured: ForkSpot & { machineId: number }) {
  return once(asking, 'captureFork', captured, async (db) => {
    const machine = await rackMachine(db, captured.machineId);
    if (captured.fork < 1 || captured.fork > machine.places)
      throw new Refused(`${machine.name} has forks 1 to ${machine.places}.`);
    const backup = await row(
      db,
      "SELECT 1 FROM rack_confirmation WHERE machine_id = $1 AND step = 'backup'",
      [machine.id],
    );
    if (!backup) throw new Refused('Confirm the backup of the control’s configuration first.');
    await db.query(
      'INSERT INTO fork_capture (machine_id, fork, x, y, z, person_id) VALUES ($1, $2, $3, $4, $5, $6)',
      [machine.id, captured.fork, captured.x, captured.y, captured.z, asking.personId],
    );
    await db.query(
      "DELETE FROM rack_confirmation WHERE machine_id = $1 AND step IN ('empty', 'slow', 'fetch')",
      [machine.id],
    );
    const words = (['x', 'y', 'z'] as const)
      .map((axis) => `${axis.toUpperCase()} ${formatLength(captured[axis], machine.unit)}`)
      .join(', ');
    await append(
      db,
      entry.machine('fork', {
        personId: asking.personId,
        machineId: machine.id,
        said: `Fork ${captured.fork} of ${machine.name} was captured at ${words}.`,
        detail: captured,
      }),
    );
  });
}

/** Sets opening, slide, clearance, bump and spindle stop of a rack. */
export function setRack(
  asking: Asking,
  given: { machineId: number; typed: RackSetting; shown: Partial<RackSetting> },
) {
  return once(asking, 'setRack', given, async (db) => {
    const machine = await rackMachine(db, given.machineId);
    const now = (await rackOf(db, machine)).setting;
    const { changed, clashes } = laidOver(given.shown, given.typed, now);
    if (clashes.length > 0)
      throw new Refused('Somebody else set the same of this rack meanwhile. Look at it again, then set it.');
    const setting = { ...now, ...changed };
    if (setting.slideIn !== null && setting.slideIn === setting.slideClear)
      throw new Refused('In the fork and clear of it are the same: jog out until the flange clears.');
    await db.query(
      `INSERT INTO rack_setting (machine_id, opening, slide_in, slide_clear, clearance, bump, spindle_seconds)
       VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT (machine_id) DO UPDATE SET opening = excluded.opening, slide_in = excluded.slide_in,
         slide_clear = excluded.slide_clear, clearance = excluded.clearance, bump = excluded.bump, spindle_seconds = excluded.spindle_seconds`,
      [
        machine.id,
        setting.opening,
        setting.slideIn,
        setting.slideClear,
        setting.clearance,
        setting.bump,
        setting.spindleSeconds,
      ],
    );
    await append(
      db,
      entry.machine('rack', {
        personId: asking.personId,
        machineId: machine.id,
        said: `The rack settings of ${machine.name} were changed.`,
        detail: { machineId: machine.id, ...setting },
      }),
    );
  });
}

/** Confirms the next step; each needs those before it, and the dry run needs forks that are captured and a table that is empty. */
export function confirmRackStep(asking: Asking, confirmed: { machineId: number; step: RackStep }) {
  return once(asking, 'confirmRackStep', confirmed, async (db) => {
    const machine = await rackMachine(db, confirmed.machineId);
    const rack = await rackOf(db, machine);
    const index = RACK_STEPS.findIndex((step) => step.name === confirmed.step);
    const before = rack.steps.slice(0, index).find((step) => !step.done);
    if (before) throw new Refused(`First: ${before.words}`);
    if (rack.steps[index]!.done) throw new Refused('Somebody has already confirmed this.');
    if (confirmed.step === 'opening' && rack.setting.opening === '')
      throw new Refused('Set which way the forks open first.');
    if (confirmed.step === 'spindleStop' && (rack.setting.spindleSeconds ?? 0) < 12)
      throw new Refused(
        'Set the spindle stop to 12 s or more first; it can be shortened when the rack is proved.',
      );
    if (confirmed.step === 'empty') {
      if (rack.odd)
        throw new Refused(`Fork ${rack.odd.fork} stands off the line of the others: look at it first.`);
      const missing = rack.forks.filter((each) => !each.captured).map((each) => each.fork);
      if (missing.length > 0) throw new Refused(`Forks ${missing.join(', ')} have not been captured yet.`);
      if (rack.slide === null) throw new Refused('The slide distance is not known yet.');
      if (rack.toolsOnTable > 0)
        throw new Refused(
          `The record has ${rack.toolsOnTable} tools in ${machine.name}: take them all out before the dry run.`,
        );
    }
    await db.query('INSERT INTO rack_confirmation (machine_id, step, person_id) VALUES ($1, $2, $3)', [
      machine.id,
      confirmed.step,
      asking.personId,
    ]);
    await append(
      db,
      entry.machine('rackStep', {
        personId: asking.personId,
        machineId: machine.id,
        said: `${machine.name}: ${rack.steps[index]!.words}`,
      }),
    );
  });
}
