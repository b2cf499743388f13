import { describe, expect, it } from 'vitest';
import { carry, type CarriedTool, type CarryState } from './carry.ts';
import { strikes } from './clearance.ts';
import { changerLayout } from './layout.ts';

/** Pockets to call from one arrangement to another: the fewest of all that may be made, by trying every one; null when none does. */
function fewestOf(
  { shape, pockets, spindle }: CarryState,
  wanted: readonly (number | null)[],
): number | null {
  const spots = changerLayout(shape);
  const tools = [spindle, ...pockets.map((each) => each.content)];
  const known = new Map(tools.flatMap((tool) => (tool ? [[tool.tool, tool] as const] : [])));
  const apart = (a: number, b: number) =>
    Math.hypot(spots[a - 1]!.x - spots[b - 1]!.x, spots[a - 1]!.y - spots[b - 1]!.y);
  const may = (stand: readonly (number | null)[], pocket: number) => {
    const held = stand[0] === null ? null : known.get(stand[0]!)!;
    // what the changer must not take stays where it is
    if (stand[pocket] !== null && known.get(stand[pocket]!)!.noArm) return false;
    if (held?.noArm) return false;
    if (held === null) return stand[pocket] !== null;
    if (held.home !== null ? held.home !== pocket : !pockets[pocket - 1]!.usable) return false;
    return stand.every(
      (other, place) =>
        place === 0 ||
        place === pocket ||
        other === null ||
        !strikes(apart(pocket, place), held.radius, known.get(other)!.radius),
    );
  };
  let edge: (number | null)[][] = [tools.map((tool) => tool?.tool ?? null)];
  const seen = new Set(edge.map((stand) => stand.join()));
  for (let calls = 0; edge.length > 0; calls += 1) {
    if (edge.some((stand) => stand.join() === wanted.join())) return calls;
    const next: (number | null)[][] = [];
    for (const stand of edge)
      for (let pocket = 1; pocket < stand.length; pocket += 1) {
        if (!may(stand, pocket)) continue;
        const after = [...stand];
        [after[0], after[pocket]] = [stand[pocket]!, stand[0]!];
        if (seen.has(after.join())) continue;
        seen.add(after.join());
        next.push(after);
      }
    edge = next;
  }
  return null;
}

describe('one tool into another pocket, by calls that strike nothing (H5)', () => {
  it('takes the fewest calls that may be made, or there are none: every row of calls tried', () => {
    let state = 8;
    const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
    const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)]!;
    const seen = { ways: 0, round: 0, none: 0, tied: 0, byHand: 0 };
    for (let nth = 0; nth < 500; nth += 1) {
      const places = 4 + Math.floor(random() * 3);
      const radii = pick([[31], [31, 48], [25, 48, 58]]);
      const tool = (number: number, home: number | null = null): CarriedTool => ({
        tool: number,
        radius: pick(radii),
        home,
        noArm: random() < 0.1 ? { comes: false, reasons: 'it is too heavy' } : null,
      });
      const home = random() < 0.4 ? 1 + Math.floor(random() * places) : null;
      const beside = home === null ? [] : [home, (home % places) + 1, ((home + places - 2) % places) + 1];
      const pockets = Array.from({ length: places }, (_, i) => ({
        number: i + 1,
        usable: !beside.includes(i + 1),
        content: !beside.includes(i + 1) && random() < 0.6 ? tool(i + 1) : null,
      }));
      const shape = { kind: 'randomAccess', places, pitch: 80 } as const;
      const spots = changerLayout(shape);
      const struck = pockets.some((a) =>
        pockets.some(
          (b) =>
            a.number < b.number &&
            a.content &&
            b.content &&
            strikes(
              Math.hypot(
                spots[a.number - 1]!.x - spots[b.number - 1]!.x,
                spots[a.number - 1]!.y - spots[b.number - 1]!.y,
              ),
              a.content.radius,
              b.content.radius,
            ),
        ),
      );
      const usable = pockets.filter((pocket) => pocket.usable);
      const from = usable.find((pocket) => pocket.content);
      const to = usable.find((pocket) => pocket !== from);
      if (struck || !from || !to) continue;
      const spindle = home !== null ? tool(99, home) : random() < 0.5 ? tool(99) : null;
      const now = [spindle?.tool ?? null, ...pockets.map((pocket) => pocket.content?.tool ?? null)];
      const wanted = [...now];
      [wanted[from.number], wanted[to.number]] = [now[to.number]!, now[from.number]!];
      const asked: CarryState = { shape, pockets, spindle, at: null };
      const answer = carry(asked, wanted);
      const fewest = fewestOf(asked, wanted);
      expect(answer.ok ? answer.calls.length : null, `case ${nth}`).toBe(fewest);
      expect(answer.proven).toBe(true);
      seen.ways += Number(answer.ok);
      seen.none += Number(!answer.ok);
      seen.tied += Number(answer.ok && home !== null);
      seen.byHand += Number(
        answer.ok && [spindle, ...pockets.map(({ content }) => content)].some((each) => each?.noArm),
      );
      seen.round += Number(answer.ok && answer.calls.length > 4);
    }
    expect(Math.min(...Object.values(seen))).toBeGreaterThan(10);
  });
});
