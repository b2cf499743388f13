import { calledRows } from './called-rows.ts';
import type { Finder, Finding } from './question.ts';

/** A length row that still holds zero, or a tool that was not measured since it was loaded (H1.4, H6). */
export const measured: Finder = ({ calls, loaded }, { rows }) => {
  if (!loaded) return [];
  const first = calls[0]!;
  const zero: Finding[] = [...calledRows(calls).lengths]
    .filter(([row]) => row !== 0 && (rows.find((state) => state.row === row)?.zero ?? true))
    .map(([row, line]) => ({
      weight: 'stop',
      code: 'zeroLength',
      tool: first.tool,
      line,
      sentence: `Row ${row}, which T${first.tool} uses on line ${line}, still holds a length of zero: the tool would be driven into the part.`,
      remedy: `Measure T${first.tool} and key its length into row ${row}.`,
    }));
  if (zero.length > 0) return zero;
  if (loaded.measuredSinceLoading) return [];
  return [
    {
      weight: 'stop',
      code: 'notMeasured',
      tool: first.tool,
      line: first.line,
      sentence: `T${first.tool}, assembly ${loaded.assembly}, has not been measured since it was put into ${loaded.place}.`,
      remedy: 'Measure it now: every tool that stays in the machine is measured straight after loading.',
    },
  ];
};
