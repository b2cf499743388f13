import { isExpired, partsLeft } from '../life/count.ts';
import { flagFinding } from './flagged.ts';
import { useOf } from './group.ts';
import type { Finder } from './question.ts';

/** A tool whose life ends before the parts are made (H11). */
export const lifeLeft: Finder = ({ calls, loaded }, question) => {
  const first = calls[0]!;
  if (!loaded?.life || loaded.flag) return [];
  const { basis, remaining, perPart } = loaded.life;
  if (isExpired(remaining)) return flagFinding(first, loaded, 'expired');
  const parts = partsLeft(remaining, basis, useOf(calls, question.program.partsPerCycle), perPart);
  if (parts >= question.quantity) return [];
  return [
    {
      weight: 'look',
      code: 'runsOut',
      tool: first.tool,
      line: first.line,
      afterPart: parts,
      sentence: `T${first.tool}, assembly ${loaded.assembly}, runs out at part ${parts} of ${question.quantity}.`,
      remedy: `Build a replacement now, or renew it before part ${parts + 1}.`,
    },
  ];
};
