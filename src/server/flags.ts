import type { Flag } from '../core/life/flag.ts';
import { heldAssembly, setFlag } from './assemblies.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { quarantine } from './quarantine.ts';
import { askBeforeTakingOver } from './told-meanwhile.ts';

export interface Flagging {
  assemblyId: number;
  flag: Flag | null;
  why: string;
}

/** Flags an assembly broken or locked, or unlocks it. A broken one goes into quarantine, which alone clears it (H12). */
export function flagAssembly(asking: Asking, flagging: Flagging) {
  return once(asking, 'flagAssembly', flagging, async (db) => {
    const assembly = await heldAssembly(db, flagging.assemblyId);
    if (!assembly) throw new Refused('There is no such assembly.');
    if (assembly.flag === flagging.flag)
      throw new Refused(`${assembly.number} is already ${flagging.flag ?? 'without a flag'}.`);
    if (assembly.flag === 'broken')
      throw new Refused(
        'A broken tool stays flagged until its parts are inspected and it is replaced and measured: end its quarantine.',
      );
    if (assembly.flag === 'expired' && flagging.flag !== 'broken')
      throw new Refused('An expired flag is cleared by a renewal, not by hand.');
    if (flagging.why.trim() === '') throw new Refused('Say why: the next shift will ask.');
    // what is broken is said at once, whoever locked it meanwhile
    if (flagging.flag !== 'broken')
      await askBeforeTakingOver(db, asking, ['assembly', 'flag', { assemblyId: assembly.id }]);
    if (flagging.flag === 'broken')
      await quarantine(db, asking.personId, assembly, {
        verdict: 'broken',
        why: flagging.why.trim(),
        part: null,
      });
    else await setFlag(db, asking.personId, assembly, flagging.flag, flagging.why);
  });
}
