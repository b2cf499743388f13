import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codeText, isNumber, readCode, type CodeKind } from './code.ts';

describe('codes that say what they are', () => {
  it('come back as they were made', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<CodeKind>('tool', 'component', 'pocket', 'order', 'person'),
        fc.stringMatching(/^[A-Za-z0-9][A-Za-z0-9 ./_-]{0,18}[A-Za-z0-9]$/),
        (kind, value) => {
          expect(readCode(codeText({ kind, value }))).toEqual({ kind, value });
        },
      ),
    );
  });
  it('what others print is no code of ours', () => {
    for (const text of ['A-105', 'TIN', 'TINX.5', 'TINT.', 'TINT', 'https://example.invalid/TINT.5', ''])
      expect(readCode(text)).toBeNull();
  });
  it('a scanner’s line end and blanks around it count for nothing', () => {
    expect(readCode(' tint.A-105 \r\n')).toEqual({ kind: 'tool', value: 'A-105' });
    expect(readCode('TINP.Avocet 12  ')).toEqual({ kind: 'pocket', value: 'Avocet 12' });
  });
  it('a number is one word with a digit', () => {
    expect(['A-105', 'O1402', '5', ' EM-16R05 '].map(isNumber)).toEqual([true, true, true, true]);
    expect(['leaf', 'end mill 10', '10 end mill', 'A-105 drill', ''].map(isNumber)).toEqual([
      false,
      false,
      false,
      false,
      false,
    ]);
  });
});
