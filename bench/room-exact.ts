import { makeRoom } from '../src/core/changer/make-room.ts';
import type { RoomState } from '../src/core/changer/room.ts';

/** The fewest calls that empty a window and the spindle, by trying every call from every arrangement: exact, and slow. */
function byTryingAll(state: RoomState, window: readonly number[]): number {
  const start = [state.spindle?.tool ?? 0, ...state.pockets.map((pocket) => pocket.content?.tool ?? 0)];
  const good = (at: readonly number[]) => at[0] === 0 && window.every((pocket) => at[pocket] === 0);
  let front = [start];
  const seen = new Set([start.join()]);
  for (let calls = 0; front.length > 0; calls += 1) {
    if (front.some(good)) return calls;
    const next: number[][] = [];
    for (const at of front)
      for (let pocket = 1; pocket < at.length; pocket += 1) {
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

/** Making room against trying every call, on the same small magazines. */
export function roomAgainstExact(): { what: string; ours: string; reference: string; ratio: string }[] {
  return [7, 8, 9].map((places) => {
    const state: RoomState = {
      shape: { kind: 'randomAccess', places, pitch: 80 },
      pockets: Array.from({ length: places }, (_, i) => ({
        number: i + 1,
        usable: true,
        content: i < places - 3 ? { tool: i + 1, heavy: false, radius: 30, home: null } : null,
      })),
      spindle: null,
      at: 1,
    };
    const window = [2, 3, 4];
    const times = { arm: 1, perPocket: 0.2, heavyFactor: 2, preStaging: true };
    let began = performance.now();
    const answer = makeRoom(state, { centre: 3, span: 3, spindleEmpty: true }, times);
    const ours = performance.now() - began;
    if (!answer.ok) throw new Error(answer.reason);
    began = performance.now();
    const exact = byTryingAll(state, window);
    const took = performance.now() - began;
    return {
      what: `room for a wide tool in ${places} pockets, three empty`,
      ours: `${answer.plan.calls.length} calls in ${ours.toFixed(2)} ms`,
      reference: `trying every call: ${exact} calls in ${took.toFixed(1)} ms`,
      ratio: `${answer.plan.calls.length / exact} × the calls, ${(ours / took).toFixed(4)} × the time`,
    };
  });
}
