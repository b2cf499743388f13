import type { Kept } from './outbox.svelte';

/** What is entered and waits to be sent, as the pages have to count with it: it happened, though the server does not know of it yet. */
type Waits = readonly Pick<Kept, 'url' | 'fields' | 'personId'>[];

const field = (form: Waits[number], name: string) => form.fields.find(([each]) => each === name)?.[1] ?? '';

/**
 * Parts of a job that wait to be recorded: all of them were made.
 *
 * @param by only those that somebody entered: they are sent before what the same person enters now, and nobody knows when the others are
 */
export const partsThatWait = (waiting: Waits, job: number, by?: number): number =>
  waiting
    .filter((each) => each.url.endsWith('/now?/parts') && field(each, 'job') === String(job))
    .filter(({ personId }) => by === undefined || personId === by)
    .reduce((sum, each) => sum + Number(field(each, 'parts')), 0);

/** Whether a correction was read back. */
export const readBackWaits = (waiting: Waits, correction: number): boolean =>
  waiting.some(
    (each) =>
      each.url === `/corrections/${correction}?/readBack` ||
      (each.url.endsWith('/key?/readBack') && field(each, `shown.${correction}`).trim() !== ''),
  );

/** The steps of a load plan that were taken, or measured. */
export const stepsThatWait = (waiting: Waits, plan: number): string[] =>
  waiting
    .filter((each) => /\/load\?\/(?:tick|measure)$/.test(each.url) && field(each, 'plan') === String(plan))
    .map((each) => field(each, 'step'));
