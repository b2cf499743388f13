import { screenOrder } from '../correction/register-text.ts';
import { isDirection } from '../inspection/register-words.ts';
import { parseLength } from '../units/parse-length.ts';
import type { LengthUnit } from '../units/length.ts';
import type { TableRead } from './table-text.ts';
import { registerWords } from './words.ts';

interface Register {
  id: number;
  kind: string;
  row: number;
}

/**
 * Registers that are worth reading off a screen one by one, in its order: what holds something on record, and all of the rows that a
 * tool stands for, whatever they hold. What the record holds is not among it: who reads blind reads.
 */
export const toReadOut = <R extends Register & { value: number }>(
  registers: readonly R[],
  rowsInUse: ReadonlySet<number>,
): Register[] =>
  registers
    // a tip direction is no length, and stands on another page of the screen
    .filter(({ kind, row, value }) => !isDirection(kind) && (value !== 0 || rowsInUse.has(row)))
    .toSorted(
      (a, b) =>
        // a nose radius stands behind the lengths that are read every time
        Number(a.kind === 'noseRadius') - Number(b.kind === 'noseRadius') ||
        screenOrder({ registerKind: a.kind, row: a.row }, { registerKind: b.kind, row: b.row }),
    )
    .map(({ id, kind, row }) => ({ id, kind, row }));

/**
 * What somebody read off the screen of a control, register by register, as a table. Registers that were passed over are not in it.
 *
 * @param read the text that was typed for each register, by its id
 */
export function readOut(
  registers: readonly Register[],
  read: Readonly<Record<string, string>>,
  unit: LengthUnit,
): TableRead {
  const values: TableRead['values'] = [];
  const problems: string[] = [];
  for (const [id, text] of Object.entries(read)) {
    const register = registers.find((each) => String(each.id) === id);
    if (!register) {
      problems.push('A register is named that this machine does not have.');
      continue;
    }
    const parsed = parseLength(text, unit);
    if (parsed.ok) values.push({ kind: register.kind, row: register.row, value: parsed.value });
    else problems.push(`${registerWords(register)}: ${parsed.reason}`);
  }
  if (values.length === 0 && problems.length === 0) problems.push('No register was read yet.');
  return { values, problems };
}
