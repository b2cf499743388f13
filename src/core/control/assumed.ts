import { readPastedTable } from '../correction/register-text.ts';
import type { Definition } from '../definition/read-definition.ts';
import type { LengthSchool } from '../length/schools.ts';
import type { Dialect } from '../program/dialect.ts';
import type { ProgramReading } from '../program/reading.ts';
import type { CutterBy } from '../readiness/question.ts';
import { nanometres, type Length, type LengthUnit } from '../units/length.ts';

/** A program that is still to run on a machine, as far as it says what the machine's registers are to hold. */
export interface ToRun extends Pick<ProgramReading, 'calls' | 'remarks'> {
  number: string;
  unit: LengthUnit;
  cutterBy: CutterBy;
  /** What it asks for under each T. */
  asked: ReadonlyMap<number, Pick<Definition, 'diameter' | 'cornerRadius'>>;
  /** The text of the lines on which it writes into the table, by their number. */
  text: ReadonlyMap<number, string>;
}

/**
 * `writes`: it sets the register itself, to this value. `adds`: it adds to it itself. `path`: its path is made for the cutter, and no cutter
 * stands in the row. `cutter`: the control makes the path, with the cutter that it asks for. `nose`: the nose of the insert that it asks for.
 * `length`: a length, whichever. `used`: the row is used, and nothing is said of its value.
 */
export type AssumedCode = 'writes' | 'adds' | 'path' | 'cutter' | 'nose' | 'length' | 'used';

/** What a program takes a register for. */
export interface Assumed {
  kind: string;
  row: number;
  program: string;
  /** The tool whose row it is; null: it is written to, whoever uses it. */
  tool: number | null;
  line: number;
  code: AssumedCode;
  value: Length | null;
}

/** How far a cutter may be from the size that is asked for: one reground is keyed in as it is (common practice, no source). */
export const CUTTER_SHARE = 0.1;
/** And a nose from its nominal radius. */
const NOSE = 50_000;

interface Where {
  kind: 'mill' | 'lathe';
  cutter: 'diameter' | 'radius';
  lengthSchool: LengthSchool;
  dialect: Dialect;
}

/** What a program takes for granted in the table of offsets: each register once for each tool and reason, by its first line. */
export function assumed(program: ToRun, machine: Where): Assumed[] {
  const found = new Map<string, Assumed>();
  const add = (each: Omit<Assumed, 'program'>) => {
    const key = `${each.kind} ${each.row} ${each.tool} ${each.code}`;
    if (each.row > 0 && !found.has(key)) found.set(key, { ...each, program: program.number });
  };
  for (const call of program.calls) {
    const { tool, usesRadiusCompensation: compensated } = call;
    const asked = program.asked.get(tool);
    for (const { row, line } of call.lengthRows) {
      const at = { row, tool, line };
      // a difference from the master tool may be nought
      const length = machine.lengthSchool === 'masterTool' ? 'used' : 'length';
      if (machine.kind === 'mill') add({ ...at, kind: 'lengthGeometry', code: length, value: null });
      else for (const kind of ['xGeometry', 'zGeometry']) add({ ...at, kind, code: 'used', value: null });
      for (const kind of machine.kind === 'mill' ? ['lengthWear'] : ['xWear', 'zWear'])
        add({ ...at, kind, code: 'used', value: null });
      if (machine.kind === 'lathe' && compensated && asked?.cornerRadius)
        add({ ...at, kind: 'noseRadius', code: 'nose', value: asked.cornerRadius });
    }
    for (const { row, line } of call.radiusRows) {
      const at = { row, tool, line };
      add({ ...at, kind: 'cutterWear', code: 'used', value: null });
      if (!compensated) continue;
      if (program.cutterBy === 'cam')
        add({ ...at, kind: 'cutterGeometry', code: 'path', value: nanometres(0) });
      else if (asked?.diameter)
        add({
          ...at,
          kind: 'cutterGeometry',
          code: 'cutter',
          value: machine.cutter === 'radius' ? nanometres(Math.round(asked.diameter / 2)) : asked.diameter,
        });
    }
  }
  for (const { code, line, adds, affects } of program.remarks) {
    // of a work offset the table of tools knows nothing
    if (code !== 'writes' || !affects?.includes('length')) continue;
    for (const { kind, row, value } of readPastedTable(
      program.text.get(line) ?? '',
      machine.dialect,
      program.unit,
    ).rows)
      if (kind !== null)
        add({ kind, row, tool: null, line, code: adds ? 'adds' : 'writes', value: adds ? null : value });
  }
  return [...found.values()];
}

/** Whether a register that holds this is what the program takes it for; null: the program says nothing of its value. */
export function meets({ code, value }: Assumed, held: Length, increment: Length): boolean | null {
  switch (code) {
    case 'writes':
    case 'path':
      return Math.abs(held - value!) <= increment / 2;
    case 'cutter':
      return Math.abs(held - value!) <= CUTTER_SHARE * value!;
    case 'nose':
      return Math.abs(held - value!) <= NOSE;
    case 'length':
      return held !== 0;
    case 'adds':
    case 'used':
      return null;
  }
}
