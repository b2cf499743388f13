import { compare } from '../src/core/control/compare.ts';
import { nanometres } from '../src/core/units/length.ts';
import { CODES, slipped } from '../tests/support/slipped-table.ts';
import { seeded, type Row } from './row.ts';

const TRIES = 3000;

/** Slips in simulated tables of 20 to 200 rows, each kind by itself: how often its own name stands first, and what is said where it cannot be told. */
export function explaining(): Row[] {
  const next = seeded(16);
  return CODES.map((code): Row => {
    let [clear, first, doubtful, wrong] = [0, 0, 0, 0];
    const taken = new Map<string, number>();
    for (let i = 0; i < TRIES; i += 1) {
      const made = slipped([20, 60, 200][i % 3]!, code, next);
      if (!made) continue;
      const { differences } = compare({
        unit: 'mm',
        increment: nanometres(1000),
        registers: made.registers,
        others: [],
      });
      const difference = differences.find(({ register }) => register === made.victim)!;
      const top = difference.explanations[0]!.code;
      if (made.alike.size === 0) {
        clear += 1;
        if (top === code) first += 1;
        else taken.set(top, (taken.get(top) ?? 0) + 1);
      } else {
        doubtful += 1;
        if (difference.told && top !== code) wrong += 1;
      }
    }
    const confused = [...taken]
      .sort((a, b) => b[1] - a[1])
      .map(([name, times]) => `${name} ${times}`)
      .join(', ');
    return {
      what: `Slip explained: ${code}`,
      ours: `first in ${((100 * first) / clear).toFixed(1)} % of ${clear}${confused === '' ? '' : ` (else ${confused})`}`,
      reference: '95 % where it can be told',
      ratio:
        doubtful === 0
          ? 'always to be told'
          : `of ${doubtful} that cannot, ${((100 * wrong) / doubtful).toFixed(1)} % told as another`,
    };
  });
}
