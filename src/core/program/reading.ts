import type { BoringShift } from './boring-shift.ts';
import type { CutSide } from './cut-side.ts';
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
  /** Length rows on a mill (H); on a lathe the row of the T word. */
  lengthRows: RowUse[];
  /** Radius or diameter rows (D); none on a lathe. */
  radiusRows: RowUse[];
  speeds: { least: number; most: number } | null;
  /** Cutting speed under G96, metres a minute; null where the spindle runs at set revolutions. */
  surfaceSpeed: { least: number; most: number } | null;
  /** The lowest ceiling set by G50 or G92 S; null where none is. */
  speedCeiling: number | null;
  feeds: { least: number; most: number; per: 'minute' | 'revolution' }[];
  holes: number;
  /** Time in cut: feed moves only, rapids do not count (H9). */
  cutMilliseconds: number;
  feedDistance: Length;
  deepest: Length | null;
  optionalStops: number[];
  lifeCounts: { line: number; quantity: number }[];
  usesRadiusCompensation: boolean;
  /** Fine boring cycles, and how each shifts off the wall. */
  boringShifts: BoringShift[];
  /** Null: not a lathe, or read before sides were looked at. */
  cutSide: CutSide | null;
}

export interface Remark {
  line: number;
  text: string;
}

export interface ProgramReading {
  number: string;
  title: string;
  units: LengthUnit;
  calls: ToolCall[];
  remarks: Remark[];
  lines: number;
}

export type ProgramResult = { ok: true; reading: ProgramReading } | { ok: false; reason: string };
