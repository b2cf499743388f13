import { proposeCheck } from '../core/breakage/check-proposal.ts';
import { judgeCheck, VERDICT_WORDS, type CheckDoubt } from '../core/breakage/check-verdict.ts';
import {
  METHOD_WORDS,
  MOMENT_WORDS,
  usualLimits,
  type CheckLimits,
  type CheckMethod,
  type CheckMoment,
} from '../core/breakage/tool-check.ts';
import type { CheckedPlace, CheckTold } from '../core/breakage/checked-tool.ts';
import { followsInHole } from '../core/breakage/what-to-inspect.ts';
import { entry } from '../core/ledger/entry.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import type { Length } from '../core/units/length.ts';
import { assemblyById } from './assemblies.ts';
import { rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { IS_LENGTH } from './lengths.ts';
import { ownLengths } from './tool-rows.ts';
import { lockMachine, type Machine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { cuttingNow, quarantine } from './quarantine.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

/** The row in which a mill keeps a tool's length, and a lathe how far it stands out. */
const lengthKind = (machine: Machine) => (machine.kind === 'mill' ? 'lengthGeometry' : 'zGeometry');

export async function checksOf(db: Db, machine: Machine): Promise<CheckedPlace[]> {
  const placed = await rows<
    Omit<CheckedPlace, 'proposal' | 'limits' | 'last'> & {
      ends: number;
      sudden: number;
      shortLimit: Length | null;
      longLimit: Length | null;
    }
  >(
    db,
    `SELECT a.id AS "assemblyId", a.number, a.name, a.kind, a.diameter, a.stick_out AS "stickOut", a.flag, s.tool,
            c.moment, c.method, c.short_limit AS "shortLimit", c.long_limit AS "longLimit", p.name AS "decidedBy", CASE WHEN ${IS_LENGTH} THEN r.value END AS reference,
            e.ends, e.sudden
     FROM placement s JOIN machine m ON m.id = s.machine_id JOIN assembly a ON a.id = s.assembly_id
       LEFT JOIN tool_check_plan c ON c.machine_id = s.machine_id AND c.tool = s.tool LEFT JOIN person p ON p.id = c.person_id
       LEFT JOIN register r ON r.machine_id = s.machine_id AND r.row = s.tool AND r.kind = $2
       LEFT JOIN LATERAL (
         SELECT count(*)::integer AS ends, (count(*) FILTER (WHERE ended IN ('chipped', 'broken')))::integer AS sudden
         FROM edge_end x JOIN assembly b ON b.id = x.assembly_id
         WHERE b.kind = a.kind AND b.diameter = a.diameter AND b.corner_radius = a.corner_radius AND x.ended <> 'unknown') e ON true
     WHERE s.machine_id = $1 ORDER BY s.tool`,
    [machine.id, lengthKind(machine)],
  );
  const last = await rows<NonNullable<CheckedPlace['last']> & { assemblyId: number }>(
    db,
    `SELECT DISTINCT ON (k.assembly_id) k.assembly_id AS "assemblyId", k.verdict, k.doubt, k.measured, k.reference, k.last_part AS part, p.name AS person, k.at
     FROM tool_check k JOIN person p ON p.id = k.person_id WHERE k.assembly_id = ANY($1) ORDER BY k.assembly_id, k.id DESC`,
    [placed.map(({ assemblyId }) => assemblyId)],
  );
  // what a tool before it, or its edge before, left in the row is nothing to hold a check against
  const own = await ownLengths(db, machine);
  return placed.map(({ ends, sudden, shortLimit, longLimit, ...found }) => {
    const tool = { ...found, reference: own.has(found.tool) ? found.reference : null };
    const proposal = proposeCheck(
      {
        ...tool,
        history: { ends, sudden },
        opensFor: placed.find((other) => followsInHole(tool, { ...other, holes: 0 }))?.tool ?? null,
      },
      (length) => formatWithUnit(length, machine.unit),
    );
    const decided = tool.decidedBy !== null;
    const method = decided ? tool.method : proposal.method;
    return {
      ...tool,
      proposal,
      method,
      moment: decided ? tool.moment : proposal.moment,
      limits: decided ? { short: shortLimit!, long: longLimit! } : usualLimits(method, tool.stickOut),
      last: last.find(({ assemblyId }) => assemblyId === tool.assemblyId) ?? null,
    };
  });
}

export interface CheckDecided {
  tool: number;
  moment: CheckMoment;
  method: CheckMethod;
  limits: CheckLimits;
}

/** The lead decides how a T is checked. */
export function decideCheck(asking: Asking, machine: Machine, given: CheckDecided) {
  return once(asking, 'decideCheck', { machineId: machine.id, ...given }, async (db) => {
    if (given.limits.short <= 0 || given.limits.long <= 0) throw new Refused('A limit is above zero.');
    await lockMachine(db, machine.id);
    await askBeforeTakingOver(db, asking, [
      'machine',
      'toolCheck',
      { machineId: machine.id, tool: given.tool },
    ]);
    await db.query(
      `INSERT INTO tool_check_plan (machine_id, tool, moment, method, short_limit, long_limit, person_id) VALUES ($1, $2, $3, $4, $5, $6, $7)
       ON CONFLICT (machine_id, tool) DO UPDATE SET moment = $3, method = $4, short_limit = $5, long_limit = $6, person_id = $7, at = tin_now()`,
      [
        machine.id,
        given.tool,
        given.moment,
        given.method,
        given.limits.short,
        given.limits.long,
        asking.personId,
      ],
    );
    const show = (length: Length) => formatWithUnit(length, machine.unit);
    await append(
      db,
      entry.machine('toolCheck', {
        personId: asking.personId,
        machineId: machine.id,
        tool: given.tool,
        said:
          given.moment === 'none'
            ? `T${given.tool} is not checked for breakage.`
            : `T${given.tool} is checked ${METHOD_WORDS[given.method]} ${MOMENT_WORDS[given.moment]}: short by ${show(given.limits.short)}, long by ${show(given.limits.long)}.`,
      }),
    );
  });
}

export interface CheckTaken {
  tool: number;
  /** What the page showed under that T: somebody may have changed tools meanwhile. */
  assemblyId: number;
  method: CheckMethod;
  measured: Length;
  /** The last part that it had cut; null: as far as was counted, with the one in the machine. */
  lastPart: number | null;
  source: 'typed' | 'control';
}
const DOUBT_WORDS: Readonly<Record<CheckDoubt, string>> = {
  noReference: 'Its length was not measured before it cut, so there is nothing to hold this against.',
  atTheLimit: 'It lies at the limit, as near as such a check can see. Check it again.',
  anotherTool: 'That is the length of another tool: see which one is in the spindle, then check again.',
  otherUnit: 'That is its length in the other unit. Check it again.',
  signTurned: 'That is its length with the sign turned. Check it again.',
  farTooLong:
    'No tool slips that far: look for a chip on the setter and at what is in the spindle, then check again.',
  farTooShort: 'That is more than it stands out of its holder: see what is in the spindle, then check again.',
};

/** Keeps what a check measured, and says what it means. What is broken or pulling out goes into quarantine at once. */
export function takeCheck(asking: Asking, machine: Machine, given: CheckTaken) {
  return once(asking, 'takeCheck', { machineId: machine.id, ...given }, (db) =>
    checkTool(db, asking.personId, machine, given),
  );
}

export async function checkTool(
  db: Db,
  personId: number,
  machine: Machine,
  given: CheckTaken,
): Promise<CheckTold> {
  await lockMachine(db, machine.id);
  const all = await checksOf(db, machine);
  const tool = all.find((each) => each.tool === given.tool);
  if (tool?.assemblyId !== given.assemblyId)
    throw new Refused(`Another tool stands under T${given.tool} now. Look again.`);
  const cutting = await cuttingNow(db, machine.id, given.tool);
  const lastPart = cutting && (given.lastPart ?? cutting.inMachine);
  if (cutting && lastPart! > cutting.job.quantity + cutting.job.partsPerCycle)
    throw new Refused(`The job is for ${cutting.job.quantity} parts: part ${lastPart} cannot have been cut.`);
  const limits = tool.method === given.method ? tool.limits : usualLimits(given.method, tool.stickOut);
  const answer = judgeCheck({
    method: given.method,
    limits,
    stickOut: tool.stickOut,
    reference: tool.reference,
    measured: given.measured,
    others: all.flatMap((other) =>
      other.tool !== tool.tool && other.reference !== null
        ? [{ tool: other.tool, length: other.reference }]
        : [],
    ),
  });
  await db.query(
    `INSERT INTO tool_check (machine_id, tool, assembly_id, method, source, reference, measured, verdict, doubt, job_id, last_part, person_id)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      machine.id,
      given.tool,
      given.assemblyId,
      given.method,
      given.source,
      tool.reference,
      given.measured,
      answer.verdict,
      answer.doubt,
      cutting?.job.id ?? null,
      lastPart,
      personId,
    ],
  );
  const change = answer.change === null ? '' : changeWords(answer.change, machine);
  const said = `T${given.tool} (${tool.number}) ${METHOD_WORDS[given.method]}: ${VERDICT_WORDS[answer.verdict]}${change && `, ${change}`}.`;
  const doubt =
    answer.doubt === null
      ? ''
      : answer.doubt === 'anotherTool'
        ? DOUBT_WORDS.anotherTool.replace('another tool', `T${answer.tool}`)
        : DOUBT_WORDS[answer.doubt];
  await append(
    db,
    entry.assembly('checked', {
      personId,
      assemblyId: tool.assemblyId,
      machineId: machine.id,
      tool: given.tool,
      jobId: cutting?.job.id,
      said,
      why: doubt,
    }),
  );
  const { verdict } = answer;
  if ((verdict === 'broken' || verdict === 'pullingOut') && tool.flag !== 'broken')
    await quarantine(db, personId, (await assemblyById(db, tool.assemblyId))!, {
      verdict,
      why: `${METHOD_WORDS[given.method]}: ${change}.`,
      part: lastPart,
    });
  return { tool: given.tool, verdict, said: doubt ? `${said} ${doubt}` : said };
}

const changeWords = (change: Length, machine: Machine) =>
  change === 0
    ? 'as long as it was'
    : `${formatWithUnit(Math.abs(change) as Length, machine.unit)} ${change < 0 ? 'short' : 'long'}`;

/** Checks of an assembly, the newest first. */
export const checksOfTool = (db: Db, assemblyId: number, limit = 12) =>
  rows<NonNullable<CheckedPlace['last']> & { id: number; method: CheckMethod }>(
    db,
    `SELECT k.id, k.method, k.verdict, k.doubt, k.measured, k.reference, k.last_part AS part, p.name AS person, k.at
     FROM tool_check k JOIN person p ON p.id = k.person_id WHERE k.assembly_id = $1 ORDER BY k.id DESC LIMIT $2`,
    [assemblyId, limit],
  );
