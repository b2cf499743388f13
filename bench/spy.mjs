// Brought into a server before anything else: writes down each statement that it sends, for whoever measures it.
import { appendFileSync } from 'node:fs';
import pg from 'pg';

const plain = pg.Client.prototype.query;
pg.Client.prototype.query = function (text, values, ...rest) {
  if (typeof text === 'string' && process.env.TIN_SPY)
    appendFileSync(
      process.env.TIN_SPY,
      `${JSON.stringify({ text, values: Array.isArray(values) ? values : [] })}\n`,
    );
  return plain.call(this, text, values, ...rest);
};
