import { describe, expect, it } from 'vitest';
import checks from '../../../tests/outside/check-values.json';
import { lengthOf } from '../units/length.ts';
import type { AssemblyRow } from './assembly-file.ts';
import { readAssetLife } from './asset-life.ts';
import { measureOf } from './asset-measures.ts';
import { readCuttingToolAssets, writeCuttingToolAssets } from './cutting-tool-asset.ts';

const document = (tools: string) =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<MTConnectAssets xmlns="urn:mtconnect.org:MTConnectAssets:1.4"><Header creationTime="2026-11-27T08:00:00Z" sender="shop" instanceId="1" version="1.4" assetBufferSize="8" assetCount="1"/><Assets>${tools}</Assets></MTConnectAssets>`;
const MEASUREMENTS =
  '<FunctionalLength code="LF" units="MILLIMETER" nominal="118.2">118.4</FunctionalLength><CuttingDiameterMax code="DC" units="MILLIMETER">6.8</CuttingDiameterMax><ProtrudingLength code="LPR" units="MILLIMETER">48</ProtrudingLength><BodyDiameterMax code="BDX" units="MILLIMETER">40</BodyDiameterMax>';
const asset = ({
  id = 'drill',
  name = 'Drill 6.8',
  status = '',
  life = '',
  measurements = MEASUREMENTS,
  code = 'steep 40',
  items = '<CuttingItems count="2"><CuttingItem indices="1-2"/></CuttingItems>',
} = {}) =>
  `<CuttingTool serialNumber="Q-9" toolId="${id}" assetId="a-1" timestamp="2026-11-27T08:00:00Z"><Description>${name}</Description><CuttingToolLifeCycle><CutterStatus>${status}</CutterStatus>${life}<ProgramToolNumber>5</ProgramToolNumber><Location type="POT" positiveOverlap="0" negativeOverlap="0">12</Location><ConnectionCodeMachineSide>${code}</ConnectionCodeMachineSide><Measurements>${measurements}</Measurements>${items}</CuttingToolLifeCycle></CuttingTool>`;
const read = (parts: Parameters<typeof asset>[0] = {}) => {
  const { result, open, remarks } = readCuttingToolAssets(document(asset(parts)));
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return { row: result.rows[0], open, remark: remarks.get(0) };
};

describe('what is left of a life', () => {
  // the two worked cases that were given, and the standard's rule (MTConnect Part 4.1, from memory)
  const cases = checks.assetLife.cases as {
    direction: 'UP' | 'DOWN';
    initial?: number;
    limit?: number;
    value: number;
    left: number;
  }[];
  it.each(cases)('%o', ({ direction, initial = null, limit = null, value, left }) =>
    expect(readAssetLife({ type: 'PART_COUNT', direction, initial, limit, value })).toMatchObject({
      ok: true,
      full: 100,
      left,
    }),
  );
  it('both ends said, either way', () => {
    const of = (direction: string, initial: number, limit: number, value: number) =>
      readAssetLife({ type: 'MINUTES', direction, initial, limit, value });
    expect(of('UP', 10, 60, 25)).toEqual({ ok: true, basis: 'minutes', full: 50, left: 35 });
    expect(of('DOWN', 60, 10, 25)).toEqual({ ok: true, basis: 'minutes', full: 50, left: 15 });
    expect(of('UP', 0, 60, 61)).toMatchObject({ ok: true, left: -1 });
  });
  it('what is not said is not made up', () => {
    const of = (life: Partial<Parameters<typeof readAssetLife>[0]>) =>
      readAssetLife({ type: 'MINUTES', direction: 'DOWN', initial: null, limit: null, value: 37, ...life });
    expect(of({})).toMatchObject({ ok: false, reason: expect.stringMatching(/began nowhere/) });
    expect(of({ direction: 'UP' })).toMatchObject({ ok: false, reason: expect.stringMatching(/no limit/) });
    expect(of({ direction: '' })).toMatchObject({ ok: false });
    expect(of({ type: 'HOURS', initial: 40 })).toMatchObject({ ok: false });
    expect(of({ initial: 30 })).toMatchObject({ ok: false, reason: expect.stringMatching(/more .* left/) });
  });
});

describe('cutting-tool assets that were written by others', () => {
  const life = (inside: string, value: string) => `<ToolLife ${inside}>${value}</ToolLife>`;
  it('thirty-seven of a hundred are used, or left, as the counter goes', () => {
    expect(
      read({ life: life('type="PART_COUNT" countDirection="UP" limit="100" initial="0"', '37') }).row!.life,
    ).toEqual({ basis: 'pieces', limit: 100, left: 63 });
    expect(
      read({ life: life('type="PART_COUNT" countDirection="DOWN" initial="100"', '37') }).row!.life,
    ).toEqual({ basis: 'pieces', limit: 100, left: 37 });
  });
  it('minutes have fractions, wear is in millimetres', () => {
    expect(read({ life: life('type="MINUTES" countDirection="UP" limit="45"', '12.25') }).row!.life).toEqual({
      basis: 'minutes',
      limit: 2_700_000,
      left: 1_965_000,
    });
    expect(
      read({ life: life('type="WEAR" countDirection="UP" limit="0.2" warning="0.15"', '0.05') }).row!.life,
    ).toMatchObject({ basis: 'wear' });
  });
  it('of several lives the one is kept of which least is left, and that is said', () => {
    const { row, remark } = read({
      life:
        life('type="PART_COUNT" countDirection="DOWN" initial="100" limit="0"', '80') +
        life('type="MINUTES" countDirection="UP" limit="60"', '45'),
    });
    expect(row!.life).toEqual({ basis: 'minutes', limit: 3_600_000, left: 900_000 });
    expect(remark).toMatch(/the one in minutes is kept/);
  });
  it('a life without its end is left out with a word, and the tool is taken', () => {
    const { row, remark } = read({ life: life('type="PART_COUNT" countDirection="DOWN"', '37') });
    expect(row!.life).toBeNull();
    expect(remark).toMatch(/a life is left out: how many pieces it is good for is not said/);
  });
  it.each([
    ['<Status>USED</Status><Status>BROKEN</Status><Status>EXPIRED</Status>', 'broken'],
    ['<Status>EXPIRED</Status>', 'expired'],
    ['<Status>TAGGED_OUT</Status>', 'locked'],
    ['<Status>NEW</Status><Status>MEASURED</Status><Status>AVAILABLE</Status>', null],
  ])('its status: %s', (status, flag) => expect(read({ status }).row!.flag).toBe(flag));
  it('units are honoured, and what was meant stands in where nothing was measured', () => {
    const { row } = read({
      measurements:
        '<FunctionalLength code="LF" units="METER">0.1184</FunctionalLength><CuttingDiameterMax code="DC" units="INCH">0.25</CuttingDiameterMax><ProtrudingLength code="LPR" units="CENTIMETER" nominal="4.8"/><BodyDiameterMax code="BDX">40</BodyDiameterMax>',
    });
    expect([row!.gaugeLength, row!.diameter, row!.stickOut, row!.holderDiameter]).toEqual([
      lengthOf(118.4, 'mm'),
      lengthOf(6.35, 'mm'),
      lengthOf(48, 'mm'),
      lengthOf(40, 'mm'),
    ]);
    expect(measureOf({ '@units': 'FURLONG', '#text': '3' })).toBe('3 FURLONG');
    const strange = readCuttingToolAssets(
      document(
        asset({ measurements: MEASUREMENTS.replace('units="MILLIMETER">6.8', 'units="FURLONG">6.8') }),
      ),
    );
    expect(strange.result).toMatchObject({ ok: false, issues: [{ column: 'diameter' }] });
  });
  it('several cutting items, each with its corner', () => {
    const item = (index: number, radius: string) =>
      `<CuttingItem indices="${index}"><Measurements><CornerRadius code="RE" units="MILLIMETER">${radius}</CornerRadius></Measurements></CuttingItem>`;
    const of = (...radii: string[]) =>
      read({
        items: `<CuttingItems count="${radii.length}">${radii.map((radius, i) => item(i + 1, radius)).join('')}</CuttingItems>`,
      });
    expect([of('0.8', '0.8').row!.teeth, of('0.8', '0.8').row!.cornerRadius]).toEqual([2, 800_000]);
    expect(of('0.8', '0.8').remark).toBeUndefined();
    expect(of('0.8', '0.4').remark).toMatch(/corners of 0.8 and 0.4: the first is taken/);
  });
  it('a kind by its name; one that nobody knows, or without a size, is kept aside to be completed', () => {
    expect(read({ id: '0815', name: 'END MILL 12' }).row!.kind).toBe('endMill');
    // rows keep their place in the document
    expect(readCuttingToolAssets(document(asset({ id: '0815', name: 'Special' }) + asset())).lines).toEqual([
      2,
    ]);
    const strange = read({ id: '0815', name: 'Special 7' });
    expect([strange.row, strange.open[0]!.missing]).toEqual([undefined, ['kind']]);
    expect(strange.open[0]!.cells).toMatchObject({ number: 'Q-9', name: 'Special 7', diameter: '6.8' });
    expect(
      read({
        measurements: MEASUREMENTS.replace(/<ProtrudingLength.*?<\/ProtrudingLength>/, ''),
        code: 'X-77',
      }).open[0]!.missing,
    ).toEqual(['interface', 'stick_out']);
  });
});

describe('cutting-tool assets as we write them', () => {
  const row: AssemblyRow = {
    number: 'A-105',
    name: 'Drill 6.8',
    kind: 'drill',
    interface: 'steep 40',
    holder: '',
    diameter: lengthOf(6.8, 'mm'),
    cornerRadius: lengthOf(0, 'mm'),
    stickOut: lengthOf(48, 'mm'),
    gaugeLength: lengthOf(118.4, 'mm'),
    holderDiameter: lengthOf(40, 'mm'),
    teeth: 2,
    leftHand: false,
    items: {},
    insertCount: 1,
    life: { basis: 'holes', limit: 900, left: 492 },
    flag: 'expired',
  };
  const text = writeCuttingToolAssets(
    [{ ...row, stands: { tool: 5, pocket: 10, spindle: false }, measured: true }],
    new Date(0),
  );
  it.each([
    /<Status>EXPIRED<\/Status>\s*<Status>USED<\/Status>\s*<Status>ALLOCATED<\/Status>\s*<Status>MEASURED<\/Status>/,
    /<ToolLife type="PART_COUNT" countDirection="DOWN" initial="900" limit="0">492<\/ToolLife>/,
    /<ProgramToolNumber>5<\/ProgramToolNumber>/,
    /<Location type="POT" negativeOverlap="0" positiveOverlap="0">10<\/Location>/,
    /<CuttingItem indices="1-2">/,
  ])('%s', (part) => expect(text).toMatch(part));
  it('wear in millimetres, as the standard has it', () => {
    const worn = writeCuttingToolAssets(
      [{ ...row, life: { basis: 'wear', limit: 200_000, left: 50_000 }, stands: null, measured: false }],
      new Date(0),
    );
    const { result } = readCuttingToolAssets(worn);
    expect(result.ok && result.rows[0]!.life).toEqual({ basis: 'wear', limit: 200_000, left: 50_000 });
  });
});
