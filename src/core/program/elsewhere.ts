import { inUnit, type Length } from '../units/length.ts';
import { spanOf } from './extents.ts';
import type { ProgramResult, Remark, ToolCall } from './reading.ts';

/** A machine that a program might be run on. */
export interface OtherMachine {
  name: string;
  kind: 'mill' | 'lathe';
  highestSpeed: number;
  highestTool: number;
  places: number;
  /** The last row of its offset table; 0: not known. */
  lastRow: number;
  /** How far its axes travel; null: not recorded. */
  travel: { x: Length | null; y: Length | null };
}

/** What there is for a T that the program calls. */
export interface ToolThere {
  tool: number;
  words: string;
  /** Under this T · in it under another · free to be put in · in another machine · nothing serves · nobody knows what is asked for. */
  state: 'there' | 'otherT' | 'free' | 'elsewhere' | 'none' | 'unknown';
  /** The assembly that serves, and where it is. */
  serves: string | null;
}

export interface ToChange {
  /** Null: of the program as a whole. */
  tool: number | null;
  text: string;
}

export interface Elsewhere {
  /** As it is, once its tools are in · with changes · not at all. */
  verdict: 'asItIs' | 'changed' | 'not';
  /** What speaks against it altogether. */
  against: string[];
  /** What would have to change in the program. */
  change: ToChange[];
  /** What would have to be done with tools. */
  tools: ToolThere[];
}

/**
 * Whether a program could run on another machine, and what would have to change: read by that machine's own dialect and store, held
 * against its speed, its T numbers, its places, its travel and its table. What it does to a part there (fixture, rigidity) nobody can read.
 *
 * @param here what could not be read for certain where it is at home: that is no difference
 */
export function elsewhere(
  kind: 'mill' | 'lathe',
  here: readonly Remark[],
  machine: OtherMachine,
  read: ProgramResult,
  tools: readonly ToolThere[],
): Elsewhere {
  const none = { change: [], tools: [] };
  if (machine.kind !== kind)
    return { verdict: 'not', against: [`${machine.name} is a ${machine.kind}.`], ...none };
  if (!read.ok) return { verdict: 'not', against: [read.reason], ...none };
  const { calls, remarks } = read.reading;
  const known = new Set(here.map(({ code, text }) => `${code} ${text}`));
  const change: ToChange[] = [
    ...remarks
      .filter(({ code, text }) => !known.has(`${code} ${text}`))
      .map(({ tool, line, text }) => ({ tool: tool ?? null, text: `Line ${line}: ${text}` })),
    ...[...byTool(calls).values()].flatMap((own) => ofTool(own, machine)),
  ];
  const count = new Set(calls.map(({ tool }) => tool)).size;
  const beyond = (['x', 'y'] as const).flatMap((axis) => {
    const [span, travel] = [spanOf(calls, axis), machine.travel[axis]];
    return span !== null && travel !== null && span * 1e6 > travel
      ? [
          `It goes ${span.toFixed(1)} mm in ${axis.toUpperCase()}, and ${machine.name} travels ${inUnit(travel, 'mm').toFixed(1)}.`,
        ]
      : [];
  });
  const places =
    count > machine.places
      ? [
          `It calls ${count} tools, and ${machine.name} has ${machine.places === 1 ? 'one place' : `${machine.places} places`}.`,
        ]
      : [];
  const against = [...beyond, ...places];
  return {
    verdict: against.length > 0 ? 'not' : change.length > 0 ? 'changed' : 'asItIs',
    against,
    change,
    tools: [...tools],
  };
}

function byTool(calls: readonly ToolCall[]): Map<number, ToolCall[]> {
  const found = new Map<number, ToolCall[]>();
  for (const call of calls) found.set(call.tool, [...(found.get(call.tool) ?? []), call]);
  return found;
}

function ofTool(calls: readonly ToolCall[], machine: OtherMachine): ToChange[] {
  const { tool } = calls[0]!;
  const speed = Math.max(
    ...calls.map((call) => Math.max(call.speeds?.most ?? 0, Math.round(call.topSpeed ?? 0))),
  );
  const rows = calls.flatMap((call) => [...call.lengthRows, ...call.radiusRows]);
  const beyond = machine.lastRow > 0 ? rows.find(({ row }) => row > machine.lastRow) : undefined;
  const found: ToChange[] = [];
  if (speed > machine.highestSpeed)
    found.push({ tool, text: `T${tool} asks for ${speed} rpm; ${machine.highestSpeed} is the most there.` });
  if (tool > machine.highestTool)
    found.push({ tool, text: `T${tool} is above the highest T there, ${machine.highestTool}.` });
  if (beyond)
    found.push({
      tool,
      text: `T${tool} uses row ${beyond.row} on line ${beyond.line}; the table there ends at ${machine.lastRow}.`,
    });
  if (calls.some((call) => call.lengthRows.length === 0 && call.cutMilliseconds > 0))
    found.push({ tool, text: `T${tool} has no length in force by what ${machine.name} takes for one.` });
  return found;
}

/** Best first: as it is, then by what would have to change and how many tools there are. */
export const easiestFirst = <Place extends { found: Elsewhere }>(places: readonly Place[]): Place[] => {
  const rank = ({ found }: Place) =>
    ['asItIs', 'changed', 'not'].indexOf(found.verdict) * 1e6 +
    found.change.length * 1e3 +
    found.tools.filter(({ state }) => state !== 'there').length;
  return [...places].sort((a, b) => rank(a) - rank(b));
};
