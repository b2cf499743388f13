import type { LabAnswer, Replayed } from '$core/correction/lab';
import type { Policy } from '$core/correction/policies';

/** What the lab found for a feature, and the school that was in use then. */
export interface LabShown extends LabAnswer {
  featureId: number;
  policy: Policy;
  past: Replayed[];
}
