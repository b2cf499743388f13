import bwipjs from 'bwip-js/node';
import { codeText, type Code } from '../core/scan/code.ts';
import { entry } from '../core/ledger/entry.ts';
import { componentsByNumber } from './components.ts';
import { rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { POCKET_WORDS } from './load-steps.ts';
import { machineById } from './machines.ts';
import { once, type Asking } from './once.ts';
import { openOrders } from './orders.ts';
import { people } from './people.ts';
import { placesOf } from './places.ts';

/** Modules of white around a code, without which no reader finds it (ISO/IEC 18004, from memory). */
const QUIET = 4;
const SCALE = 2;

export const LABEL_SIZES = ['large', 'small', 'tape'] as const;

/** A 2-D code (QR, ISO/IEC 18004) with its quiet zone, as SVG: scanned, it arrives typed, and says what it stands for. */
export const codeOf = (code: Code): string =>
  bwipjs.toSVG({
    bcid: 'qrcode',
    text: codeText(code),
    scale: SCALE,
    padding: QUIET * SCALE,
    backgroundcolor: 'FFFFFF',
  });

/** Assemblies that no label was printed for since they were put on record, the newest first. */
export const unlabelled = (db: Db) =>
  rows<{ id: number; number: string; name: string }>(
    db,
    `SELECT a.id, a.number, a.name FROM assembly a
     WHERE NOT EXISTS (SELECT 1 FROM ledger l WHERE l.assembly_id = a.id AND l.kind = 'assembly' AND l.stage = 'labelled')
     ORDER BY a.id DESC`,
    [],
  );

/** Labels were printed for these. */
export const recordLabels = (asking: Asking, numbers: readonly string[]) =>
  once(asking, 'recordLabels', { numbers }, async (db) => {
    const found = await rows<{ id: number; number: string }>(
      db,
      'SELECT id, number FROM assembly WHERE number = ANY($1) ORDER BY number',
      [numbers],
    );
    for (const { id, number } of found)
      await append(
        db,
        entry.assembly('labelled', {
          personId: asking.personId,
          assemblyId: id,
          said: `A label was printed for ${number}.`,
        }),
      );
  });

/** What a label says beside its code. */
export interface LabelOf {
  code: Code;
  number: string;
  name: string;
  more: string;
}

/** Labels of components: where each is kept. */
export const componentLabels = async (db: Db, numbers: readonly string[]): Promise<LabelOf[]> =>
  (await componentsByNumber(db, numbers)).map(({ number, name, shelf }) => ({
    code: { kind: 'component', value: number },
    number,
    name,
    more: shelf,
  }));

/** Labels of every pocket of a machine, in their order. */
export async function pocketLabels(db: Db, machineId: number): Promise<LabelOf[]> {
  const machine = await machineById(db, machineId);
  if (!machine) return [];
  const word = POCKET_WORDS[machine.changerKind] ?? 'pocket';
  return (await placesOf(db, machineId))
    .filter(({ kind }) => kind === 'pocket')
    .map(({ number }) => ({
      code: { kind: 'pocket', value: `${machineId}.${number}` },
      number: String(number),
      name: machine.name,
      more: word,
    }));
}

/** Labels of what is still out, ordered or at the grinder's. */
export const orderLabels = async (db: Db): Promise<LabelOf[]> =>
  (await openOrders(db)).map(({ id, number, name, pieces, came }) => ({
    code: { kind: 'order', value: String(id) },
    number,
    name,
    more: `order ${id}, ${pieces - came} to come`,
  }));

/** Badges of whoever may sign in: the code says who, the PIN is still asked for. */
export const badgeLabels = async (db: Db): Promise<LabelOf[]> =>
  (await people(db))
    .filter(({ active }) => active)
    .map(({ badge, name, role }) => ({
      code: { kind: 'person', value: badge },
      number: badge,
      name,
      more: role,
    }));
