import { explain } from './explain.ts';
import { isWear } from '../inspection/register-words.ts';
import { nanometres, type Length } from '../units/length.ts';
import type { Compared, Difference, HeldRegister, HeldTable, WholeTable } from './held.ts';

/** Registers that one thing must change before it is said of the whole table, and the share of them that must show it. */
const [FEWEST, SHARE] = [3, 0.8] as const;

interface Idea {
  whole: Omit<WholeTable, 'explains' | 'of'>;
  /** What a register would show; null: it says nothing of that one. */
  shows: (register: HeldRegister) => number | null;
}

/**
 * A control's table beside the record: what explains it as a whole (all rows one further, all in the other unit, all lengths from another plane, the
 * table of another machine, a table that was lost), and then each register that still differs, with what may have happened to it (H18).
 */
export function compare(table: HeldTable): Compared {
  const { registers, increment } = table;
  const near = (a: number, b: number) => Math.abs(a - b) <= increment / 2;
  const whole = bestIdea(table, near);
  const expected = (register: HeldRegister): Length => {
    const shows = whole?.idea.shows(register);
    return shows === null || shows === undefined ? register.record : nanometres(Math.round(shows));
  };
  const differing = registers.filter((each) => !near(each.control, expected(each)));
  const differences = differing.map((register): Difference => {
    const shows = expected(register);
    return { register, expected: shows, ...explain(table, register, shows) };
  });
  return {
    whole: whole && { ...whole.idea.whole, explains: whole.explains, of: whole.of },
    differences: differences.sort((a, b) => worst(b) - worst(a) || a.register.row - b.register.row),
    agree: registers.length - differing.length,
  };
}

/** How far the tool would cut from where it should: a length counts as it is, and so does wear. */
const worst = ({ register, expected }: Difference): number => Math.abs(register.control - expected);

function bestIdea(table: HeldTable, near: (a: number, b: number) => boolean) {
  const tried = ideas(table).map((idea) => {
    const says = table.registers.flatMap((register) => {
      const shows = idea.shows(register);
      return shows === null || near(shows, register.record) ? [] : [{ register, shows }];
    });
    const met = says.filter(({ register, shows }) => near(shows, register.control)).length;
    return { idea, explains: met, of: says.length };
  });
  const good = tried
    .filter(({ explains, of }) => explains >= FEWEST && explains >= SHARE * of)
    .sort((a, b) => b.explains - a.explains || a.of - b.of);
  return good[0] ?? null;
}

function ideas({ registers, others }: HeldTable): Idea[] {
  const known = new Map(registers.map((each) => [`${each.kind} ${each.row}`, each]));
  const at = (kind: string, row: number) => known.get(`${kind} ${row}`);
  const found: Idea[] = [1, -1, 2, -2].map((by) => ({
    whole: { code: 'shifted', by, from: null, machine: null },
    shows: ({ kind, row }) => at(kind, row - by)?.record ?? null,
  }));
  found.push(...partShifts(registers, at), ...emptied(registers));
  for (const by of [25.4, 1 / 25.4])
    found.push({
      whole: { code: 'units', by, from: null, machine: null },
      shows: ({ record }) => record * by,
    });
  const constant = commonConstant(registers);
  if (constant !== null)
    found.push({
      whole: { code: 'rebased', by: constant, from: null, machine: null },
      shows: ({ kind, record }) => (kind === 'lengthGeometry' && record !== 0 ? record + constant : null),
    });
  for (const { name, values } of others) {
    const held = new Map(values.map(({ kind, row, value }) => [`${kind} ${row}`, value]));
    found.push({
      whole: { code: 'otherMachine', by: 0, from: null, machine: name },
      shows: ({ kind, row }) => held.get(`${kind} ${row}`) ?? null,
    });
  }
  return found;
}

/**
 * A table that is right down to a row and shifted from there on: a line left out or put in twice where it was typed or pasted. Only where rows
 * above it, which a shift would have changed, stand as recorded; each row at which it could begin is tried.
 */
function partShifts(
  registers: readonly HeldRegister[],
  at: (kind: string, row: number) => HeldRegister | undefined,
): Idea[] {
  return [1, -1].flatMap((by) => {
    const moved = registers.flatMap(({ kind, row, record, control }) => {
      const shows = at(kind, row - by)?.record;
      return shows === undefined || shows === record
        ? []
        : [{ row, met: control === shows, stands: control === record }];
    });
    const starts = [...new Set(moved.filter(({ met }) => met).map(({ row }) => row))];
    return starts
      .filter((from) => moved.filter(({ row, stands }) => row < from && stands).length >= FEWEST)
      .map((from): Idea => ({
        whole: { code: 'shifted', by, from, machine: null },
        shows: ({ kind, row }) => (row < from ? null : (at(kind, row - by)?.record ?? null)),
      }));
  });
}

/**
 * A control that lost its table, or was cleared: at nought are its lengths, or all that it holds. Wear alone says nothing: where it is at nought,
 * nobody may have keyed what was recorded.
 */
function emptied(registers: readonly HeldRegister[]): Idea[] {
  const lengths = registers.filter(({ kind, record }) => !isWear(kind) && record !== 0);
  const lost = lengths.filter(({ control }) => control === 0).length;
  if (lost < FEWEST || lost < SHARE * lengths.length) return [];
  const whole = { by: 0, from: null, machine: null };
  const nought = (record: Length) => (record === 0 ? null : 0);
  return [
    {
      whole: { ...whole, code: 'cleared' },
      shows: ({ kind, record }) => (isWear(kind) ? null : nought(record)),
    },
    { whole: { ...whole, code: 'emptied' }, shows: ({ record }) => nought(record) },
  ];
}

/** The one constant by which most lengths differ; null: there is none. */
function commonConstant(registers: readonly HeldRegister[]): number | null {
  const counts = new Map<number, number>();
  for (const { kind, record, control } of registers)
    if (!isWear(kind) && kind === 'lengthGeometry' && record !== 0 && control !== record)
      counts.set(control - record, (counts.get(control - record) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1]);
  return best && best[1] >= FEWEST ? best[0] : null;
}
