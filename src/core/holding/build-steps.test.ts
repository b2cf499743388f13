import { describe, expect, it } from 'vitest';
import { kindFacts, type Component, type ComponentKind } from '../component/kinds.ts';
import type { Stack } from '../assembly/stack.ts';
import { lengthOf } from '../units/length.ts';
import { buildSteps } from './build-steps.ts';

const piece = (kind: ComponentKind, over: Partial<Component> = {}): Component => ({
  id: 1,
  number: kind,
  name: kindFacts(kind).words,
  kind,
  dimensions: {},
  interface: 'steep 40',
  series: '',
  flat: false,
  coolant: false,
  leftHand: false,
  material: 'steel',
  torque: null,
  ...over,
});
const stack = (holder: Component, over: Partial<Stack> = {}): Stack => ({
  holder,
  extension: null,
  nut: null,
  second: null,
  adapter: null,
  cutter: piece('endMillSharp'),
  inserts: null,
  secondInserts: null,
  knob: null,
  stickOut: lengthOf(38, 'mm'),
  ...over,
});
const card = (of: Stack) => buildSteps(of).map((step) => `${step.do} ${step.caution ?? ''}`);
const at = (lines: readonly string[], words: RegExp) => lines.findIndex((line) => words.test(line));

describe('the build card (H3, H6; common practice, no source)', () => {
  it('a collet is clicked into the nut first, then nut on holder, then tool', () => {
    const lines = card(
      stack(piece('colletChuck', { torque: 120 }), { adapter: piece('collet', { name: 'Collet 10' }) }),
    );
    const click = at(lines, /Click Collet 10 into the nut, then the nut onto the holder, then the cutter in/);
    expect(click).toBeGreaterThan(0);
    expect(at(lines, /stick-out to 38.000 mm.*shank only, never the flutes/)).toBeGreaterThan(click);
    expect(
      at(lines, /Tighten the nut to 120 N·m with the proper spanner.*never by the cutter or the taper/),
    ).toBeGreaterThan(click);
  });
  it('the screw of a side-lock seats on the flat, centred', () => {
    expect(card(stack(piece('sideLock'))).join('\n')).toMatch(/screw must seat on the flat, centred/);
  });
  it('all three jaws of a drill chuck must bear', () => {
    expect(card(stack(piece('drillChuck'))).join('\n')).toMatch(/All three jaws must bear/);
  });
  it('a shrink holder is hot', () => {
    expect(card(stack(piece('shrink'))).join('\n')).toMatch(/hot enough to burn/);
  });
  it('a torque that nobody entered is not made up', () => {
    for (const kind of ['colletChuck', 'sideLock', 'drillChuck', 'arbor', 'hydraulic'] as const)
      expect(card(stack(piece(kind))).join('\n')).not.toMatch(/N·m/);
  });
  it('the knob comes with its look at the machine, and the inserts with their number', () => {
    const lines = card(
      stack(piece('arbor'), {
        knob: piece('knob', { torque: 90 }),
        inserts: { component: piece('insert', { series: 'SEKT 1204' }), count: 5 },
      }),
    );
    expect(at(lines, /knob.*90 N·m.*Same taper is not same knob/)).toBeGreaterThan(-1);
    expect(at(lines, /Fit 5 inserts.*SEKT 1204/)).toBeGreaterThan(-1);
  });
  it('every build ends with measuring and a rack, and begins clean', () => {
    for (const kind of [
      'colletChuck',
      'sideLock',
      'drillChuck',
      'shrink',
      'hydraulic',
      'arbor',
      'boringHead',
      'turningHolder',
    ] as const) {
      const lines = card(stack(piece(kind)));
      expect(lines[0]).toMatch(/Wipe the taper/);
      expect(lines.at(-1)).toMatch(/Measure it: gauge length.*Never lay it on a bench where it can roll/);
      expect(lines.join('\n')).toContain(kind === 'arbor' ? 'pilot' : '38.000 mm');
    }
  });
});
