import { createHash } from 'node:crypto';
import type pg from 'pg';

/**
 * Statements by a name, under which each line to the database keeps what it made of them: a page asks dozens, and to plan them took three
 * times as long as to run them. Texts are those of the source, some hundreds; should somebody make them up as he goes, the later ones
 * are asked without a name.
 */
const names = new Map<string, string>();
const MOST = 2000;

/** A list of columns that is left to the table: after a migration it is another one, and what was made of it is refused. */
const STARRED = /(?:SELECT|,)\s+(?:\w+\.)?\*/;

export function prepared(text: string, values: unknown[]): pg.QueryConfig {
  let name = names.get(text);
  if (name === undefined && names.size < MOST) {
    name = createHash('sha1').update(text).digest('hex');
    names.set(text, name);
  }
  return name === undefined ? { text, values } : { name, text, values };
}

/** Within a transaction nothing can be asked again. */
export const mayBeRefused = (text: string): boolean => STARRED.test(text);

/** What was made of a statement does not hold any more: a migration changed what it returns. */
export const isOutdated = (error: unknown): boolean =>
  error instanceof Error &&
  (error as { code?: string }).code === '0A000' &&
  error.message.includes('cached plan');
