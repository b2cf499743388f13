import type { Flag } from '../life/flag.ts';
import type { NetProfile } from '../program/net-profile.ts';
import { formatLength, plainDecimal } from '../units/format-length.ts';
import type { Length, LengthUnit } from '../units/length.ts';

/** A length register of a tool's own row, as it is on record. */
export interface NetLength {
  kind: string;
  value: Length;
  /** Zero is what was measured: the master tool's own. */
  zeroIsRight: boolean;
}

/** A tool that stands in the machine, or a station of it. */
export interface NetTool {
  tool: number;
  row: number;
  words: string;
  flag: Flag | null;
  /** Measured since it was loaded: before that there is nothing to hold its length against. */
  measured: boolean;
  lengths: readonly NetLength[];
}

export interface Net {
  machine: string;
  unit: LengthUnit;
  /** Digits of a T word that are its row: two on a lathe's T0101. */
  rowDigits: number;
  /** When the record was as it is written down. */
  asOf: string;
  /** How far a length may stand from the record. */
  tolerance: Length;
  tools: readonly NetTool[];
}

/** How many tools a list is of: a station may stand on it with several rows. */
export const toolCount = (tools: readonly Pick<NetTool, 'tool'>[]) =>
  new Set(tools.map(({ tool }) => tool)).size;

export type NetResult = { ok: true; lines: string[] } | { ok: false; reason: string };

/** What is wrong with a length, or a tool: the number of the alarm and its words behind the T. */
export const ALARMS = {
  unset: { number: 1, words: 'LENGTH NOT SET' },
  other: { number: 2, words: 'NOT AS ON RECORD' },
  broken: { number: 3, words: 'IS BROKEN' },
  expired: { number: 3, words: 'AT ITS LIFE LIMIT' },
  locked: { number: 3, words: 'IS LOCKED' },
  stranger: { number: 4, words: 'T IS NOT ON THIS LIST' },
} as const;

/** Label of the way out where no tool is in; tools have those below it. */
const NOTHING_IN = 9999;

/** On the screen of a lathe a row has two lengths: which of them it is. */
const AXIS: Readonly<Record<string, string>> = { xGeometry: ' X', zGeometry: ' Z' };

/** What the variable of the last T shows while this tool is in. */
export const shownAs = ({ tool, row }: Pick<NetTool, 'tool' | 'row'>, rowDigits: number) =>
  rowDigits === 0 ? tool : tool * 10 ** rowDigits + row;

/** A T as people say it; one with a row that is not its station's own as it stands in the program, so that the row is told. */
const nameOf = ({ tool, row }: Pick<NetTool, 'tool' | 'row'>, rowDigits: number) =>
  rowDigits === 0 || row === tool
    ? `T${tool}`
    : `T${String(shownAs({ tool, row }, rowDigits)).padStart(rowDigits + 2, '0')}`;

/**
 * A subprogram that is called after each tool change: it raises an alarm where the length register of the tool that is in is zero, where it
 * stands further from the record than a tolerance, where the tool is flagged, and where it is on no list (H7, H1). It moves nothing and
 * sets nothing but variables of its own level. What it looks at is by the machine's profile; that it stops what it must is tried by
 * `tryNet`.
 *
 * @returns its lines; or why none can be written
 */
export function writeNet(profile: NetProfile, net: Net): NetResult {
  if (net.tolerance <= 0) return { ok: false, reason: 'A tolerance must be above zero.' };
  if (net.tools.length >= NOTHING_IN) return { ok: false, reason: 'More tools than a list can have.' };
  if (net.tools.length === 0) return { ok: false, reason: `No tool is in ${net.machine}: nothing to check.` };
  const kinds = [...new Set(net.tools.flatMap(({ lengths }) => lengths.map(({ kind }) => kind)))];
  const missing = kinds.find((kind) => !profile.registers[kind]);
  if (missing)
    return { ok: false, reason: `The profile has no variable for ${missing}: say it under Machine, Plate.` };
  const alarm = (what: keyof typeof ALARMS, before: string) =>
    profile.alarm
      .replace('{number}', String(ALARMS[what].number))
      .replace('{text}', `${before}${ALARMS[what].words}`.slice(0, profile.longestText));
  const lines = [
    '%',
    `O${String(profile.program).padStart(4, '0')} (TOOL LENGTH CHECK)`,
    ...[
      `${net.machine}, RECORD OF ${net.asOf}`,
      `CALL IT AFTER EACH TOOL CHANGE: ${profile.call}`,
      'IT MOVES NOTHING. TRY IT FIRST WITH NO PART, RAPIDS LOW',
    ].map((words) => `(${plain(words)})`),
    `#1=${profile.activeTool} (T THAT IS IN)`,
    `#2=${net.unit === 'mm' || !profile.inches ? '1.' : '[1./25.4]'} (REGISTERS IN ${net.unit === 'mm' ? 'MM' : 'INCHES'})`,
    ...(profile.inches ? [`IF [${profile.inches}] THEN #2=${net.unit === 'mm' ? '25.4' : '1.'}`] : []),
    ...net.tools.map((tool, i) => `IF [#1 EQ ${shownAs(tool, net.rowDigits)}] GOTO ${i + 1}`),
    `IF [#1 EQ 0] GOTO ${NOTHING_IN}`,
    // T0100 takes the row away and changes nothing
    ...(net.rowDigits === 0
      ? []
      : [`IF [[#1-FIX[#1/${10 ** net.rowDigits}.]*${10 ** net.rowDigits}.] EQ 0] GOTO ${NOTHING_IN}`]),
    alarm('stranger', ''),
    `N${NOTHING_IN} M99`,
  ];
  for (const [i, tool] of net.tools.entries()) {
    const name = nameOf(tool, net.rowDigits);
    lines.push(`N${i + 1} (${plain(`T${tool.tool} ROW ${tool.row}, ${tool.words}`)})`);
    if (tool.flag) lines.push(alarm(tool.flag, `${name} `));
    for (const { kind, value, zeroIsRight } of tool.lengths) {
      const variable = profile.registers[kind]!.replaceAll('{row}', String(tool.row));
      const axis = AXIS[kind] ?? '';
      if (!zeroIsRight) lines.push(`IF [${variable} EQ 0] THEN ${alarm('unset', `${name}${axis} `)}`);
      if (tool.measured)
        lines.push(
          `IF [ABS[${variable}*#2${value < 0 ? '+' : '-'}${plainDecimal(Math.abs(value) as Length, net.unit)}] GT ${plainDecimal(net.tolerance, net.unit)}] THEN ${alarm('other', `${name}${axis} `)}`,
        );
    }
    lines.push('M99');
  }
  return { ok: true, lines: [...lines, '%'] };
}

/** Words as a remark of a program can hold them. */
const plain = (words: string) =>
  words
    .toUpperCase()
    .normalize('NFKD')
    .replaceAll('ß', 'SS')
    .replace(/[^A-Z0-9 .,:#+\-/]/g, '')
    .slice(0, 60);

/**
 * What of a net is no longer as it was written: what it would stop that is right, and what it would let through.
 * @param now every tool as the record has it now
 */
export function netSince(
  net: Pick<Net, 'tools' | 'tolerance' | 'unit' | 'rowDigits'>,
  now: readonly NetTool[],
): string[] {
  const key = (tool: NetTool) => shownAs(tool, net.rowDigits);
  const name = (tool: NetTool) => nameOf(tool, net.rowDigits);
  const before = new Map(net.tools.map((tool) => [key(tool), tool]));
  const here = new Set(now.map(key));
  return [
    ...now.flatMap((tool) => {
      const old = before.get(key(tool));
      if (!old) return [`${name(tool)} has come: it is stopped as not on the list.`];
      // one that was flagged is stopped before its length is looked at, whatever became of it
      if (old.flag) return tool.flag ? [] : [`${name(tool)} is no longer ${old.flag}: it is still stopped.`];
      if (tool.flag) return [`${name(tool)} is ${tool.flag} now: its length alone is checked.`];
      if (old.row !== tool.row)
        return [`${name(tool)} has row ${tool.row} now, and row ${old.row} is looked at.`];
      if (!old.measured && tool.measured)
        return [`${name(tool)} has been measured since: only a zero is caught.`];
      return lengthsSince(net, old, tool);
    }),
    ...net.tools
      .filter((tool) => !here.has(key(tool)))
      .map((tool) => `${name(tool)} has gone: whatever stands there is held against its length.`),
  ];
}

/** Lengths that a net would stop now, though they are as on record. */
function lengthsSince(
  { tolerance, unit, rowDigits }: Pick<Net, 'tolerance' | 'unit' | 'rowDigits'>,
  old: NetTool,
  tool: NetTool,
): string[] {
  const show = (value: Length) => formatLength(value, unit);
  return tool.lengths.flatMap(({ kind, value }) => {
    const was = old.lengths.find((each) => each.kind === kind);
    return old.measured && was && Math.abs(was.value - value) > tolerance
      ? [
          `${nameOf(tool, rowDigits)}${AXIS[kind] ?? ''} is ${show(value)} now, and ${show(was.value)} in it: it is stopped.`,
        ]
      : [];
  });
}
