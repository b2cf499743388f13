import type { AssemblyKind } from '../assembly/silhouette.ts';
import { cuttingSpeed } from '../program/cutting-speed.ts';
import type { ToolCall } from '../program/reading.ts';
import { inUnit } from '../units/length.ts';
import type { Finder, Finding } from './question.ts';

/**
 * The most a cutter takes, as a part of its diameter: chip per tooth of a mill, feed a revolution of a drill or reamer. What is cut with
 * in any material lies well below (common practice, no source): beyond it a digit or a unit is wrong.
 */
const MOST: Partial<Record<AssemblyKind, { part: number; perTooth: boolean }>> = {
  endMill: { part: 0.05, perTooth: true },
  ballMill: { part: 0.05, perTooth: true },
  chamferMill: { part: 0.08, perTooth: true },
  drill: { part: 0.08, perTooth: false },
  spotDrill: { part: 0.08, perTooth: false },
  reamer: { part: 0.2, perTooth: false },
};
/** Edges that tell what is usual, and how far off the usual somebody looks. */
const ENOUGH = 5;
const FAR = 1.5;

/** Feed per tooth or cutting speed far outside what the tool usually takes (H17). */
export const cuttingData: Finder = (called, { machine }) => {
  const { tool, calls, loaded } = called;
  if (!loaded?.diameter) return [];
  const found: Finding[] = machine.kind === 'mill' ? calls.flatMap((call) => chips(call, loaded)) : [];
  const speed = cuttingSpeed(calls, loaded.diameter, machine.kind);
  const { usual } = loaded;
  if (
    speed !== null &&
    usual &&
    usual.edges >= ENOUGH &&
    (speed > usual.speed * FAR || speed < usual.speed / FAR)
  )
    found.push({
      weight: 'look',
      code: 'cuttingData',
      tool,
      line: calls[0]!.line,
      sentence: `T${tool} runs at ${Math.round(speed)} m/min; ${usual.edges} edges of it in this material ran at ${Math.round(usual.speed)}.`,
      remedy:
        'Ask the programmer whether it is meant: what is known of its life was learnt at the other speed.',
    });
  return found;
};

function chips(call: ToolCall, loaded: NonNullable<Parameters<Finder>[0]['loaded']>): Finding[] {
  const most = loaded.kind && MOST[loaded.kind];
  const feed = call.feeds.find(({ per }) => per === 'minute')?.most ?? 0;
  const perRevolution = call.feeds.find(({ per }) => per === 'revolution')?.most ?? null;
  const speed = Math.max(call.speeds?.most ?? 0, call.topSpeed ?? 0);
  if (!most || (perRevolution === null && (feed <= 0 || speed <= 0))) return [];
  const teeth = most.perTooth ? Math.max(1, loaded.teeth ?? 1) : 1;
  // the least it comes to: the highest feed at the highest speed
  const chip = (perRevolution ?? feed / speed) / teeth;
  const diameter = inUnit(loaded.diameter!, 'mm');
  if (chip <= most.part * diameter) return [];
  const what = most.perTooth ? 'a tooth' : 'a revolution';
  return [
    {
      weight: 'look',
      code: 'cuttingData',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} feeds at least ${chip.toFixed(2)} mm ${what}${most.perTooth ? ` with ${teeth} teeth` : ''}: more than a ${diameter.toFixed(1)} mm ${most.perTooth ? 'cutter' : 'tool'} takes in any material.`,
      remedy: 'A digit too many in F, or an S that is missing one: ask the programmer.',
    },
  ];
}
