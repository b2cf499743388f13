import { readAssemblyFile } from '../core/formats/assembly-file.ts';
import { readComponentFile } from '../core/formats/component-file.ts';
import { readMachineFile } from '../core/formats/machine-file.ts';
import { PLAN_HEADING } from '../core/formats/plan-file.ts';
import { isReadings } from '../core/formats/readings-file.ts';
import { importAssemblies } from './imported.ts';
import { importComponents } from './components.ts';
import type { Db } from './db.ts';
import { importMachine } from './machines.ts';
import { once, type Asking } from './once.ts';
import { Refused, type Outcome } from './outcome.ts';
import { listed, readPlan } from './program-files.ts';
import { importPlan, importProgram, programById } from './programs.ts';

/** What a file turned out to be. */
export const FILE_KINDS = ['program', 'assemblies', 'components', 'plan', 'readings', 'machine'] as const;
export type FileKind = (typeof FILE_KINDS)[number];

export interface Brought {
  fileName: string;
  text: string;
  /** Where a program or a plan belongs. */
  machineId: number | null;
  programId: number | null;
  partsPerCycle: number;
}

export interface Taken {
  kind: FileKind;
  id: number | null;
  sentence: string;
}

/** Guesses what a file is from its text: JSON is a machine, QIF readings, a CSV by its heading, everything else a program. */
export function kindOfFile(text: string): FileKind {
  if (/^\s*\{/.test(text)) return 'machine';
  if (isReadings(text)) return 'readings';
  const heading = (text.replace(/^\uFEFF/, '').split('\n', 1)[0] ?? '').toLowerCase();
  if (/^\s*number[,;]/.test(heading))
    return /[,;]\s*(gauge_length|stick_out)/.test(heading) ? 'assemblies' : 'components';
  if (heading.includes(`${PLAN_HEADING[0]}`) && /[,;]/.test(heading)) return 'plan';
  return 'program';
}

/** Takes a file in, all of it or nothing. The demo cell comes in by the same way as everybody's files. */
export function bringIn(asking: Asking, kind: FileKind, brought: Brought): Promise<Outcome<Taken>> {
  return once(asking, 'bringIn', { kind, ...brought, text: brought.text.length }, (db) =>
    takeFile(db, asking.personId, kind, brought, asking.key),
  );
}

export async function takeFile(
  db: Db,
  personId: number,
  kind: FileKind,
  brought: Brought,
  watched?: string,
): Promise<Taken> {
  if (kind === 'machine') {
    const file = readMachineFile(brought.text);
    if (!file.ok) throw new Refused(listed(file.issues));
    return {
      kind,
      id: await importMachine(db, personId, file.rows[0]!),
      sentence: `${file.rows[0]!.name} was added.`,
    };
  }
  if (kind === 'assemblies') {
    const file = readAssemblyFile(brought.text);
    if (!file.ok) throw new Refused(listed(file.issues));
    return {
      kind,
      id: null,
      sentence: `${await importAssemblies(db, personId, file.rows)} assemblies were added.`,
    };
  }
  if (kind === 'components') {
    const file = readComponentFile(brought.text);
    if (!file.ok) throw new Refused(listed(file.issues));
    return {
      kind,
      id: null,
      sentence: `${await importComponents(db, personId, file.rows)} components came into the catalogue.`,
    };
  }
  if (kind === 'plan') return takePlan(db, personId, brought);
  if (kind === 'readings') throw new Refused('Readings are looked at before they are taken.');
  if (brought.machineId === null) throw new Refused('Choose the machine that the program is for.');
  const id = await importProgram(db, personId, {
    machineId: brought.machineId,
    fileName: brought.fileName,
    text: brought.text,
    partsPerCycle: brought.partsPerCycle,
    ...(watched !== undefined && { watched }),
  });
  const program = (await programById(db, id))!;
  return {
    kind,
    id,
    sentence: `${program.number} ${program.title} was read: ${program.tools} ${program.tools === 1 ? 'tool' : 'tools'}, revision ${program.revision}.`,
  };
}

async function takePlan(db: Db, personId: number, brought: Brought): Promise<Taken> {
  const { program, features } = await readPlan(db, brought);
  const taken = await importPlan(db, personId, program.id, features);
  return {
    kind: 'plan',
    id: program.id,
    sentence: `${taken === 1 ? 'One feature was' : `${taken} features were`} taken for ${program.number}.`,
  };
}
