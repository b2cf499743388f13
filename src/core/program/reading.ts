import type { BoringShift } from './boring-shift.ts';
import type { CutSide } from './cut-side.ts';
import type { Doubt } from './doubts.ts';
import type { Extent } from './extents.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** A row that a program names for a tool, and where. */
export interface RowUse {
  row: number;
  line: number;
  /** The row of whatever tool is there, not one named by its number; undefined: read before this was noted. */
  automatic?: boolean;
}

/** What the program does between one tool call and the next. Lines count from 1. */
export interface ToolCall {
  order: number;
  tool: number;
  line: number;
  lastLine: number;
  remark: string;
  /** Whether it is called at all hangs on something that is not known. */
  perhaps?: boolean;
  /** Length rows on a mill (H); on a lathe the row of the T word. */
  lengthRows: RowUse[];
  /** Radius or diameter rows (D); none on a lathe. */
  radiusRows: RowUse[];
  speeds: { least: number; most: number } | null;
  /** Cutting speed under G96, metres a minute; null where the spindle runs at set revolutions. */
  surfaceSpeed: { least: number; most: number } | null;
  /** The ceiling in force when it was called, or set last after it (G50 or G92 S); null where none is. */
  speedCeiling: number | null;
  /** The most revolutions that a constant surface speed comes to while it cuts; null: none, or read before this was noted. */
  topSpeed?: number | null;
  /** The first line that pumps coolant through the tool; null: none does. */
  throughCoolant?: number | null;
  /** Line of a cut to the centre at constant surface speed with no ceiling in force. */
  noCeiling?: number | null;
  feeds: { least: number; most: number; per: 'minute' | 'revolution' }[];
  holes: number;
  /** Time in cut: feed moves only, rapids do not count (H9). */
  cutMilliseconds: number;
  feedDistance: Length;
  deepest: Length | null;
  optionalStops: number[];
  /** Lines of M0, and of G10. */
  stops?: number[];
  writes?: number[];
  lifeCounts: { line: number; quantity: number }[];
  usesRadiusCompensation: boolean;
  /** G41 and G42, with the row in force; null: no D since the tool came. */
  compensations?: { line: number; row: number | null }[];
  /** How far it goes in X and Y, by work offset; undefined: a lathe, or read before this was noted. */
  extents?: Extent[];
  /** Of the last call: modes that the program leaves in force at its end. */
  left?: string[];
  /** The first cut with no length in force, with the spindle standing still, without a feed. */
  withoutLength?: number | null;
  /** The first way home (G28, G30) that leads by a place nearer to the part than where it stands; undefined: none, or read before this was noted. */
  homeBy?: { line: number; axis: 'X' | 'Z'; at: Length };
  /** The first way by rapid to a Z before a length was applied since it came; undefined: there is none, or read before this was noted. */
  rapidWithoutLength?: number;
  withoutSpindle?: number | null;
  withoutFeed?: number | null;
  /** Ways in which the spindle turns while it cuts. */
  turns?: ('cw' | 'ccw')[];
  /** Fine boring cycles, and how each shifts off the wall. */
  boringShifts: BoringShift[];
  /** Null: not a lathe, or read before sides were looked at. */
  cutSide: CutSide | null;
}

/** What could not be read for certain. Of a program that was read before they had a code, line and text alone. */
export type Remark = Pick<Doubt, 'line' | 'text'> & Partial<Doubt>;

export interface ProgramReading {
  number: string;
  title: string;
  units: LengthUnit;
  calls: ToolCall[];
  remarks: Remark[];
  lines: number;
}

export type ProgramResult = { ok: true; reading: ProgramReading } | { ok: false; reason: string };
