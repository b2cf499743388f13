import { z } from 'zod';
import type { FirstPart } from '$server/cut-until';
import { orEmpty, ticked } from './action';

/** The fields that say which part was the first cut with what was keyed. */
export const firstFields = { first: z.string().default(''), unsure: ticked, job: orEmpty, until: orEmpty };

/** What was said of it; who was asked and left it empty does not know. */
export function firstPart({
  first,
  unsure,
  job,
}: {
  first: string;
  unsure: boolean;
  job: number | null;
}): FirstPart {
  if (unsure) return 'unsure';
  const part = Number(first);
  if (Number.isInteger(part) && part > 0) return part;
  return job === null ? 'next' : 'unsure';
}
