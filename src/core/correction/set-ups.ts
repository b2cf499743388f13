import { cutWhen, type Change, type CutPart } from './cut-with.ts';

/** A part that was measured. */
export interface SetUpPart extends CutPart {
  /** Number of the program that cut it, and which revision of it. */
  program: string;
  programId: number;
  /** Its place in the row of all parts. */
  at: number;
  /** Whoever measured it said that it was cut after a set-up. */
  firstOff: boolean;
}

/** A program that was begun, or taken up again, after the machine had run something else. */
export interface BegunAnew {
  program: string;
  change: Change;
}

export interface SetUp {
  program: string;
  /** Between the last part measured before it and the first after. */
  at: number;
}

/**
 * Where new set-ups begin in the row of parts (H14: a new set-up begins a new story). A program is set up anew where the machine
 * has run something else since, where another revision of it cuts, and where whoever measured said so: of first-offs that follow
 * each other, the first. What lies before all parts of a program separates nothing, and is left out.
 */
export function setUpsOf(parts: readonly SetUpPart[], begun: readonly BegunAnew[]): SetUp[] {
  return [...new Set(parts.map(({ program }) => program))].flatMap((program) => {
    const own = parts.filter((each) => each.program === program);
    const cut = [...new Map(own.map((each) => [each.at, each])).values()].sort((a, b) => a.at - b.at);
    const ticked = new Set(own.filter(({ firstOff }) => firstOff).map(({ at }) => at));
    const said = cut.flatMap((part, i) => {
      const before = cut[i - 1];
      if (!before) return [];
      const firstOff = ticked.has(part.at) && !(ticked.has(before.at) && before.series === part.series);
      return firstOff || before.programId !== part.programId ? [before.at] : [];
    });
    const ran = begun
      .filter((each) => each.program === program)
      .flatMap(({ change }) => {
        // a first-off that was measured after it is of it, whatever its number
        const before = own
          .filter(
            (part) => !(part.firstOff && part.entry > change.entry) && cutWhen(part, change) === 'before',
          )
          .map(({ at }) => at);
        return before.length === 0 ? [] : [Math.max(...before)];
      });
    return [...new Set([...said, ...ran])].sort((a, b) => a - b).map((last) => ({ program, at: last + 0.5 }));
  });
}
