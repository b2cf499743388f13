import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lengthOf } from '../units/length.ts';
import { readCuttingTools } from './cutting-tools.ts';

const document = (tools: string) => `<?xml version="1.0" encoding="UTF-8"?>
<MTConnectAssets xmlns="urn:mtconnect.org:MTConnectAssets:1.3"><Header sender="x"/><Assets>${tools}</Assets></MTConnectAssets>`;
const tool = (number: number | string, inside = '') =>
  `<CuttingTool toolId="A-1" assetId="a"><CuttingToolLifeCycle><CutterStatus><Status>USED</Status><Status>MEASURED</Status></CutterStatus><ProgramToolNumber>${number}</ProgramToolNumber>${inside}</CuttingToolLifeCycle></CuttingTool>`;
const LENGTH = (value: string) =>
  `<Measurements><FunctionalLength code="LF" nominal="138.114">${value}</FunctionalLength></Measurements>`;
const LIFE = '<ToolLife type="PART_COUNT" countDirection="DOWN" initial="900" limit="0">421</ToolLife>';

describe('the tools that a control holds (MTConnect assets)', () => {
  it('each has its T, how it stands, its lives and its length', () => {
    expect(readCuttingTools(document(tool(5, LIFE + LENGTH('138.1091')) + tool(6)))).toEqual({
      ok: true,
      tools: [
        {
          tool: 5,
          status: ['USED', 'MEASURED'],
          lives: [{ type: 'PART_COUNT', direction: 'DOWN', value: 421, initial: 900, limit: 0 }],
          place: null,
          functionalLength: lengthOf(138.1091, 'mm'),
        },
        { tool: 6, status: ['USED', 'MEASURED'], lives: [], place: null, functionalLength: null },
      ],
    });
  });
  it('one with several lives has them all, and a counter that goes up is told from one that goes down', () => {
    const lives = `${LIFE}<ToolLife type="MINUTES" countDirection="UP" limit="60">12.5</ToolLife>`;
    const read = readCuttingTools(document(tool(5, lives)));
    expect(read.ok && read.tools[0]!.lives.map(({ direction, value }) => [direction, value])).toEqual([
      ['DOWN', 421],
      ['UP', 12.5],
    ]);
  });
  it('each stands where the control says: a pot, a station, the spindle, or nowhere in the machine', () => {
    const at = (type: string, text = '') => `<Location type="${type}">${text}</Location>`;
    const read = readCuttingTools(
      document(
        tool(1, at('POT', '12')) +
          tool(2, at('STATION', '3')) +
          tool(3, at('SPINDLE')) +
          tool(4, at('CRIB', '7')),
      ),
    );
    expect(read.ok && read.tools.map(({ place }) => place)).toEqual([12, 3, 0, null]);
    for (const [two, reason] of [
      [tool(1, at('POT', '12')) + tool(2, at('POT', '12')), 'The control has two tools in place 12.'],
      [tool(1, at('POT', 'left')), 'The place of T1 cannot be read.'],
      [tool(1, at('POT', '0')), 'The place of T1 cannot be read.'],
    ] as const)
      expect(readCuttingTools(document(two))).toEqual({ ok: false, reason });
  });
  it('a cutter without a T, lying in the store of the control, is passed over', () => {
    expect(
      readCuttingTools(document('<CuttingTool assetId="a"><CuttingToolLifeCycle/></CuttingTool>')),
    ).toEqual({ ok: true, tools: [] });
  });
  it.each([
    [document(tool(5) + tool(5)), 'The control names T5 twice.'],
    [document(tool('DRILL')), 'The control calls a tool "DRILL", which is no T.'],
    [document(tool(0)), 'The control calls a tool "0", which is no T.'],
    [document(tool(5, LENGTH('0x89'))), 'The length of T5 cannot be read: "0x89".'],
    [document(tool(5, LENGTH('1e3'))), 'The length of T5 cannot be read: "1e3".'],
    [
      document(tool(5, '<ToolLife type="PART_COUNT" countDirection="DOWN">many</ToolLife>')),
      'A life of T5 cannot be read.',
    ],
    [
      document(tool(5, '<ToolLife type="HOURS" countDirection="DOWN">3</ToolLife>')),
      'A life of T5 cannot be read.',
    ],
    [document(tool(5, '<ToolLife type="MINUTES">3</ToolLife>')), 'A life of T5 cannot be read.'],
    ['<MTConnectStreams/>', 'The control answered, but not with its tools.'],
    [
      '<!DOCTYPE a [<!ENTITY b "c">]><MTConnectAssets/>',
      'The control answered with a document type, which is not accepted.',
    ],
    ['x'.repeat(1_000_001), 'The control answered with over a megabyte.'],
  ])('what cannot be read is a sentence: %#', (xml, reason) => {
    expect(readCuttingTools(xml)).toEqual({ ok: false, reason });
  });
  it('a length is in the unit it says, and one of which only the native unit is said could be either', () => {
    const said = (attributes: string, value: string) => {
      const inside = `<Measurements><FunctionalLength ${attributes}>${value}</FunctionalLength></Measurements>`;
      const read = readCuttingTools(document(tool(5, inside)));
      return read.ok ? read.tools[0]!.functionalLength : read.reason;
    };
    expect(said('units="INCH"', '5.5')).toBe(lengthOf(139.7, 'mm'));
    expect(said('units="MILLIMETER" nativeUnits="INCH"', '139.7')).toBe(lengthOf(139.7, 'mm'));
    expect(said('units="MICRON"', '139')).toBe(lengthOf(0.139, 'mm'));
    expect(said('nativeUnits="INCH"', '139.7')).toBe('The length of T5 cannot be read: "139.7 ?INCH".');
    expect(said('units="FATHOM"', '1')).toBe('The length of T5 cannot be read: "1 FATHOM".');
    // not measured
    expect(said('nominal="139.7"', '')).toBeNull();
  });
  it('what was taken out of the control is not among them, though it is still told', () => {
    const gone = tool(5).replace('<CuttingTool ', '<CuttingTool removed="true" ');
    const read = readCuttingTools(document(gone + tool(5, LIFE)));
    expect(read.ok && read.tools.map(({ lives }) => lives.length)).toEqual([1]);
  });
  it('an answer that was cut off takes nothing', () => {
    const whole = document(tool(5, LIFE) + tool(6, LIFE));
    expect(readCuttingTools(whole.slice(0, whole.indexOf('ProgramToolNumber>6')))).toMatchObject({
      ok: false,
    });
  });
  it('never throws, whatever comes', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), fc.boolean(), (text, inside) => {
        readCuttingTools(inside ? document(tool(5, text)) : text);
      }),
    );
  });
});
