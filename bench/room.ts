import { LEAST_GAP } from '../src/core/changer/clearance.ts';
import { changerLayout } from '../src/core/changer/layout.ts';
import { makeRoom } from '../src/core/changer/make-room.ts';
import { fewestCalls, rearrange } from '../src/core/changer/rearrange.ts';
import type { RoomState, RoomTool } from '../src/core/changer/room.ts';
import { timed, type Row } from './row.ts';

const TIMES = { arm: 2, perPocket: 0.2, heavyFactor: 1.5, preStaging: true };
const tool = (number: number, radius = 30, heavy = false): RoomTool => ({
  tool: number,
  heavy,
  radius,
  home: null,
});
const magazine = (places: number, content: (pocket: number) => RoomTool | null): RoomState => ({
  shape: { kind: 'randomAccess', places, pitch: 80 },
  pockets: Array.from({ length: places }, (_, i) => ({
    number: i + 1,
    usable: true,
    content: content(i + 1),
  })),
  spindle: null,
  at: 1,
});

/** The fewest calls that empty a window and the spindle, by trying every call that strikes nothing: exact, and slow. */
function byTryingAll(state: RoomState, window: readonly number[]): number {
  const spots = changerLayout(state.shape);
  const radius = new Map(
    state.pockets.flatMap(({ content }) => (content ? [[content.tool, content.radius]] : [])),
  );
  const strikes = (at: readonly number[], pocket: number) =>
    at.some((other, number) => {
      if (number === 0 || number === pocket || other === 0) return false;
      const [a, b] = [spots[number - 1]!, spots[pocket - 1]!];
      return Math.hypot(a.x - b.x, a.y - b.y) - radius.get(other)! - radius.get(at[0]!)! < LEAST_GAP - 1e-6;
    });
  const start = [0, ...state.pockets.map((pocket) => pocket.content?.tool ?? 0)];
  const good = (at: readonly number[]) => at[0] === 0 && window.every((pocket) => at[pocket] === 0);
  let front = [start];
  const seen = new Set([start.join()]);
  for (let calls = 0; front.length > 0; calls += 1) {
    if (front.some(good)) return calls;
    const next: number[][] = [];
    for (const at of front)
      for (let pocket = 1; pocket < at.length; pocket += 1) {
        if (at[0] !== 0 && strikes(at, pocket)) continue;
        const after = [...at];
        [after[0], after[pocket]] = [at[pocket]!, at[0]!];
        const key = after.join();
        if (!seen.has(key)) {
          seen.add(key);
          next.push(after);
        }
      }
    front = next;
  }
  return Infinity;
}

/** Making room against trying every call, on the same small magazines, slim tools and a broad one among them. */
function againstExact(): Row[] {
  return ([7, 8, 9] as const).flatMap((places) =>
    [30, 55].map((broad) => {
      const state = magazine(places, (pocket) =>
        pocket <= places - 3 ? tool(pocket, pocket === 3 ? broad : 22) : null,
      );
      const wish = { centre: 3, span: 3, spindleEmpty: true };
      const answer = makeRoom(state, wish, TIMES);
      if (!answer.ok) throw new Error(answer.reason);
      const ours = timed(() => void makeRoom(state, wish, TIMES));
      const began = performance.now();
      const exact = byTryingAll(state, [2, 3, 4]);
      const took = performance.now() - began;
      return {
        what: `room for a wide tool in ${places} pockets, three empty${broad > 30 ? ', a broad tool in the way' : ''}`,
        ours: `${answer.plan.calls.length} calls in ${ours.toFixed(2)} ms`,
        reference: `trying every call: ${exact} calls in ${took.toFixed(1)} ms`,
        ratio: `${answer.plan.calls.length / exact} × the calls, ${(ours / took).toFixed(4)} × the time`,
      };
    }),
  );
}

/** From ten pockets to 240: the best of all windows, the whole magazine turned round, and a broad tool that clears nowhere. */
function growth(): Row[] {
  return [10, 30, 60, 120, 240].map((places) => {
    const state: RoomState = {
      ...magazine(places, (pocket) =>
        ((pocket - 1) * 7) % 5 === 0
          ? null
          : tool(pocket, 25 + ((pocket - 1) % 4) * 5, (pocket - 1) % 6 === 0),
      ),
      at: 3,
      spindle: tool(999),
    };
    const took = [1, 3, 5].map((span) =>
      timed(() => void makeRoom(state, { centre: null, span, spindleEmpty: true }, TIMES)),
    );
    const one = timed(() => void makeRoom(state, { centre: 5, span: 3, spindleEmpty: true }, TIMES));
    const now = [999, ...state.pockets.map((pocket) => pocket.content?.tool ?? null)];
    const wanted = [...now].reverse();
    const tight = magazine(places, (pocket) =>
      pocket > 3 && pocket % 3 === 1 ? null : tool(pocket, pocket === 2 ? 60 : 30),
    );
    const asked = { centre: 2, span: 1, spindleEmpty: true };
    const detour = makeRoom(tight, asked, TIMES);
    return {
      what: `making room, the best of all windows of ${places} pockets; turning the whole magazine round; a broad tool that clears nowhere`,
      ours: `one ${took[0]!.toFixed(2)} ms, three ${took[1]!.toFixed(1)} ms, five ${took[2]!.toFixed(1)} ms; turned round in ${fewestCalls(now, wanted)} calls, ${timed(() => void rearrange(now, wanted)).toFixed(2)} ms; the broad one ${detour.ok ? `${detour.plan.calls.length} calls${detour.proven ? ', proven' : ''}` : 'not'} in ${timed(() => void makeRoom(tight, asked, TIMES)).toFixed(2)} ms`,
      reference: `one window, three: ${one.toFixed(2)} ms`,
      ratio: `${(took[1]! / one).toFixed(1)} × for ${places} windows`,
    };
  });
}

export const rooms = (): Row[] => [...againstExact(), ...growth()];
