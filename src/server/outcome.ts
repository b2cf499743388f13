import type { Ask } from '../core/words/ask.ts';

/** What an act leads to: done, or a sentence that says why not, and what may be answered to it. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; reason: string; ask?: Ask };

/** Thrown inside a transaction to undo it and answer with a sentence; `attempt` turns it into an Outcome. */
export class Refused extends Error {}

/** Refused until somebody has looked again and says so. */
export class Asked extends Refused {
  readonly ask: Ask;
  constructor(reason: string, ask: Ask) {
    super(reason);
    this.ask = ask;
  }
}

/** The sentences for what the database itself refuses, whatever the code above it did. */
const REFUSALS: Record<string, string> = {
  one_assembly_in_one_place: 'This assembly is already somewhere else: an assembly is in one place only.',
  one_tool_number_on_a_machine: 'This T number already exists on the machine: a T is unique there.',
  one_assembly_in_a_place: 'There is already a tool in that place.',
  a_proposal_is_applied_once: 'This correction was already made; it is not made twice.',
  a_proposal_is_approved_once: 'This correction is already approved.',
  a_proposal_is_closed_once: 'This correction is already closed.',
  one_tied_pocket_for_a_tool: 'This T is already tied to another pocket.',
  one_running_job_on_a_machine: 'Another job is running on this machine: finish it first.',
  one_open_load_plan_on_a_machine: 'A load plan for this machine is already open: finish it, or drop it.',
  one_open_first_part_on_a_machine:
    'A first part is already being brought to size on this machine: finish it, or drop it.',
  one_open_quarantine_of_an_assembly: 'This tool is in quarantine already.',
  one_open_renewal_of_an_assembly: 'A renewal of this assembly is already under way.',
  renewal_step_pkey: 'Somebody has already taken this step.',
  leaf_signature_pkey: 'This side of the leaf is already signed.',
  two_people_sign:
    'One person cannot sign for both sides: the one who leaves and the one who comes are two people.',
  person_badge_key: 'This badge number is already somebody’s.',
};
/** Whether it is known what to say where the database refuses a second of something. */
export const isWorded = (constraint: string | undefined): boolean =>
  Object.hasOwn(REFUSALS, constraint ?? '');
const LEDGER_REFUSALS: Record<string, string> = {
  TA001:
    'This register has moved since the page was loaded. Nothing was changed; look at the new value and decide again.',
  TA002: 'This counter has moved since the page was loaded. Nothing was changed; try again.',
  TA011: 'It was taken back already, and counts for nothing.',
  TA003: 'That assembly is no longer in that place. Nothing was changed; look at the machine again.',
  TA005: 'The count on the shelf has changed. Nothing was recorded; look again.',
  TA010:
    'This tool is in quarantine: its parts are inspected, it is replaced and measured, and only then is its flag cleared.',
  TA008:
    'This machine’s map has changed: somebody moved a tool in the meantime. Nothing was recorded; look again.',
  TA004:
    'Somebody recorded parts of this job in the meantime. Nothing was recorded; look at the count and try again.',
};

export async function attempt<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { ok: true, value: await work() };
  } catch (error) {
    const reason = refusalOf(error);
    if (reason === null) throw error;
    return error instanceof Asked ? { ok: false, reason, ask: error.ask } : { ok: false, reason };
  }
}

/** Faults of the database that the person in front of it can do something about, in words. */
const DATABASE_FAULTS: Readonly<Record<string, string>> = {
  '53100': 'The disk of the database is full. Nothing was recorded; make room, then press again.',
  '57014': 'The database took too long and stopped. Nothing was changed; ask for less, or try again later.',
  '23503': 'Something that this is about is not there, or no longer. Nothing was changed; reload the page.',
  '22003': 'A number is larger than the record can hold. Nothing was changed.',
  '22021': 'It contains a character that is not text. Nothing was changed.',
  '22P05': 'It contains a character that is not text. Nothing was changed.',
};
export const databaseFault = (error: unknown): string | null =>
  DATABASE_FAULTS[(error as { code?: string } | null)?.code ?? ''] ?? null;

function refusalOf(error: unknown): string | null {
  if (error instanceof Refused) return error.message;
  const { code, constraint } = error as { code?: string; constraint?: string };
  if (code && LEDGER_REFUSALS[code]) return LEDGER_REFUSALS[code];
  const fault = databaseFault(error);
  if (fault !== null) return fault;
  if (code === 'TA006' || code === 'TA007' || code === 'TA009')
    return `The table does not allow it: ${(error as Error).message}. Nothing was changed.`;
  if (code === '23505' && constraint) return REFUSALS[constraint] ?? null;
  return null;
}
