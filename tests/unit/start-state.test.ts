import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { begunAt, readState, stillRuns, writeWhole } from '../../scripts/project.mjs';

const folder = mkdtempSync(join(tmpdir(), 'tin-state-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('what a start writes down for the next', () => {
  it('a process number that was used again is not the start that wrote it', () => {
    expect(stillRuns({ pid: process.pid, begun: begunAt(process.pid) })).toBe(true);
    expect(stillRuns({ pid: process.pid, begun: '1' })).toBe(false);
    expect(stillRuns({ pid: 2 ** 22 + 1, begun: null })).toBe(false);
    expect(stillRuns(null)).toBe(false);
  });
  it('a file that is empty or cut off says nothing, and stops nothing', () => {
    const file = join(folder, 'state.json');
    for (const text of ['', '{"pid": 12', 'null and more']) {
      writeFileSync(file, text);
      expect(readState(file)).toBeNull();
    }
    expect(readState(join(folder, 'not there'))).toBeNull();
    writeWhole(file, '{"pid":12}');
    expect(readState(file)).toEqual({ pid: 12 });
    expect(readFileSync(file, 'utf8')).toBe('{"pid":12}');
  });
});
