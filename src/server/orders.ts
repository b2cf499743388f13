import { toOrder } from '../core/component/order.ts';
import { entry } from '../core/ledger/entry.ts';
import { moveStock, reground, lockComponents, heldComponent } from './components.ts';
import { rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';
import { Refused } from './outcome.ts';
import { askIfDoubled } from './told-meanwhile.ts';

export interface SupplyOrder {
  id: number;
  componentId: number;
  number: string;
  name: string;
  kind: 'buy' | 'regrind';
  pieces: number;
  came: number;
  person: string;
  at: Date;
  /** Who it was ordered from, or who grinds it. */
  place: string;
}

const ORDER = `SELECT o.id, o.component_id AS "componentId", c.number, c.name, o.kind, o.pieces, o.came, p.name AS person, o.made_at AS at, o.place
  FROM supply_order o JOIN component c ON c.id = o.component_id JOIN person p ON p.id = o.made_by`;

/** Orders that are still out, the oldest first; of one line when it is named. */
export const openOrders = (db: Db, componentId: number | null = null) =>
  rows<SupplyOrder>(
    db,
    `${ORDER} WHERE o.closed_at IS NULL AND ($1::integer IS NULL OR o.component_id = $1) ORDER BY o.id`,
    [componentId],
  );

export interface ToOrder {
  id: number;
  number: string;
  name: string;
  shelf: string;
  stock: number;
  minimum: number;
  maximum: number | null;
  coming: number;
  costCents: number | null;
  pieces: number;
}

/** Lines below their minimum with what is on its way counted in, and how many fill them up; by shelf. */
export async function linesToOrder(db: Db): Promise<ToOrder[]> {
  const lines = await rows<Omit<ToOrder, 'pieces'>>(
    db,
    `SELECT c.id, c.number, c.name, c.shelf, c.stock, c.minimum, c.maximum, c.cost_cents AS "costCents",
            coalesce((SELECT sum(greatest(o.pieces - o.came, 0))::integer FROM supply_order o
                      WHERE o.component_id = c.id AND o.kind = 'buy' AND o.closed_at IS NULL), 0) AS coming
     FROM component c WHERE c.merged_into IS NULL AND c.stock < c.minimum ORDER BY c.shelf, c.number`,
  );
  return lines.map((line) => ({ ...line, pieces: toOrder(line) })).filter((line) => line.pieces > 0);
}

/**
 * Writes down what was ordered, so that nobody orders it again. What somebody else ordered since the page was shown is refused.
 *
 * @param order `coming`: what the page showed on its way of each line
 */
export const recordOrder = (
  asking: Asking,
  order: { lines: { id: number; pieces: number; coming: number }[]; place: string },
) =>
  once(asking, 'recordOrder', order, async (db) => {
    const lines = [...order.lines].sort((a, b) => a.id - b.id);
    const components = [];
    await lockComponents(
      db,
      lines.map(({ id }) => id),
    );
    for (const { id } of lines) components.push(await heldComponent(db, id));
    const wanted = new Map((await linesToOrder(db)).map((line) => [line.id, line]));
    for (const [nth, { id, pieces, coming }] of lines.entries()) {
      const component = components[nth]!;
      const line = wanted.get(id);
      if (line && line.coming !== coming)
        throw new Refused(
          `${component.number}: ${line.coming} are on their way now, not ${coming}: somebody ordered some meanwhile. Look again; nothing was written down.`,
        );
      if (!line)
        throw new Refused(
          `${component.number} is no longer below its minimum: somebody ordered or returned some. Look again; nothing was written down.`,
        );
      await db.query(
        `INSERT INTO supply_order (component_id, kind, pieces, made_by, place) VALUES ($1, 'buy', $2, $3, $4)`,
        [id, pieces, asking.personId, order.place],
      );
      await append(
        db,
        entry.component('ordered', {
          personId: asking.personId,
          said: `${component.number}: ${pieces} ordered${order.place ? ` from ${order.place}` : ''}.`,
          detail: { component: id },
        }),
      );
    }
  });

/** An order that is open, with its line held; of which as much came as the page showed. */
async function openOrder(
  db: Db,
  { orderId: id, came }: Arrived,
  kind: SupplyOrder['kind'],
): Promise<SupplyOrder> {
  const find = async () => (await openOrders(db)).find((order) => order.id === id && order.kind === kind);
  for (let held: number | null = null; ;) {
    const order = await find();
    if (!order) throw new Refused('This order is no longer open. Look again.');
    if (order.componentId === held) {
      if (order.came !== came)
        throw new Refused(
          `${order.came} of this order are here already, not ${came}: somebody wrote some down meanwhile. Look again; nothing was recorded.`,
        );
      return order;
    }
    // its line is held before it is looked at again; it may have been merged into another meanwhile
    await lockComponents(db, [order.componentId]);
    held = order.componentId;
  }
}
const closeWhen = (db: Db, id: number, came: number, closed: boolean) =>
  db.query('UPDATE supply_order SET came = $2, closed_at = CASE WHEN $3 THEN tin_now() END WHERE id = $1', [
    id,
    came,
    closed,
  ]);

interface Arrived {
  orderId: number;
  /** What the page showed as here already: two people who unpack one box both write it down. */
  came: number;
}

/** Pieces of an order came: they go on the shelf. Fewer than ordered leave it open, unless the rest is not coming. */
export const orderCame = (asking: Asking, arrival: Arrived & { pieces: number; rest: boolean }) =>
  once(asking, 'orderCame', arrival, async (db) => {
    const order = await openOrder(db, arrival, 'buy');
    const component = await heldComponent(db, order.componentId);
    await askIfDoubled(db, asking, ['stock', 'bought', { componentId: component.id }], 'Another delivery');
    const came = order.came + arrival.pieces;
    if (arrival.pieces === 0 && arrival.rest)
      throw new Refused('Say how many came, or that the rest is not coming.');
    const closed = came >= order.pieces || !arrival.rest;
    await closeWhen(db, order.id, came, closed);
    if (arrival.pieces > 0)
      await moveStock(
        db,
        asking.personId,
        component,
        arrival.pieces,
        'bought',
        `Of the order of ${order.pieces}${order.place ? ` from ${order.place}` : ''}.`,
      );
    if (closed && came < order.pieces)
      await append(
        db,
        entry.component('order closed', {
          personId: asking.personId,
          said: `${component.number}: the rest of an order, ${order.pieces - came}, is not coming.`,
          detail: { component: component.id },
        }),
      );
  });

/** Cutters leave the shelf for the grinder. */
export const sendToRegrind = (
  asking: Asking,
  sent: { componentId: number; before: number; pieces: number; place: string },
) =>
  once(asking, 'sendToRegrind', sent, async (db) => {
    const component = await heldComponent(db, sent.componentId);
    if (component.stock !== sent.before)
      throw new Refused(`${component.stock} are on the shelf now. Look again.`);
    if (!component.regrinds)
      throw new Refused(`${component.number} has no regrinds left on record: it is worn out.`);
    await moveStock(
      db,
      asking.personId,
      component,
      -sent.pieces,
      'sent',
      sent.place ? `To ${sent.place}.` : 'To be reground.',
    );
    await db.query(
      `INSERT INTO supply_order (component_id, kind, pieces, made_by, place) VALUES ($1, 'regrind', $2, $3, $4)`,
      [component.id, sent.pieces, asking.personId, sent.place],
    );
  });

export interface CameBack extends Arrived {
  /** Reground, all to one size. */
  pieces: number;
  /** Came back as they went, and go on the shelf again. */
  same: number;
  /** Could not be ground. */
  scrapped: number;
  diameter: number;
  overall: number;
}

/** Cutters come back from the grinder, all or some: smaller ones as a line of their own, others as they went, some not at all. */
export const cameBack = (asking: Asking, back: CameBack) =>
  once(asking, 'cameBack', back, async (db) => {
    const order = await openOrder(db, back, 'regrind');
    const component = await heldComponent(db, order.componentId);
    const all = back.pieces + back.same + back.scrapped;
    const out = order.pieces - order.came;
    if (all === 0) throw new Refused('Say how many came back.');
    if (all > out) throw new Refused(`${out} are away, not ${all}.`);
    await closeWhen(db, order.id, order.came + all, all === out);
    if (back.same > 0)
      await moveStock(db, asking.personId, component, back.same, 'unsharpened', 'Came back as they went.');
    if (back.scrapped > 0)
      await append(
        db,
        entry.component('came back', {
          personId: asking.personId,
          said: `${component.number}: ${back.scrapped} could not be reground.`,
          detail: { component: component.id },
        }),
      );
    return back.pieces > 0 ? reground(db, asking.personId, component, back) : null;
  });
