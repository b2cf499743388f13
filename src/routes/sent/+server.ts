import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { pool } from '$server/db';
import { recordedOf } from '$server/once';
import type { RequestHandler } from './$types';

const Keys = z.array(z.uuid()).max(100);

/** Which of the forms that a device keeps have been recorded, by their keys: what an answer that was lost would have said. */
export const GET: RequestHandler = async ({ url }) => {
  const keys = Keys.safeParse(url.searchParams.getAll('key'));
  if (!keys.success) return json({ message: 'Up to 100 keys of forms.' }, { status: 400 });
  return json(await recordedOf(pool(), keys.data), { headers: { 'cache-control': 'no-store' } });
};
