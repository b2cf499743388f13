import { PROPERTIES, PROPERTY_NAMES } from '../component/kinds.ts';
import { KIND_CHOICES, type FileKind } from './columns.ts';

type Cells = Readonly<Record<string, string>>;

/** The largest cutting diameter that anybody would put into a machine of this kind of shop, millimetres, by kind (common practice, no source). */
const LARGEST: Readonly<Record<string, number>> = {
  drill: 130,
  spotDrill: 60,
  reamer: 200,
  tap: 120,
  threadMill: 120,
  endMill: 100,
  ballMill: 60,
  chamferMill: 150,
  faceMill: 500,
  boringBar: 600,
  probe: 30,
};
const COMPONENT_AS: Readonly<Record<string, string>> = {
  drillJobber: 'drill',
  drillStub: 'drill',
  drillLong: 'drill',
  centreDrill: 'spotDrill',
  tapCutting: 'tap',
  tapForming: 'tap',
  endMillSharp: 'endMill',
  endMillRadius: 'endMill',
  shellMill: 'faceMill',
};
/** No tool or piece of one is longer, millimetres, turns faster, costs more, or lies in the shelf in such numbers (common practice, no source). */
const LONGEST = 1500;
const FASTEST = 200_000;
const DEAREST = 20_000;
const MOST_IN_STOCK = 20_000;

/** Why a row is asked about before it is taken: a size that no such tool has; null: it may be right. A number that lost its point is the usual cause. */
export function doubtOf(kind: FileKind, cells: Cells): string | null {
  const said = cells.kind ?? '';
  const own = KIND_CHOICES[kind].find(({ value, words }) => value === said || words === said)?.value ?? said;
  return kind === 'assemblies' ? ofAssembly(own, cells) : ofComponent(COMPONENT_AS[own] ?? own, cells);
}

const numberOf = (cells: Cells, name: string) => {
  const value = cells[name] ?? '';
  return value === '' ? null : Number(value);
};
const mm = (value: number) => `${value} mm`;

function ofAssembly(kind: string, cells: Cells): string | null {
  const of = (name: string) => numberOf(cells, name) ?? 0;
  const [diameter, gauge, out, holder, corner] = [
    of('diameter'),
    of('gauge_length'),
    of('stick_out'),
    of('holder_diameter'),
    of('corner_radius'),
  ];
  const most = LARGEST[kind];
  if (most !== undefined && diameter <= 0) return 'its diameter is nought';
  if (most !== undefined && diameter > most) return `it is ${mm(diameter)} across`;
  if (gauge <= 0) return 'its gauge length is nought';
  if (gauge > LONGEST) return `its gauge length is ${mm(gauge)}`;
  if (out > gauge) return `it stands out ${mm(out)}, further than its gauge length of ${mm(gauge)}`;
  if (holder > 500) return `its holder is ${mm(holder)} across`;
  if (most !== undefined && corner > diameter / 2 + 0.001)
    return `its corner radius of ${mm(corner)} is more than half its diameter`;
  return null;
}

function ofComponent(kind: string, cells: Cells): string | null {
  const most = LARGEST[kind];
  const diameter = numberOf(cells, 'dc');
  if (diameter !== null && most !== undefined && (diameter <= 0 || diameter > most))
    return `it is ${mm(diameter)} across`;
  for (const name of PROPERTY_NAMES) {
    const value = numberOf(cells, name.toLowerCase());
    if (value === null) continue;
    const { type, words } = PROPERTIES[name];
    if (type === 'length' && (value > LONGEST || value < 0)) return `its ${words} is ${mm(value)}`;
    if (type === 'speed' && (value > FASTEST || value < 10)) return `its ${words} is ${value}`;
  }
  const [whole, flutes] = [numberOf(cells, 'oal'), numberOf(cells, 'lcf')];
  if (whole !== null && flutes !== null && flutes > whole)
    return `its flutes of ${mm(flutes)} are longer than all of it, ${mm(whole)}`;
  const [cost, stock] = [numberOf(cells, 'cost'), numberOf(cells, 'stock')];
  if (cost !== null && cost > DEAREST) return `it costs ${cost}`;
  if (stock !== null && stock > MOST_IN_STOCK) return `${stock} of it lie in the shelf`;
  return null;
}
