import { z } from 'zod';
import { may } from '$core/people/roles';
import { fillTo } from '$core/component/order';
import { pool } from '$server/db';
import { linesToOrder, openOrders, orderCame, recordOrder } from '$server/orders';
import { act, id, whole } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
  const [lines, orders] = await Promise.all([linesToOrder(pool()), openOrders(pool())]);
  return {
    lines: lines.map((line) => ({ ...line, fill: fillTo(line) })),
    orders,
    mayOrder: may(locals.person!.role, 'moveStock'),
  };
};

const pieces = whole('The number of pieces', 0, 100_000);

export const actions: Actions = {
  order: act(
    z.looseObject({
      place: z.string().trim().max(80, 'The supplier is longer than 80 characters.').default(''),
    }),
    ({ input, asking }) => {
      const lines = Object.entries(input).flatMap(([name, value]) => {
        const found = /^pieces (\d{1,9})$/.exec(name);
        if (!found || input[`take ${found[1]}`] === undefined) return [];
        return [{ id: Number(found[1]), pieces: Number(value), coming: Number(input[`coming ${found[1]}`]) }];
      });
      if (lines.length === 0) return Promise.resolve({ ok: false, reason: 'Tick what was ordered.' });
      const odd = lines.find(
        (line) => !Number.isInteger(line.pieces) || line.pieces < 1 || line.pieces > 100_000,
      );
      if (odd)
        return Promise.resolve({
          ok: false,
          reason: 'Say a whole number of pieces for each line that is ticked.',
        });
      return recordOrder(asking, { lines, place: input.place });
    },
  ),
  came: act(
    z.object({
      order: id,
      came: whole('What came before', 0, 10_000_000),
      pieces,
      rest: z.enum(['comes', 'never']).default('comes'),
    }),
    ({ input: { order, rest, ...arrival }, asking }) =>
      orderCame(asking, { orderId: order, rest: rest === 'comes', ...arrival }),
  ),
};
