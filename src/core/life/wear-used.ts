/** A wear correction that was keyed since the edge was renewed. */
export interface WearMove {
  registerId: number;
  /** Wear of length, cutter, X or Z. */
  kind: string;
  featureId: number;
  /** Signed, in nanometres. */
  change: number;
  /** It took out the error of a set-up or of a fresh edge, which is no wear. */
  setUp: boolean;
}

/** Which corrections count: those of one kind of register, those of one size, or of the row that moved most. */
export interface WearWatched {
  kind: string | null;
  featureId: number | null;
}

/**
 * Wear of an edge by what was corrected for it since its renewal (H11): the sum of the corrections without their signs. What a first-off
 * took out was there before the edge cut, and does not count. Where nothing is chosen, the row that moved most speaks: an insert that
 * wears in X and in Z wears once, not twice.
 *
 * @returns nanometres, never below zero
 */
export function wearUsed(moves: readonly WearMove[], watched: WearWatched): number {
  const counted = moves.filter(
    ({ setUp, kind, featureId }) =>
      !setUp &&
      (watched.kind === null || kind === watched.kind) &&
      (watched.featureId === null || featureId === watched.featureId),
  );
  const byRegister = new Map<number, number>();
  for (const { registerId, change } of counted)
    byRegister.set(registerId, (byRegister.get(registerId) ?? 0) + Math.abs(change));
  return Math.max(0, ...byRegister.values());
}
