import fc from 'fast-check';
import { expect, it } from 'vitest';
import { fillTo, toOrder } from './order.ts';

it.each([
  [{ stock: 4, minimum: 4, maximum: 10, coming: 0 }, 0],
  [{ stock: 3, minimum: 4, maximum: 10, coming: 0 }, 7],
  [{ stock: 3, minimum: 4, maximum: 10, coming: 1 }, 0],
  [{ stock: 1, minimum: 4, maximum: 10, coming: 2 }, 7],
  [{ stock: 0, minimum: 0, maximum: 10, coming: 0 }, 0],
  [{ stock: 0, minimum: 3, maximum: null, coming: 0 }, 6],
  [{ stock: 0, minimum: 3, maximum: 1, coming: 0 }, 3],
])('%j', (line, pieces) => {
  expect(toOrder(line)).toBe(pieces);
});
it('played day by day with whatever is taken, the shelf is never filled above its maximum, and an order always lifts it to it', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 20 }),
      fc.option(fc.integer({ min: 0, max: 60 })),
      fc.array(fc.integer({ min: 0, max: 12 }), { minLength: 5, maxLength: 40 }),
      (minimum, maximum, takes) => {
        let [stock, coming] = [minimum, 0];
        for (const [day, take] of takes.entries()) {
          stock -= Math.min(stock, take);
          if (day % 3 === 0) [stock, coming] = [stock + coming, 0];
          const pieces = toOrder({ stock, minimum, maximum, coming });
          coming += pieces;
          if (pieces > 0) expect(stock + coming).toBe(fillTo({ minimum, maximum }));
          expect(stock + coming).toBeGreaterThanOrEqual(minimum);
        }
      },
    ),
  );
});
