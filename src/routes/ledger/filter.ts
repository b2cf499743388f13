import { LEDGER_KINDS } from '$core/ledger/entry';
import { instantOf } from '$core/shift/calendar';
import type { LedgerFilter } from '$server/ledger';

/** Filter the ledger is asked for, from the address; anything that is not understood is left out. */
export function ledgerFilter(asked: URLSearchParams, timeZone: string): LedgerFilter {
  const whole = (name: string) => {
    const value = Number(asked.get(name));
    return Number.isSafeInteger(value) && value > 0 && value < 2_147_483_648 ? value : undefined;
  };
  // as it is typed: the wall clock of the cell
  const instant = (name: string) => {
    const typed = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})/.exec(asked.get(name) ?? '');
    const value = typed && instantOf(typed[1]!, Number(typed[2]) * 60 + Number(typed[3]), timeZone);
    return value && !Number.isNaN(value.getTime()) ? value : undefined;
  };
  return {
    machine: whole('machine'),
    assembly: whole('assembly'),
    tool: whole('tool'),
    person: whole('person'),
    register: whole('register'),
    component: whole('component'),
    before: whole('before'),
    kind: LEDGER_KINDS.find((kind) => kind === asked.get('kind')),
    from: instant('from'),
    to: instant('to'),
  };
}
