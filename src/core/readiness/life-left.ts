import { isExpired, partsLeft, useOf } from '../life/count.ts';
import { leftAfter } from '../life/left-after.ts';
import { cutBefore, fromWhere } from './before.ts';
import { flagFinding } from './flagged.ts';
import type { Finder } from './question.ts';

/** A tool whose life ends before the parts are made (H11). */
export const lifeLeft: Finder = ({ calls, loaded }, question) => {
  const first = calls[0]!;
  if (!loaded?.life || loaded.flag) return [];
  if (isExpired(loaded.life.remaining)) return flagFinding(first, loaded, 'expired');
  const { life, by, renewed } = leftAfter(loaded.life, cutBefore(first.tool, question.before));
  const use = useOf(calls, question.program.partsPerCycle);
  const parts = partsLeft(life.remaining, life.basis, use, life.perPart);
  if (parts >= question.quantity) return [];
  const name = `T${first.tool}, assembly ${loaded.assembly},`;
  if (parts === 0)
    return [
      {
        weight: 'look',
        code: 'runsOut',
        tool: first.tool,
        line: first.line,
        afterPart: 0,
        sentence: `${name} is used up as ${by.at(-1)} ends.`,
        remedy: 'Build a replacement now: it is renewed before this job begins.',
      },
    ];
  return [
    {
      weight: 'look',
      code: 'runsOut',
      tool: first.tool,
      line: first.line,
      afterPart: parts,
      sentence: `${name} runs out at part ${parts} of ${question.quantity}${fromWhere(by)}${renewed > 0 ? ', renewed on the way' : ''}.`,
      remedy: `Build a replacement now, or renew it before part ${parts + 1}.`,
    },
  ];
};
