import type { ControlLife, ControlTool } from '../core/formats/cutting-tools.ts';
import { countedSince } from '../core/shift/job.ts';
import { isExpired, PER_SHOWN, type CycleUse, type LifeBasis } from '../core/life/count.ts';
import { explainCounter, REASON_WORDS, type CounterDifference } from '../core/life/counter-difference.ts';
import { lifeNumbers } from '../core/life/life-card.ts';
import type { Flag } from '../core/life/flag.ts';
import { entry } from '../core/ledger/entry.ts';
import { assemblyById, setFlag } from './assemblies.ts';
import { controlCount, controlTools } from './control-link.ts';
import { countedTools } from './counts.ts';
import { pool, rows, type Db } from './db.ts';
import { runningJob } from './jobs.ts';
import { append } from './ledger.ts';
import { lifeInWords } from './lives.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

/** A counted tool of a machine, beside what its control shows of it. */
export interface Counter {
  tool: number;
  assemblyId: number;
  counterId: number;
  number: string;
  name: string;
  flag: Flag | null;
  basis: LifeBasis;
  remaining: number;
  limit: number;
  beforeRenewal: number | null;
  use: CycleUse | null;
  /** What the control shows, in units of the counter; null: it does not say. */
  shown: number | null;
  difference: CounterDifference | null;
  /** The number to key so that the control counts as the record does, in minutes, millimetres or uses. */
  key: number;
}

const TYPES: Readonly<Record<LifeBasis, ControlLife['type']>> = {
  pieces: 'PART_COUNT',
  holes: 'PART_COUNT',
  minutes: 'MINUTES',
  wear: 'WEAR',
};

/** What a counter of the control shows as left, in units of the record: one that counts up is taken from its limit. Null: it has none of the kind. */
export function shownLeft(tool: ControlTool | undefined, basis: LifeBasis): number | null {
  const life = tool?.lives.find(({ type }) => type === TYPES[basis]);
  if (!life) return null;
  if (life.direction === 'DOWN') return Math.round(life.value * PER_SHOWN[basis]);
  return life.limit === null ? null : Math.round((life.limit - life.value) * PER_SHOWN[basis]);
}

/** Whether the control can be asked, and why not. */
export interface Counters {
  counters: Counter[];
  /** Cycles that the control has counted and nobody recorded; null: it does not say. */
  unrecorded: number | null;
  problem: string | null;
  linked: boolean;
}

/** The counters of a machine, each beside what its control shows. */
export async function countersOf(db: Db, machine: Machine): Promise<Counters> {
  const held = await controlTools(machine);
  const job = await runningJob(db, machine.id);
  const uses = new Map((job ? await countedTools(db, job) : []).map(({ tool, use }) => [tool, use]));
  const unrecorded = await unrecordedCycles(db, machine);
  const tools = await standing(db, machine.id);
  return {
    unrecorded,
    linked: held !== null,
    problem: held && !held.ok ? held.reason : null,
    counters: tools.map((tool): Counter => {
      const use = uses.get(tool.tool) ?? null;
      const shown = held?.ok
        ? shownLeft(
            held.tools.find((each) => each.tool === tool.tool),
            tool.basis,
          )
        : null;
      return {
        ...tool,
        use,
        shown,
        difference:
          shown === null ? null : explainCounter({ ...tool, shown, use, unrecorded, rule: machine.expiry }),
        key: lifeNumbers(tool, machine.expiry).left,
      };
    }),
  };
}

const standing = (db: Db, machineId: number) =>
  rows<
    Pick<
      Counter,
      | 'tool'
      | 'assemblyId'
      | 'counterId'
      | 'number'
      | 'name'
      | 'flag'
      | 'basis'
      | 'remaining'
      | 'limit'
      | 'beforeRenewal'
    >
  >(
    db,
    `SELECT s.tool, a.id AS "assemblyId", c.id AS "counterId", a.number, a.name, a.flag, c.basis, c.value AS remaining, c.full_life AS "limit",
            (SELECT l.before_value FROM ledger l WHERE l.counter_id = c.id AND l.stage = 'renewed' ORDER BY l.id DESC LIMIT 1) AS "beforeRenewal"
     FROM placement s JOIN assembly a ON a.id = s.assembly_id JOIN life_counter c ON c.assembly_id = a.id WHERE s.machine_id = $1 ORDER BY s.tool`,
    [machineId],
  );

export interface CounterRead {
  tool: number;
  assemblyId: number;
  /** What the control shows, as it shows it: uses, minutes, millimetres. */
  shown: number;
  /** The record as the page showed it. */
  seen: number;
  /** Take the control's number over; otherwise only say what explains the difference. */
  take: boolean;
}
export interface CounterTold {
  tool: number;
  taken: boolean;
  said: string;
}

/** Cycles that the control counted and nobody recorded; null: it does not say, or nothing runs. */
export async function unrecordedCycles(db: Db, machine: Machine): Promise<number | null> {
  const [count, job] = [await controlCount(machine), await runningJob(db, machine.id)];
  return job && count?.ok
    ? Math.max(0, Math.floor((countedSince(count.count, job.countFrom) - job.made) / job.partsPerCycle))
    : null;
}

/** Compares a counter that was read off the control with the record, and takes it over where that is asked for. */
export async function readCounter(asking: Asking, machine: Machine, read: CounterRead) {
  // asked before anything is held: a control that is slow holds nobody up
  const unrecorded = await unrecordedCycles(pool(), machine);
  return once(asking, 'readCounter', { machineId: machine.id, ...read }, async (db): Promise<CounterTold> => {
    await lockMachine(db, machine.id);
    const tool = (await standing(db, machine.id)).find((each) => each.tool === read.tool);
    if (tool?.assemblyId !== read.assemblyId)
      throw new Refused(`Another tool stands under T${read.tool} now. Look again.`);
    if (tool.remaining !== read.seen)
      throw new Refused('The record went on meanwhile: parts were counted, or it was renewed. Look again.');
    const shown = Math.round(read.shown * PER_SHOWN[tool.basis]);
    if (Math.abs(shown) > 1e12) throw new Refused('That is no number of a counter.');
    const job = await runningJob(db, machine.id);
    const use = (job ? await countedTools(db, job) : []).find((each) => each.tool === read.tool)?.use ?? null;
    const difference = explainCounter({ ...tool, shown, use, unrecorded, rule: machine.expiry });
    const said = REASON_WORDS[difference.reason](difference);
    if (!read.take || difference.by === 0) return { tool: read.tool, taken: false, said };
    if (difference.reason === 'notRecorded' || (unrecorded ?? 0) > 0)
      throw new Refused(
        'Parts were cut that are not recorded yet. Record them first: taken over now, they would be counted twice.',
      );
    if (tool.flag === 'broken')
      throw new Refused('It is in quarantine: its life is set when it is replaced.');
    const after = tool.remaining + difference.by;
    if (after > tool.limit)
      throw new Refused(
        `That is more than its full life, ${lifeInWords(tool.limit, tool.basis)}: check the number.`,
      );
    await append(
      db,
      entry.life('read off', {
        personId: asking.personId,
        machineId: machine.id,
        assemblyId: tool.assemblyId,
        tool: read.tool,
        counterId: tool.counterId,
        before: tool.remaining,
        after,
        said: `The counter of T${read.tool} (${tool.number}) was read off the control.`,
        why: said,
        detail: { reason: difference.reason },
      }),
    );
    const assembly = (await assemblyById(db, tool.assemblyId))!;
    if (tool.flag === null && isExpired(after))
      await setFlag(db, asking.personId, assembly, 'expired', 'By the counter of the control.');
    if (tool.flag === 'expired' && !isExpired(after))
      await setFlag(db, asking.personId, assembly, null, 'By the counter of the control it has life left.');
    return { tool: read.tool, taken: true, said };
  });
}
