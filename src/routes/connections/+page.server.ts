import { z } from 'zod';
import { SCOPE_NAMES, SCOPES } from '$core/api/contract';
import { LEDGER_KINDS } from '$core/ledger/entry';
import { endToken, makeToken, tokens } from '$server/api/tokens';
import { endWebhook, makeWebhook, webhooks } from '$server/api/webhooks';
import { pool } from '$server/db';
import { act, id, words } from '../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async () => ({
  tokens: await tokens(pool()),
  webhooks: await webhooks(pool()),
  scopes: Object.entries(SCOPES).map(([scope, said]) => ({ scope, said })),
  kinds: LEDGER_KINDS,
});

/** Ticked boxes come as words in one field. */
const several = <T extends string>(names: readonly [T, ...T[]], nothing: string) =>
  z
    .string()
    .transform((text) => text.split(' ').filter(Boolean))
    .pipe(z.array(z.enum(names)).min(1, nothing));

export const actions: Actions = {
  token: act(
    z.object({ name: words('The name', 80), scopes: several(SCOPE_NAMES, 'Tick what it may do.') }),
    ({ input, asking }) => makeToken(asking, input),
  ),
  endToken: act(z.object({ id }), ({ input, asking }) => endToken(asking, input.id)),
  webhook: act(
    z.object({
      url: z
        .url({ protocol: /^https?$/, error: 'Type an address that begins with http:// or https://.' })
        .max(500),
      kinds: several(LEDGER_KINDS, 'Tick what it is told of.'),
    }),
    ({ input, asking }) => makeWebhook(asking, input),
  ),
  endWebhook: act(z.object({ id }), ({ input, asking }) => endWebhook(asking, input.id)),
};
