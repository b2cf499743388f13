import type { Dialect } from './dialect.ts';
import { ProgramRun, type Beyond } from './program-run.ts';
import type { ProgramResult } from './reading.ts';
import { lineBounds } from './lines.ts';
import { emptyBlock } from './block.ts';
import { scanBlock } from './scan.ts';

/** Which reader this is: what an older one read is read anew. */
export const READER = 9;

/** A text is held whole in memory, and beside it about half as much again for where its lines stand. */
const MOST_BYTES = 128 * 1024 * 1024;

/**
 * Reads a program in word-address text (ISO 6983 / RS-274 family): the tools it calls in order and, for each,
 * its offset rows, speeds, feeds, holes, time in cut, depth and stops, with line numbers (H9).
 * A text that is not such a program is refused with a sentence; what cannot be followed (macro logic, a
 * subprogram kept elsewhere) is named with its line and does not stop the reading.
 */
export function readProgram(text: string, dialect: Dialect, beyond: Beyond = {}): ProgramResult {
  const refused = notAProgram(text);
  if (refused) return { ok: false, reason: refused };
  const run = new ProgramRun(text, dialect, beyond);
  run.main();
  const reading = run.result();
  if (reading.calls.length === 0 && !run.isSubprogram) {
    return {
      ok: false,
      reason: `No tool is called in this file. ${expectedToolCall(dialect)}`,
    };
  }
  return { ok: true, reading };
}

function expectedToolCall(dialect: Dialect): string {
  if (dialect.toolCallCodes.length === 0)
    return `On this machine a tool is called by its T word, such as T0${1}0${1}.`;
  return `On this machine a tool is called with T and ${dialect.toolCallCodes.join(' or ')}, such as T1 ${dialect.toolCallCodes[0]}.`;
}

/** More signs that nobody prints than the starts, stops and rubouts that a tape carries. */
function isBinary(text: string): boolean {
  let odd = 0;
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    if (code < 9 || (code > 13 && code < 32) || code === 127 || code === 0xfffd) odd += 1;
  }
  return odd * 10 > text.length;
}

/** Why a text is not word-address text at all, or null. Looks at no more than its first thousand lines. */
function notAProgram(text: string): string | null {
  if (text.trim() === '') return 'The file is empty.';
  if (text.length > MOST_BYTES) return 'The file is over 128 MB: split it, or check that it is a program.';
  if (isBinary(text.slice(0, 4096)))
    return 'This is not NC text: it contains binary data. Expected lines of words such as G1 X10. F120.';
  const block = emptyBlock();
  const bounds = lineBounds(text.length > 200_000 ? text.slice(0, 200_000) : text);
  let words = 0;
  let strangeLines = 0;
  let firstStrange = 0;
  let lines = 0;
  for (let i = 0; i < bounds.length && lines < 1000; i += 2) {
    scanBlock(text, bounds[i]!, bounds[i + 1]!, block);
    if (block.count === 0 && block.strange === '' && block.logic < 0) continue;
    lines += 1;
    words += block.count;
    if (block.strange !== '') {
      strangeLines += 1;
      firstStrange ||= i / 2 + 1;
    }
  }
  if (words === 0 || strangeLines * 3 > lines)
    return `This is not NC text: line ${firstStrange || 1} is not made of words such as G1 X10. F120.`;
  return null;
}
