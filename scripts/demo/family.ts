import type { Person } from '../../src/core/people/roles.ts';
import { setMaterial } from '../../src/server/programs.ts';
import type { Brought } from '../../src/server/bring-in.ts';
import type { Asking } from '../../src/server/once.ts';
import { must } from './files.ts';

interface Told {
  bring: (path: string, who: Person, over?: Partial<Brought>) => Promise<{ id: number | null }>;
  as: (person: Person) => Asking;
  lead: Person;
  inspector: Person;
  machine: ReadonlyMap<string, number>;
}

/** One program on two machines: alike when it came, until one of them is given an aim and a dead band of its own by what this answers. */
export async function family({ bring, as, lead, inspector, machine }: Told): Promise<() => Promise<unknown>> {
  const programs = new Map<string, number>();
  for (const name of ['Avocet', 'Egret']) {
    const { id } = await bring('family/O7010-hub-cover.nc', lead, { machineId: machine.get(name)! });
    await must(setMaterial(as(lead), { programId: id!, material: 'aluminium' }));
    await bring(`family/O7010-${name.toLowerCase()}.csv`, inspector, { programId: id });
    programs.set(name, id!);
  }
  return () => bring('family/O7010-egret-later.csv', inspector, { programId: programs.get('Egret')! });
}
