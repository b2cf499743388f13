import { z } from 'zod';
import { pool } from '$server/db';
import { endSession, lastRefusals, lastTries, sessions } from '$server/sessions';
import { SESSION_COOKIE } from '../../../hooks.server';
import { act, id } from '../../action';
import type { Actions, PageServerLoad } from './$types';

const TRIES = 100;

export const load: PageServerLoad = async ({ cookies }) => ({
  sessions: await sessions(pool(), cookies.get(SESSION_COOKIE) ?? ''),
  tries: await lastTries(pool(), TRIES),
  refusals: await lastRefusals(pool(), TRIES),
});

export const actions: Actions = {
  end: act(z.object({ session: id }), ({ input, asking }) => endSession(asking, input.session)),
};
