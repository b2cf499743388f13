import type { Finding, ReadinessQuestion } from './question.ts';

/** What a mode does to the next program that does not clear it itself. */
const LEFT = {
  G91: 'the next program that does not say G90 counts its moves from where it stands',
  G41: 'radius compensation is still on when the next one begins',
  G68: 'the coordinates are still turned when the next one begins',
} as const;

/** Modes that a program leaves in force at its end (H15, H17). */
export function leftInForce({ program }: ReadinessQuestion): Finding[] {
  const last = program.calls.at(-1);
  return (last?.left ?? []).map((mode) => ({
    weight: 'look',
    code: 'leftInForce',
    tool: null,
    line: last!.lastLine,
    sentence: `${program.name} ends with ${mode} in force: ${LEFT[mode]}, where the control does not clear it.`,
    remedy: 'Clear it before the end; a safe line at the top of each program does the rest.',
  }));
}
