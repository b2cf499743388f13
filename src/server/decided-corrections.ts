import { entry } from '../core/ledger/entry.ts';
import { may, type Person } from '../core/people/roles.ts';
import { formatWithUnit } from '../core/units/format-length.ts';
import { nanometres } from '../core/units/length.ts';
import {
  CLOSED_WORDS,
  isLarge,
  lockedCorrection,
  overtaken,
  signed,
  togetherWith,
  type Correction,
} from './corrections.ts';
import type { Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';

/** Done, or closed because the register moved in the meantime. */
export type Decided = { done: true } | { done: false; reason: string };

/** A correction and those that belong together with it, their machine held. */
const lockedTogether = async (db: Db, id: number) => ({
  correction: await lockedCorrection(db, id),
  others: await togetherWith(db, id),
});

/** What is said of a correction. */
const about = (personId: number, { id, machineId, tool }: Correction, said: string) => ({
  personId,
  machineId,
  proposalId: id,
  tool,
  said,
});

/** Approves a correction, and those that belong together with it: the lead any, others up to the feature's limit. */
export function approve(asking: Asking, person: Person, proposalId: number) {
  return once(asking, 'approve', { proposalId }, async (db): Promise<Decided> => {
    const { correction, others } = await lockedTogether(db, proposalId);
    const moved = overtaken(correction);
    if (moved) return { done: false, reason: moved };
    if (correction.state !== 'proposed')
      throw new Refused(
        `This correction ${CLOSED_WORDS[correction.state]}${correction.approvedBy ? ` by ${correction.approvedBy}` : ''}.`,
      );
    const all = [correction, ...others.filter(({ state }) => state === 'proposed')];
    const large = all.find((each) => isLarge(each));
    if (large && !may(person.role, 'approveAnyCorrection'))
      throw new Refused(
        `${formatWithUnit(nanometres(Math.abs(large.change)), large.unit)}${large === correction ? '' : `, of row ${large.row}, which belongs together with it,`} is over the ${formatWithUnit(large.operatorLimit, large.unit)} that may be approved at the machine. Ask the cell lead.`,
      );
    for (const each of all)
      await append(
        db,
        entry.correction(
          'approved',
          about(person.id, each, `${each.feature}: the correction to ${signed(each)} was approved.`),
        ),
      );
    return { done: true };
  });
}

/** Turns a correction down, or takes an approved one back before it is keyed; with it those that belong together with it. */
export function refuse(asking: Asking, proposalId: number, why: string) {
  return once(asking, 'refuse', { proposalId, why }, async (db) => {
    const { correction, others } = await lockedTogether(db, proposalId);
    if (correction.state !== 'proposed' && correction.state !== 'approved')
      throw new Refused(`This correction ${CLOSED_WORDS[correction.state]}.`);
    if (why.trim() === '') throw new Refused('Say why it is not being made.');
    const { personId } = asking;
    const said = `${correction.feature}: the correction was not made.`;
    await append(db, entry.correction('refused', { ...about(personId, correction, said), why }));
    for (const each of others)
      await append(
        db,
        entry.correction(
          'superseded',
          about(
            personId,
            each,
            `Withdrawn: it was worked out with that of row ${correction.row}, which was not made.`,
          ),
        ),
      );
  });
}
