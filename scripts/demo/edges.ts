import type { Person } from '../../src/core/people/roles.ts';
import type { EdgeEnd } from '../../src/core/life/edge-lives.ts';
import { assembliesByNumber } from '../../src/server/assemblies.ts';
import { pool } from '../../src/server/db.ts';
import { keepEdgeEnd } from '../../src/server/edge-ends.ts';

/** How edges of ten tools really wear: shape, and scale over their limit; the share of ends that come without a warning. Nobody else knows. */
const TRUTH = [
  ['A-105', 38, 3.2, 1.7, 0.3],
  ['A-106', 34, 2.1, 1.25, 0.75],
  ['A-107', 30, 3.6, 0.95, 0.55],
  ['A-109', 33, 3.6, 0.72, 0.85],
  ['A-110', 27, 2.2, 1.5, 0.8],
  ['A-114', 24, 4, 1.3, 0.1],
  ['A-102', 29, 2.8, 1.05, 0.35],
  ['E-504', 40, 3, 2.4, 0.3],
  ['E-505', 26, 2.8, 1.9, 0.5],
  ['E-506', 22, 2.2, 1.6, 0.8],
] as const;
const DAYS = 96;
/** Before them one of these tools was tried faster, which did not pay: how many edges, and how their lives fell with speed. */
const TRIED = { number: 'A-109', count: 12, speed: 45.4, program: 'O2205', material: 'duplex stainless', steepness: 3.4, days: 7 } as const;
/** One of them cut a harder material for a while, and cuts a softer one since: how many edges, and what share of the others' lives they had. */
const HARDER = { number: 'A-106', count: 16, program: 'O2205', material: 'duplex stainless', lasts: 0.35, days: 24, since: { program: 'O2301', material: 'bronze' } } as const;
/** A hole of it, milliseconds in cut at its speed of now, metres a minute. */
const [HOLE, SPEED] = [12_900, 37.4];

/** The same numbers at every start, from 0 up to 1. */
function row(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    return (state + 1) / 2_147_483_649;
  };
}

/** Three months in which edges were changed at their limits, and some ended before. */
export async function edgeHistory(
  people: readonly Person[],
  at: (hoursAgo: number) => Promise<unknown>,
): Promise<void> {
  await edgesInHarder(people, at);
  const next = row(77_003);
  const tried = TRUTH.find(([number]) => number === TRIED.number)!;
  await edgesLike(tried, TRIED.count, TRIED.speed, [DAYS + TRIED.days, DAYS + 1]);
  for (const truth of TRUTH)
    await edgesLike(truth, truth[1], truth[0] === TRIED.number ? SPEED : null, [DAYS, 3]);

  async function edgesLike(
    [number, , shape, far, suddenly]: (typeof TRUTH)[number],
    count: number,
    speed: number | null,
    [from, to]: readonly [number, number],
  ): Promise<void> {
    const [assembly] = await assembliesByNumber(pool(), [number]);
    const { fullLife, basis } = assembly!;
    const whole = (life: number) =>
      basis === 'minutes' ? Math.round(life / 1000) * 1000 : Math.max(1, Math.round(life));
    // holes go faster and edges last shorter
    const faster = speed === null ? 1 : (SPEED / speed) ** (TRIED.steepness - 1);
    for (let i = 0; i < count; i += 1) {
      await at(24 * (from - ((from - to) * (i + next() * 0.8)) / count));
      const lasts = fullLife! * far * faster * (-Math.log(next())) ** (1 / shape);
      const share = next();
      const own = lasts < fullLife!;
      const end: EdgeEnd = own
        ? share < suddenly / 2
          ? 'broken'
          : share < suddenly
            ? 'chipped'
            : 'worn'
        : share < 0.1
          ? 'early'
          : share < 0.17
            ? 'unknown'
            : 'good';
      const used = whole(own ? lasts : end === 'early' ? fullLife! * (0.4 + 0.5 * next()) : fullLife!);
      await keepEdgeEnd(
        pool(),
        people[i % people.length]!.id,
        { ...assembly!, remaining: fullLife! - used },
        {
          end,
          sign: end === 'worn' ? (['size', 'finish', 'burr', 'load'] as const)[Math.floor(next() * 4)]! : null,
          flank: null,
        },
        {
          ...(speed !== null
            ? { program: TRIED.program, material: TRIED.material }
            : number === HARDER.number
              ? HARDER.since
              : { program: null, material: null }),
          speed,
          cutMilliseconds: speed === null ? null : Math.round((used * HOLE * SPEED) / speed),
        },
      );
    }
  }
}

/** Worn early, and told so: what is cut since is softer. */
async function edgesInHarder(
  people: readonly Person[],
  at: (hoursAgo: number) => Promise<unknown>,
): Promise<void> {
  const next = row(41_011);
  const [, , shape, far] = TRUTH.find(([number]) => number === HARDER.number)!;
  const [assembly] = await assembliesByNumber(pool(), [HARDER.number]);
  for (let i = 0; i < HARDER.count; i += 1) {
    await at(24 * (DAYS + HARDER.days - ((HARDER.days - 1) * (i + next() * 0.8)) / HARDER.count));
    const lasts = assembly!.fullLife! * far * HARDER.lasts * (-Math.log(next())) ** (1 / shape);
    await keepEdgeEnd(
      pool(),
      people[i % people.length]!.id,
      { ...assembly!, remaining: Math.max(0, assembly!.fullLife! - Math.max(1, Math.round(lasts))) },
      { end: next() < 0.3 ? 'broken' : 'worn', sign: null, flank: null },
      { program: HARDER.program, material: HARDER.material, speed: null, cutMilliseconds: null },
    );
  }
}
