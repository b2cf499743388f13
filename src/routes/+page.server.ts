import { redirect } from '@sveltejs/kit';
import type { Role } from '$core/people/roles';
import { pool } from '$server/db';
import { machineById } from '$server/machines';
import { MACHINE_COOKIE } from './tablet';
import type { PageServerLoad } from './$types';

/** Where the work of a role is; an operator's is at the machine that the tablet stands at. */
const HOME: Readonly<Record<Role, string>> = {
  lead: '/leaf',
  viewer: '/leaf',
  setter: '/today',
  crib: '/today',
  inspector: '/today',
  operator: '/machines?choose',
};

export const load: PageServerLoad = async ({ locals, cookies }) => {
  const { role } = locals.person!;
  const kept = cookies.get(MACHINE_COOKIE);
  if (role === 'operator' && kept && /^\d{1,9}$/.test(kept)) {
    const machine = await machineById(pool(), Number(kept));
    if (machine) redirect(303, `/machines/${machine.id}/now`);
  }
  redirect(303, HOME[role]);
};
