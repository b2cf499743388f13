import { formatWithUnit } from '../units/format-length.ts';
import type { LengthUnit } from '../units/length.ts';
import { directionOf, shiftWords, type Shift } from './boring-shift.ts';
import type { RowUse, ToolCall } from './reading.ts';

/** What changed for one tool, or for the program as a whole (`tool` null). */
export interface Change {
  tool: number | null;
  /** Line of the newer text; 0: it is no longer there. */
  line: number;
  text: string;
}

/** A revision as it is held against another. */
export interface Revision {
  calls: readonly ToolCall[];
  text: string;
  unit: LengthUnit;
}

/** Changes of times and ranges below this part of them are of no account. */
const SLIGHT = 0.005;

/**
 * What a newer revision of a program does otherwise, in tool terms: tools that came, went or changed their turn, rows, speeds, feeds,
 * depths, holes, time in cut, stops, compensation, the way a spindle turns or a boring bar is shifted. The same T called several times is
 * held against itself call by call. Where nothing of that differs it says what does: places, or words alone.
 *
 * @param shift which way Q shifts a boring bar on the machine
 */
export function changesBetween(before: Revision, after: Revision, shift: Shift): Change[] {
  const pairs = paired(before.calls, after.calls);
  const found: Change[] = pairs.flatMap(([old, now]): Change[] => {
    if (!old) return [{ tool: now!.tool, line: now!.line, text: `T${now!.tool} is new${named(now!)}.` }];
    if (!now) return [{ tool: old.tool, line: 0, text: `T${old.tool} is gone${named(old)}.` }];
    return callChanges(old, now, after.unit, shift).map((text) => ({
      tool: now.tool,
      line: now.line,
      text: `T${now.tool} ${text}.`,
    }));
  });
  const order = orderChange(pairs);
  if (order) found.push(order);
  if (before.unit !== after.unit)
    found.push({ tool: null, line: 1, text: `It is in ${after.unit === 'mm' ? 'mm' : 'inches'} now.` });
  if (found.length > 0) return found;
  const lines = otherLines(before.text, after.text);
  if (lines.length === 0)
    return [{ tool: null, line: 1, text: 'Only remarks, numbers of blocks or spaces differ.' }];
  return [
    {
      tool: null,
      line: lines[0]!,
      text: `No tool, row, speed, feed, depth or time: ${lines.length === 1 ? `line ${lines[0]} alone differs` : `${lines.length} lines differ, the first of them line ${lines[0]}`}.`,
    },
  ];
}

const named = ({ remark }: ToolCall) => (remark ? ` (${remark})` : '');

/** Calls of one T side by side, in the order of the newer text, then those that are gone. */
function paired(
  before: readonly ToolCall[],
  after: readonly ToolCall[],
): (readonly [ToolCall | null, ToolCall | null])[] {
  const left = new Map<number, ToolCall[]>();
  for (const call of before) left.set(call.tool, [...(left.get(call.tool) ?? []), call]);
  const pairs = after.map((now) => [left.get(now.tool)?.shift() ?? null, now] as const);
  return [...pairs, ...[...left.values()].flat().map((old) => [old, null] as const)];
}

/** The first tool that comes at another turn, among those that both have. */
function orderChange(pairs: readonly (readonly [ToolCall | null, ToolCall | null])[]): Change | null {
  const both = pairs.flatMap(([old, now]) => (old && now ? [{ old, now }] : []));
  const then = [...both].sort((a, b) => a.old.order - b.old.order);
  const at = both.findIndex((pair, i) => pair !== then[i]);
  if (at < 0) return null;
  const { tool, line } = both[at]!.now;
  return { tool, line, text: `T${tool} comes before T${then[at]!.now.tool} now.` };
}

function callChanges(old: ToolCall, now: ToolCall, unit: LengthUnit, machine: Shift): string[] {
  const found: string[] = [];
  const say = (differs: boolean, text: string) => {
    if (differs) found.push(text);
  };
  const rows = (word: string, was: readonly RowUse[], is: readonly RowUse[]) => {
    const [a, b] = [was, is].map((uses) => uses.map(({ row }) => `${word}${row}`).join(' ') || 'none');
    say(a !== b, `uses ${b} instead of ${a}`);
  };
  say(old.remark !== now.remark, `is called "${now.remark}", before "${old.remark}"`);
  rows('H', old.lengthRows, now.lengthRows);
  rows('D', old.radiusRows, now.radiusRows);
  const speed = ranges('rpm', old.speeds, now.speeds);
  if (speed) found.push(`runs ${speed}`);
  const surface = ranges('a minute of surface', old.surfaceSpeed, now.surfaceSpeed);
  if (surface) found.push(`runs ${surface}`);
  say(
    old.speedCeiling !== now.speedCeiling,
    now.speedCeiling === null
      ? 'has no ceiling of its speed any more'
      : `has a ceiling of ${now.speedCeiling} rpm${old.speedCeiling === null ? '' : ` instead of ${old.speedCeiling}`}`,
  );
  for (const per of ['minute', 'revolution'] as const) {
    const of = (call: ToolCall) => call.feeds.find((range) => range.per === per) ?? null;
    const feed = ranges(`a ${per}`, of(old), of(now));
    if (feed) found.push(`feeds ${feed}`);
  }
  const [a, b] = [old.deepest, now.deepest];
  if (a !== null && b !== null && a !== b)
    found.push(
      `goes ${b < a ? 'deeper' : 'less deep'}: Z ${formatWithUnit(b, unit)} instead of ${formatWithUnit(a, unit)}`,
    );
  say((a === null) !== (b === null), b === null ? 'no longer cuts' : 'cuts now, and did not');
  say(old.holes !== now.holes, `makes ${now.holes} holes instead of ${old.holes}`);
  const [was, is] = [old.cutMilliseconds, now.cutMilliseconds];
  if (was > 0 && is > 0 && Math.abs(is - was) > SLIGHT * was) found.push(`is ${percent(is / was)} in cut`);
  const stops = (call: ToolCall) => call.optionalStops.length + (call.stops?.length ?? 0);
  say(stops(old) !== stops(now), `stops ${times(stops(now))} instead of ${times(stops(old))}`);
  say(
    old.usesRadiusCompensation !== now.usesRadiusCompensation,
    now.usesRadiusCompensation ? 'is compensated now' : 'is no longer compensated',
  );
  const turns = (call: ToolCall) =>
    (call.turns ?? []).map((way) => (way === 'cw' ? 'M3' : 'M4')).join(' and ');
  say(
    turns(old) !== turns(now),
    `turns by ${turns(now) || 'neither M3 nor M4'} instead of ${turns(old) || 'neither'}`,
  );
  const shifts = (call: ToolCall) =>
    [
      ...new Set(
        call.boringShifts.map((each) => {
          const way = directionOf(each, machine);
          return `${way ? shiftWords(way) : 'no single way'} by ${formatWithUnit(each.shift, unit)}`;
        }),
      ),
    ].join(' and ');
  say(
    shifts(old) !== shifts(now),
    `is shifted ${shifts(now) || 'no more'} instead of ${shifts(old) || 'not at all'}`,
  );
  const writes = (call: ToolCall) => call.writes?.length ?? 0;
  say(writes(old) !== writes(now), `writes registers ${times(writes(now))} instead of ${times(writes(old))}`);
  const counts = (call: ToolCall) => call.lifeCounts.reduce((sum, { quantity }) => sum + quantity, 0);
  say(counts(old) !== counts(now), `counts life ${counts(now)} instead of ${counts(old)}`);
  return found;
}

const times = (count: number) => (count === 0 ? 'never' : count === 1 ? 'once' : `${count} times`);
const percent = (ratio: number) =>
  `${Math.abs((ratio - 1) * 100).toFixed(Math.abs(ratio - 1) < 0.1 ? 1 : 0)} % ${ratio > 1 ? 'longer' : 'shorter'}`;

interface Range {
  least: number;
  most: number;
}
/** Two ranges in words, with how much faster where both are one figure; null: alike. */
function ranges(unit: string, was: Range | null, is: Range | null): string | null {
  const words = (range: Range | null) =>
    range === null
      ? 'none'
      : range.least === range.most
        ? `${plain(range.most)}`
        : `${plain(range.least)} to ${plain(range.most)}`;
  if (words(was) === words(is)) return null;
  const more = was && is && was.most > 0 ? is.most / was.most : null;
  const said =
    more === null || Math.abs(more - 1) < SLIGHT
      ? ''
      : `, ${Math.abs((more - 1) * 100).toFixed(0)} % ${more > 1 ? 'faster' : 'slower'}`;
  return `${words(is)} ${unit} instead of ${words(was)}${said}`;
}
const plain = (value: number) => String(Math.round(value * 1000) / 1000);

/** Lines of the newer text whose words the older one does not have at that place, from 1; remarks, spaces and N apart. */
function otherLines(before: string, after: string): number[] {
  const words = (text: string) =>
    text.split(/\r\n|\r|\n/).flatMap((line, i) => {
      const own = line
        .toUpperCase()
        .replace(/\([^)]*\)?/g, '')
        .replace(/\s+/g, '')
        .replace(/^N\d+/, '');
      return own === '' ? [] : [{ line: i + 1, own }];
    });
  const [a, b] = [words(before), words(after)];
  let [from, endA, endB] = [0, a.length, b.length];
  while (from < endA && from < endB && a[from]!.own === b[from]!.own) from += 1;
  while (endA > from && endB > from && a[endA - 1]!.own === b[endB - 1]!.own)
    [endA, endB] = [endA - 1, endB - 1];
  // what lies between: a line that is gone leaves the place where it was
  if (endB === from) return endA === from ? [] : [b[Math.min(from, b.length - 1)]?.line ?? 1];
  const left = new Set(a.slice(from, endA).map(({ own }) => own));
  const other = b.slice(from, endB).filter(({ own }) => !left.has(own));
  return (other.length > 0 ? other : b.slice(from, endB)).map(({ line }) => line);
}
