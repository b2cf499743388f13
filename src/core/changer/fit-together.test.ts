import { type ChangerKind } from './traits.ts';
import { describe, expect, it } from 'vitest';
import { strikes } from './clearance.ts';
import { fitTogether, type FitGround, type FitTool } from './fit-together.ts';
import { changerLayout, type ChangerShape } from './layout.ts';

const ground = (kind: ChangerKind, places: number, over: Partial<FitGround> = {}): FitGround => ({
  shape: { kind, places, pitch: 80 },
  usable: Array.from({ length: places }, (_, i) => i + 1),
  fixed: [],
  ...over,
});
const slim = (over: Partial<FitTool> = {}): FitTool => ({ radius: 31, wide: false, barred: [], ...over });
const wide: FitTool = slim({ radius: 60, wide: true });
const many = (count: number, tool: FitTool = slim()) => Array.from({ length: count }, () => tool);
const fits = (where: FitGround, tools: readonly FitTool[]) => fitTogether(where, tools).fits;

describe('what fits together (H5)', () => {
  it('one wide tool takes three pockets, two that share their gap take five', () => {
    expect(fits(ground('randomAccess', 10), [wide, ...many(7)])).toBe(true);
    expect(fitTogether(ground('randomAccess', 10), [wide, ...many(8)])).toEqual({
      fits: false,
      proven: true,
    });
    expect(fits(ground('randomAccess', 10), [wide, wide, ...many(5)])).toBe(true);
    expect(fits(ground('randomAccess', 10), [wide, wide, ...many(6)])).toBe(false);
  });
  it('all round a ring wide tools share every gap', () => {
    expect(fits(ground('randomAccess', 10), many(5, wide))).toBe(true);
    expect(fits(ground('randomAccess', 10), many(6, wide))).toBe(false);
  });
  it('a pocket out of service may be the gap beside a wide tool: then it costs nothing', () => {
    const broken = ground('randomAccess', 10, { usable: [1, 2, 3, 4, 6, 7, 8, 9, 10] });
    // nine pockets may be used; the wide tool in 4 or 6 takes one of them besides its own
    expect(fits(broken, [wide, ...many(7)])).toBe(true);
    expect(fits(broken, [wide, ...many(8)])).toBe(false);
  });
  it('at the end of a rack a wide tool keeps one pocket empty', () => {
    expect(fits(ground('rack', 5), [wide, ...many(3)])).toBe(true);
    expect(fits(ground('rack', 5), [wide, ...many(4)])).toBe(false);
  });
  it('tools that are not wide but strike each other do not stand side by side', () => {
    expect(fits(ground('fixedCarousel', 8), many(4, slim({ radius: 45 })))).toBe(true);
    expect(fits(ground('fixedCarousel', 8), many(5, slim({ radius: 45 })))).toBe(false);
  });
  it('tools that just touch do stand side by side, wherever on the ring', () => {
    const pair = [slim({ radius: 50 }), slim({ radius: 30 })];
    for (let first = 1; first <= 20; first += 1)
      expect(fits(ground('randomAccess', 20, { usable: [first, (first % 20) + 1] }), pair)).toBe(true);
  });
  it('a cell too small for a holder is none of its pockets', () => {
    const tray = ground('tray', 6);
    expect(fits(tray, [slim({ barred: [1, 2, 3, 4, 5] }), slim()])).toBe(true);
    expect(fits(tray, many(2, slim({ barred: [1, 2, 3, 4, 5] })))).toBe(false);
  });
  it('what stays keeps its neighbours out', () => {
    const kept = { fixed: [{ pocket: 3, radius: 60, wide: true }] };
    expect(fits(ground('randomAccess', 6, kept), many(3))).toBe(true);
    expect(fits(ground('randomAccess', 6, kept), many(4))).toBe(false);
  });
  it('agrees with trying every placing on small changers of each kind', () => {
    let state = 77;
    const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
    const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
    let [some, none] = [0, 0];
    for (let nth = 0; nth < 600; nth += 1) {
      const kind = pick(['randomAccess', 'rack', 'tray', 'fixedCarousel'] as const);
      const places = 5 + Math.floor(random() * 4);
      const usable = Array.from({ length: places }, (_, i) => i + 1).filter(() => random() < 0.85);
      const tools = Array.from({ length: 2 + Math.floor(random() * 4) }, () =>
        slim({
          radius: pick([25, 31, 45, 50, 55]),
          wide: random() < 0.25,
          barred: kind === 'tray' && random() < 0.4 ? [pick(usable.length > 0 ? usable : [1])] : [],
        }),
      );
      const fixed =
        random() < 0.3
          ? [{ pocket: 1 + Math.floor(random() * places), radius: 31, wide: random() < 0.3 }]
          : [];
      const where = ground(kind, places, { usable, fixed });
      const answer = fitTogether(where, tools);
      const exists = someWay(where, tools);
      expect(answer.fits, `case ${nth}`).toBe(exists);
      if (answer.fits) {
        expect(stands(where, tools, answer.pockets), `case ${nth}`).toBe(true);
        some += 1;
      } else {
        expect(answer.proven).toBe(true);
        none += 1;
      }
    }
    expect(Math.min(some, none)).toBeGreaterThan(100);
  });
  it('on sixty pockets a full ring with ten wide tools is proven either way', () => {
    // ten that share all their gaps take 21 pockets: 39 are left
    const broad = many(10, slim({ radius: 70, wide: true }));
    expect(fits(ground('chain', 60), [...broad, ...many(39)])).toBe(true);
    expect(fitTogether(ground('chain', 60), [...broad, ...many(40)])).toEqual({ fits: false, proven: true });
  });
});

function distances(shape: ChangerShape) {
  const spots = changerLayout(shape);
  return (a: number, b: number) =>
    Math.hypot(spots[a - 1]!.x - spots[b - 1]!.x, spots[a - 1]!.y - spots[b - 1]!.y);
}

/** Whether a placing breaks no rule, told pair by pair. */
function stands({ shape, fixed }: FitGround, tools: readonly FitTool[], pockets: readonly number[]): boolean {
  const apart = distances(shape);
  const all = [...tools.map((tool, i) => ({ ...tool, pocket: pockets[i]! })), ...fixed];
  if (new Set(all.map((each) => each.pocket)).size !== all.length) return false;
  return all.every((a, i) =>
    all.slice(i + 1).every((b) => {
      const distance = apart(a.pocket, b.pocket);
      if ((a.wide || b.wide) && distance < 1.25 * shape.pitch) return false;
      return shape.kind === 'turret' || !strikes(distance, a.radius, b.radius);
    }),
  );
}

function someWay(where: FitGround, tools: readonly FitTool[]): boolean {
  const pockets: number[] = [];
  const go = (): boolean => {
    if (pockets.length === tools.length) return true;
    const tool = tools[pockets.length]!;
    return where.usable.some((pocket) => {
      if (tool.barred.includes(pocket)) return false;
      pockets.push(pocket);
      const good = stands(where, tools.slice(0, pockets.length), pockets) && go();
      if (!good) pockets.pop();
      return good;
    });
  };
  return go();
}
