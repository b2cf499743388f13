import { describe, expect, it } from 'vitest';
import { tookInShort, tookSentence } from './took-words.ts';

describe('whether a correction took, in words', () => {
  it('waits for a part only while a part can still tell', () => {
    expect(tookInShort(null, false)).toBe('no reading since');
    expect(tookInShort(null, true)).not.toMatch(/since|yet/);
    expect(tookInShort('waiting', false)).toContain('yet');
    expect(tookInShort('waiting', true)).not.toContain('yet');
    expect(tookSentence(null, null, false)).toContain('next reading');
    for (const took of [null, 'waiting', 'doubtful'] as const) {
      const words = tookSentence(took, took && 'about 3 more parts will tell. Read the row.', true);
      expect(words).not.toMatch(/will tell|Read the row/);
      expect(words).toContain('before that');
    }
  });
  it('what was told stays told', () => {
    for (const movedOn of [false, true]) {
      expect(tookInShort('took', movedOn)).toBe('took');
      expect(tookInShort('notKeyed', movedOn)).toBe('nothing moved');
      expect(tookInShort('doubtful', movedOn)).toBe('rather not');
      expect(tookSentence('notKeyed', 'Nothing moved.', movedOn)).toBe('Nothing moved.');
    }
  });
});
