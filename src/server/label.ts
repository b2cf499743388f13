import bwipjs from 'bwip-js/node';
import { codeText } from '../core/scan/code.ts';
import { entry } from '../core/ledger/entry.ts';
import { rows, type Db } from './db.ts';
import { append } from './ledger.ts';
import { once, type Asking } from './once.ts';

/** Modules of white around a code, without which no reader finds it (ISO/IEC 18004, from memory). */
const QUIET = 4;
const SCALE = 2;

/** A 2-D code (QR, ISO/IEC 18004) of an assembly, with its quiet zone, as SVG: scanned, it arrives typed, and says that it is a tool. */
export const codeOf = (number: string): string =>
  bwipjs.toSVG({
    bcid: 'qrcode',
    text: codeText({ kind: 'tool', value: number }),
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
