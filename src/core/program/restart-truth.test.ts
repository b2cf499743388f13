import { describe, expect, it } from 'vitest';
import { seeded } from '../../../tests/support/seeded.ts';
import { usualDialect } from './dialect.ts';
import { restartAt } from './restart.ts';

// A control of its own, small and blunt, runs a program from the top and writes down every move in the machine's coordinates, with what is
// in the spindle and in force. Then it is left as a stop leaves one, the restart's text is run, then the rest of the program from the line
// it names: from there on every move must be the one that the whole program made.

interface Moved {
  line: number;
  feeds: boolean;
  from: string;
  /** Where it ends, in the machine, and everything that decides what is cut there. */
  what: string;
}

const ROWS = (row: number) => 100 + row * 7;
const OFFSETS: Readonly<Record<string, readonly [number, number, number]>> = {
  G54: [-300, -200, -400],
  G55: [-150, -220, -410],
};

class Control {
  tool = 0;
  staged = 0;
  at = { x: 0, y: 0, z: 0 };
  abc: Record<string, number> = { A: 0, B: 0 };
  offset = 'G54';
  shift = { x: 0, y: 0, z: 0 };
  turned = false;
  row = 0;
  absolute = true;
  motion = 0;
  feedBy = 'G94';
  feed = 0;
  speed = 0;
  spindle = 'M5';
  coolant = new Set<string>();
  variables = new Map<number, number>();
  moves: Moved[] = [];

  /** What is known of the zero that places are counted from. */
  private zero = (axis: 'x' | 'y' | 'z', i: number) =>
    OFFSETS[this.offset]![i]! +
    this.shift[axis] +
    (axis === 'z' ? ROWS(this.row) * (this.row > 0 ? 1 : 0) : 0);

  run(text: string, line: number): void {
    const said = /^\((\w) IS TO STAND (AT ([\d.-]+)|AS AT THE BEGINNING)\)$/.exec(text);
    if (said) this.abc[said[1]!] = Number(said[3] ?? 0);
    const stands = /^\(X AND Y ARE TO STAND AT X(\S+) Y(\S+)\)$/.exec(text);
    if (stands) this.at = { ...this.at, x: Number(stands[1]), y: Number(stands[2]) };
    const plain = text.replace(/\([^)]*\)/g, '').trim();
    const set = /^#(\d+)=(-?[\d.]+|#(\d+)\+([\d.]+))$/.exec(plain);
    if (set) {
      const value = set[3] ? (this.variables.get(Number(set[3])) ?? 0) + Number(set[4]) : Number(set[2]);
      this.variables.set(Number(set[1]), value);
      return;
    }
    const words = [...plain.matchAll(/([A-Z])(-?[\d.]+|#\d+)/g)].map(
      ([, letter, value]) =>
        [
          letter!,
          value!.startsWith('#') ? (this.variables.get(Number(value!.slice(1))) ?? 0) : Number(value),
        ] as const,
    );
    const has = (letter: string, value: number) => words.some(([a, b]) => a === letter && b === value);
    const of = (letter: string) => words.find(([each]) => each === letter)?.[1];
    for (const [letter, value] of words) {
      const word = `${letter}${value}`;
      if (word === 'G90' || word === 'G91') this.absolute = value === 90;
      if (['G0', 'G1'].includes(word)) this.motion = value;
      if (['G93', 'G94', 'G95'].includes(word)) this.feedBy = word;
      if (word in OFFSETS) this.at = this.inProgram(() => (this.offset = word));
      if (word === 'G68') this.turned = true;
      if (word === 'G69') this.turned = false;
      if (word === 'G49') this.at = this.inProgram(() => (this.row = 0));
      if (letter === 'T') this.staged = value;
      if (letter === 'S') this.speed = value;
      if (letter === 'F') this.feed = value;
      if (['M3', 'M4', 'M5'].includes(word)) this.spindle = word;
      if (['M8', 'M88'].includes(word)) this.coolant.add(word);
      if (word === 'M9') this.coolant.clear();
      if (word === 'M6') [this.tool, this.staged, this.spindle] = [this.staged, this.tool, 'M5'];
    }
    if (has('G', 43)) this.at = this.inProgram(() => (this.row = of('H')!));
    if (has('G', 52))
      this.at = this.inProgram(() => {
        this.shift = { x: of('X') ?? this.shift.x, y: of('Y') ?? this.shift.y, z: of('Z') ?? this.shift.z };
      });
    else if (has('G', 28)) {
      for (const [axis, i] of [
        ['x', 0],
        ['y', 1],
        ['z', 2],
      ] as const)
        if (of(axis.toUpperCase()) !== undefined) this.at[axis] = -this.zero(axis, i);
    } else if (!has('G', 68)) {
      for (const axis of ['A', 'B'])
        if (of(axis) !== undefined) this.abc[axis] = of(axis)! + (this.absolute ? 0 : this.abc[axis]!);
      this.move(of, line);
    }
  }

  /** The place in the program's coordinates after these have changed: the machine stands. */
  private inProgram(change: () => void) {
    const zero = () => [this.zero('x', 0), this.zero('y', 1), this.zero('z', 2)] as const;
    const before = zero();
    change();
    const [x, y, z] = zero().map((each, i) => each - before[i]!) as [number, number, number];
    return { x: this.at.x - x, y: this.at.y - y, z: this.at.z - z };
  }

  private machine = () =>
    [this.at.x + this.zero('x', 0), this.at.y + this.zero('y', 1), this.at.z + this.zero('z', 2)]
      .map((each) => each.toFixed(3))
      .join(' ');

  private move(of: (letter: string) => number | undefined, line: number): void {
    const to = { ...this.at };
    let moves = false;
    for (const axis of ['x', 'y', 'z'] as const) {
      const value = of(axis.toUpperCase());
      if (value === undefined) continue;
      to[axis] = this.absolute ? value : to[axis] + value;
      moves = true;
    }
    if (!moves) return;
    const from = this.machine();
    this.at = to;
    const feeds = this.motion > 0;
    const force = feeds
      ? [this.feed, this.feedBy, this.speed, this.spindle, ...[...this.coolant].sort()]
      : [];
    const what = [
      this.machine(),
      this.tool,
      this.row,
      this.turned,
      this.abc.A,
      this.abc.B,
      feeds,
      ...force,
    ].join(' ');
    this.moves.push({ line, feeds, from, what });
  }
}

/** A program of three tools as posts and people write them, with what makes a place hard to come back to. */
function program(chance: () => number): string[] {
  const some = (share: number) => chance() < share;
  const number = (most: number) => String(Math.round(chance() * most * 10) / 10).replace(/^(-?\d+)$/, '$1.');
  const hard = some(0.6);
  const lines = ['O1', 'G21 G17 G40 G80 G90 G94 G54'];
  const tools = [5, 7, 9];
  if (hard && some(0.4)) lines.push('#101=12.5');
  tools.forEach((tool, i) => {
    if (hard && some(0.25)) lines.push(some(0.5) ? `G0 B${number(90)}` : `G0 A${number(90)}`);
    if (some(0.3)) lines.push(`T${tool}`, `G0 X${number(50)}`, 'M6');
    else lines.push(`T${tool} M6`);
    if (some(0.4)) lines.push(`T${tools[i + 1] ?? 5}`);
    lines.push(`S${1000 + 100 * tool} M3`);
    if (some(0.15)) lines.push(`G43 H${tool}`);
    lines.push(`G43 H${tool} Z${50 + tool}.`);
    if (some(0.5)) lines.push(some(0.5) ? 'M8' : 'M88');
    lines.push(`G0 X${number(50)} Y${number(50)}`);
    if (hard && some(0.3)) lines.push('G52 X10. Y-5.', 'G0 X0. Y0.');
    if (hard && some(0.15)) lines.push('G68 X0. Y0. R30.');
    for (let k = 0; k < 6; k += 1) {
      const kind = chance();
      if (kind < 0.2) lines.push(`G0 Z${number(40)}`);
      else if (kind < 0.4) lines.push(`G1 Z-${number(9)} F${100 + tool}.`);
      else if (kind < 0.7) lines.push(`G1 X${number(50)} Y${number(50)} F${200 + tool}.`);
      else if (kind < 0.8) lines.push(`Y${number(50)}`);
      else if (hard && kind < 0.84) lines.push('G91', `G1 X${number(3)} F90.`, 'G90');
      else if (hard && kind < 0.88) lines.push(some(0.5) ? '#102=#102+1.' : '#101=#101+2.', 'G1 X#101 F80.');
      else if (hard && kind < 0.91)
        lines.push('G93', `G1 X${number(30)} F4.`, 'G94', `G1 X${number(30)} F150.`);
      else if (hard && kind < 0.94) lines.push('G28 X0. Y0.', `G0 X${number(9)}`);
      else if (kind < 0.97) lines.push('G55', `G0 X${number(20)} Y${number(20)}`);
      else lines.push('M9');
    }
    if (hard && some(0.7)) lines.push('G69');
    if (hard && some(0.7)) lines.push('G52 X0. Y0. Z0.');
    lines.push('G0 Z60.', 'G28 Z0.', 'M9', 'G54');
  });
  return [...lines, 'M30'];
}

describe('a program begun again cuts what the whole one would have, on a control that was left as a stop leaves it', () => {
  it('from the line itself and from the call of the tool, wherever there is a way', () => {
    let [here, back, none] = [0, 0, 0];
    const wrong: string[] = [];
    for (let seed = 1; seed <= 400; seed += 1) {
      const chance = seeded(seed);
      const lines = program(chance);
      const stop = 4 + Math.floor(chance() * (lines.length - 5));
      const read = restartAt(lines.join('\n'), usualDialect('mill', 'mm'), stop);
      if (!read.ok) continue;
      const whole = new Control();
      lines.forEach((text, i) => {
        if (i + 1 === stop) return;
        whole.run(text, i + 1);
      });
      const truth = new Control();
      lines.forEach((text, i) => truth.run(text, i + 1));
      const { restart } = read;
      for (const [text, from] of [
        [restart.here, restart.line],
        [restart.back?.text ?? null, restart.back?.line ?? 0],
      ] as const) {
        if (text === null) {
          none += 1;
          continue;
        }
        if (text === restart.here) here += 1;
        else back += 1;
        // left as it stood, or after a reset; rotary axes anywhere, for whoever restarts may have moved them
        const left = new Control();
        lines.slice(0, stop - 1).forEach((each, i) => left.run(each, i + 1));
        if (chance() < 0.5) {
          left.shift = { x: 0, y: 0, z: 0 };
          left.turned = false;
          left.absolute = chance() < 0.5;
          left.feedBy = 'G93';
        }
        for (const { letter } of restart.stand.angles) left.abc[letter] = chance() * 90;
        left.spindle = 'M5';
        left.coolant.clear();
        left.run('G28 Z0.', 0);
        left.moves = [];
        const then = new Control();
        lines.slice(0, from - 1).forEach((each, i) => then.run(each, i + 1));
        for (const each of text) {
          left.run(each, 0);
          const put = Number(/^\(#(\d+) WAS SET BEHIND IT/.exec(each)?.[1] ?? 0);
          if (put > 0) left.variables.set(put, then.variables.get(put) ?? 0);
        }
        lines.forEach((each, i) => {
          if (i + 1 >= from) left.run(each, i + 1);
        });
        const [made, meant] = [left, truth].map(({ moves }) => moves.filter(({ line }) => line >= from));
        // until X and Y are said, where it comes down by rapid is the setter's to see
        const named = (axis: string) =>
          lines.findIndex((each, i) => i + 1 >= from && each.includes(axis)) + 1;
        const free = Math.max(named('X'), named('Y'));
        const bad = meant!.findIndex((each, i) => {
          const own = made![i];
          if (!each.feeds && own && each.line <= free) return own.feeds;
          return own?.what !== each.what || (each.feeds && own.from !== each.from);
        });
        if (bad >= 0)
          wrong.push(
            [
              `seed ${seed}, stopped before ${stop}, from ${from}, line ${meant![bad]!.line}`,
              `meant ${meant![bad]!.from} > ${meant![bad]!.what}`,
              `made  ${made![bad]?.from} > ${made![bad]?.what}`,
              ...text,
              ...lines.map((each, i) => `${i + 1} ${each}`),
            ].join('\n'),
          );
      }
    }
    expect(wrong[0]).toBeUndefined();
    expect(wrong).toHaveLength(0);
    // and not by never saying a way
    expect(here).toBeGreaterThan(60);
    expect(back).toBeGreaterThan(250);
    expect(none).toBeGreaterThan(50);
  });
});
