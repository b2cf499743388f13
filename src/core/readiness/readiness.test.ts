import { describe, expect, it } from 'vitest';
import { nanometres } from '../units/length.ts';
import type { ToolCall } from '../program/reading.ts';
import { againstNextPart, checkReadiness, verdictOf } from './check.ts';
import type { LoadedTool, ReadinessQuestion } from './question.ts';

const call = (tool: number, over: Partial<ToolCall> = {}): ToolCall => ({
  order: tool,
  tool,
  line: tool * 10,
  lastLine: tool * 10 + 9,
  remark: '10 MM DRILL',
  lengthRows: [{ row: tool, line: tool * 10 + 2 }],
  radiusRows: [],
  speeds: { least: 3000, most: 3000 },
  surfaceSpeed: null,
  speedCeiling: null,
  feeds: [],
  holes: 6,
  cutMilliseconds: 30_000,
  feedDistance: nanometres(1),
  deepest: null,
  optionalStops: [],
  lifeCounts: [],
  usesRadiusCompensation: false,
  boringShifts: [],
  cutSide: null,
  ...over,
});
const loaded = (tool: number, over: Partial<LoadedTool> = {}): LoadedTool => ({
  tool,
  assembly: `A-${tool}`,
  place: `pocket ${tool}`,
  flag: null,
  measuredSinceLoading: true,
  life: { basis: 'holes', remaining: 600, limit: 600 },
  ...over,
});
const question = (over: Partial<ReadinessQuestion> & { calls?: ToolCall[] } = {}): ReadinessQuestion => ({
  machine: {
    name: 'Avocet',
    kind: 'mill',
    highestSpeed: 12_000,
    boringShift: 'X+',
    unit: 'mm',
  },
  program: { name: 'O1', partsPerCycle: 1, calls: over.calls ?? [call(1)] },
  quantity: 100,
  loaded: [loaded(1)],
  rows: [{ row: 1, zero: false }],
  ...over,
});
const codes = (q: ReadinessQuestion) => checkReadiness(q).map((finding) => finding.code);

describe('is the job ready (H17)', () => {
  it('a tool that is not as asked for is looked at, with what differs', () => {
    const [finding] = checkReadiness(
      question({ loaded: [loaded(1, { misses: ['it is 9.7 mm across, 10 mm is asked for'] })] }),
    );
    expect(finding).toMatchObject({ code: 'notAsAsked', weight: 'look', tool: 1 });
    expect(finding!.sentence).toContain('line 10: it is 9.7 mm across, 10 mm is asked for.');
  });
  it('what its record does not say is no yes: it is looked at, and does not pass for another tool', () => {
    const doubts = ['its thread is not on record, M10 is asked for'];
    const [finding] = checkReadiness(question({ loaded: [loaded(1, { doubts })] }));
    expect(finding).toMatchObject({ code: 'maybeNotAsAsked', weight: 'look', tool: 1 });
    expect(finding!.sentence).toContain('cannot be told: its thread is not on record');
    const misses = ['it is 9.7 mm across, 10 mm is asked for'];
    expect(codes(question({ loaded: [loaded(1, { misses, doubts })] }))).toEqual(['notAsAsked']);
  });
  it('a measured tool with its own row and life enough is ready', () => {
    expect(codes(question())).toEqual([]);
    expect(verdictOf([])).toBe('ready');
  });
  it('against the next part of a job that runs stands what stops it, but for the flags that stand with each tool', () => {
    const against = (over: Partial<LoadedTool>) =>
      againstNextPart(checkReadiness(question({ loaded: [loaded(1, over)] }))).map(({ code }) => code);
    expect(against({ measuredSinceLoading: false })).toEqual(['notMeasured']);
    expect(against({ flag: 'broken' })).toEqual([]);
    expect(against({ doubts: ['its thread is not on record'] })).toEqual([]);
  });
  it('a tool that is called and not in the machine is missing', () => {
    expect(codes(question({ loaded: [] }))).toEqual(['missing']);
  });
  it('a length of zero is named before "not measured", since it is what drives a tool into the part', () => {
    const q = question({
      rows: [{ row: 1, zero: true }],
      loaded: [loaded(1, { measuredSinceLoading: false })],
    });
    expect(codes(q)).toEqual(['zeroLength']);
  });
  it('a row the record does not know counts as zero', () => {
    expect(codes(question({ rows: [] }))).toEqual(['zeroLength']);
  });
  it('a tool not measured since it was loaded stops the job', () => {
    expect(codes(question({ loaded: [loaded(1, { measuredSinceLoading: false })] }))).toEqual([
      'notMeasured',
    ]);
  });
  it('T1 re-pointed to T11 while the length call still says H1 is caught (H1.5)', () => {
    const q = question({ calls: [call(11, { lengthRows: [{ row: 1, line: 112 }] })], loaded: [loaded(11)] });
    const [finding] = checkReadiness(q);
    expect(finding).toMatchObject({ weight: 'stop', code: 'rowDoesNotFollow', line: 112 });
    expect(finding!.sentence).toContain('H1');
  });
  it('cutting with no length applied at all is caught', () => {
    expect(codes(question({ calls: [call(1, { lengthRows: [] })] }))).toEqual(['noLengthRow']);
  });
  it('on a lathe another row is a thing to look at, not a stop: it may be the second part on the bar', () => {
    const q = question({
      machine: {
        name: 'Curlew',
        kind: 'lathe',
        highestSpeed: 4500,
        boringShift: 'X+',
        unit: 'in',
      },
      calls: [call(1, { lengthRows: [{ row: 21, line: 15 }] })],
      rows: [{ row: 21, zero: false }],
    });
    expect(checkReadiness(q)).toMatchObject([{ weight: 'look', code: 'otherRow' }]);
    // whoever proved this very text cut a good part with them; of another text that says nothing
    const by = { person: 'Maren Holt', day: '20 November' };
    const proven = (state: 'proven' | 'changed' | 'never') =>
      checkReadiness({ ...q, program: { ...q.program, proof: { state, by, changes: [] } } }).find(
        ({ code }) => code === 'otherRow',
      );
    expect(proven('proven')).toMatchObject({
      weight: 'settled',
      remedy: 'Meant so: Maren Holt proved the program as it is on 20 November.',
    });
    expect(proven('changed')).toMatchObject({ weight: 'look' });
    expect(proven('never')).toMatchObject({ weight: 'look' });
  });
  it('a proof answers a second row for the radius, and never a length of another tool', () => {
    const proof = { state: 'proven', by: { person: 'Maren Holt', day: '20 November' }, changes: [] } as const;
    const q = question({
      calls: [call(1, { lengthRows: [{ row: 2, line: 15 }], radiusRows: [{ row: 11, line: 16 }] })],
      rows: [
        { row: 2, zero: false },
        { row: 11, zero: false },
      ],
    });
    const found = checkReadiness({ ...q, program: { ...q.program, proof } });
    expect(
      found.filter(({ code }) => code === 'rowDoesNotFollow').map(({ weight, line }) => [weight, line]),
    ).toEqual([
      ['stop', 15],
      ['settled', 16],
    ]);
  });
  it.each(['broken', 'expired', 'locked'] as const)('a %s tool stops the job', (flag) => {
    const found = checkReadiness(question({ loaded: [loaded(1, { flag })] }));
    expect(found).toMatchObject([{ weight: 'stop', code: flag }]);
  });
  it('nothing left is expired on every machine: the record counts uses left, however a control writes that', () => {
    const life = { basis: 'pieces', remaining: 0, limit: 10 } as const;
    expect(codes(question({ loaded: [loaded(1, { life })] }))).toEqual(['expired']);
    const one = question({ loaded: [loaded(1, { life: { ...life, remaining: 1 } })] });
    expect(checkReadiness(one)).toMatchObject([{ code: 'runsOut', afterPart: 1 }]);
  });
  it('life is counted after the jobs that are made first', () => {
    const life = { basis: 'pieces', remaining: 60, limit: 100 } as const;
    const asked = question({ loaded: [loaded(1, { life })] });
    const before = (parts: number, calls = asked.program.calls) => ({
      ...asked,
      quantity: 40,
      before: [{ job: 'O7', parts, partsPerCycle: 1, calls }],
    });
    const found = (parts: number) =>
      checkReadiness(before(parts)).map(({ weight, code, afterPart, sentence }) => [
        weight,
        code,
        afterPart,
        /used up|leaves it/.exec(sentence)?.[0],
      ]);
    expect(found(20)).toEqual([]);
    expect(found(21)).toEqual([['look', 'runsOut', 39, 'leaves it']]);
    expect(found(60)).toEqual([['look', 'runsOut', 0, 'used up']]);
    // renewed in that job, or it would not end: 99 are left
    expect(found(61)).toEqual([]);
    expect(found(121)).toEqual([['look', 'runsOut', 39, 'leaves it']]);
    expect(checkReadiness(before(21, []))).toEqual([]);
  });
  it('100 holes left at 6 a part run out at part 17 of 100; both calls of a tool count', () => {
    const life = { basis: 'holes', remaining: 100, limit: 600 } as const;
    expect(checkReadiness(question({ loaded: [loaded(1, { life })] }))).toMatchObject([
      { weight: 'look', afterPart: 17 },
    ]);
    const twice = question({ calls: [call(1), call(1)], loaded: [loaded(1, { life })] });
    expect(checkReadiness(twice)).toMatchObject([{ afterPart: 9 }]);
  });
  it('a speed above the machine, or a ceiling above it under constant surface speed, stops the job', () => {
    expect(codes(question({ calls: [call(1, { speeds: { least: 100, most: 15_000 } })] }))).toEqual([
      'overSpeed',
    ]);
    const surface = call(1, { speeds: null, surfaceSpeed: { least: 180, most: 180 }, speedCeiling: 20_000 });
    expect(codes(question({ calls: [surface] }))).toEqual(['overSpeed']);
  });
  it('what stops the job comes before what somebody decides', () => {
    const q = question({
      calls: [call(1), call(2)],
      loaded: [loaded(1, { life: { basis: 'pieces', remaining: 3, limit: 10 } })],
      rows: [
        { row: 1, zero: false },
        { row: 2, zero: true },
      ],
    });
    expect(codes(q)).toEqual(['missing', 'runsOut']);
  });
});

describe('speeds, cutters and lengths of a set-up', () => {
  it('a spindle that may turn faster than the holder is no leave to: the lowest of the stack counts', () => {
    const q = question({
      calls: [call(1, { speeds: { least: 3000, most: 9000 } })],
      loaded: [loaded(1, { speedLimit: 8000 })],
    });
    expect(checkReadiness(q)[0]).toMatchObject({
      code: 'toolSpeed',
      weight: 'stop',
      sentence: expect.stringContaining('8000 at most'),
    });
    expect(codes(question({ loaded: [loaded(1, { speedLimit: 3000 })] }))).toEqual([]);
  });
  it('the cutter’s diameter is in the path or in the D row, never in both and never in neither (H7; common practice, no source)', () => {
    const cutting = call(1, { usesRadiusCompensation: true, radiusRows: [{ row: 1, line: 14 }] });
    const q = (cutterBy: 'cam' | 'control', cutterZero: boolean) =>
      codes(
        question({
          program: { name: 'O1', partsPerCycle: 1, calls: [cutting], cutterBy },
          rows: [{ row: 1, zero: false, cutterZero }],
        }),
      );
    expect(q('cam', true)).toEqual([]);
    expect(q('control', false)).toEqual([]);
    expect(q('cam', false)).toEqual(['cutterRow']);
    expect(q('control', true)).toEqual(['cutterRow']);
  });
  it('lengths that came by two ways in one set-up are looked at (H7: never mix; common practice, no source)', () => {
    const q = (method: 'presetter' | 'touchOff') =>
      codes(
        question({
          calls: [call(1), call(2)],
          loaded: [loaded(1, { method: 'presetter' }), loaded(2, { method })],
          rows: [
            { row: 1, zero: false },
            { row: 2, zero: false },
          ],
        }),
      );
    expect(q('presetter')).toEqual([]);
    expect(q('touchOff')).toEqual(['mixedLengths']);
  });
});
