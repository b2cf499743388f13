/**
 * Indexable insert designations (ISO 1832; tables from memory): "CNMG 120408" read into what a setter needs.
 */

interface Shape {
  words: string;
  /** Included angle at the corner, degrees. */
  angle: number;
  /** Corners on one face. */
  corners: number;
  /** Edge length over inscribed circle; what turns the code's edge length into the inscribed circle. */
  edgePerCircle: number;
}
const rad = (degrees: number) => (degrees * Math.PI) / 180;
const rhombic = (angle: number): Shape => ({
  words: `${angle}° rhombic`,
  angle,
  corners: 2,
  edgePerCircle: 1 / Math.sin(rad(angle)),
});
const polygon = (words: string, angle: number, corners: number): Shape => ({
  words,
  angle,
  corners,
  edgePerCircle: Math.tan(Math.PI / corners),
});

const SHAPES: Readonly<Record<string, Shape>> = {
  C: rhombic(80),
  D: rhombic(55),
  E: rhombic(75),
  M: rhombic(86),
  V: rhombic(35),
  A: { ...rhombic(85), words: '85° parallelogram' },
  B: { ...rhombic(82), words: '82° parallelogram' },
  K: { ...rhombic(55), words: '55° parallelogram' },
  H: polygon('hexagon', 120, 6),
  L: { words: 'rectangle', angle: 90, corners: 4, edgePerCircle: 1 },
  O: polygon('octagon', 135, 8),
  P: polygon('pentagon', 108, 5),
  R: { words: 'round', angle: 360, corners: 1, edgePerCircle: 1 },
  S: polygon('square', 90, 4),
  T: polygon('triangle', 60, 3),
  W: { words: '80° trigon', angle: 80, corners: 3, edgePerCircle: 0.6515 },
};
const CLEARANCE: Readonly<Record<string, number>> = {
  A: 3,
  B: 5,
  C: 7,
  D: 15,
  E: 20,
  F: 25,
  G: 30,
  N: 0,
  P: 11,
};
const THICKNESS: Readonly<Record<string, number>> = {
  '01': 1.59,
  T1: 1.98,
  '02': 2.38,
  T2: 2.78,
  '03': 3.18,
  T3: 3.97,
  '04': 4.76,
  T4: 4.96,
  '05': 5.56,
  '06': 6.35,
  '07': 7.94,
  '09': 9.52,
  '12': 12.7,
};
/** Inscribed circles that inserts are made in, millimetres: sixteenths and eighths of an inch. */
const CIRCLES = [3.97, 4.76, 5.56, 6.35, 7.94, 9.525, 12.7, 15.875, 19.05, 25.4];
const TOLERANCE = 'AFCHEGJKLMNU';
/** Fixing and chip breaker letters whose both faces cut. */
const BOTH_FACES = 'NAGFJU';
const TYPES = 'ABCFGHJMNQRTUWX';

export interface InsertReading {
  shape: string;
  cornerAngle: number;
  /** Degrees; null for a special clearance. */
  clearance: number | null;
  toleranceClass: string;
  /** Cutting edges to index through. */
  edges: number;
  /** Millimetres, as the code counts it (whole). */
  edgeLength: number;
  inscribedCircle: number | null;
  thickness: number;
  /** Millimetres; 0 for a sharp corner, null for a round insert. */
  noseRadius: number | null;
}

export type InsertResult = { ok: true; insert: InsertReading } | { ok: false; reason: string };

/** Reads a metric designation. What does not follow ISO 1832 is named by its place in the code. */
export function readInsert(designation: string): InsertResult {
  const code = designation.toUpperCase().replace(/[\s-]/g, '');
  const parts = /^([A-Z])([A-Z])([A-Z])([A-Z])(\d\d)(T\d|\d\d)(\d\d|M0|X\d)?/.exec(code);
  if (!parts)
    return bad(
      'An insert is written like CNMG 120408: four letters, then edge length, thickness and corner.',
    );
  const [, shapeLetter, clearanceLetter, toleranceLetter, type, size, thick, corner] =
    parts as unknown as string[];
  const shape = SHAPES[shapeLetter!];
  if (!shape) return bad(`"${shapeLetter}" in the first place is not an insert shape.`);
  if (CLEARANCE[clearanceLetter!] === undefined && clearanceLetter !== 'O')
    return bad(`"${clearanceLetter}" in the second place is not a clearance angle.`);
  if (!TOLERANCE.includes(toleranceLetter!))
    return bad(`"${toleranceLetter}" in the third place is not a tolerance class.`);
  if (!TYPES.includes(type!)) return bad(`"${type}" in the fourth place is not a fixing or chip breaker.`);
  const thickness = THICKNESS[thick!];
  if (thickness === undefined) return bad(`"${thick}" is not a thickness in ISO 1832.`);
  const round = shapeLetter === 'R';
  if (!round && corner === undefined)
    return bad('The last two digits, the corner radius in tenths, are missing.');
  const clearance = CLEARANCE[clearanceLetter!] ?? null;
  const edgeLength = Number(size);
  const both = clearance === 0 && BOTH_FACES.includes(type!);
  return {
    ok: true,
    insert: {
      shape: shape.words,
      cornerAngle: shape.angle,
      clearance,
      toleranceClass: toleranceLetter!,
      edges: shape.corners * (both ? 2 : 1),
      edgeLength,
      inscribedCircle: round
        ? edgeLength
        : (CIRCLES.find((circle) => Math.floor(circle * shape.edgePerCircle + 0.02) === edgeLength) ?? null),
      thickness,
      noseRadius: round || !/^\d\d$/.test(corner!) ? null : Number(corner) / 10,
    },
  };
}

const bad = (reason: string): InsertResult => ({ ok: false, reason });
