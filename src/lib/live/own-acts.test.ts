import { describe, expect, it, vi } from 'vitest';
import { beginAct, isOwn, whenMissed } from './own-acts';

const KEY = '0a1b2c3d-0000-4000-8000-000000000000';
const ACT = '0a1b2c3d';

describe('what is told of an act of this page', () => {
  it('is known as its own before its answer and after it, where the answer brought the data', () => {
    const missed = vi.fn();
    whenMissed(missed);
    const answered = beginAct(KEY);
    expect(isOwn(ACT)).toBe(true);
    answered(true);
    expect(isOwn(ACT)).toBe(true);
    expect(missed).not.toHaveBeenCalled();
  });

  it('is of somebody else without an act, or with another', () => {
    beginAct(KEY)(true);
    for (const act of [null, undefined, '', '0a1b2c3e']) expect(isOwn(act)).toBe(false);
  });

  it('that was told while it was on its way, and whose answer was lost, is asked for', () => {
    const missed = vi.fn();
    whenMissed(missed);
    const answered = beginAct(KEY);
    expect(isOwn(ACT)).toBe(true);
    answered(false);
    expect(missed).toHaveBeenCalledOnce();
    // what is told of it later is heard as that of anybody
    expect(isOwn(ACT)).toBe(false);
    // nothing was told of one that was refused: nothing is asked for
    beginAct('ffffffff-0')(false);
    expect(missed).toHaveBeenCalledOnce();
  });

  it('is forgotten in the end', () => {
    beginAct(KEY)(true);
    for (let i = 0; i < 60; i += 1) beginAct(`${String(i).padStart(8, '0')}-`)(true);
    expect(isOwn(ACT)).toBe(false);
  });
});
