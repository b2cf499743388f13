import { formatWithUnit } from '../units/format-length.ts';
import type { Length } from '../units/length.ts';

/** What a tool is for somebody who calls it: kind, and every size that a program counts on. */
export interface ToolSize {
  /** Its kind in words. */
  kind: string;
  diameter: Length;
  cornerRadius: Length;
  /** How deep it reaches: the usable length of its cutter; null when nobody knows. */
  reach: Length | null;
  thread: string;
  leftHand: boolean;
}

/** Decimals of a millimetre that are shown at the least and at the most; lengths are kept to a millionth. */
const [FEW, ALL] = [1, 6];

/**
 * The words for each tool, the same for those that may be taken for one another and different for all others: a reamer of 9.98 is
 * not one of 10.02, whatever the display rounds to. As many digits are shown as tell them apart, and the reach only where nothing
 * else does.
 */
export function meanings(tools: readonly ToolSize[]): string[] {
  const words = tools.map((tool) => inWords(tool, FEW, false));
  const keys = tools.map(keyOf);
  const alike = new Map<string, Set<number>>();
  for (const [i, said] of words.entries()) alike.set(said, (alike.get(said) ?? new Set()).add(i));
  for (const group of alike.values()) {
    const different = (said: readonly string[]) =>
      new Set(said).size === new Set([...group].map((i) => keys[i])).size;
    for (const reach of [false, true])
      for (let decimals = FEW; decimals <= ALL; decimals += 1) {
        const tried = [...group].map((i) => inWords(tools[i]!, decimals, reach));
        if (!different(tried)) continue;
        [...group].forEach((i, nth) => (words[i] = tried[nth]!));
        group.clear();
      }
  }
  return words;
}

const keyOf = ({ kind, diameter, cornerRadius, reach, thread, leftHand }: ToolSize) =>
  [kind, diameter, cornerRadius, reach, thread, leftHand].join(' ');

function inWords(tool: ToolSize, decimals: number, withReach: boolean): string {
  const size = (value: Length) => formatWithUnit(value, 'mm', { decimals });
  return [
    tool.leftHand ? 'left-hand' : '',
    tool.kind,
    tool.thread || (tool.diameter > 0 ? size(tool.diameter) : ''),
    tool.cornerRadius > 0 ? `R${size(tool.cornerRadius)}` : '',
    withReach ? (tool.reach === null ? 'reach not known' : `reach ${size(tool.reach)}`) : '',
  ]
    .filter(Boolean)
    .join(' ');
}
