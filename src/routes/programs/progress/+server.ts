import { json } from '@sveltejs/kit';
import { workDone } from '$server/worker';
import type { RequestHandler } from './$types';

/** How much of a file that is being read is done, by the key of the form that brought it: from 0 to 1, or null. */
export const GET: RequestHandler = ({ url }) => json({ done: workDone(url.searchParams.get('key') ?? '') });
