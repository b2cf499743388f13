// Brought into a server before anything else: writes down each statement that it sends, for whoever measures it.
import { appendFileSync } from 'node:fs';
import pg from 'pg';

const plain = pg.Client.prototype.query;
pg.Client.prototype.query = function (text, values, ...rest) {
  const asked = typeof text === 'string' ? { text, values } : text;
  if (typeof asked?.text === 'string' && process.env.TIN_SPY)
    appendFileSync(
      process.env.TIN_SPY,
      `${JSON.stringify({ text: asked.text, values: Array.isArray(asked.values) ? asked.values : [] })}\n`,
    );
  return plain.call(this, text, values, ...rest);
};
