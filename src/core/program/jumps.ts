import { ALL } from './doubts.ts';
import { isUnknown } from './expression.ts';
import type { Flow } from './flow.ts';
import type { Stored } from './program-index.ts';

/** Jumps within a program: where they are known to go, and where they go perhaps. Each answers with the line that comes next. */
export class Jumps {
  private readonly flow: Flow;

  constructor(flow: Flow) {
    this.flow = flow;
  }

  /** An alarm ends the run; where it is raised only perhaps, the run goes on where the jump around it leads. */
  alarm(line: number): number {
    const ahead = this.flow.joins.filter((join) => join.line > line).sort((a, b) => a.line - b.line)[0];
    if (ahead) return ahead.line;
    this.flow.alarm = line;
    this.flow.over = true;
    return line + 1;
  }

  jump(from: number, end: number, line: number, program: Stored): number {
    const target = this.target(from, end, line, program);
    if (target === null) return line + 1;
    // who jumped to a place before this one's target comes in there
    const ahead = this.flow.joins.filter((join) => join.line > line).sort((a, b) => a.line - b.line)[0];
    if (ahead && ahead.line <= target && target > line) {
      this.flow.joins.push({ ...ahead, line: target });
      return ahead.line;
    }
    return target;
  }

  private target(from: number, end: number, line: number, program: Stored): number | null {
    const number = this.flow.evaluate(from, end);
    const found = number === null || isUnknown(number) ? null : this.flow.index.label(number, line, program);
    if (typeof number === 'number') this.flow.state.doubled(number, this.flow.index.doubled(number, program));
    if (found === null) {
      const what =
        number !== null && isUnknown(number) ? `hangs on ${number.because}` : `N${number} is not there`;
      this.flow.state.doubt(
        'noLabel',
        `Jumps, and ${what}: the run was followed on the next line.`,
        'Ask the programmer where it goes.',
        ALL,
      );
    }
    return found;
  }

  perhaps(from: number, end: number, line: number, program: Stored, because: string): number {
    const target = this.target(from, end, line, program);
    if (target === null) return line + 1;
    const at = this.flow.state.line;
    const tell = () => {
      const held = this.flow.state.line;
      this.flow.state.line = at;
      this.flow.state.doubt(
        'perhaps',
        target > line
          ? `Whether what stands behind it runs, down to line ${target + 1}, hangs on ${because}.`
          : `How often it goes back to line ${target + 1} hangs on ${because}: once was counted.`,
        `Say what ${because.split(' ')[0]!.replace(/,$/, '')} is, or ask the programmer.`,
        ALL,
      );
      this.flow.state.line = held;
    };
    if (target > line) this.flow.joins.push({ line: target, told: false, tell });
    else tell();
    return line + 1;
  }
}
