import type { Person, Role } from '../../src/core/people/roles.ts';
import { transaction } from '../../src/server/db.ts';
import { hashPin, insertPerson } from '../../src/server/people.ts';

/** The people of the made-up cell. Their PINs are for the demo only and are printed at start. */
export const DEMO_PEOPLE: readonly { badge: string; name: string; role: Role; pin: string }[] = [
  { badge: '1001', name: 'Maren Holt', role: 'lead', pin: '2580' },
  { badge: '1002', name: 'Ilya Brandt', role: 'setter', pin: '1470' },
  { badge: '1003', name: 'Dede Okafor', role: 'operator', pin: '3690' },
  { badge: '1004', name: 'Sunniva Reyes', role: 'inspector', pin: '7410' },
  { badge: '1005', name: 'Piet Lindqvist', role: 'crib', pin: '8520' },
  { badge: '1006', name: 'Anouk Farrow', role: 'viewer', pin: '9630' },
  { badge: '1007', name: 'Tomas Weller', role: 'lead', pin: '1590' },
];

export async function addPeople(): Promise<Person[]> {
  const added: Person[] = [];
  for (const { pin, ...person } of DEMO_PEOPLE) {
    const pinHash = await hashPin(pin);
    const { id } = (await transaction((db) => insertPerson(db, person, pinHash)))!;
    added.push({ ...person, id });
  }
  return added;
}

