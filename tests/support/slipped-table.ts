import type { Earlier, ExplanationCode, HeldRegister } from '../../src/core/control/held.ts';
import { nanometres } from '../../src/core/units/length.ts';

/** A mill's table of offsets with a history, as a cell's record has it; the control agrees with it. Lengths in thousandths of a millimetre. */
const STEP = 1000;
const KINDS = ['lengthGeometry', 'lengthWear', 'cutterWear'] as const;

export interface Cell {
  registers: HeldRegister[];
  next: () => number;
}

export function table(rows: number, next: () => number): Cell {
  const whole = (below: number) => Math.floor(next() * below);
  const registers: HeldRegister[] = [];
  for (let row = 1; row <= rows; row += 1)
    for (const kind of KINDS) {
      // not every row holds a tool, not every tool was corrected
      const used = next() < 0.8;
      const wear = kind !== 'lengthGeometry';
      const value = () => (wear ? (whole(80) - 40) * STEP : (60_000 + whole(160_000)) * STEP);
      const before: Earlier[] = [];
      let record = used ? (wear && next() < 0.4 ? 0 : value()) : 0;
      if (used)
        for (let k = 1 + whole(3); k > 0; k -= 1) {
          const old = wear ? record - (1 + whole(30)) * (next() < 0.5 ? -1 : 1) * STEP : value();
          before.push({
            value: nanometres(old),
            endedBy: wear ? (next() < 0.8 ? 'corrected' : 'zeroed') : 'measured',
          });
        }
      if (before[0]?.endedBy === 'zeroed') record = 0;
      registers.push({
        id: registers.length + 1,
        kind,
        row,
        record: nanometres(record),
        control: nanometres(record),
        before,
        seen: next() < 0.5,
        written: next() < 0.05 ? [{ program: 'O1', line: 4, value: nanometres(value()) }] : [],
        waiting: wear && used && next() < 0.1 ? nanometres(record + (1 + whole(20)) * STEP) : null,
      });
    }
  return { registers, next };
}

/** What each slip would make a register show, worked out forwards and by itself; null where it cannot happen there. */
export const SLIPS: Readonly<Record<ExplanationCode, (of: HeldRegister, cell: Cell) => number | null>> = {
  programWrote: ({ written }) => written?.[0]?.value ?? null,
  keyedUnsaid: ({ waiting }) => waiting,
  notKeyed: ({ before, seen }) => (before[0]?.endedBy === 'corrected' && !seen ? before[0].value : null),
  takenBack: ({ before, seen }) => (before[0]?.endedBy === 'corrected' && seen ? before[0].value : null),
  twice: ({ before, record }) => (before[0]?.endedBy === 'corrected' ? 2 * record - before[0].value : null),
  changeSign: ({ before, record }) =>
    before[0]?.endedBy === 'corrected' ? 2 * before[0].value - record : null,
  changeAsValue: ({ before, record }) =>
    before[0]?.endedBy === 'corrected' ? record - before[0].value : null,
  sign: ({ record }) => -record,
  digits: ({ record }, { next }) => {
    const digits = [...String(Math.abs(record) / STEP).padStart(4, '0')];
    const at = Math.floor(next() * (digits.length - 1));
    if (digits[at] === digits[at + 1]) return null;
    [digits[at], digits[at + 1]] = [digits[at + 1]!, digits[at]!];
    return Math.sign(record) * Number(digits.join('')) * STEP;
  },
  point: ({ record }, { next }) =>
    record === 0 ? null : next() < 0.5 ? record * 10 : record % (10 * STEP) === 0 ? record / 10 : null,
  units: ({ record }) => (record === 0 ? null : Math.round((record * 25.4) / STEP) * STEP),
  diameter: ({ kind, record }) => (kind === 'cutterWear' && record !== 0 ? record * 2 : null),
  neighbour: ({ kind, row }, { registers }) =>
    registers.find((each) => each.kind === kind && each.row === row + 1)?.record || null,
  otherTool: ({ kind, row }, { registers, next }) => {
    const others = registers.filter((each) => each.kind === kind && Math.abs(each.row - row) > 1);
    return others[Math.floor(next() * others.length)]?.record || null;
  },
  oldSetUp: ({ before }) =>
    before.length > 1 && before.at(-1)!.value !== before[0]!.value ? before.at(-1)!.value : null,
  wearLeft: ({ before }) => (before[0]?.endedBy === 'zeroed' ? before[0].value : null),
  byHand: ({ kind, record }, { next }) =>
    kind.endsWith('Wear')
      ? record + (Math.floor(next() * 60) - 30) * STEP
      : record + Math.floor(next() * 5_000_000),
};
export const CODES = Object.keys(SLIPS) as ExplanationCode[];

/**
 * One slip at one register of a table: what was done, and whether anything else could have made it show the same (then nobody can tell).
 * @returns null where the slip changes nothing or cannot happen
 */
export function slipped(rows: number, code: ExplanationCode, next: () => number) {
  const cell = table(rows, next);
  const wears = cell.registers.filter(
    ({ kind, record, before }) =>
      (record !== 0 || before.length > 0) && (kind !== 'lengthGeometry' || next() < 0.5),
  );
  const victim = wears[Math.floor(next() * wears.length)];
  const shows = victim ? SLIPS[code](victim, cell) : null;
  if (!victim || shows === null || shows === victim.record) return null;
  const alike = new Set<ExplanationCode>();
  for (const other of CODES) {
    if (other === code || other === 'byHand') continue;
    for (let again = 0; again < 12; again += 1) if (SLIPS[other](victim, cell) === shows) alike.add(other);
  }
  // slips that have several outcomes: every row beside it and every other, every older value
  const same = cell.registers.filter(({ kind, row }) => kind === victim.kind && row !== victim.row);
  if (same.some(({ record, row }) => record === shows && Math.abs(row - victim.row) === 1))
    alike.add('neighbour');
  if (same.some(({ record, row }) => record === shows && record !== 0 && Math.abs(row - victim.row) > 1))
    alike.add('otherTool');
  if (victim.before.slice(1).some(({ value }) => value === shows)) alike.add('oldSetUp');
  // a small number that some other row of many holds too: a hand could have left it as well
  if (code === 'otherTool' && victim.kind !== 'lengthGeometry') alike.add('byHand');
  alike.delete(code);
  victim.control = nanometres(shows);
  return { registers: cell.registers, victim, alike };
}
