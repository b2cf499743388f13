import { describe, expect, it } from 'vitest';
import { readFileSync, readdirSync } from 'node:fs';
import { lengthOf } from '../units/length.ts';
import { readAssemblyFile } from './assembly-file.ts';
import { readMachineFile } from './machine-file.ts';
import { readPlanFile } from './plan-file.ts';

const issues = (result: { ok: boolean; issues?: { line: number; column: string; message: string }[] }) =>
  result.issues ?? [];

describe('assemblies as CSV', () => {
  const heading =
    'number,name,kind,interface,diameter,stick_out,gauge_length,holder_diameter,life_basis,life_limit';
  const row = 'A-1,Drill 1/2,drill,steep 40,1/2in,60,120.351,40,minutes,45';
  it('reads lengths with or without a suffix, and minutes as milliseconds', () => {
    const result = readAssemblyFile(`${heading}\n${row}\n`);
    expect(result.ok && result.rows[0]).toMatchObject({
      number: 'A-1',
      diameter: lengthOf(12.7, 'mm'),
      life: { basis: 'minutes', limit: 2_700_000 },
    });
  });
  it('names line and column of everything that is wrong, and takes nothing', () => {
    const result = readAssemblyFile(`${heading}\n${row}\nA-2,,hammer,steep 40,x,60,120,40,holes,0\n`);
    expect(issues(result).map(({ line, column }) => [line, column])).toEqual([
      [3, 'name'],
      [3, 'kind'],
      [3, 'diameter'],
      [3, 'life_limit'],
    ]);
  });
  it('a size that may be one and a half or a half is not taken for either', () => {
    const said = issues(readAssemblyFile(`${heading}\n${row.replace('1/2in', '1-1/2in')}\n`));
    expect(said.map(({ column }) => column)).toEqual(['diameter']);
    expect(said[0]!.message).toMatch(/may be 1 1\/2, or 1 less 1\/2/);
    const fit = readPlanFile('feature,kind,nominal,upper,lower,tool\nBore,bore,1-1/2,0.001,0,5', 'in');
    expect(issues(fit).map(({ column }) => column)).toEqual(['nominal']);
  });
  it('refuses a number twice, an unknown heading, a missing one, a short row, broken quotes and other encodings', () => {
    const said = (text: string) =>
      issues(readAssemblyFile(text))
        .map((issue) => issue.message)
        .join(' ');
    expect(said(`${heading}\n${row}\n${row}`)).toMatch(/twice/);
    expect(said(`${heading},colour\n${row},red`)).toMatch(/"colour"/);
    expect(said('number,name\nA-1,x')).toMatch(/missing kind/);
    expect(said(`${heading}\nA-1,short`)).toMatch(/2 cells/);
    expect(said(`${heading}\nA-1,"open`)).toMatch(/cannot be read/);
    expect(said('n\uFFFDmber')).toMatch(/UTF-8/);
    expect(said('')).toMatch(/empty/);
  });
});

describe('measuring plans as CSV', () => {
  const heading = 'feature,kind,nominal,upper,lower,tool';
  it('aims at the middle unless told otherwise', () => {
    const result = readPlanFile(`${heading}\nBore,bore,1.438,0.001,0,5`, 'in');
    expect(result.ok && result.rows[0]).toMatchObject({
      target: lengthOf(1.4385, 'in'),
      row: 5,
      policy: 'model',
    });
  });
  it('refuses limits the wrong way round and a target outside them', () => {
    expect(issues(readPlanFile(`${heading}\nBore,bore,20,0,0.021,5`, 'mm'))[0]!.message).toMatch(
      /above the lower/,
    );
    expect(issues(readPlanFile(`${heading},target\nBore,bore,20,0.021,0,5,20.03`, 'mm'))[0]!.message).toMatch(
      /outside the limits/,
    );
  });
});

describe('machines as JSON', () => {
  it.each(readdirSync('demo/machines'))('%s of the made-up cell is sound', (file) => {
    expect(readMachineFile(readFileSync(`demo/machines/${file}`, 'utf8')).ok).toBe(true);
  });
  it('names the place of a fault', () => {
    const file = JSON.parse(readFileSync('demo/machines/avocet.json', 'utf8')) as Record<string, unknown>;
    expect(issues(readMachineFile(JSON.stringify({ ...file, unit: 'cubit' })))).toMatchObject([
      { column: 'unit' },
    ]);
    expect(issues(readMachineFile('{'))[0]!.message).toMatch(/not JSON/);
  });
  it('pockets that are not there are named, reserved, out of service or of a size', () => {
    const file = JSON.parse(readFileSync('demo/machines/fulmar.json', 'utf8')) as {
      changer: Record<string, unknown>;
    };
    const faults = (changer: Record<string, unknown>) =>
      issues(readMachineFile(JSON.stringify({ ...file, changer: { ...file.changer, ...changer } }))).map(
        ({ column, message }) => `${column}: ${message}`,
      );
    expect(faults({ reserved: [97] })).toEqual(['changer.reserved.0: pockets go from 1 to 96']);
    expect(faults({ outOfService: [3, 0] })).toEqual(['changer.outOfService.1: pockets go from 1 to 96']);
    expect(faults({ cells: [{ from: 90, to: 97, holder: '40mm' }] })).toEqual([
      'changer.cells.0.to: pockets go from 1 to 96',
    ]);
    expect(faults({ cells: [{ from: 9, to: 3, holder: '40mm' }] })).toEqual([
      'changer.cells.0: the lower pocket comes first',
    ]);
  });
});
