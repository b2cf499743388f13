import type { LedgerFilter } from '$server/ledger';

/** What of the ledger is asked for, from the address; anything that is not understood is left out. */
export function ledgerFilter(asked: URLSearchParams): LedgerFilter {
  const whole = (name: string) => {
    const value = Number(asked.get(name));
    return Number.isSafeInteger(value) && value > 0 && value < 2_147_483_648 ? value : undefined;
  };
  const instant = (name: string) => {
    const value = new Date(asked.get(name) ?? '');
    return Number.isNaN(value.getTime()) ? undefined : value;
  };
  return {
    machine: whole('machine'),
    assembly: whole('assembly'),
    tool: whole('tool'),
    person: whole('person'),
    register: whole('register'),
    before: whole('before'),
    kind: asked.get('kind') || undefined,
    from: instant('from'),
    to: instant('to'),
  };
}
