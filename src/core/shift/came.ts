/** A tool that was foreseen to run out, as it stood when the shift was handed over. */
export interface Foreseen {
  machine: string;
  tool: number;
  number: string;
  at: Date | null;
}

/** What became of a tool in the shift. */
export interface ToolEvent {
  machine: string;
  tool: number;
  number: string;
  at: Date;
  what: 'expired' | 'broken' | 'renewed' | 'out';
}

export interface Came {
  machine: string;
  tool: number;
  number: string;
  /** When it was foreseen; null when it was not. */
  foreseen: Date | null;
  /** When it ended, and how; null when it did not in this shift. */
  came: Date | null;
  how: ToolEvent['what'] | 'ran on';
  /** Milliseconds from the forecast to what came, where it ran out; null where one of the two is missing. */
  off: number | null;
}

/**
 * Holds what was foreseen for a shift against what came: each tool that was to run out within it, with the first thing that ended
 * its life, and each that ran out or broke without having been foreseen. A tool that was renewed or taken out in time is an
 * answer to the forecast and no error of it. Soonest first.
 */
export function whatCame(
  foreseen: readonly Foreseen[],
  events: readonly ToolEvent[],
  shift: { start: Date; end: Date },
): Came[] {
  const key = (tool: { machine: string; number: string }) => `${tool.machine} ${tool.number}`;
  const ordered = [...events]
    .filter((event) => event.at >= shift.start && event.at < shift.end)
    .sort((a, b) => a.at.getTime() - b.at.getTime());
  const within = foreseen.filter(({ at }) => at !== null && at >= shift.start && at < shift.end);
  const answered = within.map((tool): Came => {
    const event = ordered.find((each) => key(each) === key(tool));
    return {
      machine: tool.machine,
      tool: tool.tool,
      number: tool.number,
      foreseen: tool.at,
      came: event?.at ?? null,
      how: event?.what ?? 'ran on',
      off: event?.what === 'expired' ? event.at.getTime() - tool.at!.getTime() : null,
    };
  });
  const known = new Set(within.map(key));
  const unforeseen = ordered
    .filter(({ what }) => what === 'expired' || what === 'broken')
    .filter((event) => !known.has(key(event)))
    .filter((event, i, all) => all.findIndex((each) => key(each) === key(event)) === i)
    .map((event): Came => ({
      machine: event.machine,
      tool: event.tool,
      number: event.number,
      foreseen: null,
      came: event.at,
      how: event.what,
      off: null,
    }));
  const when = (each: Came) => (each.foreseen ?? each.came)!.getTime();
  return [...answered, ...unforeseen].sort((a, b) => when(a) - when(b));
}

/** How good a forecast was: of the tools that ran out as foreseen, the middle of how far it was off. */
export function medianOff(came: readonly Came[]): number | null {
  const off = came.flatMap((each) => (each.off === null ? [] : [Math.abs(each.off)])).sort((a, b) => a - b);
  if (off.length === 0) return null;
  const half = off.length >> 1;
  return off.length % 2 === 1 ? off[half]! : (off[half - 1]! + off[half]!) / 2;
}
