import { stringify } from 'csv-stringify/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ASSEMBLY_KINDS, INTERFACE_NAMES } from '../assembly/silhouette.ts';
import { MILLISECONDS_PER_MINUTE } from '../life/count.ts';
import { nanometres } from '../units/length.ts';
import { assemblyCells, readAssemblyFile, type AssemblyRow } from './assembly-file.ts';
import { componentCells, readComponentFile, type ComponentRow } from './component-file.ts';
import { readCuttingToolAssets, writeCuttingToolAssets } from './cutting-tool-asset.ts';
import { readToolJson, writeToolJson } from './tool-json.ts';

/** Any text a person might type as a name: quotes, commas, angle brackets, other alphabets; no formula, no control marks. */
const words = fc
  .string({ minLength: 1, maxLength: 40, unit: 'grapheme' })
  .map((text) =>
    text
      .replace(/[\p{C}\u2028\u2029\ufffd]/gu, '')
      .normalize()
      .trim(),
  )
  .filter((text) => text !== '' && !/^[=@+-]/.test(text));
const length = fc.integer({ min: 0, max: 900_000_000 }).map(nanometres);

const assembly: fc.Arbitrary<AssemblyRow> = fc.record({
  number: fc.stringMatching(/^[A-Z]-[0-9]{1,6}$/),
  name: words,
  kind: fc.constantFrom(...ASSEMBLY_KINDS),
  interface: fc.constantFrom(...INTERFACE_NAMES),
  diameter: length,
  stickOut: length,
  gaugeLength: length,
  holderDiameter: length,
  holder: fc.oneof(fc.constant(''), words),
  cornerRadius: length,
  teeth: fc.integer({ min: 0, max: 99 }),
  life: fc.option(
    fc
      .oneof(
        fc.record({
          basis: fc.constantFrom('pieces' as const, 'holes' as const),
          limit: fc.integer({ min: 1, max: 100_000 }),
          share: fc.option(fc.integer({ min: -1, max: 8 })),
        }),
        fc.record({
          basis: fc.constant('minutes' as const),
          limit: fc.integer({ min: 1000, max: 5000 * MILLISECONDS_PER_MINUTE }),
          share: fc.option(fc.integer({ min: 0, max: 8 })),
        }),
      )
      .map(({ share, ...life }) => ({
        ...life,
        left: share === null ? null : Math.floor((life.limit * share) / 8),
      })),
  ),
  items: fc
    .record({
      holder: fc.option(fc.stringMatching(/^H[0-9]{1,4}$/)),
      cutter: fc.option(fc.stringMatching(/^C[0-9]{1,4}$/)),
    })
    .map((items) => Object.fromEntries(Object.entries(items).filter(([, value]) => value !== null))),
  leftHand: fc.boolean(),
  flag: fc.option(fc.constantFrom('broken' as const, 'expired' as const, 'locked' as const)),
  insertCount: fc.integer({ min: 1, max: 40 }),
});
const assemblies = fc.uniqueArray(assembly, { selector: (row) => row.number, minLength: 1, maxLength: 12 });

const component: fc.Arbitrary<ComponentRow> = fc
  .record({
    number: fc.stringMatching(/^[A-Z]{2}-[0-9]{1,6}$/),
    name: words,
    DC: fc.integer({ min: 1, max: 90_000_000 }),
    LCF: fc.integer({ min: 1, max: 200_000_000 }),
    ZEFP: fc.integer({ min: 1, max: 12 }),
    flat: fc.boolean(),
    coolant: fc.boolean(),
    leftHand: fc.boolean(),
    torque: fc.option(fc.integer({ min: 1, max: 9000 }).map((value) => value / 10)),
    costCents: fc.option(fc.integer({ min: 0, max: 900_000 })),
    regrinds: fc.option(fc.integer({ min: 0, max: 20 })),
    shelf: fc.oneof(fc.constant(''), words),
    stock: fc.integer({ min: 0, max: 9999 }),
    maximum: fc.option(fc.integer({ min: 0, max: 1000 })),
    minimum: fc.integer({ min: 0, max: 99 }),
  })
  .map(({ DC, LCF, ZEFP, ...rest }) => ({
    ...rest,
    kind: 'endMillSharp' as const,
    dimensions: { DC, DCONMS: DC, OAL: LCF + 50_000_000, LCF, ZEFP },
    interface: '',
    series: '',
    material: 'carbide' as const,
    edges: null,
  }));
const components = fc.uniqueArray(component, { selector: (row) => row.number, minLength: 1, maxLength: 12 });

const read = <T>(result: { ok: true; rows: T[] } | { ok: false; issues: unknown[] }): T[] => {
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return result.rows;
};

describe('what goes out comes in again, to the last digit', () => {
  it('assemblies as CSV', () => {
    fc.assert(
      fc.property(assemblies, (rows) => {
        const text = stringify(rows.map(assemblyCells), { header: true, record_delimiter: 'windows' });
        expect(read(readAssemblyFile(text))).toEqual(rows);
      }),
    );
  });
  it('assemblies as JSON', () => {
    fc.assert(
      fc.property(assemblies, (rows) => {
        const back = readToolJson(writeToolJson('assemblies', rows.map(assemblyCells)));
        expect(back?.kind).toBe('assemblies');
        expect(read(back!.result as never)).toEqual(rows);
      }),
    );
  });
  it('assemblies as MTConnect cutting-tool assets', () => {
    fc.assert(
      fc.property(assemblies, (rows) => {
        const written = writeCuttingToolAssets(
          rows.map((row) => ({ ...row, stands: null, measured: false })),
          new Date(0),
        );
        // the standard always says where a counter stands
        const told = rows.map(({ life, ...row }) => ({
          ...row,
          life: life && { ...life, left: life.left ?? life.limit },
        }));
        const { result, open, remarks } = readCuttingToolAssets(written);
        expect(read(result)).toEqual(told);
        expect([open.length, remarks.size]).toEqual([0, 0]);
      }),
    );
  });
  it('components as CSV and as JSON', () => {
    fc.assert(
      fc.property(components, (rows) => {
        const text = stringify(rows.map(componentCells), { header: true });
        expect(read(readComponentFile(text))).toEqual(rows);
        const back = readToolJson(writeToolJson('components', rows.map(componentCells)));
        expect(read(back!.result as never)).toEqual(rows);
      }),
    );
  });
});

describe('hostile and broken files are a sentence', () => {
  const issue = (result: { ok: boolean; issues?: { line: number; column: string; message: string }[] }) =>
    result.issues?.[0];
  it('entities that would grow a billionfold', () => {
    const bomb =
      '<?xml version="1.0"?><!DOCTYPE z [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]><MTConnectAssets>&b;</MTConnectAssets>';
    expect(issue(readCuttingToolAssets(bomb).result)?.message).toMatch(/document type or entities/);
  });
  it('XML that breaks off, and XML of something else', () => {
    expect(issue(readCuttingToolAssets('<MTConnectAssets><Assets>').result)?.message).toMatch(/not XML/);
    expect(issue(readCuttingToolAssets('<a/>').result)?.message).toMatch(/no CuttingTool/);
  });
  it('a formula where a text belongs, with line and column', () => {
    const heading = 'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter\n';
    for (const name of ['=1+1', '@SUM(A1)', '+cmd', '-cmd'])
      expect(issue(readAssemblyFile(`${heading}A-1,${name},drill,steep 40,5,50,120,40\n`))).toMatchObject({
        line: 2,
        column: 'name',
        message: expect.stringMatching(/formula/),
      });
  });
  it('thirty megabytes of commas, of empty lines, of one long line', () => {
    const many = 30_000_000;
    expect(issue(readAssemblyFile(','.repeat(many)))?.message).toMatch(/Over 1000 cells in one line/);
    expect(issue(readAssemblyFile('\n'.repeat(many)))?.message).toMatch(/Over 1000 empty lines/);
    expect(issue(readAssemblyFile('"'.repeat(many)))?.message).toMatch(/over 65536/);
  });
  it('a tap is kept by the name of its thread, however that was written', () => {
    const tap = (series: string) =>
      read(
        readComponentFile(`number,name,kind,dconms,oal,lcf,series\nT-1,A tap,tapCutting,8,90,20,${series}\n`),
      )[0];
    expect(tap('M8x1.25')).toMatchObject({ series: 'M8' });
    expect(tap('.250-20')).toMatchObject({ series: '1/4-20', dimensions: { DC: 6_350_000 } });
    expect(tap('NPT 1/8')).toMatchObject({ series: '1/8 NPT' });
  });
  it('an insert that follows no standard says itself how many edges it has; one that does need not', () => {
    const line = (series: string, edges: string) =>
      readComponentFile(`number,name,kind,re,series,edges\nI-1,An insert,insert,0.2,${series},${edges}\n`);
    expect(issue(line('MGMN 300-M', ''))).toMatchObject({
      line: 2,
      column: 'series',
      message: expect.stringMatching(/how many edges/),
    });
    expect(issue(line('', '2'))).toMatchObject({ column: 'series' });
    expect(read(line('MGMN 300-M', '2'))[0]).toMatchObject({ edges: 2, dimensions: { RE: 200_000 } });
    expect(read(line('SEKT 1204 AFTN', ''))[0]).toMatchObject({ edges: 4 });
    expect(read(line('CNMG 432', ''))[0]).toMatchObject({ edges: 4 });
  });
  it('a good heading and then nothing but lines of another length', () => {
    const text = `number,name,kind\n${`${','.repeat(900)}\n`.repeat(30_000)}`;
    expect(issue(readComponentFile(text))).toMatchObject({
      line: 52,
      message: expect.stringMatching(/over 50 lines/),
    });
  });
  it('XML nested a million deep; brackets in a comment do not count', () => {
    expect(issue(readCuttingToolAssets('<a>'.repeat(1_000_000)).result)?.message).toMatch(
      /over 40 elements deep/,
    );
    const commented = `<a><!-- ${'<b>'.repeat(60)} --></a>`;
    expect(issue(readCuttingToolAssets(commented).result)?.message).toMatch(/no CuttingTool/);
  });
  it('text that is not UTF-8', () => {
    const text = new TextDecoder().decode(new Uint8Array([0x6e, 0xff, 0xfe, 0x2c]));
    expect(issue(readAssemblyFile(text))?.message).toMatch(/not UTF-8/);
  });
  it('JSON that is no list, or nested where a text belongs', () => {
    expect(issue(readToolJson('{"assemblies": 5}')!.result)?.message).toMatch(/must be a list/);
    expect(issue(readToolJson('{"components": [{"number": {"a": 1}}]}')!.result)?.message).toMatch(
      /components\[0\]\.number/,
    );
    expect(issue(readToolJson('{"assemblies": [')!.result)?.message).toMatch(/not JSON/);
  });
  it('JSON of nothing but opening brackets; brackets in a text do not count', () => {
    expect(issue(readToolJson('{"a":'.repeat(1_000_000))!.result)?.message).toMatch(/over 20 deep/);
    expect(issue(readToolJson(`"${'\\\\'.repeat(100_000)}"`)!.result)?.message).toMatch(/over 65536/);
    expect(readToolJson(`"${'\\"['.repeat(30)}"`)).toBeNull();
    const texts = JSON.stringify({ assemblies: 5, note: '[{"'.repeat(60) });
    expect(issue(readToolJson(texts)!.result)?.message).toMatch(/must be a list/);
  });
  it('a standard asset without our own elements is read as far as it goes', () => {
    const xml = `<MTConnectAssets xmlns="urn:mtconnect.org:MTConnectAssets:1.4"><Assets><CuttingTool assetId="Q-9" toolId="drill" serialNumber="Q-9">
      <Description>Drill 1/4</Description><CuttingToolLifeCycle><ToolLife type="PART_COUNT" initial="300" countDirection="DOWN">120</ToolLife>
      <ConnectionCodeMachineSide>steep 40</ConnectionCodeMachineSide><Measurements>
      <FunctionalLength code="LF" units="INCH">4.75</FunctionalLength><CuttingDiameterMax code="DC" units="INCH">0.25</CuttingDiameterMax>
      <ProtrudingLength code="LPR" units="MILLIMETER">60</ProtrudingLength><BodyDiameterMax code="BDX" units="MILLIMETER">40</BodyDiameterMax>
      </Measurements></CuttingToolLifeCycle></CuttingTool></Assets></MTConnectAssets>`;
    expect(read(readCuttingToolAssets(xml).result)[0]).toMatchObject({
      number: 'Q-9',
      gaugeLength: 120_650_000,
      diameter: 6_350_000,
      life: { basis: 'pieces', limit: 300, left: 120 },
      items: {},
    });
  });
});
