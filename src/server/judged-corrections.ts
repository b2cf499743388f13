import { byPlace } from '../core/correction/by-place.ts';
import { modelOf, type Judgement } from '../core/correction/judge-question.ts';
import { registerDecimals } from '../core/units/register-decimals.ts';
import { didItTake, DOUBTED, HARMLESS, type Took, type TookAnswer } from '../core/correction/took.ts';
import { REGISTER_WORDS } from '../core/inspection/register-words.ts';
import { entry } from '../core/ledger/entry.ts';
import { row, type Db } from './db.ts';
import { stateOf } from './edge-states.ts';
import type { Evidence } from './evidence.ts';
import { append } from './ledger.ts';
import type { Machine } from './machines.ts';
import type { Feature } from './programs.ts';

/**
 * Judges the last correction of each row of a size by all parts cut since, as long as its edge is the same. What was wrong may
 * turn out right with a later part, and the other way round; only a changed verdict is entered.
 */
export async function judgeCorrections(
  db: Db,
  personId: number,
  feature: Feature,
  machine: Machine,
  evidence: Evidence,
  readingId: number,
): Promise<{ took: TookAnswer | null; doubts: Map<number, Doubt> }> {
  const place = evidence.readings.findIndex(({ id }) => id === readingId);
  let said: TookAnswer | null = null;
  const doubts = new Map<number, Doubt>();
  for (const { register, by } of evidence.sizes[0]!.moves) {
    const last = evidence.keyed.filter((each) => each.register === register).at(-1);
    if (!last?.sameEdge || !last.tells.includes(place)) continue;
    const { took: before, seen } = await correctionVerdict(db, last.proposalId);
    // whoever read the row off the control has the last word
    if (before === 'took' || seen) continue;
    const known = evidence.readings.flatMap((reading, i) => (reading.held === null ? [] : [i]));
    const told = byPlace(evidence);
    const model = modelOf(told);
    const took = didItTake({
      model,
      register,
      since: known.flatMap((i, k) =>
        last.tells.includes(i) &&
        evidence.sizes[evidence.readings[i]!.size]!.moves.some((each) => each.register === register)
          ? [k]
          : [],
      ),
      from: last.from,
      to: last.to,
      by,
      noise: stateOf(told).sizes[0]!.noise,
      unit: machine.unit,
      decimals: registerDecimals(machine.unit, machine.increment),
    });
    said = took;
    const doubted = HARMLESS.includes(took.verdict) && took.against >= DOUBTED;
    if (doubted) doubts.set(register, { proposalId: last.proposalId, before });
    // by this part it took after all, or nothing speaks against it any more
    else if (HARMLESS.includes(took.verdict) && before && !HARMLESS.includes(before as Took))
      evidence.registers[register]!.locked = null;
    if (!HARMLESS.includes(took.verdict))
      evidence.registers[register]!.locked =
        `Nothing more on ${REGISTER_WORDS[evidence.registers[register]!.role]} of row ${evidence.registers[register]!.row} until somebody has read it off the control.`;
    if (took.verdict === before || (doubted && before === 'doubtful')) continue;
    await append(
      db,
      entry.correction('judged', {
        personId,
        machineId: machine.id,
        proposalId: last.proposalId,
        readingId,
        tool: feature.tool,
        said: `${feature.name}: ${took.sentence}`,
        detail: { verdict: took.verdict, ranked: took.ranked, more: took.more },
      }),
    );
  }
  return { took: said, doubts };
}

/** A correction that likelier did not take, though nobody can tell yet; and its last verdict. */
interface Doubt {
  proposalId: number;
  before: string | null;
}

const correctionVerdict = async (db: Db, proposalId: number) =>
  (await row<{ took: string | null; seen: boolean }>(
    db,
    'SELECT took, seen FROM proposal_state WHERE id = $1',
    [proposalId],
  ))!;

/**
 * A change of a row whose last correction likelier did nothing waits until the row was read (H14): more would be keyed on top of
 * what nobody knows.
 */
export async function unlessDoubted(
  db: Db,
  personId: number,
  machine: Machine,
  feature: Feature,
  readingId: number,
  answer: Judgement,
  doubts: ReadonlyMap<number, Doubt>,
): Promise<Judgement> {
  const row =
    answer.verdict === 'change' ? answer.rows.find(({ register }) => doubts.has(register)) : undefined;
  if (!row) return answer;
  const { proposalId, before } = doubts.get(row.register)!;
  const reason = `Read ${REGISTER_WORDS[row.role]} of row ${row.row} off the control before anything more is keyed: by the parts since, the last correction likelier did not do what it should.`;
  if (before !== 'doubtful')
    await append(
      db,
      entry.correction('judged', {
        personId,
        machineId: machine.id,
        proposalId,
        readingId,
        tool: feature.tool,
        said: `${feature.name}: ${reason}`,
        detail: { verdict: 'doubtful', ranked: [], more: null },
      }),
    );
  return { verdict: 'locked', reason, arithmetic: answer.arithmetic, partOut: answer.partOut };
}
