import { plainDecimal } from '../units/format-length.ts';
import type { ToolCall } from '../program/reading.ts';
import type { Finder, Finding, LoadedTool, ReadinessQuestion } from './question.ts';

/** Kinds that feed with the spindle standing still. */
const STANDS_STILL = new Set(['probe', 'barStop']);

/** What is in force in each block that cuts, against what must be (H8, H9): a length, a turning spindle, a feed, a ceiling, a row that exists. */
export const inForce: Finder = ({ calls, loaded }, question) =>
  calls.flatMap((call) => [
    ...withoutLength(call),
    ...rapidWithoutLength(call),
    ...homeBy(call, question),
    ...spindle(call, loaded),
    ...ceiling(call, question),
    ...beyondTable(call, question),
    ...compensated(call, question),
  ]);

const at = ({ tool }: ToolCall, line: number) => ({ tool, line });

function withoutLength(call: ToolCall): Finding[] {
  // no length call at all is told by itself
  if (!call.withoutLength || call.lengthRows.length === 0) return [];
  return [
    {
      ...at(call, call.withoutLength),
      weight: 'stop',
      code: 'noLengthRow',
      sentence: `T${call.tool} cuts on line ${call.withoutLength} with no length in force.`,
      remedy: 'Give the program back to the programmer: the length comes too late, or was taken away.',
    },
  ];
}

/** Down by rapid before the length is applied: the nose of the spindle goes there, and the tool is longer than that. */
function rapidWithoutLength(call: ToolCall): Finding[] {
  const line = call.rapidWithoutLength;
  if (!line || call.lengthRows.length === 0) return [];
  return [
    {
      ...at(call, line),
      weight: 'stop',
      code: 'noLengthRow',
      sentence: `T${call.tool} goes to a Z by rapid on line ${line}, before its length is applied.`,
      remedy: 'Give the program back to the programmer: the length belongs on the first line with a Z.',
    },
  ];
}

/** The way home by a place of the part: G28 Z0 in G90 goes down to Z0 first. */
function homeBy(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  if (!call.homeBy) return [];
  const { line, axis, at: by } = call.homeBy;
  const place = `${axis}${plainDecimal(by, machine.unit)}`;
  return [
    {
      ...at(call, line),
      weight: 'look',
      code: 'homeBy',
      sentence: `T${call.tool} goes home on line ${line} by way of ${place}, counted from the zero of the part: it comes nearer first.`,
      remedy:
        machine.kind === 'mill'
          ? 'G91 G28 Z0. goes straight home; leave it only where that place is meant and free.'
          : 'G28 U0 W0 goes straight home; leave it only where that place is meant and free.',
    },
  ];
}

function spindle(call: ToolCall, loaded: LoadedTool | undefined): Finding[] {
  const found: Finding[] = [];
  if (call.withoutSpindle && !STANDS_STILL.has(loaded?.kind ?? '') && call.cutMilliseconds > 0)
    found.push({
      ...at(call, call.withoutSpindle),
      weight: 'look',
      code: 'spindleStands',
      sentence: `T${call.tool} feeds on line ${call.withoutSpindle} with a spindle that the program has not started.`,
      remedy: 'Right for a stop or a pull; otherwise M3 or M4 is missing since the tool came.',
    });
  if (call.withoutFeed)
    found.push({
      ...at(call, call.withoutFeed),
      weight: 'stop',
      code: 'noFeed',
      sentence: `T${call.tool} is to feed on line ${call.withoutFeed} without a feed: F is nought or was never said.`,
      remedy:
        'Give the program back to the programmer: the control stops there, or takes the feed of before.',
    });
  if ((call.turns?.length ?? 0) > 1)
    found.push({
      ...at(call, call.line),
      weight: 'look',
      code: 'bothWays',
      sentence: `T${call.tool} cuts with the spindle turning both ways.`,
      remedy: 'Right for a tap that reverses; otherwise one of them turns the wrong way.',
    });
  return found;
}

/** Constant surface speed down to the centre: with no ceiling the spindle goes as fast as it can, whatever the chuck holds. */
function ceiling(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  if (call.noCeiling)
    return [
      {
        ...at(call, call.noCeiling),
        weight: 'stop',
        code: 'noCeiling',
        sentence: `T${call.tool} cuts to the centre on line ${call.noCeiling} at constant surface speed, with no ceiling set: the spindle would go as fast as it can.`,
        remedy: 'Set a ceiling that the chuck and what it holds allow; see the chuck’s plate.',
      },
    ];
  const top = Math.round(call.topSpeed ?? 0);
  if (top <= machine.highestSpeed) return [];
  return [
    {
      ...at(call, call.line),
      weight: 'stop',
      code: 'overSpeed',
      sentence: `T${call.tool} comes to ${top} rpm by its surface speed; ${machine.name} is limited to ${machine.highestSpeed}.`,
      remedy: 'Lower the ceiling in the program. A chuck or holder may be limited further: see its plate.',
    },
  ];
}

function beyondTable(call: ToolCall, { rows }: ReadinessQuestion): Finding[] {
  const last = Math.max(0, ...rows.map(({ row }) => row));
  if (last === 0) return [];
  return [...call.lengthRows, ...call.radiusRows]
    .filter(({ row, automatic }) => row > last && automatic === false)
    .map(({ row, line }) => ({
      ...at(call, line),
      weight: 'stop',
      code: 'noSuchRow',
      sentence: `T${call.tool} calls row ${row} on line ${line}; the table ends at ${last}.`,
      remedy: 'Correct the number: a digit too many, or two of them changed places.',
    }));
}

/** G41 and G42 with no row of the tool's own. */
function compensated(call: ToolCall, { machine, program }: ReadinessQuestion): Finding[] {
  if (machine.kind === 'lathe') return [];
  return (call.compensations ?? []).flatMap(({ line, row }): Finding[] => {
    if (row === null)
      return [
        {
          ...at(call, line),
          weight: 'stop',
          code: 'compensation',
          sentence: `T${call.tool} is compensated on line ${line} without a D of its own: the last tool’s is in force.`,
          remedy: 'Give the program back to the programmer: the D is missing.',
        },
      ];
    if (row !== 0 || program.cutterBy !== 'control') return [];
    return [
      {
        ...at(call, line),
        weight: 'stop',
        code: 'compensation',
        sentence: `T${call.tool} is compensated on line ${line} with D0, but ${program.name} leaves the cutter’s diameter to the control: the path would cut deep by a radius.`,
        remedy: `Change it to D${call.tool}.`,
      },
    ];
  });
}
