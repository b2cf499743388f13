import { json } from '@sveltejs/kit';
import { findAnything } from '$server/find';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ url }) =>
  json(await findAnything((url.searchParams.get('words') ?? '').slice(0, 100)));
