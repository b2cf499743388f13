import { inUnit, type Length } from '../units/length.ts';
import type { ToolCall } from './reading.ts';

/** Speeds that differ by more than this, one over the other, are not one speed. */
export const ONE_SPEED = 1.05;

/**
 * The cutting speed at which a program runs a tool: set as such, or by the revolutions of a cutter of known diameter.
 *
 * @param calls of one tool in one program
 * @param diameter of the tool; on a lathe it turns nothing but what lies on the centre line
 * @returns metres a minute; null where it cannot be told: revolutions of a part whose diameter changes, no speed, or several speeds
 */
export function cuttingSpeed(
  calls: readonly ToolCall[],
  diameter: Length,
  machine: 'mill' | 'lathe',
): number | null {
  let [least, most] = [Infinity, 0];
  for (const call of calls) {
    if (call.cutMilliseconds <= 0) continue;
    const turns = machine === 'mill' || call.cutSide?.onCentre === true;
    const perRevolution = (Math.PI * inUnit(diameter, 'mm')) / 1000;
    const speeds =
      call.surfaceSpeed ??
      (turns && diameter > 0 && call.speeds
        ? { least: call.speeds.least * perRevolution, most: call.speeds.most * perRevolution }
        : null);
    if (!speeds) return null;
    least = Math.min(least, speeds.least);
    most = Math.max(most, speeds.most);
  }
  return least > 0 && most > 0 && most <= least * ONE_SPEED ? Math.sqrt(least * most) : null;
}
