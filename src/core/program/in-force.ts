import type { CutState } from './cut-time.ts';
import type { RowUse, ToolCall } from './reading.ts';

/** What is in force while a tool cuts. */
export interface InForce {
  /** Index of the line, from 0. */
  line: number;
  /** Row of the length, null: none, NaN: not known; and whether it was applied since the tool came. */
  length: { row: number | null; fresh: boolean };
  lengthsByWord: boolean;
  spindle: 'off' | 'cw' | 'ccw';
  cut: CutState;
}

/**
 * Writes down at a call what is in force at one of its cuts: rows, spindle, feed and speed.
 * @param nearest the smallest diameter that is cut, millimetres
 */
export function noteInForce(
  call: ToolCall,
  { line, length, lengthsByWord, spindle, cut }: InForce,
  nearest: number,
): void {
  if (lengthsByWord && length.row === null) call.withoutLength ??= line + 1;
  else if (!length.fresh && length.row !== null && !Number.isNaN(length.row))
    noteRow(call.lengthRows, length.row, line + 1, false);
  if (spindle === 'off' || !(cut.speed > 0 || cut.surface > 0)) call.withoutSpindle ??= line + 1;
  else if (!call.turns!.includes(spindle)) call.turns!.push(spindle);
  if (!(cut.feed > 0)) call.withoutFeed ??= line + 1;
  if (cut.surface > 0) noteSurface(call, line + 1, cut, nearest);
  else if (cut.speed > 0 && (!call.speeds || cut.speed < call.speeds.least || cut.speed > call.speeds.most))
    call.speeds = widen(call.speeds, cut.speed);
}

function noteSurface(call: ToolCall, line: number, cut: CutState, nearest: number): void {
  if (call.surfaceSpeed?.least !== cut.surface || call.surfaceSpeed.most !== cut.surface)
    call.surfaceSpeed = widen(call.surfaceSpeed, cut.surface);
  const reached = Math.min((cut.surface * 1000) / (Math.PI * nearest), cut.ceiling);
  if (Number.isFinite(reached)) call.topSpeed = Math.max(reached, call.topSpeed ?? 0);
  else call.noCeiling ??= line;
}

/** Adds a row to those that a call uses, once. */
export function noteRow(rows: RowUse[], row: number, line: number, automatic: boolean): void {
  if (!rows.some((use) => use.row === row && use.automatic === automatic))
    rows.push({ row, line, automatic });
}

/** A range that takes a value in. */
export const widen = (range: { least: number; most: number } | null, value: number) =>
  range
    ? { least: Math.min(range.least, value), most: Math.max(range.most, value) }
    : { least: value, most: value };
