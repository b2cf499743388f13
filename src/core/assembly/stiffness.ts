/** Young's modulus, GPa (handbook, from memory). */
export const MODULUS = { carbide: 600, steel: 210 } as const;
/** Flutes leave about four fifths of the diameter to bend against (common practice, no source). */
export const FLUTED_CORE = 0.8;

/** A piece of a bar: millimetres. */
export interface BarPiece {
  length: number;
  diameter: number;
  /** GPa. */
  modulus: number;
}

/**
 * Deflection at the tip of a stepped round bar that is clamped at one end, micrometres per newton across its tip:
 * δ/F = ∫ x² / (E I) dx from the tip, I = π d⁴ / 64 (beam formula; F L³ / 3 E I for one piece). Pieces from the tip inwards.
 */
export function tipCompliance(pieces: readonly BarPiece[]): number {
  let x = 0;
  let sum = 0;
  for (const { length, diameter, modulus } of pieces) {
    const inertia = (Math.PI * diameter ** 4) / 64;
    sum += ((x + length) ** 3 - x ** 3) / (3 * modulus * 1000 * inertia);
    x += length;
  }
  return sum * 1000;
}
