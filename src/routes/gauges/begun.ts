import type { Length } from '$core/units/length';

/** A gauge that somebody begins to write about. */
export interface Begun {
  name: string;
  resolution?: Length;
  uncertainty?: Length | null;
  due?: string | null;
}
