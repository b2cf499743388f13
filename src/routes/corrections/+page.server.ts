import { openCorrections, recentCorrections } from '$server/corrections';
import { oneReading } from '$server/one-reading';
import { pool } from '$server/db';
import { setUpsOff } from '$server/set-up-shift';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => {
  const db = oneReading(pool());
  const open = await openCorrections(db);
  const machines = open.map(({ machineId }) => machineId);
  return {
    open,
    closed: await recentCorrections(db),
    // one correction alone is no whole set-up
    off: await setUpsOff(
      db,
      machines.filter((id, i) => machines.indexOf(id) !== i),
    ),
  };
};
