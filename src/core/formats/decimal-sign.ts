export type DecimalSign = 'point' | 'comma';

/** A number as a spreadsheet writes it, with or without a unit behind it. */
const NUMBER = /^[+−-]?(\d[\d.,\s]*|[.,]\d+)\s*(mm|inch|in|"|µm|um|thou)?$/i;

/** What one cell says of the sign between a number and its fraction; null when it says nothing, or could be either. */
function saidBy(cell: string): DecimalSign | null {
  if (!NUMBER.test(cell.trim())) return null;
  const digits = cell.replace(/[^\d.,]/g, '');
  const [points, commas] = [digits.split('.').length - 1, digits.split(',').length - 1];
  if (points === 0 && commas === 0) return null;
  // both stand: the last of them parts the fraction
  if (points > 0 && commas > 0) return digits.lastIndexOf('.') > digits.lastIndexOf(',') ? 'point' : 'comma';
  const [sign, other, count] =
    points > 0 ? (['.', 'comma', points] as const) : ([',', 'point', commas] as const);
  const own: DecimalSign = points > 0 ? 'point' : 'comma';
  // more than one: they mark thousands
  if (count > 1) return other;
  const [before, after] = digits.split(sign) as [string, string];
  // three digits behind it, and one to three before that are no nought: a thousand and a fraction look the same
  if (after.length === 3 && /^[1-9]\d{0,2}$/.test(before)) return null;
  return own;
}

/**
 * The sign between numbers and their fractions, for a whole file: it is decided once, from all its cells, and never by the cell.
 * Null when they contradict one another, or when some could be read both ways and none tells; then somebody has to say.
 *
 * @param separator what parts the cells: a file parted by commas that are not quoted has no decimal commas
 */
export function decimalSignOf(cells: Iterable<string>, separator: ',' | ';' | '\t'): DecimalSign | null {
  let [point, comma, either] = [false, false, false];
  for (const cell of cells) {
    const said = saidBy(cell);
    if (said === 'point') point = true;
    else if (said === 'comma') comma = true;
    else if (NUMBER.test(cell.trim()) && /[.,]/.test(cell)) either = true;
  }
  if (point && comma) return null;
  if (point) return 'point';
  if (comma) return 'comma';
  if (!either) return 'point';
  return separator === ',' ? 'point' : null;
}

/** A number's text with a decimal point and no marks between thousands; what is no number stays as it is. */
export function withPoint(cell: string, sign: DecimalSign): string {
  if (!NUMBER.test(cell.trim())) return cell;
  const [decimal, mark] = sign === 'comma' ? [',', '.'] : ['.', ','];
  // marks stand before each three digits, or they are no marks
  const grouped = new RegExp(`^[+−-]?\\d{1,3}(\\${mark}\\d{3})+(?!\\d|\\${mark})`).test(cell.trim());
  const plain = grouped ? cell.replaceAll(mark, '') : cell;
  return plain.replaceAll(decimal, '.');
}
