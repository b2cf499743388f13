import { describe, expect, it } from 'vitest';
import { readPartCount } from '../../src/core/formats/part-count.ts';

const streams = (inside: string) =>
  `<?xml version="1.0"?><m:MTConnectStreams xmlns:m="urn:mtconnect.org:MTConnectStreams:1.3"><m:Streams>${inside}</m:Streams></m:MTConnectStreams>`;
const reason = (xml: string) => {
  const read = readPartCount(xml);
  return read.ok ? null : read.reason;
};

describe('the count of parts in an MTConnect streams document (data item PartCount of the MTConnect standard)', () => {
  it('is read with or without attributes and name spaces', () => {
    expect(
      readPartCount(
        streams('<m:Events><m:PartCount timestamp="2026-11-23T10:00:00Z">44</m:PartCount></m:Events>'),
      ),
    ).toEqual({ ok: true, count: 44, at: '2026-11-23T10:00:00Z' });
    expect(readPartCount('<a><PartCount>0</PartCount></a>')).toMatchObject({ ok: true, count: 0 });
  });
  it('of several it is that of all parts, then of the good ones; what is aimed at, remains or was scrapped is no count', () => {
    const counts = (...each: [subType: string, count: string][]) =>
      streams(
        `<Events>${each.map(([of, count]) => `<PartCount subType="${of}">${count}</PartCount>`).join('')}</Events>`,
      );
    const target = ['TARGET', '500'] as [string, string];
    expect(readPartCount(counts(target, ['GOOD', '16'], ['ALL', '17'], ['BAD', '1']))).toMatchObject({
      count: 17,
    });
    expect(readPartCount(counts(target, ['BAD', '1'], ['GOOD', '16']))).toMatchObject({ count: 16 });
    expect(reason(counts(target, ['REMAINING', '483']))).toMatch(/no count/);
    // all are not known: nobody says how many there are
    expect(reason(counts(['ALL', 'UNAVAILABLE'], ['GOOD', '16']))).toMatch(/no count/);
  });
  it('of two paths that differ, or of two machines, it is none', () => {
    const path = (count: string) =>
      `<ComponentStream><Events><PartCount>${count}</PartCount></Events></ComponentStream>`;
    expect(readPartCount(streams(path('20') + path('20')))).toMatchObject({ count: 20 });
    expect(reason(streams(path('20') + path('21')))).toBe(
      'The control gives two counts of parts, 20 and 21.',
    );
    const device = `<DeviceStream name="mill">${path('20')}</DeviceStream>`;
    expect(reason(streams(device + device.replace('mill', 'lathe')))).toMatch(/several machines/);
  });
  it('is a sentence when there is none, when it is not a count, and when the text is no XML', () => {
    expect(reason(streams(''))).toMatch(/no count/);
    expect(reason(streams('<PartCount>UNAVAILABLE</PartCount>'))).toMatch(/no count/);
    expect(reason(streams('<PartCount>-3</PartCount>'))).toMatch(/no count/);
    expect(reason('not xml <<')).toMatch(/not answer with XML|no count/);
  });
  it('a document with entities is refused before it can grow', () => {
    const bomb = '<!DOCTYPE l [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><PartCount>&b;</PartCount>';
    expect(reason(bomb)).toMatch(/document type/);
    expect(reason('x'.repeat(1_000_001))).toMatch(/megabyte/);
  });
});
