import type { Person } from '../../src/core/people/roles.ts';
import type { Brought } from '../../src/server/bring-in.ts';
import type { Asking } from '../../src/server/once.ts';
import { setMaterial } from '../../src/server/programs.ts';
import { proveProgram } from '../../src/server/proofs.ts';
import { filesIn, must } from './files.ts';

/** The first digit of a program says its machine. */
const MACHINE_OF: Readonly<Record<string, string>> = {
  1: 'Curlew',
  2: 'Avocet',
  3: 'Bittern',
  4: 'Dunlin',
  5: 'Egret',
  6: 'Fulmar',
};

/** What the programs cut. */
const CUTS: Readonly<Record<string, string>> = {
  O1402: 'duplex stainless',
  O1421: 'bronze',
  O2205: 'duplex stainless',
  O2301: 'bronze',
  O2310: 'aluminium',
  O3104: 'bronze',
  O4102: 'phenolic sheet',
  O5103: 'duplex stainless',
  O6105: 'aluminium bronze',
};

interface Told {
  bring: (path: string, who: Person, over?: Partial<Brought>) => Promise<{ id: number | null }>;
  as: (person: Person) => Asking;
  lead: Person;
  setter: Person;
  machine: ReadonlyMap<string, number>;
}

/** Programs as they came, by number: what was changed since as it was, and all but one proven. */
export async function bringPrograms({ bring, as, lead, setter, machine }: Told): Promise<Map<string, number>> {
  const programs = new Map<string, number>();
  const changed = filesIn('programs-before');
  for (const name of filesIn('programs')) {
    const [number] = name.split('-') as [string];
    const { id } = await bring(`${changed.includes(name) ? 'programs-before' : 'programs'}/${name}`, lead, {
      machineId: machine.get(MACHINE_OF[number[1]!]!)!,
      partsPerCycle: number === 'O1402' || number === 'O5103' ? 2 : 1,
    });
    programs.set(number, id!);
    const material = CUTS[number];
    if (material) await must(setMaterial(as(lead), { programId: id!, material }));
    if (number !== 'O2310')
      await must(
        proveProgram(as(setter), {
          programId: id!,
          proven: true,
          said: 'first part in single block, every size within its limits',
        }),
      );
  }
  return programs;
}

/** The changed ones as they are now, not proven anew yet. */
export async function bringChanged({ bring, lead, machine }: Told, programs: Map<string, number>): Promise<void> {
  for (const name of filesIn('programs-before')) {
    const [number] = name.split('-') as [string];
    const { id } = await bring(`programs/${name}`, lead, { machineId: machine.get(MACHINE_OF[number[1]!]!)! });
    programs.set(number, id!);
  }
}
