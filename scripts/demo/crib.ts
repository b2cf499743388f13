import { randomUUID } from 'node:crypto';
import type { Person } from '../../src/core/people/roles.ts';
import { lengthOf } from '../../src/core/units/length.ts';
import { buildAssembly } from '../../src/server/builds.ts';
import { componentsByNumber } from '../../src/server/components.ts';
import { pool } from '../../src/server/db.ts';
import { recordPresetting } from '../../src/server/presettings.ts';
import { must } from './files.ts';

/** What the crib attendant did the day before: two builds, of which one is measured, and sisters measured again. */
export async function cribWork(crib: Person, assembly: ReadonlyMap<string, number>, at: (hoursAgo: number) => Promise<unknown>): Promise<void> {
  const asking = () => ({ key: randomUUID(), personId: crib.id });
  const item = async (number: string) => (await componentsByNumber(pool(), [number]))[0]!.id;
  const mm = (value: number) => lengthOf(value, 'mm');
  const build = async (number: string, name: string, cutter: string, holder: string, adapter: string, out: number) =>
    must(
      buildAssembly(
        asking(),
        {
          number,
          name,
          parts: {
            cutter: await item(cutter),
            holder: await item(holder),
            adapter: await item(adapter),
            knob: await item('KN-45C'),
          },
          stickOut: mm(out),
          machineId: null,
          override: '',
        },
        false,
      ),
    );
  const measured = (assemblyId: number, gaugeLength: number, diameter: number, runOut: number) =>
    must(
      recordPresetting(asking(), {
        assemblyId,
        gaugeLength: mm(gaugeLength),
        diameter: mm(diameter),
        cornerRadius: null,
        runOut: mm(runOut),
        instrument: 'presetter',
        confirmed: false,
      }),
    );
  await at(31);
  const slim = await build('A-150', 'End mill 6 slim', 'EM-6S', 'H40-CC20', 'C20-6', 16);
  await build('A-151', 'End mill 10 sharp', 'EM-10S', 'H40-CC32', 'C32-10', 30);
  await at(30.5);
  for (const [length, diameter, runOut] of [
    [115.9642, 5.9914, 0.006],
    [115.9668, 5.9921, 0.005],
    [115.9631, 5.9917, 0.007],
  ] as const)
    await measured(slim.id, length, diameter, runOut);
  await measured(assembly.get('A-141')!, 117.9655, 9.9962, 0.004);
  await measured(assembly.get('A-143')!, 149.1052, 12.0081, 0.003);
}
