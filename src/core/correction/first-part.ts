import { standing, stockSense, toleranceWidth } from '../inspection/feature.ts';
import { nanometres, type Length } from '../units/length.ts';
import { roundToIncrement } from '../units/round-to-increment.ts';
import { keptAway, ownBy, type FirstPlan, type FirstSize, type Keyed } from './first-part-plan.ts';
import { ToldSoFar } from './first-part-told.ts';
import { doneWords, finishersFor, isRight } from './first-part-end.ts';
import type { Finding, FirstEvent, FirstState, FirstStep, Stage, Task } from './first-part-state.ts';

/**
 * Bringing a first part to size (H13), as a sequence that anybody can take up: it is worked out anew from what was keyed and measured
 * so far. The finisher is not judged before what the rougher left was looked at.
 */

/** Rounds of cutting and correcting after which it is no matter of offsets any more. */
const MOST_CUTS = 4;
/** A finisher that took off less than this share of what stood there did not cut. */
const LEAST_CUT = 0.25;
/** A rougher is corrected when it leaves otherwise than meant by more than this share of the stock (common practice, no source). */
const ROUGH_OFF = 0.25;
/** A change answered by less than this share of what was asked, or by more than that much beyond it, is looked at first. */
const ANSWERED = 0.5;

/** What is to be done next, after all that was done. Events that the sequence does not ask for are passed over. */
export function firstPart(plan: FirstPlan, events: readonly FirstEvent[]): FirstState {
  const walk = new Walk(plan, events);
  const step = walk.run();
  return { step, findings: walk.findings, moved: walk.moved, cuts: walk.cuts };
}

class Walk extends ToldSoFar {
  readonly findings: Finding[] = [];
  cuts = 0;
  /** Taken for one that the rougher spoilt. */
  private blanks = 0;
  /** The last measurement of each size after finishing, and what its registers had been moved by then. */
  private readonly last = new Map<number, { measured: Length; moved: Length[]; full: boolean }>();
  /** This cut is as deep as those of production. */
  private full = true;
  private readonly roughMoves = new Map<number, { change: Length; why: string }>();
  private readonly left = new Map<number, Length>();
  run(): FirstStep {
    const { plan } = this;
    const set = keptAway(plan).map((each) => ({ ...each, why: this.whyAway(each) }));
    const first =
      set.length === 0 ? null : this.key(set, 'Before the first cut these stay away from the part.');
    if (first) return first;
    let wanted = plan.sizes.map((_, i) => i);
    for (this.cuts = 1; ; this.cuts += 1) {
      let stopped = this.measure(wanted);
      while (stopped === 'again') {
        wanted = plan.sizes.map((_, i) => i);
        stopped = this.measure(wanted);
      }
      if (stopped) return stopped;
      const changes = this.changes(wanted);
      if (!Array.isArray(changes)) return changes;
      const open = this.stillOut();
      if (changes.length === 0) break;
      if (this.cuts >= MOST_CUTS && open.length > 0)
        return this.halt(
          `${open.map((i) => plan.sizes[i]!.name).join(', ')}: cut ${this.cuts} times and still outside.`,
          'It is no matter of offsets. Look at clamping, the edge, the tool’s overhang and the rougher; then begin anew.',
          true,
        );
      const keyed = this.key(changes, this.keyWords());
      if (keyed) return keyed;
      // what is in its limits and was moved by less than half its tolerance is not cut again for it
      wanted = this.cuts === 1 || open.length > 0 ? this.touched(changes) : [];
      if (plan.school === 'runAndCorrect' && open.length === 0) wanted = [];
      if (wanted.length === 0) break;
    }
    return this.takeOff();
  }

  /** After parting off, or with the clamps open, everything is measured once more. */
  private takeOff(): FirstStep {
    const { plan } = this;
    const stopped = this.tasks(
      plan.sizes.map((_, size) => ({
        size,
        stage: 'off' as const,
        expected: this.expectedOff(size),
      })),
      plan.off === 'parted'
        ? 'Part it off and measure once more: sizes can move.'
        : 'Open the clamps and measure once more: sizes can move.',
      (size, measured) => {
        const before = this.last.get(size)?.measured;
        const moved = before === undefined ? null : measured - before;
        this.note(
          size,
          'off',
          measured,
          moved === null
            ? ''
            : `${plan.off === 'parted' ? 'Parting off' : 'Unclamping'} moved it by ${this.signed(moved)}.`,
        );
        return null;
      },
    );
    if (stopped) return stopped as FirstStep;
    // the next part is cut with what was keyed since this one was
    const next = plan.sizes.map((_, i) => {
      const found = this.findings.findLast((each) => each.size === i && each.stage === 'off');
      return (found ?? this.last.get(i))?.measured;
    });
    const off = plan.sizes.map((size, i) => (next[i] ?? size.target) + this.since(i) - size.target);
    const out = plan.sizes.filter(
      (size, i) =>
        next[i] !== undefined && standing(nanometres(Math.round(size.target + off[i]!)), size) !== 'in',
    );
    const changes = finishersFor(plan, this.measured(off))
      .filter(({ register }) => out.some((size) => size.moves.some((each) => each.register === register)))
      .map((each) => ({ ...each, why: 'the next part would be outside its limits off the machine' }));
    if (changes.length > 0) {
      const past = this.past(changes);
      if (past) return past;
      const keyed = this.key(changes, 'For the next part:');
      if (keyed) return keyed;
    }
    return {
      do: 'done',
      right: isRight(plan, this.findings),
      words: doneWords(plan, this.findings, changes.length > 0),
    };
  }

  /** The sizes of one cut: what the roughers left, then what the finishers did. */
  private measure(wanted: readonly number[]): FirstStep | 'again' | null {
    const { plan, cuts } = this;
    // on a part that was cut already the rougher finds no more than it left, and a third cut of it would be a light one that gives
    // way less than production does: only a blank shows
    const rough = cuts !== 2 || !wanted.some((i) => this.hasStock(i));
    this.full = rough ? cuts > 1 || plan.school !== 'safeSide' : plan.school === 'equalPasses';
    const tasks = wanted.flatMap((size): Task[] => {
      const of = plan.sizes[size]!;
      const finish: Task = { size, stage: 'finish', expected: this.expected(size) };
      if (!of.rough || !rough || of.own === null) return [finish];
      const stock = of.rough.stock + this.kept(of, of.rough.register);
      return [
        { size, stage: 'rough', expected: nanometres(of.target + stockSense(of.kind) * stock) },
        finish,
      ];
    });
    const words =
      cuts === 1
        ? `${this.blanks > 0 ? 'Take a new blank. ' : ''}Cut the part, and stop for each measurement.`
        : !rough
          ? 'Put it back on and run rougher and finisher again, exactly as in production. Then measure.'
          : 'Take the next blank, and measure: one more cut on this part would say nothing of production.';
    return this.tasks(tasks, words, (size, measured, stage) =>
      stage === 'rough' ? this.judgeRough(size, measured) : this.judgeFinish(size, measured),
    );
  }

  /** How far the allowance keeps a tool away from a size now, in the size. What was corrected brings a tool where it is meant to be. */
  private kept(size: FirstSize, register: number): number {
    return this.cuts === 1 ? stockSense(size.kind) * ownBy(size) * this.allowanceOn(register) : 0;
  }

  /** What the moves since a size was last measured make of it. */
  private since(size: number): number {
    const before = this.last.get(size);
    if (!before) return 0;
    return this.plan.sizes[size]!.moves.reduce(
      (sum, { register, by }) => sum + by * (this.moved[register]! - before.moved[register]!),
      0,
    );
  }

  private expected(size: number): Length {
    const of = this.plan.sizes[size]!;
    const before = this.last.get(size);
    if (before) return nanometres(Math.round(before.measured + this.since(size)));
    return nanometres(
      Math.round(of.target + of.moves.reduce((sum, { register, by }) => sum + by * this.moved[register]!, 0)),
    );
  }

  /** Off the machine a size is as it was last measured: what was keyed since is for the next part. */
  private readonly expectedOff = (size: number): Length | null => this.last.get(size)?.measured ?? null;

  private note(size: number, stage: Stage, measured: Length, words: string): void {
    this.findings.push({
      size,
      stage,
      measured,
      words,
      standing: stage === 'rough' ? null : standing(measured, this.plan.sizes[size]!),
    });
  }

  private hasStock(size: number): boolean {
    const of = this.plan.sizes[size]!;
    const before = this.last.get(size);
    return before !== undefined && stockSense(of.kind) * (before.measured - of.target) >= this.plan.increment;
  }

  /** H13: always look at what the rougher leaves before touching the finisher; if it undercuts, no finisher offset can help. */
  private judgeRough(index: number, measured: Length): FirstStep | 'again' | null {
    const size = this.plan.sizes[index]!;
    const rough = size.rough!;
    const sense = stockSense(size.kind);
    const there = sense * (measured - size.target);
    const inProduction = there - this.kept(size, rough.register);
    const forFinisher = there - this.kept(size, size.own!);
    const put = roundToIncrement(
      nanometres(Math.round((sense * (rough.stock - inProduction)) / ownBy(size))),
      this.plan.increment,
    );
    this.left.set(index, measured);
    const meant = rough.stock + this.kept(size, rough.register) - this.kept(size, size.own!);
    if (forFinisher < LEAST_CUT * meant) {
      this.note(
        index,
        'rough',
        measured,
        there <= 0
          ? `The rougher undercut: it is ${this.show(-there)} past the target.`
          : `The rougher undercut: ${this.show(there)} stands where the finisher is to have ${this.show(rough.stock)}.`,
      );
      if (put === 0)
        return this.halt(
          `T${rough.tool} leaves too little on ${size.name}, and its row is right.`,
          'Look at the program’s stock and at the tool before the finisher cuts.',
          true,
        );
      const rows = [
        { register: rough.register, change: put, why: `so that it leaves ${this.show(rough.stock)}` },
      ];
      const keyed =
        this.past(rows) ??
        this.key(
          rows,
          `Do not run the finisher: it would find nothing, and no offset of its row can help. Key the rougher, then take a new blank: ${there > 0 && standing(measured, size) !== 'in' ? 'this one can only be used up' : 'this one says nothing about the finisher'}.`,
        );
      if (keyed) return keyed;
      this.blanks += 1;
      return 'again';
    }
    const off = inProduction - rough.stock;
    if (Math.abs(off) > ROUGH_OFF * rough.stock && put !== 0) {
      this.roughMoves.set(rough.register, {
        change: put,
        why: `it leaves ${this.show(inProduction)} where ${this.show(rough.stock)} is meant`,
      });
      this.note(
        index,
        'rough',
        measured,
        `The rougher leaves ${this.show(inProduction)}, ${this.show(rough.stock)} is meant: it is corrected with the finisher.`,
      );
    } else
      this.note(
        index,
        'rough',
        measured,
        `The rougher leaves ${this.show(inProduction)} in production: right.`,
      );
    return null;
  }

  private judgeFinish(index: number, measured: Length): FirstStep | null {
    const { plan, cuts } = this;
    const size = plan.sizes[index]!;
    const left = this.left.get(index);
    if (left !== undefined && size.own !== null) {
      this.left.delete(index);
      const sense = stockSense(size.kind);
      const [cut, stood] = [
        sense * (left - measured),
        sense * (left - size.target) - this.kept(size, size.own),
      ];
      if (cut < LEAST_CUT * stood) {
        this.note(
          index,
          'finish',
          measured,
          `The finisher took off ${this.show(cut)} of ${this.show(stood)}.`,
        );
        return this.halt(
          `The finisher took ${this.show(cut)} off ${size.name} where ${this.show(stood)} stood.`,
          `It did not cut as it should: was T${size.tool} run, with row ${size.row}? Is its edge there? Look, then measure once more.`,
          false,
        );
      }
    }
    const before = this.last.get(index);
    const asked = this.since(index);
    // two cuts of unlike depth differ by how far the tool gives way, whatever was keyed; the allowance is far more than that
    const alike = before?.full === this.full || cuts === 2;
    if (before && asked !== 0 && alike && !(plan.school === 'runAndCorrect' && !this.full)) {
      const off = measured - (before.measured + asked);
      // whether a small one was answered nobody can tell
      const told = Math.abs(asked) > toleranceWidth(size);
      if (told && Math.abs(off) > ANSWERED * Math.abs(asked)) {
        // what is measured after somebody looked is taken as it is
        this.last.set(index, { measured, moved: [...this.moved], full: this.full });
        this.note(
          index,
          'finish',
          measured,
          `Asked for ${this.signed(asked)}, moved by ${this.signed(measured - before.measured)}.`,
        );
        return this.halt(
          `${size.name} was to move by ${this.signed(asked)} and moved by ${this.signed(measured - before.measured)}.`,
          `Nothing more on row ${size.row} until somebody has read it off the control and looked at what the rougher leaves. Then measure once more.`,
          false,
        );
      }
    }
    this.last.set(index, { measured, moved: [...this.moved], full: this.full });
    const deviation = measured - size.target;
    this.note(
      index,
      'finish',
      measured,
      `${this.show(measured)} − ${this.show(size.target)} = ${this.signed(deviation)}`,
    );
    return null;
  }

  private stillOut(): number[] {
    return [...this.last].flatMap(([i, { measured }]) =>
      this.plan.sizes[i]!.own !== null && standing(measured, this.plan.sizes[i]!) !== 'in' ? [i] : [],
    );
  }

  private touched(changes: readonly Keyed[]): number[] {
    return this.plan.sizes.flatMap((size, i) =>
      this.last.has(i) &&
      size.moves.some(({ register }) => changes.some((each) => each.register === register))
        ? [i]
        : [],
    );
  }

  /** What is keyed after a cut: finishers by what their sizes lie off, roughers back to where production has them. */
  private changes(wanted: readonly number[]): (Keyed & { why: string })[] | FirstStep {
    const { plan, cuts } = this;
    const found = new Map<number, Keyed & { why: string }>();
    for (const { rough, own } of plan.sizes) {
      if (!rough || own === null) continue;
      const { register } = rough;
      const kept = cuts === 1 && plan.school === 'equalPasses' ? this.allowanceOn(register) : 0;
      const put = this.roughMoves.get(register);
      const change = nanometres((put?.change ?? 0) - kept);
      const why = [kept === 0 ? '' : 'the allowance comes off', put?.why ?? ''].filter(Boolean).join('; ');
      if (change !== 0) found.set(register, { register, change, why });
    }
    this.roughMoves.clear();
    const off = plan.sizes.map((size, i) => {
      const last = this.last.get(i);
      if (!last) return 0;
      // a rougher that also cuts the other end of a size takes it along
      const along = size.moves.reduce(
        (sum, { register, by }) => sum + by * (found.get(register)?.change ?? 0),
        0,
      );
      const deviation = last.measured + this.since(i) - size.target;
      // a set-up error is taken out at once, what is left of it by ever smaller shares (H14)
      const share = wanted.includes(i) && standing(last.measured, size) === 'in' ? cuts : 1;
      return deviation / share + along;
    });
    for (const { register, change } of finishersFor(plan, this.measured(off)))
      found.set(register, { register, change, why: this.whyOf(register, wanted) });
    const changes = [...found.values()];
    return this.past(changes) ?? changes;
  }

  private whyOf(register: number, wanted: readonly number[]): string {
    return this.plan.sizes
      .flatMap((size, i) => {
        const last = this.last.get(i);
        if (!last || !wanted.includes(i) || size.own !== register) return [];
        return [`${size.name} ${this.signed(last.measured - size.target)}`];
      })
      .join(', ');
  }

  private readonly measured = (off: readonly number[]) =>
    off.map((each, i) => (this.last.has(i) ? each : null));

  private keyWords(): string {
    const { plan, cuts } = this;
    if (plan.school === 'runAndCorrect')
      return this.stillOut().some((i) => this.hasStock(i))
        ? 'The part is outside its limits and has stock left.'
        : 'For the next part:';
    return cuts === 1
      ? 'Finishers by what was measured, roughers back to where production has them.'
      : 'What is left, by smaller shares:';
  }
}
