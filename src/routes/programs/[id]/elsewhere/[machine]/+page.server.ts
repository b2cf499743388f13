import { error } from '@sveltejs/kit';
import { registerDecimals } from '$core/units/register-decimals';
import { formatLength } from '$core/units/format-length';
import type { Length } from '$core/units/length';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { movingSheet } from '$server/moving';
import { programById } from '$server/programs';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params }) => {
  const number = (text: string) => (/^\d{1,9}$/.test(text) ? Number(text) : 0);
  const [program, to] = await Promise.all([
    programById(pool(), number(params.id)),
    machineById(pool(), number(params.machine)),
  ]);
  if (!program || !to || program.machineId === to.id) error(404, 'There is no such sheet.');
  const home = (await machineById(pool(), program.machineId))!;
  const sheet = await movingSheet(pool(), program, home, to);
  const show =
    ({ unit, increment }: { unit: 'mm' | 'in'; increment: Length }) =>
    (value: number) =>
      formatLength(value as Length, unit, { sign: 'always', decimals: registerDecimals(unit, increment) });
  const [atHome, there] = [show(home), show(to)];
  return {
    program,
    home: { id: home.id, name: home.name, unit: home.unit },
    to: { id: to.id, name: to.name, unit: to.unit },
    found: sheet.found,
    carried: sheet.carried,
    taken: sheet.taken,
    stay: sheet.stay,
    lengths: sheet.lengths.map(({ before, after, gaugeLength, ...rest }) => ({
      ...rest,
      gauge: formatLength(gaugeLength, home.unit),
      before: there(before),
      after: there(after),
    })),
    wears: sheet.wears.map((each) => ({
      ...each,
      held: atHome(each.held),
      now: there(each.now),
      there: there(each.there),
      shared:
        each.home.verdict === 'machine'
          ? `${atHome(Math.round(each.home.machine))} of it stays with ${home.name}, as ${each.home.edges} edges began`
          : each.home.verdict === 'tool'
            ? `${each.home.edges} edges began with nothing in common`
            : '',
    })),
    keyText: sheet.keyText,
  };
};
