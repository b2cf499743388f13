import { describe, expect, it } from 'vitest';
import { saysLeftHand } from './hand.ts';

describe('left-hand tools by their words (common practice, no source)', () => {
  it.each([
    'DRILL 6.8 LH',
    'Tap M8 L.H.',
    'tap m8 l.h',
    'lh tap',
    'Left-hand drill 5',
    'left hand reamer',
    'LEFTHAND DRILL',
    'left-handed tap',
  ])('%s is', (words) => expect(saysLeftHand(words)).toBe(true));
  it.each(['DRILL 6.8', 'Right-hand drill', 'ALHAMBRA', 'MLH-12', 'L H', 'left of the vice', 'leftxhand'])(
    '%s is not',
    (words) => expect(saysLeftHand(words)).toBe(false),
  );
});
