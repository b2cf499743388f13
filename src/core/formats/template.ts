import { COLUMNS, type FileKind } from './columns.ts';

/** One tool as an example; a line that begins with # is left out when the file is read. */
const EXAMPLES: Readonly<Record<FileKind, Readonly<Record<string, string>>>> = {
  assemblies: {
    number: '# T-100',
    name: 'End mill 10, long collet chuck (an example: delete this line or leave it)',
    kind: 'end mill',
    interface: 'steep 40',
    diameter: '10',
    stick_out: '35',
    gauge_length: '125.4',
    holder_diameter: '32',
    holder: 'Collet chuck ER32 x 90',
    corner_radius: '0.5',
    teeth: '4',
    life_basis: 'minutes',
    life_limit: '45',
  },
  components: {
    number: '# EM-100',
    name: 'End mill 10 x 25 (an example: delete this line or leave it)',
    kind: 'end mill, sharp corner',
    dc: '10',
    dconms: '10',
    oal: '72',
    lcf: '25',
    zefp: '4',
    material: 'carbide',
    cost: '48.50',
    regrinds: '3',
    shelf: 'A-01',
    stock: '6',
    minimum: '2',
    maximum: '6',
  },
};

/** The cells of a file that holds nothing yet: all headings, and one example as a remark. */
export const templateCells = (kind: FileKind): Record<string, string> =>
  Object.fromEntries(COLUMNS[kind].map(({ name }) => [name, EXAMPLES[kind][name] ?? '']));
