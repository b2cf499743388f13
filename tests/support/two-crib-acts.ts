import { nanometres } from '../../src/core/units/length.ts';
import { buildAssembly } from '../../src/server/builds.ts';
import {
  answerLook,
  bringTable,
  compareLook,
  lookAtControl,
  recordText,
} from '../../src/server/control-looks.ts';
import { cellNow } from '../../src/server/clock.ts';
import { regrind } from '../../src/server/components.ts';
import { pool, rows } from '../../src/server/db.ts';
import { mergeComponents } from '../../src/server/definitions.ts';
import { tellEdgeEnd } from '../../src/server/edge-ends.ts';
import { writeNote } from '../../src/server/leaf-notes.ts';
import { rebase, transferCard, transferLengths } from '../../src/server/lengths.ts';
import { lastEntry } from '../../src/server/control-roads.ts';
import { machines } from '../../src/server/machines.ts';
import { spindleFound } from '../../src/server/magazines.ts';
import { linesToOrder, recordOrder } from '../../src/server/orders.ts';
import { placesOf, placeTool } from '../../src/server/places.ts';
import { setMaterial } from '../../src/server/programs.ts';
import { proveProgram } from '../../src/server/proofs.ts';
import { cellsOf, writeRecord } from '../../src/server/records.ts';
import { as } from './cell.ts';
import type { Maker } from './two-acts.ts';

const cutters = async () =>
  rows<{ id: number; number: string; stock: number; diameter: number; overall: number }>(
    pool(),
    `SELECT id, number, stock, coalesce((dimensions ->> 'DC')::bigint, 0) AS diameter, coalesce((dimensions ->> 'OAL')::bigint, 0) AS overall
     FROM component WHERE regrinds > 0 AND stock > 1 AND merged_into IS NULL ORDER BY id LIMIT 2`,
  );
const grind: Maker = async (shown) => {
  const one = shown.pick(await cutters());
  if (!one) return null;
  const smaller = shown.pick([200_000, 300_000])!;
  return {
    what: `one of ${one.number} came back ground by ${smaller}`,
    run: () =>
      regrind(as(shown.cell.crib), {
        componentId: one.id,
        diameter: one.diameter - smaller,
        overall: one.overall - 2_000_000,
        pieces: 1,
        before: one.stock,
      }),
  };
};
const merge: Maker = async (shown) => {
  const kinds = await rows<{ kind: string; ids: number[] }>(
    pool(),
    `SELECT kind, (array_agg(id ORDER BY id))[1:3] AS ids FROM component WHERE merged_into IS NULL GROUP BY kind HAVING count(*) > 1 ORDER BY kind LIMIT 2`,
  );
  const of = shown.pick(kinds);
  if (!of) return null;
  const from = shown.pick(of.ids)!;
  const into = shown.pick(of.ids.filter((id) => id !== from))!;
  return {
    what: `component ${from} is merged into ${into}`,
    run: () => mergeComponents(as(shown.cell.lead), { from, into }),
  };
};
const build: Maker = async (shown) => {
  const like = shown.pick(
    await rows<{ id: number; stickOut: number; number: string }>(
      pool(),
      `SELECT a.id, a.stick_out AS "stickOut", a.number FROM assembly a
       WHERE EXISTS (SELECT FROM assembly_part p WHERE p.assembly_id = a.id AND p.role = 'cutter') ORDER BY a.id LIMIT 3`,
    ),
  );
  if (!like) return null;
  const parts = await rows<{ role: string; id: number }>(
    pool(),
    'SELECT role, component_id AS id FROM assembly_part WHERE assembly_id = $1',
    [like.id],
  );
  const number = shown.happens(0.5) ? 'Z-901' : 'Z-902';
  return {
    what: `${number} is built like ${like.number}`,
    run: () =>
      buildAssembly(
        as(shown.cell.lead),
        {
          number,
          name: 'built anew',
          parts: Object.fromEntries(parts.map(({ role, id }) => [role, id])),
          stickOut: nanometres(like.stickOut),
          machineId: null,
          override: 'as it was',
        },
        true,
      ),
  };
};
const order: Maker = async (shown) => {
  const lines = (await linesToOrder(pool())).slice(0, 2);
  if (lines.length === 0) return null;
  return {
    what: `${lines.length} lines are ordered`,
    run: () =>
      recordOrder(as(shown.cell.crib), {
        lines: lines.map(({ id, coming }) => ({ id, pieces: 3, coming })),
        place: 'the dealer',
      }),
  };
};
const describe: Maker = async (shown) => {
  const kind = shown.happens(0.5) ? ('components' as const) : ('assemblies' as const);
  const one = shown.pick(
    await rows<{ number: string }>(
      pool(),
      kind === 'components'
        ? 'SELECT number FROM component WHERE merged_into IS NULL ORDER BY id LIMIT 3'
        : 'SELECT number FROM assembly ORDER BY id LIMIT 3',
    ),
  );
  const known = one && (await cellsOf(pool(), kind, one.number));
  if (!known) return null;
  const name = shown.happens(0.5) ? 'Renamed' : 'Called otherwise';
  return {
    what: `${one.number} is renamed`,
    run: () =>
      writeRecord(as(shown.cell.lead), {
        kind,
        cells: { ...known.cells, name },
        shown: known.cells,
      }),
  };
};
/** A tool that is loose is put into a machine of its interface, perhaps another one than the other acts at. */
const putAnywhere: Maker = async (shown) => {
  const other = shown.pick(
    (await machines(pool())).filter((each) => each.interface === shown.machine.interface),
  );
  const loose = shown.pick(
    await rows<{ id: number; number: string }>(
      pool(),
      'SELECT id, number FROM assembly a WHERE interface = $1 AND NOT EXISTS (SELECT FROM placement s WHERE s.assembly_id = a.id) ORDER BY id LIMIT 2',
      [shown.machine.interface],
    ),
  );
  if (!other || !loose) return null;
  const place = (await placesOf(pool(), other.id)).find(
    (each) => each.kind === 'pocket' && !each.assembly && each.inService && !each.reserved,
  );
  if (!place) return null;
  return {
    what: `put ${loose.number} into ${place.number} of ${other.name}`,
    run: () =>
      placeTool(as(shown.cell.setter), {
        placeId: place.id,
        assemblyId: loose.id,
        tool: Math.min(place.number, other.highestTool),
        knob: other.knob,
      }),
  };
};
const inSpindle: Maker = async (shown) => {
  const tool = shown.happens(0.5) ? (shown.focus?.tool ?? 0) : 0;
  return {
    what: `T${tool} was found in the spindle`,
    run: () => spindleFound(as(shown.cell.setter), { machineId: shown.machine.id, tool, assemblyId: null }),
  };
};
const carry: Maker = async (shown) => {
  const other = shown.pick((await machines(pool())).filter(({ id }) => id !== shown.machine.id));
  if (!other) return null;
  const [from, to] = shown.happens(0.5) ? [shown.machine, other] : [other, shown.machine];
  if (from.kind !== 'mill' || to.kind !== 'mill') return null;
  const lines = (await transferCard(pool(), from, to)).filter(
    ({ blocked, takenBy, before, after }) => !blocked && !takenBy && before !== after,
  );
  if (lines.length === 0) return null;
  const read = lines.slice(0, 2).map(({ tool, before, after }) => ({ tool, before, shown: after }));
  return {
    what: `lengths are carried from ${from.name} to ${to.name}`,
    run: () => transferLengths(as(shown.cell.setter), from.id, to.id, read),
  };
};
const reference: Maker = async (shown) => {
  const { machine } = shown;
  if (machine.lengthSchool === 'gaugeLength' || machine.kind === 'lathe') return null;
  const before = machine.lengthSchool === 'touchOff' ? machine.planeConstant : machine.masterLength;
  const entry = await lastEntry(pool());
  return {
    what: 're-based',
    run: () =>
      rebase(as(shown.cell.lead), {
        machineId: machine.id,
        before,
        value: nanometres(before + 10_000),
        why: 'another plane',
        entry,
      }),
  };
};
const readOff: Maker = async (shown) => {
  const look = await lookAtControl(pool(), shown.machine.id, null);
  if (look && shown.happens(0.6)) {
    const { differences } = await compareLook(pool(), shown.machine, look);
    const one = shown.pick(differences);
    if (one) {
      const answer = shown.pick(['record', 'control', 'open'] as const)!;
      return {
        what: `${one.register.kind} of row ${one.register.row}: ${answer}`,
        run: () =>
          answerLook(as(shown.cell.setter), {
            machineId: shown.machine.id,
            lookId: look.id,
            registers: [one.register.id],
            answer,
            why: 'somebody keyed it',
          }),
      };
    }
  }
  const { text } = await recordText(pool(), shown.machine, cellNow());
  return {
    what: 'the table is read off',
    run: () =>
      bringTable(as(shown.cell.setter), {
        machineId: shown.machine.id,
        fileName: 'table',
        text,
        kind: null,
        mapping: null,
        part: true,
      }),
  };
};
const program: Maker = async (shown) => {
  const one = shown.pick(
    await rows<{ id: number; number: string }>(
      pool(),
      'SELECT id, number FROM program WHERE machine_id = $1 ORDER BY id',
      [shown.machine.id],
    ),
  );
  if (!one) return null;
  if (shown.happens(0.5)) {
    const proven = shown.happens(0.7);
    return {
      what: `${one.number} is ${proven ? 'proven' : 'not proven'}`,
      run: () => proveProgram(as(shown.cell.lead), { programId: one.id, proven, said: 'as seen' }),
    };
  }
  const material = shown.pick(['steel', 'Steel', 'brass'])!;
  return {
    what: `${one.number} cuts ${material}`,
    run: () => setMaterial(as(shown.cell.lead), { programId: one.id, material }),
  };
};
const told: Maker = async (shown) => {
  const ends = await rows<{ id: number; ended: 'worn' | 'chipped' | 'broken' | 'unknown' }>(
    pool(),
    'SELECT id, ended FROM edge_end ORDER BY id DESC LIMIT 2',
  );
  const one = shown.pick(ends);
  if (!one || shown.happens(0.3))
    return {
      what: 'a note of the machine',
      run: () =>
        writeNote(as(shown.cell.setter), {
          leaf: '2026-01-05/Early',
          kind: 'question',
          machineId: shown.machine.id,
          text: 'Why?',
        } as Parameters<typeof writeNote>[1]),
    };
  const end = shown.pick(['chipped', 'broken', 'worn'] as const)!;
  return {
    what: `edge ${one.id} was ${end}`,
    run: () => tellEdgeEnd(as(shown.cell.setter), { id: one.id, was: one.ended, end, sign: null }),
  };
};

/** What is done with pieces, tables of controls, programs and what others said. */
export const CRIB_ACTS: readonly Maker[] = [
  grind,
  merge,
  build,
  order,
  describe,
  putAnywhere,
  putAnywhere,
  inSpindle,
  carry,
  reference,
  readOff,
  readOff,
  program,
  told,
];
