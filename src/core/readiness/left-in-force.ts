import type { Finding, ReadinessQuestion } from './question.ts';

/** What a mode does to the next program that does not clear it itself. */
const LEFT = {
  G91: 'the next program that does not say G90 counts its moves from where it stands',
  G41: 'radius compensation is still on when the next one begins',
  G68: 'the coordinates are still turned when the next one begins',
  G52: 'the zero is still shifted when the next one begins',
  G92: 'the zero that it set holds in the next one, in every work offset',
  G50: 'the zero that it set holds in the next one, with every tool',
  G16: 'positions are still polar when the next one begins',
  G51: 'what the next one cuts is still scaled',
  G18: 'arcs and cycles of the next program that does not say G17 lie in another plane',
  G19: 'arcs and cycles of the next program that does not say G17 lie in another plane',
  G93: 'the next program that does not say its kind of feed takes F for inverse time',
  G94: 'the next program that does not say G95 takes F for a feed a minute',
  G95: 'the next program that does not say G94 takes F for a feed a revolution',
  G98: 'the next program that does not say G99 takes F for a feed a minute',
  G99: 'the next program that does not say G98 takes F for a feed a revolution',
} as const;
const isKnown = (mode: string): mode is keyof typeof LEFT => mode in LEFT;
/** What is left is its unit, whatever its code. */
const UNIT = 'the next program that does not say its unit is read in the other one';

/** Modes that a program leaves in force at its end (H15, H17). */
export function leftInForce({ program }: ReadinessQuestion): Finding[] {
  const last = program.calls.at(-1);
  return (last?.left ?? []).map((mode) => ({
    weight: 'look',
    code: 'leftInForce',
    tool: null,
    line: last!.lastLine,
    sentence: `${program.name} ends with ${mode} in force: ${isKnown(mode) ? LEFT[mode] : UNIT}, where the control does not clear it.`,
    remedy: 'Clear it before the end; a safe line at the top of each program does the rest.',
  }));
}
