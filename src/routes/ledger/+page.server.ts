import { cellOf } from '$server/cell';
import { pool } from '$server/db';
import { lastChecked, ledgerEntries } from '$server/ledger';
import { machines } from '$server/machines';
import { registerNamed } from '$server/registers';
import { people } from '$server/people';
import { past } from '$server/replica';
import { ledgerFilter } from './filter';
import type { PageServerLoad } from './$types';

const PAGE = 100;

export const load: PageServerLoad = async ({ url, locals }) => {
  const db = pool();
  const { timeZone } = await cellOf(db);
  const filter = ledgerFilter(url.searchParams, timeZone);
  const [entries, allMachines, everybody, checked, register] = await Promise.all([
    past(locals.told, (replica) => ledgerEntries(replica, filter, PAGE + 1)),
    machines(db),
    people(db),
    lastChecked(db),
    filter.register === undefined ? null : registerNamed(db, filter.register),
  ]);
  return {
    entries: entries.slice(0, PAGE),
    older: entries.length > PAGE ? entries[PAGE - 1]!.id : null,
    asked: Object.fromEntries(url.searchParams),
    machines: allMachines.map(({ id, name }) => ({ id, name })),
    people: everybody.map(({ id, name }) => ({ id, name })),
    checked,
    register,
  };
};
