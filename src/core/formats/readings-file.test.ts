import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { isReadings, lookAtReadings, measuredBefore, readReadings } from './readings-file.ts';

const rows = (text: string, unit: 'mm' | 'in' = 'mm') => {
  const read = readReadings(text, unit);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.rows;
};
const faults = (text: string) => {
  const read = readReadings(text, 'mm');
  return read.ok ? [] : read.issues.map(({ line, column, message }) => `${line} ${column} ${message}`);
};
const mm = (value: number) => lengthOf(value, 'mm');

/** A document as the standard's text describes it, written by hand (ISO 23952, from memory). */
const qif = (
  over: { unit?: string; value?: string; item?: string; serial?: string } = {},
) => `<?xml version="1.0"?>
<QIFDocument xmlns="http://qifstandards.org/xsd/qif3" versionQIF="3.0.0" idMax="90">
 <FileUnits><PrimaryUnits><LinearUnit><SIUnitName>meter</SIUnitName>${over.unit ?? '<UnitName>mm</UnitName>'}</LinearUnit>
  <AngularUnit><SIUnitName>radian</SIUnitName><UnitName>degree</UnitName></AngularUnit></PrimaryUnits></FileUnits>
 <Characteristics><CharacteristicItems n="2">
  <DiameterCharacteristicItem id="31"><Name>Seat OD</Name></DiameterCharacteristicItem>
  <LengthCharacteristicItem id="32"><Name>${over.item ?? 'Shoulder'}</Name></LengthCharacteristicItem>
  <AngleCharacteristicItem id="33"><Name>Taper</Name></AngleCharacteristicItem>
 </CharacteristicItems></Characteristics>
 <MeasurementsResults n="2">
  <MeasurementResults id="50"><MeasuredCharacteristics><CharacteristicMeasurements n="3">
   <DiameterCharacteristicMeasurement id="51"><Status><CharacteristicStatusEnum>PASS</CharacteristicStatusEnum></Status><CharacteristicItemId>31</CharacteristicItemId><Value>${over.value ?? '34.9985'}</Value></DiameterCharacteristicMeasurement>
   <LengthCharacteristicMeasurement id="52"><CharacteristicItemId>32</CharacteristicItemId><Value>66.04</Value></LengthCharacteristicMeasurement>
   <AngleCharacteristicMeasurement id="53"><CharacteristicItemId>33</CharacteristicItemId><Value>15</Value></AngleCharacteristicMeasurement>
  </CharacteristicMeasurements></MeasuredCharacteristics><ActualComponentIds n="1"><ActualComponentId>71</ActualComponentId></ActualComponentIds></MeasurementResults>
  <MeasurementResults id="60"><MeasuredCharacteristics><CharacteristicMeasurements n="1">
   <DiameterCharacteristicMeasurement id="61"><CharacteristicItemId>31</CharacteristicItemId><Value>35.0011</Value></DiameterCharacteristicMeasurement>
  </CharacteristicMeasurements></MeasuredCharacteristics></MeasurementResults>
 </MeasurementsResults>
 <Product><ActualComponents n="1"><ActualComponent id="71"><SerialNumber>${over.serial ?? 'PIN-0042'}</SerialNumber></ActualComponent></ActualComponents></Product>
</QIFDocument>`;

describe('readings as a table', () => {
  it('tells readings from other tables by their heading', () => {
    expect(['feature,value\n', 'part;feature;value', '"feature","part","value"\n'].map(isReadings)).toEqual([
      true,
      true,
      true,
    ]);
    expect(
      ['feature,kind,nominal,upper,lower,tool', 'number,name,kind', 'O1402 (PIN)', '<MTConnectStreams/>'].map(
        isReadings,
      ),
    ).toEqual([false, false, false, false]);
    expect(isReadings(qif())).toBe(true);
  });
  it('in the program’s unit, or in the row’s, or as the value itself says', () => {
    const read = rows('feature,value,unit,part\nBore,12.003,,4\nBore,0.5,in,5\nBore,12.003 mm,in,6');
    expect(read.map(({ value, part }) => [value, part])).toEqual([
      [mm(12.003), 4],
      [mm(12.7), 5],
      [mm(12.003), 6],
    ]);
    expect(rows('feature,value\nBore,0.5', 'in')[0]).toMatchObject({ value: mm(12.7), part: null });
  });
  it('our own table comes in again, with what it says of whose parts they are; what the record knows by itself is passed over', () => {
    const [read] = rows(
      'machine,program,revision,job,part,feature,nominal,upper,lower,target,value,unit,deviation,wear,gauge,first_off,cut_again,place,pallet,question,person,time\n' +
        'Curlew,O1402,1,3,17,Bore,0.5905,0.0007,0,0.5907,0.5908,in,0.0001,0.0003,bore gauge,2,yes,2,11,,Ines,2026-11-20T08:00:00Z',
      'in',
    );
    expect(read).toEqual({
      line: 2,
      place: 2,
      pallet: 11,
      feature: 'Bore',
      part: 17,
      value: lengthOf(0.5908, 'in'),
      firstOff: true,
      recut: true,
      machine: 'Curlew',
      program: 'O1402',
      revision: 1,
      job: 3,
      time: new Date('2026-11-20T08:00:00Z'),
      question: '',
    });
  });
  it('a time counts where it says how far from UTC it is; jobs in words are another system’s', () => {
    const times = [
      '2026-11-20T08:00:00Z',
      '2026-11-20 09:00:00+01:00',
      '2026-11-20T09:00+0100',
      '2026-11-20T08:00:00,5Z',
      '2026-11-20T08:00:00',
      '20.11.2026 09:00',
      '2026-13-20T08:00:00Z',
      '',
    ];
    const read = rows(`feature,value,time,job\n${times.map((time) => `Bore,12,"${time}",WO-17`).join('\n')}`);
    expect(read.map(({ time }) => time?.toISOString() ?? null)).toEqual([
      '2026-11-20T08:00:00.000Z',
      '2026-11-20T08:00:00.000Z',
      '2026-11-20T08:00:00.000Z',
      '2026-11-20T08:00:00.500Z',
      null,
      null,
      null,
      null,
    ]);
    expect(
      read.every(({ job, machine, revision }) => job === null && machine === null && revision === null),
    ).toBe(true);
  });
  it('names what cannot be read, by line and column', () => {
    expect(faults('feature,value,part\nBore,twelve,4\nBore,12,4.5\n,12,1\nBore,12,3,')).not.toEqual([]);
    expect(faults('feature,value,part\nBore,twelve,4\nBore,12,4.5')).toEqual([
      expect.stringMatching(/^2 value/),
      expect.stringMatching(/^3 part "4.5" is not a whole number/),
    ]);
    expect(faults('feature,part\nBore,4')[0]).toMatch(/missing value/);
    expect(faults('feature,value,first_off\nBore,12,maybe')[0]).toMatch(/neither yes nor no/);
  });
});

describe('readings as QIF results', () => {
  it('by the name of the characteristic, with the part of its serial number; angles are passed over', () => {
    expect(rows(qif())).toMatchObject([
      { line: 1, feature: 'Seat OD', part: 42, value: mm(34.9985), firstOff: false, recut: false, job: null },
      { line: 2, feature: 'Shoulder', part: 42, value: mm(66.04), firstOff: false, recut: false, time: null },
      { line: 3, feature: 'Seat OD', part: null, value: mm(35.0011), firstOff: false, recut: false },
    ]);
  });
  it('in inches where it says so; never in a guessed unit', () => {
    expect(rows(qif({ unit: '<UnitName>inch</UnitName>', value: '1.3780' }))[0]!.value).toBe(
      lengthOf(1.378, 'in'),
    );
    expect(faults(qif({ unit: '' }))[0]).toMatch(/does not say in which unit/);
    expect(faults(qif({ unit: '<UnitName>furlong</UnitName>' }))[0]).toMatch(/"furlong" are not known/);
  });
  it('refuses what is no number, has no name, or is no such document', () => {
    expect(faults(qif({ value: '34,9.1' }))[0]).toMatch(/Seat OD/);
    expect(faults(qif({ item: '' }))[0]).toMatch(/No characteristic with a name has the id "32"/);
    expect(faults(qif({ serial: 'PIN-99999999999' }))[0]).toMatch(/no part number/);
    expect(faults('<Other/>')[0]).toMatch(/no QIF document/);
    expect(faults('<QIFDocument>')[0]).toMatch(/not XML/);
    expect(faults('<!DOCTYPE a><QIFDocument/>')[0]).toMatch(/document type/);
    expect(faults(`${'<a>'.repeat(99)}${'</a>'.repeat(99)}`)[0]).toMatch(/nests/);
    expect(
      faults(
        '<QIFDocument><FileUnits><PrimaryUnits><LinearUnit><UnitName>mm</UnitName></LinearUnit></PrimaryUnits></FileUnits></QIFDocument>',
      )[0],
    ).toMatch(/no measured size/);
  });
});

describe('what a file of readings would add', () => {
  const filed = rows('feature,value,part\nbore,12,4\nBore,12.001,4\nBore,12,4\nRim,8,4\nBore,12.002,');
  const since = new Date('2026-11-20T08:00:00Z');
  const here = { machine: 'Avocet', program: 'O2301', revision: 2, job: { id: 7, since }, jobs: [5, 7] };
  it('each once, by the plan’s own name', () => {
    const known = [{ feature: 'Bore', part: 4, value: mm(12.001), job: 7 }];
    const looked = lookAtReadings(filed, ['Bore'], known, 9, here);
    expect(looked.map(({ feature, part, verdict }) => [feature, part, verdict])).toEqual([
      ['Bore', 4, 'added'],
      ['Bore', 4, 'same'],
      ['Bore', 4, 'same'],
      ['Rim', 4, 'refused'],
      ['Bore', 9, 'added'],
    ]);
    expect(looked[3]!.words).toMatch(/no size of this name. It has Bore/);
  });
  it('a part that nobody names is asked for', () => {
    expect(lookAtReadings(filed, ['Bore'], [], null, here)[4]).toMatchObject({
      verdict: 'refused',
      words: 'Say which part it is.',
    });
  });
  it('what it says is of other parts is refused, unless it stands already as what it is', () => {
    const own = { machine: 'avocet', program: 'o2301', revision: 2, job: 7, time: '2026-11-20T09:00:00Z' };
    const looked = (over: Partial<Record<keyof typeof own | 'question', string | number>>, of = here) => {
      const cells = { ...own, question: '', ...over };
      const names = Object.keys(cells);
      const [found] = lookAtReadings(
        rows(`feature,value,part,${names.join(',')}\nBore,12,4,${Object.values(cells).join(',')}`),
        ['Bore'],
        [{ feature: 'Bore', part: 4, value: mm(12), job: 5 }],
        null,
        of,
      );
      return `${found!.verdict}: ${found!.words}`;
    };
    expect(looked({})).toBe('added: ');
    expect(looked({ machine: 'Bittern' })).toMatch(/^refused: .*Bittern, not of Avocet/);
    expect(looked({ program: 'O2310' })).toMatch(/^refused: .*O2310, not of O2301/);
    expect(looked({ revision: 1 })).toMatch(/^refused: .*revision 1/);
    // a job before this one: on record already, as its part and not as one of this
    expect(looked({ job: 5 })).toMatch(/^same/);
    expect(looked({ job: 5, time: '2026-11-19T09:00:00Z' })).toMatch(/^same/);
    expect(looked({ job: 5 }, { ...here, jobs: [5, 7], program: 'O2301' })).toMatch(/^same/);
    expect(looked({ job: 4 }, { ...here, jobs: [4, 7] })).toMatch(/^refused: .*another job of O2301/);
    // a number that is none of our jobs is another system's
    expect(looked({ job: 4711 })).toBe('added: ');
    expect(looked({ job: 4 }, { ...here, jobs: [4], job: null as never })).toMatch(
      /^refused: .*any that runs/,
    );
    expect(looked({ time: '2026-11-20T06:00:00Z' })).toMatch(/^refused: .*before this job began/);
    expect(looked({ time: '2026-11-20T07:30:00Z' })).toMatch(/^added: .*before this job began/);
    expect(looked({ question: 'digits swapped?' })).toMatch(/^left: .*digits swapped/);
  });
  it('a clock may be off by a summer’s hour', () => {
    const minutes = (n: number) => new Date(since.getTime() - n * 60_000);
    expect([-5, 0, 1, 75, 76].map((n) => measuredBefore(minutes(n), since))).toEqual([
      'no',
      'no',
      'perhaps',
      'perhaps',
      'surely',
    ]);
    expect(measuredBefore(null, since)).toBe('no');
  });
});
