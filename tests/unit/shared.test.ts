import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shared } from '../../src/server/shared.ts';

const turns = async (count: number) => {
  for (let i = 0; i < count; i += 1) await Promise.resolve();
};

describe('what many ask for at once', () => {
  it('is never older than the question, and is read far less often than asked', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(
          fc.record({
            wait: fc.integer({ min: 0, max: 12 }),
            key: fc.constantFrom('a', 'b'),
            writes: fc.boolean(),
          }),
          { minLength: 1, maxLength: 60 },
        ),
        fc.integer({ min: 1, max: 15 }),
        async (people, slow) => {
          // the truth goes on counting; a reading sees what is so when it begins
          const truth: Record<string, number> = { a: 0, b: 0 };
          let reads = 0;
          const running: Record<string, number> = { a: 0, b: 0 };
          const ask = shared(
            (key: string) => key,
            async (key) => {
              reads += 1;
              running[key]! += 1;
              // one at a time of each
              expect(running[key]).toBe(1);
              const seen = truth[key]!;
              await turns(slow);
              running[key]! -= 1;
              return seen;
            },
          );
          await Promise.all(
            people.map(async ({ wait, key, writes }) => {
              await turns(wait);
              if (writes) truth[key]! += 1;
              const known = truth[key]!;
              expect(await ask(key)).toBeGreaterThanOrEqual(known);
            }),
          );
          expect(reads).toBeLessThanOrEqual(people.length);
          // nothing is kept: who asks later sees what is so then
          truth.a! += 1;
          expect(await ask('a')).toBe(truth.a);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('a hundred who ask at once are answered by two readings', async () => {
    let reads = 0;
    const ask = shared(
      () => 0,
      async () => {
        reads += 1;
        await turns(5);
      },
    );
    await Promise.all(Array.from({ length: 100 }, () => ask()));
    expect(reads).toBe(2);
  });

  it('a reading that fails fails for those who waited for it, and for nobody after', async () => {
    let reads = 0;
    const ask = shared(
      () => 0,
      async () => {
        reads += 1;
        await turns(3);
        if (reads === 1) throw new Error('away');
        return reads;
      },
    );
    const [first, second, third] = await Promise.allSettled([ask(), ask(), ask()]);
    expect(first).toMatchObject({ status: 'rejected' });
    expect(second).toMatchObject({ status: 'fulfilled', value: 2 });
    expect(third).toMatchObject({ status: 'fulfilled', value: 2 });
    expect(await ask()).toBe(3);
  });
});
