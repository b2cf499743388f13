import { createHash } from 'node:crypto';
import { edgeState, type EdgeState } from '../core/correction/edge-state.ts';
import { modelOf } from '../core/correction/judge-question.ts';

/** So many are kept: each is what one set of rows was found to be, from all that was known of it. */
const KEPT = 500;
const kept = new Map<string, EdgeState>();

/**
 * Where the edges of a set of rows stand. It follows from the evidence alone, and until somebody measures or keys there each page would work
 * it out anew: whoever asks with the same evidence is given the same answer, which nobody may change.
 */
export function stateOf(evidence: Parameters<typeof modelOf>[0]): EdgeState {
  const question = modelOf(evidence);
  const key = createHash('sha256').update(JSON.stringify(question)).digest('base64');
  const state = kept.get(key) ?? edgeState(question);
  // the one asked for longest ago goes first
  kept.delete(key);
  kept.set(key, state);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return state;
}
