import { describe, expect, it } from 'vitest';
import { usualDialect } from '../program/dialect.ts';
import { readProgram } from '../program/read-program.ts';
import { nanometres } from '../units/length.ts';
import { checkReadiness } from './check.ts';
import { offCentre } from './probe.ts';
import type { LoadedTool } from './question.ts';

const read = readProgram(
  '%\nO1 (X)\nT8 M6\nG43 H8 Z50.\nS500 M3\nG76 X0. Y0. Z-9. R2. Q0.2 F50.\nG80\nM30\n%',
  usualDialect('mill', 'mm'),
);
const calls = read.ok ? read.reading.calls : [];
const found = (loaded: Partial<LoadedTool>) =>
  checkReadiness({
    machine: { name: 'Avocet', kind: 'mill', highestSpeed: 9000, boringShift: 'X+', unit: 'mm' },
    program: { name: 'O1', partsPerCycle: 1, calls },
    quantity: 1,
    rows: [{ row: 8, zero: false }],
    loaded: [
      {
        tool: 8,
        assembly: 'A-108',
        place: 'pocket 8',
        flag: null,
        measuredSinceLoading: true,
        life: null,
        kind: 'boringBar',
        diameter: nanometres(40_000_000),
        ...loaded,
      },
    ],
  }).map(({ weight, code, sentence }) => `${weight} ${code}: ${sentence}`);

// the handbook's own: 0.0004 in off centre becomes 0.0008 in (H10)
it('half a turn doubles what a probe is off centre', () => {
  expect(offCentre({ x: nanometres(10_160), y: nanometres(0) })).toEqual({ off: 10_160, turned: 20_320 });
  expect(offCentre({ x: nanometres(6000), y: nanometres(-8000) })).toEqual({ off: 10_000, turned: 20_000 });
});

describe('how an oriented tool is turned (H10)', () => {
  const shifted = 'T8 is shifted X+ by 0.200 mm on line 6';
  it('the tip is to be looked at until somebody has', () =>
    expect(found({ tip: null })).toEqual([`look boringShift: ${shifted}: its tip must point X−.`]));
  it('one that points away from the shift is settled, any other stops the job', () => {
    const by = (way: 'X+' | 'X-' | 'Y+' | 'Y-') => found({ tip: { way, person: 'Ilya Brandt' } });
    expect(by('X-')).toEqual([`settled boringShift: ${shifted}: its tip must point X−.`]);
    for (const way of ['X+', 'Y+', 'Y-'] as const)
      expect(by(way)[0]).toMatch(/^stop boringShift: .* it would be driven into the wall\.$/);
  });
  it('a probe is looked at unless it stands as it was calibrated', () => {
    const probe = (stand: LoadedTool['probe']) =>
      found({ kind: 'probe', probe: stand, tip: { way: 'X-', person: 'A' } }).filter((each) =>
        each.includes('probe'),
      );
    expect(probe('calibrated')).toEqual([]);
    expect(probe(null)).toEqual([]);
    expect(probe('never')[0]).toMatch(/^look probe: T8, the probe A-108, has no calibration on record\.$/);
    expect(probe('tipChanged')[0]).toMatch(/tip or its holder changed/);
    expect(probe('putBack')[0]).toMatch(/^look .*put back since/);
    expect(probe('markSeen')[0]).toMatch(/^settled .*its mark was seen where it was\.$/);
  });
});
