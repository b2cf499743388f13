import { noArmWords } from '../changer/where.ts';
import type { Finding, LoadedTool, ReadinessQuestion } from './question.ts';

/**
 * Tools that the changer must not carry (H5), where the program would have it carry them: one that hangs in the magazine and is called, and one
 * in the spindle that the next tool change would put away. By hand, at a stop, it may be used.
 */
export function byHandOnly({ program, loaded, groups }: ReadinessQuestion): Finding[] {
  const membersOf = (tool: number) =>
    groups?.find(({ number }) => number === tool)?.members.map((each) => each.tool) ?? [tool];
  const found = (
    tool: LoadedTool,
    line: number,
    weight: Finding['weight'],
    sentence: string,
    remedy: string,
  ) => ({
    weight,
    code: 'byHandOnly' as const,
    tool: tool.tool,
    line,
    sentence,
    remedy,
  });
  return loaded.flatMap((tool): Finding[] => {
    if (!tool.noArm) return [];
    const { comes } = tool.noArm;
    const why = noArmWords(tool.noArm, 'it');
    const calls = program.calls.map((call) => ({ ...call, own: membersOf(call.tool).includes(tool.tool) }));
    const name = `T${tool.tool}, assembly ${tool.assembly},`;
    if (!tool.inSpindle) {
      const first = calls.find(({ own }) => own);
      if (!first) return [];
      return [
        found(
          tool,
          first.line,
          'stop',
          `${name} hangs in ${tool.place} and is called on line ${first.line}. ${why}`,
          comes
            ? 'Take it out, declare the pocket wide, and load it again.'
            : 'Take it out of the magazine by hand; it may be loaded into the spindle by hand at a stop, and is taken out by hand.',
        ),
      ];
    }
    const change = calls.findIndex(({ own }) => !own);
    if (change < 0) return [];
    const at = calls[change]!;
    return change === 0
      ? [
          found(
            tool,
            at.line,
            'stop',
            `${name} is in the spindle, and line ${at.line} would put it away${at.tool > 0 ? ` for T${at.tool}` : ''}. ${why}`,
            'Take it out by hand, and tell the control, before the program is started.',
          ),
        ]
      : [
          found(
            tool,
            at.line,
            'look',
            `${name} is in the spindle and cuts first; line ${at.line} would then put it away${at.tool > 0 ? ` for T${at.tool}` : ''}. ${why}`,
            'See that the program stops before that line, and take it out by hand there.',
          ),
        ];
  });
}
