import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seeded } from '../../../tests/support/seeded.ts';
import { askOf, follow, type Followed, type Gap } from './follow.ts';
import {
  clockOff,
  countedAt,
  standsSince,
  doing,
  stateAfter,
  stateLines,
  stateWords,
  UNKNOWN,
  type MachineState,
} from './machine-state.ts';
import { readStreams, type Observation, type Streams, type StreamsRead } from './streams.ts';

/** A document as the standard's own examples have it: header, device, component, the three categories. */
const documentOf = (inside: string, { version = '1.3', header = '', device = 'mill' } = {}) =>
  `<?xml version="1.0" encoding="UTF-8"?>
<MTConnectStreams xmlns:m="urn:mtconnect.org:MTConnectStreams:${version}" xmlns="urn:mtconnect.org:MTConnectStreams:${version}">
  <Header creationTime="2026-03-04T10:00:00Z" sender="agent" instanceId="77" version="${version}" bufferSize="131072" nextSequence="43" firstSequence="1" lastSequence="42" ${header}/>
  <Streams><DeviceStream name="${device}" uuid="u"><ComponentStream component="Path" name="path" componentId="p">${inside}</ComponentStream></DeviceStream></Streams>
</MTConnectStreams>`;
const EVENTS = `<Events>
  <Execution dataItemId="ex" timestamp="2026-03-04T09:59:00Z" sequence="40">ACTIVE</Execution>
  <PartCount dataItemId="pc" subType="TARGET" timestamp="2026-03-04T09:00:00Z" sequence="12">500</PartCount>
  <PartCount dataItemId="pa" subType="ALL" timestamp="2026-03-04T09:00:00Z" sequence="41">17</PartCount>
  <ToolNumber dataItemId="t" timestamp="2026-03-04T09:00:00Z" sequence="42">UNAVAILABLE</ToolNumber>
</Events>
<Condition>
  <Normal dataItemId="sys" timestamp="2026-03-04T09:00:00Z" sequence="7" type="SYSTEM"/>
  <Fault dataItemId="lp" timestamp="2026-03-04T09:58:00Z" sequence="39" type="LOGIC_PROGRAM" nativeCode="P12">tool length not set</Fault>
</Condition>`;
const observation = (over: Partial<Observation>): Observation => ({
  id: 'x',
  type: 'Execution',
  subType: null,
  sequence: 1,
  at: '2026-03-04T10:00:00Z',
  value: '',
  level: null,
  rows: null,
  ...over,
});

describe('a document of an agent', () => {
  it.each(['1.3', '1.4', '1.6', '2.0', '2.2'])('is read whatever its namespace says: %s', (version) => {
    const read = readStreams(documentOf(EVENTS, { version }), null);
    expect(read).toMatchObject({ ok: true, instance: '77', first: 1, next: 43, at: '2026-03-04T10:00:00Z' });
    if (!read.ok) return;
    expect(read.observed.map(({ sequence }) => sequence)).toEqual([7, 12, 39, 40, 41, 42]);
    expect(read.observed[2]).toMatchObject({
      id: 'lp',
      type: 'LOGIC_PROGRAM',
      level: 'Fault',
      value: 'tool length not set',
    });
    expect(read.observed[5]).toMatchObject({ type: 'ToolNumber', value: null });
  });

  it('with prefixes before every name is the same document', () => {
    const prefixed = documentOf(EVENTS).replace(/<(\/?)(?!\?)/g, '<$1m:');
    expect(readStreams(prefixed, null)).toEqual(readStreams(documentOf(EVENTS), null));
  });

  it('gives a table row by row, cell by cell', () => {
    const table = `<Events><ToolOffsetTable dataItemId="of" timestamp="2026-03-04T09:00:00Z" sequence="3" count="2">
      <Entry key="1"><Cell key="LENGTH">120.5</Cell><Cell key="RADIUS">4.99</Cell></Entry><Entry key="2"><Cell key="LENGTH">80</Cell></Entry>
    </ToolOffsetTable></Events>`;
    const read = readStreams(documentOf(table), null);
    expect(read.ok && read.observed[0]!.rows).toEqual([
      { key: '1', cells: { LENGTH: '120.5', RADIUS: '4.99' } },
      { key: '2', cells: { LENGTH: '80' } },
    ]);
  });

  it('of an agent with several machines counts for the one that is asked for', () => {
    const two = documentOf(EVENTS).replace(
      '</Streams>',
      '<DeviceStream name="lathe" uuid="v"><ComponentStream component="Path" componentId="q"><Events><Execution dataItemId="e2" sequence="9" timestamp="t">READY</Execution></Events></ComponentStream></DeviceStream></Streams>',
    );
    expect(readStreams(two, null)).toMatchObject({ ok: false });
    const lathe = readStreams(two, 'lathe');
    expect(lathe.ok && lathe.observed.map(({ value }) => value)).toEqual(['READY']);
  });

  it.each([
    ['', /XML|as an agent/],
    ['{"json": true}', /XML|as an agent/],
    ['<html><body>login</body></html>', /not as an agent/],
    ['<!DOCTYPE x [<!ENTITY a "b">]><MTConnectStreams/>', /document type/],
    [documentOf(EVENTS).replace('instanceId="77"', ''), /sequences/],
    [documentOf(EVENTS).replace('nextSequence="43"', 'nextSequence="many"'), /sequences/],
    [documentOf(EVENTS).replace('sequence="41"', ''), /PartCount without its sequence/],
    [documentOf(EVENTS).slice(0, 700), /XML/],
    [`${documentOf('')}${' '.repeat(1_100_000)}`, /megabyte/],
  ])('that is none is a sentence, and nothing half taken (%#)', (xml, reason) => {
    const read = readStreams(xml, null);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.reason).toMatch(reason);
  });

  it('an error document says why; one that no longer holds what was asked is known as that', () => {
    const error = (code: string) =>
      `<MTConnectError xmlns="urn:mtconnect.org:MTConnectError:1.3"><Header creationTime="2026-03-04T10:00:00Z" sender="a" instanceId="78" version="1.3" bufferSize="8"/><Errors><Error errorCode="${code}">'at' must be greater than 5.</Error></Errors></MTConnectError>`;
    expect(readStreams(error('OUT_OF_RANGE'), null)).toMatchObject({
      ok: false,
      outOfRange: true,
      instance: '78',
    });
    const refused = readStreams(error('UNAUTHORIZED'), null);
    expect(refused.ok || refused.outOfRange).toBe(undefined);
    expect(!refused.ok && refused.reason).toContain('UNAUTHORIZED');
  });
});

/** An agent with a bounded buffer that says things and is started anew: what it said is known to the test alone. */
class Agent {
  instance = 1;
  said: Observation[] = [];
  next = 1;
  /** Of this run. */
  constructor(
    readonly buffer: number,
    /** Some agents refuse what lies outside their buffer, others begin at its first. */
    readonly clamps: boolean,
  ) {}
  say(value: string) {
    this.said.push(observation({ sequence: this.next, value }));
    this.next += 1;
  }
  restart() {
    this.instance += 1;
    this.said = [];
    this.next = 1;
  }
  get first() {
    return Math.max(1, this.next - this.buffer);
  }
  answer(ask: ReturnType<typeof askOf>, most: number): StreamsRead {
    const head = { ok: true as const, instance: String(this.instance), first: this.first, at: '' };
    const held = this.said.filter(({ sequence }) => sequence >= this.first);
    if (ask.what === 'current') return { ...head, next: this.next, observed: held.slice(-1) };
    if (ask.from > this.next || ask.from < this.first) {
      if (!this.clamps || ask.from > this.next)
        return { ok: false, outOfRange: true, instance: String(this.instance), reason: 'out of range' };
    }
    const observed = held.filter(({ sequence }) => sequence >= ask.from).slice(0, most);
    const last = observed.at(-1)?.sequence;
    return { ...head, next: last === undefined ? this.next : last + 1, observed } satisfies Streams;
  }
}

describe('following an agent', () => {
  it('sees everything once and in order, or says what it did not see: over random runs, buffers and restarts', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 30 }), fc.boolean(), (seed, clamps) => {
        const random = seeded(seed);
        const agent = new Agent(3 + Math.floor(random() * 12), clamps);
        let followed: Followed | null = null;
        const seen: string[] = [];
        const gaps: Gap[] = [];
        const truth: { run: number; value: string }[] = [];
        const restarts = { said: 0, told: 0 };
        const say = (value: string) => {
          agent.say(value);
          truth.push({ run: agent.instance, value });
        };
        say('begin');
        for (let i = 0; i < 60; i += 1) {
          const what = random();
          if (what < 0.05 && followed !== null) {
            agent.restart();
            restarts.said += 1;
            say(`r${i}`);
          }
          for (let n = Math.floor(random() * (what > 0.9 ? 30 : 4)); n > 0; n -= 1) say(`${i}.${n}`);
          // a poll asks once more where the first answer was no use
          for (let tries = 0; tries < 3; tries += 1) {
            const ask: ReturnType<typeof askOf> = tries === 0 ? askOf(followed) : { what: 'current' };
            const step = follow(followed, ask, agent.answer(ask, 5));
            if (step.gap) gaps.push(step.gap);
            if (step.gap?.kind === 'restarted') restarts.told += 1;
            seen.push(...step.observed.map(({ value }) => value!));
            followed = step.followed;
            if (!step.again) break;
          }
        }
        // caught up: what is left is fetched
        for (let i = 0; i < 40; i += 1) {
          const ask = askOf(followed);
          const step = follow(followed, ask, agent.answer(ask, 5));
          seen.push(...step.observed.map(({ value }) => value!));
          followed = step.followed;
        }
        // in order, none twice, none made up
        const order = new Map(truth.map(({ value }, i) => [value, i]));
        const places = seen.map((value) => order.get(value)!);
        expect(places.every((place, i) => i === 0 || place > places[i - 1]!)).toBe(true);
        // since it was first heard nothing is missing without a gap; with one, as much as was said to be
        const missed = truth.length - places[0]! - seen.length;
        if (gaps.length === 0) expect(missed).toBe(0);
        if (restarts.said === 0) {
          const lost = gaps.reduce((sum, gap) => sum + (gap.kind === 'ranOver' ? gap.lost : 0), 0);
          expect(missed).toBe(lost);
        } else expect(restarts.told).toBeGreaterThan(0);
      }),
      { numRuns: 400 },
    );
  });

  it('an agent that is away leaves everything as it was', () => {
    const before = { instance: '1', next: 9 };
    expect(follow(before, askOf(before), { ok: false, reason: 'away' })).toEqual({
      followed: before,
      observed: [],
      gap: null,
      again: false,
    });
  });
});

describe('what a machine does', () => {
  const after = (...said: Partial<Observation>[]): MachineState => stateAfter(UNKNOWN, said.map(observation));
  it('follows what its control says', () => {
    const read = readStreams(documentOf(EVENTS), null);
    const state = stateAfter(UNKNOWN, read.ok ? read.observed : []);
    expect(state).toMatchObject({
      execution: 'ACTIVE',
      since: '2026-03-04T09:59:00Z',
      parts: 17,
      tool: null,
    });
    // an alarm stops it, whatever it says it executes
    expect(doing(state)).toBe('stopped');
    expect(stateWords(state)).toBe('Stopped: tool length not set');
    const cleared = stateAfter(state, [observation({ id: 'lp', level: 'Normal', type: 'LOGIC_PROGRAM' })]);
    expect(stateWords(cleared)).toBe('Runs');
  });
  it.each([
    ['ACTIVE', 'cutting', 'Runs, T5'],
    ['FEED_HOLD', 'waiting', 'Held, T5: waits for somebody at the machine'],
    ['PROGRAM_STOPPED', 'waiting', 'Waits, T5: for somebody at the machine'],
    ['READY', 'ready', 'Ready: waits for cycle start'],
    ['STOPPED', 'stopped', 'Stopped, T5'],
    ['SOMETHING_NEW', 'unknown', 'Its control does not say what it does'],
  ])('%s', (execution, word, words) => {
    const state = after({ value: execution }, { type: 'ToolNumber', value: '5' });
    expect(doing(state)).toBe(word);
    expect(stateWords(state)).toBe(words);
  });
  it('since when is kept while it is said again, and a control that was switched off says nothing', () => {
    const state = after({ value: 'ACTIVE', at: 'one' }, { value: 'ACTIVE', at: 'two' });
    expect(state.since).toBe('one');
    expect(stateAfter(state, [observation({ type: 'Availability', value: null })])).toEqual(UNKNOWN);
    expect(stateAfter(state, [observation({ type: 'Availability', value: 'AVAILABLE' })])).toEqual(state);
  });
  it.each([
    ['FEED_HOLD', '2026-03-04T09:58:00.000Z'],
    ['READY', '2026-03-04T09:58:00.000Z'],
    ['ACTIVE', undefined],
    ['SOMETHING_NEW', undefined],
  ])('of a machine that says %s it is told since when it stands, by our clock', (value, since) => {
    const state = after({ value, at: '2026-03-04T10:00:00Z' });
    expect(standsSince(state, 120_000)?.toISOString()).toBe(since);
    expect(standsSince({ ...state, since: null }, 0)).toBeNull();
  });
  it('since when its count is what it is, is kept while it says the same', () => {
    const count = (value: string, at: string) => ({ type: 'PartCount', value, at });
    const said = after(
      count('4', '2026-03-04T09:58:00Z'),
      count('5', '2026-03-04T10:00:00Z'),
      count('5', '2026-03-04T10:01:00Z'),
    );
    expect(countedAt(said, 60_000)?.toISOString()).toBe('2026-03-04T09:59:00.000Z');
    expect(countedAt(UNKNOWN, 0)).toBeNull();
    // kept before that was asked
    expect(countedAt({ ...said, countedAt: undefined }, 0)).toBeNull();
    expect(countedAt(after(count('5', '')), 0)).toBeNull();
  });
  it('counts all parts before the good ones, whichever was said last; of two counts that differ nobody can tell', () => {
    const count = (id: string, subType: string | null, value: string | null) => ({
      type: 'PartCount',
      id,
      subType,
      value,
    });
    expect(after(count('a', 'ALL', '20'), count('g', 'GOOD', '18')).parts).toBe(20);
    expect(after(count('g', 'GOOD', '18'), count('n', null, '20'), count('g', 'GOOD', '19')).parts).toBe(20);
    expect(
      after(count('a', 'ALL', '20'), count('g', 'GOOD', '18'), count('a', 'ALL', null)).parts,
    ).toBeNull();
    // two paths of a lathe
    const [one, two] = [count('p1', null, '20'), count('p2', null, '20')];
    expect(after(one, two).parts).toBe(20);
    expect(after(one, two, count('p1', null, '21')).parts).toBeNull();
    expect(after(one, two, count('p1', null, '21'), count('p2', null, '21')).parts).toBe(21);
    // what was heard before data items were kept
    expect(stateAfter({ ...UNKNOWN, parts: 7 }, []).parts).toBe(7);
  });
  it('runs the program that was started, whatever it calls', () => {
    const program = (subType: string | null, value: string) => ({
      type: 'Program',
      id: `${subType}`,
      subType,
      value,
    });
    expect(after(program('MAIN', 'O2301'), program('ACTIVE', 'O9100')).program).toBe('O2301');
    expect(after(program('ACTIVE', 'O9100'), program(null, 'O2301')).program).toBe('O2301');
    expect(after(program('ACTIVE', 'O2301')).program).toBe('O2301');
    expect(after(program('SCHEDULE', 'MONDAY')).program).toBeNull();
  });
  it('counts good parts or all of them, never those that are aimed at; a number that is none is not known', () => {
    expect(after({ type: 'PartCount', subType: 'TARGET', value: '500' }).parts).toBeNull();
    expect(after({ type: 'PartCount', subType: 'GOOD', value: '12' }).parts).toBe(12);
    expect(after({ type: 'PartCount', value: '12.5' }).parts).toBeNull();
    expect(after({ type: 'ToolNumber', value: 'T5' }).tool).toBeNull();
    expect(stateWords(after({ type: 'EmergencyStop', value: 'TRIGGERED' }))).toBe('Emergency stop.');
    expect(stateWords(after({ value: 'ACTIVE' }, { type: 'ToolNumber', value: '0' }))).toBe(
      'Runs, no tool in the spindle',
    );
  });
  it('a clock that is off is measured', () => {
    const now = new Date('2026-03-04T10:00:00Z');
    expect(clockOff('2026-03-04T10:02:00Z', now)).toBe(120_000);
    expect(clockOff('yesterday', now)).toBeNull();
  });
});

describe('what a control said at one moment', () => {
  it('is told line by line, with what it says nothing of left out', () => {
    expect(stateLines(UNKNOWN)).toEqual(['Its control does not say what it does']);
    expect(
      stateLines({
        ...UNKNOWN,
        execution: 'ACTIVE',
        program: 'O2301',
        tool: 5,
        parts: 0,
        pallet: '2',
        alarms: [{ id: 'w', level: 'Warning', text: 'filter' }],
      }),
    ).toEqual(['Runs, T5', 'Program O2301', '0 parts by its count', 'Pallet 2', 'Warning: filter']);
  });
});
