import { setTimeout as pause } from 'node:timers/promises';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Busy, gate } from '../../src/server/gate.ts';

/** Work that is done when it is told so. */
function held() {
  let finish = () => {};
  const done = new Promise<void>((resolve) => (finish = resolve));
  return { work: () => done, finish };
}

describe('a gate before what many ask for at once', () => {
  it('never lets in more than it says, lets in whoever came first, and everybody in the end', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 5 }),
        fc.array(fc.integer({ min: 0, max: 3 }), { maxLength: 30 }),
        async (atOnce, lengths) => {
          const at = gate({ atOnce, wait: 10_000, most: 100 });
          let inside = 0;
          const begun: number[] = [];
          const answers = await Promise.all(
            lengths.map((turns, i) =>
              at.through(async () => {
                begun.push(i);
                inside += 1;
                expect(inside).toBeLessThanOrEqual(atOnce);
                for (let turn = 0; turn < turns; turn += 1) await Promise.resolve();
                inside -= 1;
                return i;
              }),
            ),
          );
          expect(answers).toEqual(lengths.map((_, i) => i));
          expect(begun).toEqual(lengths.map((_, i) => i));
        },
      ),
    );
  });

  it('whoever is one too many is told at once, whoever waits too long is told then; what is under way goes on', async () => {
    const at = gate({ atOnce: 1, wait: 60, most: 1 });
    const long = held();
    const first = at.through(long.work);
    let did = false;
    const second = at.through(async () => {
      did = true;
    });
    await expect(at.through(async () => {})).rejects.toThrow(Busy);
    await expect(second).rejects.toThrow(Busy);
    long.finish();
    await expect(first).resolves.toBeUndefined();
    await pause(5);
    expect(did).toBe(false);
    expect(at.waiting()).toBe(0);
  });

  it('whoever left is not worked for, and whoever leaves in mid-work has it done', async () => {
    const at = gate({ atOnce: 1, wait: 10_000, most: 5 });
    const [long, leaving, gone] = [held(), new AbortController(), new AbortController()];
    const first = at.through(long.work, leaving.signal);
    let did = false;
    const second = at.through(async () => {
      did = true;
    }, gone.signal);
    gone.abort();
    await expect(second).rejects.toThrow(Busy);
    leaving.abort();
    long.finish();
    await expect(first).resolves.toBeUndefined();
    await expect(at.through(async () => 'done', AbortSignal.abort())).rejects.toThrow(Busy);
    expect(did).toBe(false);
  });

  it('work that fails fails for whoever asked, and holds no place', async () => {
    const at = gate({ atOnce: 1, wait: 10_000, most: 5 });
    await expect(at.through(() => Promise.reject(new Error('no')))).rejects.toThrow('no');
    await expect(at.through(async () => 1)).resolves.toBe(1);
  });
});
