import { randomUUID } from 'node:crypto';
import { readTable, tableText, type TableValue } from '../../src/core/control/table-text.ts';
import { isWear } from '../../src/core/inspection/register-words.ts';
import { nanometres } from '../../src/core/units/length.ts';
import { bringTable, recordText } from '../../src/server/control-looks.ts';
import { pool } from '../../src/server/db.ts';
import { machineById } from '../../src/server/machines.ts';

/** A control's table is read off with four slips of four kinds in it: two digits, a sign, a nudge by hand, another tool's length. */
export async function readOffControl(personId: number, machineId: number): Promise<void> {
  const machine = (await machineById(pool(), machineId))!;
  const now = new Date();
  const { text } = await recordText(pool(), machine, now);
  const values = readTable(machine, text, null).values.map((each) => ({ ...each }));
  const lengths = values.filter((each) => each.kind === 'lengthGeometry' && each.value !== 0);
  const [digits, other, nudged] = [lengths[0]!, lengths[1]!, lengths[3]!];
  const step = machine.increment;
  const swapped = (value: number) => {
    const figures = [...String(Math.round(value / step))];
    const at = figures.findIndex((figure, i) => i > 0 && figure !== figures[i + 1]);
    [figures[at], figures[at + 1]] = [figures[at + 1]!, figures[at]!];
    return Number(figures.join('')) * step;
  };
  const set = (each: TableValue, value: number) => {
    each.value = nanometres(value);
  };
  set(digits, swapped(digits.value));
  set(other, lengths.at(-1)!.value);
  const wears = values.filter(({ kind }) => isWear(kind));
  set(lengths[2]!, -lengths[2]!.value);
  set(wears.find(({ row, value }) => value === 0 && row === nudged.row)!, 12 * step);
  const punched = tableText(machine, values, now.toISOString()).text;
  const taken = await bringTable(
    { key: randomUUID(), personId },
    { machineId, fileName: 'offsets.nc', text: punched, kind: null, mapping: null, part: false },
  );
  if (!taken.ok) throw new Error(taken.reason);
}
