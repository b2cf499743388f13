import { nanometres, type Length } from '../units/length.ts';
import { REGISTER_WORDS } from '../inspection/register-words.ts';
import { formatLength } from '../units/format-length.ts';
import { registerDecimals } from '../units/register-decimals.ts';
import { allowances, type FirstPlan, type Keyed } from './first-part-plan.ts';
import type { FirstEvent, FirstStep, Stage, Task } from './first-part-state.ts';

/** What was told so far of a first part, taken up event by event: what is asked for and not told yet is the next step. */
export class ToldSoFar {
  protected readonly plan: FirstPlan;
  /** What each register was moved by so far. */
  readonly moved: Length[];
  private readonly events: readonly FirstEvent[];
  protected readonly show: (value: number) => string;
  protected readonly signed: (value: number) => string;
  private at = 0;

  constructor(plan: FirstPlan, events: readonly FirstEvent[]) {
    this.plan = plan;
    this.events = events;
    this.moved = plan.registers.map(({ away }) => away ?? nanometres(0));
    const decimals = registerDecimals(plan.unit, plan.increment);
    this.show = (value) => formatLength(nanometres(Math.round(value)), plan.unit, { decimals });
    this.signed = (value) =>
      formatLength(nanometres(Math.round(value)), plan.unit, { decimals, sign: 'always' });
  }

  /** Asks for tasks until each has its answer; what `judge` makes of one may end the asking. */
  protected tasks(
    tasks: readonly Task[],
    words: string,
    judge: (size: number, measured: Length, stage: Stage) => FirstStep | 'again' | null,
  ): FirstStep | 'again' | null {
    const open = [...tasks];
    while (open.length > 0) {
      const event = this.events[this.at];
      if (!event) return { do: 'measure', words, tasks: open };
      this.at += 1;
      if (event.what !== 'measured' && event.what !== 'skipped') continue;
      const place = open.findIndex((task) => task.size === event.size && task.stage === event.stage);
      if (place < 0) continue;
      // once the finisher has cut, nobody can measure what the rougher left
      const gone = open.filter(
        (task, i) => i === place || (task.size === event.size && task.stage === 'rough'),
      );
      for (const task of gone) open.splice(open.indexOf(task), 1);
      if (event.what === 'skipped') continue;
      const said = judge(event.size, event.measured, event.stage);
      if (said === 'again') return 'again';
      if (!said) continue;
      if (said.do === 'halt' && !said.final && this.looked()) {
        // it was measured as it is; what somebody found stands beside it, and it is measured once more
        open.unshift({ size: event.size, stage: event.stage, expected: null });
        continue;
      }
      return said;
    }
    return null;
  }

  private looked(): boolean {
    if (this.events[this.at]?.what !== 'looked') return false;
    this.at += 1;
    return true;
  }

  /** Asks for rows to be keyed, until all are. */
  protected key(rows: (Keyed & { why: string })[], words: string): FirstStep | null {
    let open = rows;
    while (open.length > 0) {
      const event = this.events[this.at];
      if (!event) return { do: 'key', rows: open, words };
      this.at += 1;
      if (event.what !== 'keyed') continue;
      for (const { register, change } of event.changes)
        this.moved[register] = nanometres(this.moved[register]! + change);
      open = open.filter(({ register }) => !event.changes.some((each) => each.register === register));
    }
    return null;
  }

  /** How far a register is meant to stand away at the first cut. */
  protected allowanceOn(register: number): number {
    return allowances(this.plan).get(register) ?? 0;
  }

  protected whyAway({ register }: Keyed): string {
    return this.allowanceOn(register) === 0
      ? 'the allowance of the first part before is taken back'
      : 'kept away by the allowance';
  }

  /** Halts where a register would come past its limit, unless it comes nearer to it. */
  protected past(changes: readonly Keyed[]): FirstStep | null {
    const { plan } = this;
    for (const { register, change } of changes) {
      const { role, row, held } = plan.registers[register]!;
      const before = held + this.moved[register]!;
      if (Math.abs(before + change) <= plan.limit || Math.abs(before + change) <= Math.abs(before)) continue;
      return this.halt(
        `${REGISTER_WORDS[role]} of row ${row} would come to ${this.signed(before + change)}, past its limit of ±${this.show(plan.limit)}.`,
        'So far off is no matter of wear: the tool’s geometry is wrong, or another tool stands there. Measure the tool, then begin anew.',
        true,
      );
    }
    return null;
  }

  protected halt(reason: string, remedy: string, final: boolean): FirstStep {
    return { do: 'halt', reason, remedy, final };
  }
}
