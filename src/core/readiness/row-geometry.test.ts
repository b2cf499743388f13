import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nanometres } from '../units/length.ts';
import { leftGeometry, type GeometryWrite, type LeftGeometry, type PutBackRegister } from './row-geometry.ts';

const KINDS = ['xGeometry', 'zGeometry'] as const;
type Kind = (typeof KINDS)[number];
/** How far the second part lies towards the chuck. */
const SHIFT = { xGeometry: 0, zGeometry: -95_758_000 };

type Act =
  | { do: 'load'; tool: number }
  | { do: 'measure'; kinds: readonly Kind[] }
  | { do: 'slip'; by: number }
  | { do: 'copy' }
  | { do: 'touchSecond' }
  | { do: 'rebase'; by: number }
  | { do: 'keep' }
  | { do: 'putBack' };

/** A turret station as it is: what stands in it, and what rows 2 and 22 of the control hold. */
function station(tools: readonly Record<Kind, number>[], acts: readonly Act[]) {
  const tips = tools.map((tool) => ({ ...tool }));
  const writes: (GeometryWrite & { how: 'measured' | 'found' | 'putBack' })[] = [];
  let kept: Map<string, number> | null = null;
  const held = new Map<string, number>();
  let [standing, since, entry, base] = [tips[0]!, 0, 0, 0];
  const value = (row: number, kind: Kind) => held.get(`${row} ${kind}`) ?? 0;
  const truth = (row: number, kind: Kind) => standing[kind] + base + (row === 22 ? SHIFT[kind] : 0);
  const write = (
    row: number,
    kind: Kind,
    to: number,
    copiedFrom: number | null,
    how: 'measured' | 'found' | 'putBack' = 'found',
  ) => {
    const moved = nanometres(to - value(row, kind));
    writes.push({ entry: ++entry, row, kind, moved, copiedFrom, putBack: how === 'putBack', how });
    held.set(`${row} ${kind}`, to);
  };
  // what is read back as it was makes no entry; a measurement always does
  const differing = (row: number, kind: Kind, to: number, copiedFrom: number | null) => {
    if (to !== value(row, kind)) write(row, kind, to, copiedFrom);
  };
  for (const act of acts)
    if (act.do === 'load') [standing, since] = [tips[act.tool]!, ++entry];
    else if (act.do === 'measure')
      for (const kind of act.kinds) write(2, kind, truth(2, kind), null, 'measured');
    else if (act.do === 'copy')
      for (const kind of KINDS) differing(22, kind, value(2, kind) + SHIFT[kind], 2);
    else if (act.do === 'touchSecond') for (const kind of KINDS) differing(22, kind, truth(22, kind), null);
    else if (act.do === 'keep') kept = new Map(held);
    else if (act.do === 'putBack') {
      for (const [row, kind] of [2, 22].flatMap((row) => KINDS.map((kind) => [row, kind] as const))) {
        const to = kept?.get(`${row} ${kind}`);
        if (to !== undefined && to !== value(row, kind)) write(row, kind, to, null, 'putBack');
      }
    } else if (act.do === 'rebase') {
      base += act.by;
      // of another plane
      kept = null;
      for (const [row, kind] of [2, 22].flatMap((row) => KINDS.map((kind) => [row, kind] as const)))
        held.set(`${row} ${kind}`, value(row, kind) + act.by);
    } else if (
      KINDS.every((kind) =>
        writes.some((each) => each.kind === kind && each.how === 'measured' && each.entry > since),
      )
    ) {
      // it is pushed into its holder once it was measured, and somebody measures it again
      for (const kind of KINDS) standing[kind] += act.by;
      for (const kind of KINDS) write(2, kind, truth(2, kind), null, 'measured');
    }
  const right = (row: number, kind: Kind) => value(row, kind) === truth(row, kind);
  return { left: leftGeometry([2, 22], KINDS, writes, since, putBackOf(writes)), right, writes, since };
}

/** Registers whose last write is a kept table's. */
function putBackOf(writes: readonly (GeometryWrite & { how: string })[]): PutBackRegister[] {
  return [2, 22].flatMap((row) =>
    KINDS.flatMap((kind): PutBackRegister[] => {
      const own = writes.filter((each) => each.row === row && each.kind === kind);
      const from = own.findLastIndex(({ how }) => how !== 'putBack') + 1;
      const measured = own.findLastIndex(({ how }) => how === 'measured');
      const sum = (list: typeof own) => nanometres(list.reduce((all, { moved }) => all + moved, 0));
      return from === own.length || sum(own.slice(from)) === 0
        ? []
        : [
            {
              row,
              kind,
              entry: own.at(-1)!.entry,
              value: nanometres(0),
              moved: sum(own.slice(from)),
              measured: own[measured]?.entry ?? null,
              sinceMeasured: sum(own.slice(measured + 1)),
            },
          ];
    }),
  );
}

const told = (left: readonly LeftGeometry[], row: number, kind: Kind) =>
  left.find((each) => each.row === row && each.kind === kind);
const tool = fc.record({
  xGeometry: fc.integer({ min: -3, max: 3 }),
  zGeometry: fc.integer({ min: -3, max: 3 }),
});
const START: Act[] = [{ do: 'measure', kinds: KINDS }, { do: 'copy' }];
const act = (slips: boolean): fc.Arbitrary<Act> =>
  fc.oneof(
    fc.record({ do: fc.constant('load' as const), tool: fc.integer({ min: 0, max: 2 }) }),
    fc.record({
      do: fc.constant('measure' as const),
      kinds: fc.constantFrom<readonly Kind[]>(KINDS, ['xGeometry'], ['zGeometry']),
    }),
    fc.constant({ do: 'copy' as const }),
    fc.constant({ do: 'touchSecond' as const }),
    fc.record({ do: fc.constant('rebase' as const), by: fc.integer({ min: -5, max: 5 }) }),
    ...(slips
      ? [
          fc.constant({ do: 'keep' as const }),
          fc.constant({ do: 'putBack' as const }),
          fc.record({ do: fc.constant('slip' as const), by: fc.integer({ min: -2, max: 2 }) }),
        ]
      : []),
  );

describe('geometry that an earlier tool left in a row (common practice, no source)', () => {
  it('a row that is not right is always told, whatever was loaded, measured, copied and re-based', () => {
    fc.assert(
      fc.property(
        fc.array(tool, { minLength: 3, maxLength: 3 }),
        fc.array(act(true), { maxLength: 14 }),
        (tools, acts) => {
          const { left, right } = station(tools, [...START, ...acts]);
          for (const row of [2, 22])
            for (const kind of KINDS) if (!right(row, kind)) expect(told(left, row, kind)).toBeDefined();
        },
      ),
      { numRuns: 4000 },
    );
  });
  it('of a tool that was measured and did not slip nothing is told in vain', () => {
    fc.assert(
      fc.property(
        fc.array(tool, { minLength: 3, maxLength: 3 }),
        fc.array(act(false), { maxLength: 14 }),
        (tools, acts) => {
          const { left, right, writes, since } = station(tools, [...START, ...acts]);
          for (const kind of KINDS) {
            const set = (row: number) =>
              writes.some(
                (each) =>
                  each.kind === kind && each.entry > since && each.row === row && each.copiedFrom === null,
              );
            const at = told(left, 22, kind);
            if (set(2)) expect(told(left, 2, kind)).toBeUndefined();
            if (set(2) && at && at.why !== 'before') expect(right(22, kind)).toBe(false);
            if (set(2) && at?.why === 'before') expect(set(22)).toBe(false);
          }
        },
      ),
      { numRuns: 4000 },
    );
  });
  it('says what was set instead, and by how much', () => {
    const tools = [
      { xGeometry: 9, zGeometry: 1000 },
      { xGeometry: 9, zGeometry: 144_000 },
    ];
    const { left } = station(tools, [...START, { do: 'load', tool: 1 }, { do: 'measure', kinds: KINDS }]);
    expect(left).toEqual([{ row: 22, kind: 'zGeometry', why: 'copy', by: { row: 2, moved: 143_000 } }]);
  });
  it('of a second row that was touched off on its own, the tool before is named', () => {
    const { left } = station(
      [
        { xGeometry: 5, zGeometry: 5 },
        { xGeometry: 7, zGeometry: 5 },
      ],
      [
        { do: 'measure', kinds: KINDS },
        { do: 'touchSecond' },
        { do: 'load', tool: 1 },
        { do: 'measure', kinds: KINDS },
      ],
    );
    expect(left).toEqual([
      { row: 22, kind: 'xGeometry', why: 'before', by: { row: 2, moved: 2 } },
      { row: 22, kind: 'zGeometry', why: 'before', by: { row: 2, moved: 0 } },
    ]);
  });
});
