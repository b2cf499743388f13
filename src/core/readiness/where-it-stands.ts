import type { Finding, ReadinessQuestion } from './question.ts';

/**
 * Where the called tools stand is not known (H4, H18): nobody is sure of the spindle, or record and control do not agree on pockets that
 * hold them. The control would bring what it believes is there; whether that is the tool cannot be told.
 */
export function whereItStands({ machine, program, groups, tangles }: ReadinessQuestion): Finding[] {
  const first = program.calls[0];
  if (!first) return [];
  const found: Finding[] =
    machine.spindleSure === false
      ? [
          {
            weight: 'unknown',
            code: 'whereItStands',
            tool: null,
            line: first.line,
            sentence: `Nobody is sure what is in the spindle of ${machine.name}.`,
            remedy: 'Say what the control shows and what is seen, at its magazine.',
          },
        ]
      : [];
  const called = new Map(
    program.calls.flatMap(({ tool, line }) => {
      const members = groups?.find(({ number }) => number === tool)?.members ?? [{ tool }];
      return members.map((each) => [each.tool, line] as const);
    }),
  );
  return [
    ...found,
    ...(tangles ?? []).flatMap(({ tools, words }): Finding[] => {
      const own = tools.filter((tool) => called.has(tool));
      if (own.length === 0) return [];
      return [
        {
          weight: 'unknown',
          code: 'whereItStands',
          tool: own[0]!,
          line: called.get(own[0]!)!,
          sentence: `Record and control do not agree where ${own.map((tool) => `T${tool}`).join(', ')} ${own.length === 1 ? 'stands' : 'stand'}. ${words}`,
          remedy: 'Put right whichever account is wrong, and read the pockets off the control again.',
        },
      ];
    }),
  ];
}
