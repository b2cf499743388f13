import { z } from 'zod';
import type { FirstPart } from '$server/cut-until';
import { orEmpty, ticked } from './action';

/** The fields that say which part was the first cut with what was keyed. */
export const firstFields = { first: z.string().default(''), unsure: ticked, job: orEmpty, until: orEmpty };

export function firstPart({ first, unsure }: { first: string; unsure: boolean }): FirstPart {
  if (unsure) return 'unsure';
  const part = Number(first);
  return first.trim() !== '' && Number.isInteger(part) && part > 0 ? part : 'next';
}
