import { isDirection, isWear, REGISTER_WORDS } from '../inspection/register-words.ts';
import { capital } from '../words/capital.ts';
import { formatWithUnit } from '../units/format-length.ts';
import { nanometres, type Length } from '../units/length.ts';
import { calledRows } from './called-rows.ts';
import type { Finder } from './question.ts';

/** Lengths: of these a tool's row says itself whose they are. */
const LENGTHS: readonly string[] = ['lengthGeometry', 'xGeometry', 'zGeometry'];

/** Wear, cutter, nose or tip that a kept table has set back since the tool came: what was corrected or keyed in between is lost with it. */
export const valuesPutBack: Finder = ({ tool, calls, loaded }, { machine, putBack }) => {
  if (!putBack || loaded?.since === undefined) return [];
  const { since } = loaded;
  const { lineOf } = calledRows(calls);
  return putBack.flatMap(({ row, kind, entry, value, moved }) => {
    const line = lineOf({ row, kind });
    if (line === undefined || LENGTHS.includes(kind) || entry <= since) return [];
    const show = (each: Length) =>
      isDirection(kind)
        ? String(each)
        : formatWithUnit(each, machine.unit, isWear(kind) ? { sign: 'always' } : {});
    return [
      {
        weight: 'look' as const,
        code: 'putBack' as const,
        tool,
        line,
        sentence: `${capital(REGISTER_WORDS[kind] ?? kind)} of row ${row}, which T${tool} uses on line ${line}, was put back to ${show(value)} from a table kept earlier; before that it was ${show(nanometres(value - moved))}.`,
        remedy: 'Key what it was, unless somebody knows that the older value is right.',
      },
    ];
  });
};
