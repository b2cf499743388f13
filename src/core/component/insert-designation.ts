/**
 * Indexable insert designations read into what a setter needs: "CNMG 120408" (ISO 1832), and as inches write the same insert,
 * "CNMG 432" (ASME B212.12). Tables from memory.
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
/** Fixing: without a hole, with a straight one, and with one sunk by 40 to 60° or by 70 to 90°. X is special. */
const FIXINGS = ['NRF', 'AMG', 'WTQU', 'BHCJ', 'X'] as const;
/** Corners with a wiper flat: the lead angle of its edge, degrees, or Z for another; then the clearance of the flat. */
const WIPERS: Readonly<Record<string, number>> = { A: 45, D: 60, E: 75, F: 85, P: 90 };

/** Inches count the circle in eighths, with what is smaller than a quarter in its own digits. */
const INCH_CIRCLES: Readonly<Record<string, number>> = {
  '1.2': 3.97,
  '1.5': 4.76,
  '1.8': 5.56,
  '2': 6.35,
  '2.5': 7.94,
  '3': 9.525,
  '4': 12.7,
  '5': 15.875,
  '6': 19.05,
  '8': 25.4,
};
/** And the thickness in sixteenths. */
const INCH_THICKNESS: Readonly<Record<string, number>> = {
  '1': 1.59,
  '1.2': 1.98,
  '1.5': 2.38,
  '2': 3.18,
  '2.5': 3.97,
  '3': 4.76,
  '3.5': 5.56,
  '4': 6.35,
  '5': 7.94,
  '6': 9.52,
};
const SIXTY_FOURTH = 25.4 / 64;
/** Shapes whose edges differ: inches write both, and are not read here. */
const TWO_EDGES = 'ABKL';
const INCHES =
  /^([A-Z])([A-Z])([A-Z])([A-Z])(1\.[258]|2\.5|[2-68])(1\.[25]|[23]\.5|[1-6])(?:(\d(?:\.\d)?)(?![\d.]))?(?!\d)/;
const METRIC = /^([A-Z])([A-Z])([A-Z])([A-Z])(\d\d)(T\d|\d\d)(\d\d|M0|X\d|[ADEFPZ][A-GNPZ])?/;

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
  /** Millimetres; 0 for a sharp corner, null for a round insert and for one with a wiper flat. */
  noseRadius: number | null;
  /** Degrees between the cut face and the edge beside a wiper flat; null: it has none, or a special one. */
  leadAngle: number | null;
}

export type InsertResult = { ok: true; insert: InsertReading } | { ok: false; reason: string };

/** Reads a designation. What does not follow the standard is named by its place in the code. */
export function readInsert(designation: string): InsertResult {
  const code = plainCode(designation);
  const metric = METRIC.exec(code) as unknown as string[] | null;
  const parts = metric ?? (INCHES.exec(code) as unknown as string[] | null);
  if (!parts || (!metric && TWO_EDGES.includes(parts[1]!)))
    return bad(
      'An insert is written like CNMG 120408, four letters, then edge length, thickness and corner, or in inches like CNMG 432.',
    );
  const [, shapeLetter, clearanceLetter, toleranceLetter, type, size, thick, corner] = parts;
  const shape = SHAPES[shapeLetter!];
  if (!shape) return bad(`"${shapeLetter}" in the first place is not an insert shape.`);
  if (CLEARANCE[clearanceLetter!] === undefined && clearanceLetter !== 'O')
    return bad(`"${clearanceLetter}" in the second place is not a clearance angle.`);
  if (!TOLERANCE.includes(toleranceLetter!))
    return bad(`"${toleranceLetter}" in the third place is not a tolerance class.`);
  if (!FIXINGS.some((letters) => letters.includes(type!)))
    return bad(`"${type}" in the fourth place is not a fixing or chip breaker.`);
  const thickness = (metric ? THICKNESS : INCH_THICKNESS)[thick!];
  if (thickness === undefined) return bad(`"${thick}" is not a thickness in ISO 1832.`);
  const round = shapeLetter === 'R';
  if (!round && corner === undefined)
    return bad(
      metric
        ? 'The last two digits, the corner radius in tenths, are missing.'
        : 'The last digit, the corner radius in sixty-fourths of an inch, is missing.',
    );
  const clearance = CLEARANCE[clearanceLetter!] ?? null;
  const both = clearance === 0 && BOTH_FACES.includes(type!);
  return {
    ok: true,
    insert: {
      shape: shape.words,
      cornerAngle: shape.angle,
      clearance,
      toleranceClass: toleranceLetter!,
      edges: shape.corners * (both ? 2 : 1),
      ...sized(shape, round, metric !== null, size!, corner),
      thickness,
      leadAngle: metric && corner && /^[A-Z]/.test(corner) ? (WIPERS[corner[0]!] ?? null) : null,
    },
  };
}

const plainCode = (designation: string) => designation.toUpperCase().replace(/[\s()-]/g, '');

/** Edge length, circle and corner, by either way of writing. */
function sized(
  shape: Shape,
  round: boolean,
  metric: boolean,
  size: string,
  corner: string | undefined,
): Pick<InsertReading, 'edgeLength' | 'inscribedCircle' | 'noseRadius'> {
  const edgeOf = (circle: number) => Math.floor(circle * shape.edgePerCircle + 0.02);
  if (!metric) {
    const inscribedCircle = INCH_CIRCLES[size]!;
    return {
      inscribedCircle,
      edgeLength: edgeOf(inscribedCircle),
      noseRadius: round || corner === undefined ? null : Number(corner) * SIXTY_FOURTH,
    };
  }
  const edgeLength = Number(size);
  // a round one that is not marked M0 or 00 may be either; 00 is of the inch's circles
  const inscribedCircle =
    round && corner !== '00' ? edgeLength : (CIRCLES.find((circle) => edgeOf(circle) === edgeLength) ?? null);
  return {
    inscribedCircle,
    edgeLength,
    noseRadius: round || !/^\d\d$/.test(corner ?? '') ? null : Number(corner) / 10,
  };
}

/** The circle in an insert, by its designation: how large it is, where that is known. Millimetres. */
export function circleOf(designation: string): number | null {
  const read = readInsert(designation);
  return read.ok ? read.insert.inscribedCircle : null;
}

/** What decides whether an insert lies in a seat, by one way of reading either; an empty text leaves it open. */
interface Lying {
  letters: string;
  edgeLength: number;
  circle: number | null;
  /** Null: a seat that does not say. */
  thickness: number | null;
  corner: string;
  noseRadius: number | null;
}

/** A seat as it is written: "CNMG 1204", "CN.. 1204", "CNMG 43"; two digits may be either. */
function lyings(text: string): Lying[] {
  const code = plainCode(text).replace(/[?*_]/g, '.');
  const letters = /^[A-Z][A-Z.]{3}/.exec(code)?.[0];
  const shape = letters && SHAPES[letters[0]!];
  if (!letters || !shape) return [];
  const rest = code.slice(4);
  const metric = /^(\d\d)(T\d|\d\d)?(\d\d|M0|X\d|[ADEFPZ][A-GNPZ])?(?!\d)/.exec(rest);
  const inches = /^(1\.[258]|2\.5|[2-68])(1\.[25]|[23]\.5|[1-6])?(\d(?:\.\d)?)?(?![\d])/.exec(rest);
  return [metric, inches].flatMap((found): Lying[] => {
    if (!found) return [];
    const [, size, thick, corner] = found as unknown as (string | undefined)[];
    const thickness = thick === undefined ? null : (found === metric ? THICKNESS : INCH_THICKNESS)[thick];
    if (thickness === undefined) return [];
    const { edgeLength, inscribedCircle, noseRadius } = sized(
      shape,
      letters.startsWith('R'),
      found === metric,
      size!,
      corner,
    );
    return [{ letters, edgeLength, circle: inscribedCircle, thickness, corner: corner ?? '', noseRadius }];
  });
}

/**
 * Whether a seat takes an insert, both by their designations. Shape, clearance, edge length, thickness and the kind of its hole
 * decide; tolerance and chip breaker do not: a CNMG lies where a CNMA or CNGG does. Points stand for letters that a seat leaves open,
 * and a corner that it names is meant. What follows no standard has to begin alike.
 */
export function seatTakes(seat: string, insert: string): boolean {
  const [wanted, given] = [lyings(seat), lyings(insert)];
  const plain = plainCode;
  if (wanted.length === 0 || given.length === 0)
    return plain(seat) !== '' && plain(insert).startsWith(plain(seat));
  return wanted.some((own) => given.some((each) => lies(own, each)));
}

/** A thirty-second of an inch and 0.8 mm are one corner: a tenth apart is another. Millimetres. */
const sameNose = (a: number | null, b: number | null) => a !== null && b !== null && Math.abs(a - b) < 0.02;

function lies(seat: Lying, insert: Lying): boolean {
  const fixing = (letter: string) => FIXINGS.findIndex((letters) => letters.includes(letter));
  const [shape, clearance, , hole] = seat.letters as unknown as [string, string, string, string];
  return (
    shape === insert.letters[0] &&
    (clearance === '.' || clearance === insert.letters[1]) &&
    (hole === '.' || fixing(hole) === fixing(insert.letters[3]!)) &&
    seat.edgeLength === insert.edgeLength &&
    (seat.circle === null || insert.circle === null || seat.circle === insert.circle) &&
    (seat.thickness === null || insert.thickness === null || seat.thickness === insert.thickness) &&
    (seat.corner === '' || seat.corner === insert.corner || sameNose(seat.noseRadius, insert.noseRadius))
  );
}

const bad = (reason: string): InsertResult => ({ ok: false, reason });
