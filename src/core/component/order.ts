export interface OrderLine {
  stock: number;
  minimum: number;
  /** What the shelf is filled up to; null: twice the minimum. */
  maximum: number | null;
  /** Ordered or away for regrinding, and not here yet. */
  coming: number;
}

/** What the shelf is filled up to; never below the minimum. */
export const fillTo = ({ minimum, maximum }: Pick<OrderLine, 'minimum' | 'maximum'>): number =>
  Math.max(minimum, maximum ?? 2 * minimum);

/**
 * Pieces to order: up to the maximum, once what is on the shelf and on its way is below the minimum (min/max ordering, common
 * practice, no source). What comes back from regrinding is another size, so it counts on its own line only once it is there.
 */
export const toOrder = (line: OrderLine): number =>
  line.stock + line.coming < line.minimum ? fillTo(line) - line.stock - line.coming : 0;
