import type { Flag } from '../life/flag.ts';
import { isExpired, partsLeft, type ExpiryRule, type LifeBasis } from '../life/count.ts';
import { mixedMethods, type LengthMethod } from '../length/transfer.ts';
import { orientedFindings, type ShiftSetting } from './oriented.ts';
import type { ProgramReading, ToolCall } from '../program/reading.ts';

/** Who knows the cutter's diameter (H7): the CAM path, or the control's own D geometry. */
export type CutterBy = 'cam' | 'control';

/** A tool as it stands in the machine, found by its T number. */
export interface LoadedTool {
  tool: number;
  assembly: string;
  place: string;
  flag: Flag | null;
  measuredSinceLoading: boolean;
  life: { basis: LifeBasis; remaining: number; limit: number } | null;
  /** How its length came to be; null when nobody said. */
  method?: LengthMethod | null;
  /** The lowest greatest speed in its stack; null when none is known. */
  speedLimit?: number | null;
  /** What of it is not as the program asks for, each as a half sentence. */
  misses?: readonly string[];
}

export interface RowState {
  row: number;
  /** The length (on a lathe X and Z) geometry is still zero. */
  zero: boolean;
  /** The cutter geometry of the row is still zero; undefined where a row has none. */
  cutterZero?: boolean;
}

export interface ReadinessQuestion {
  machine: { name: string; kind: 'mill' | 'lathe'; expiry: ExpiryRule; highestSpeed: number } & ShiftSetting;
  program: Pick<ProgramReading, 'calls'> & { name: string; partsPerCycle: number; cutterBy?: CutterBy };
  quantity: number;
  loaded: readonly LoadedTool[];
  rows: readonly RowState[];
}

export type FindingCode =
  | 'missing'
  | 'broken'
  | 'locked'
  | 'expired'
  | 'zeroLength'
  | 'notMeasured'
  | 'noLengthRow'
  | 'rowDoesNotFollow'
  | 'otherRow'
  | 'runsOut'
  | 'overSpeed'
  | 'toolSpeed'
  | 'notAsAsked'
  | 'cutterRow'
  | 'mixedLengths'
  | 'boringShift';

export interface Finding {
  /** 'stop': the job must not start; 'look': somebody decides. */
  weight: 'stop' | 'look';
  code: FindingCode;
  tool: number;
  line: number;
  /** One sentence that says what is wrong, and one that says what to do. */
  sentence: string;
  remedy: string;
  /** Part after which the tool is spent, for `runsOut`. */
  afterPart?: number;
}

/**
 * What stands between a program and its first part (H17, the part of it that the record knows so far): every
 * tool that the program calls against what is in the machine, its measurement, its rows and its life.
 */
export function checkReadiness(question: ReadinessQuestion): Finding[] {
  const byTool = new Map<number, ToolCall[]>();
  for (const call of question.program.calls) byTool.set(call.tool, [...(byTool.get(call.tool) ?? []), call]);
  const findings = [...byTool].flatMap(([tool, calls]) => {
    const loaded = question.loaded.find((candidate) => candidate.tool === tool);
    const rows = calls.flatMap((call) => rowFindings(call, question));
    const speeds = calls.flatMap((call) => speedFinding(call, question));
    const cutters = calls.flatMap((call) => cutterFindings(call, question));
    const oriented = orientedFindings(calls, question.machine);
    if (!loaded) return [missing(calls[0]!, question), ...rows, ...cutters, ...oriented, ...speeds];
    return [
      ...stateFindings(calls[0]!, loaded),
      ...askedFindings(calls[0]!, loaded),
      ...measureFindings(calls, loaded, question),
      ...rows,
      ...cutters,
      ...oriented,
      ...speeds,
      ...calls.flatMap((call) => toolSpeedFinding(call, loaded)),
      ...lifeFindings(calls, loaded, question),
    ];
  });
  return [...findings, ...mixedFinding(question, [...byTool.keys()])].sort(
    (a, b) => Number(a.weight === 'look') - Number(b.weight === 'look') || a.line - b.line,
  );
}

const missing = (call: ToolCall, { machine }: ReadinessQuestion): Finding => ({
  weight: 'stop',
  code: 'missing',
  tool: call.tool,
  line: call.line,
  sentence: `T${call.tool}${call.remark ? ` (${call.remark})` : ''} is called on line ${call.line} and is not in ${machine.name}.`,
  remedy: 'Build it if needed, load it, and measure it before the job starts.',
});

const askedFindings = (call: ToolCall, { assembly, place, misses = [] }: LoadedTool): Finding[] =>
  misses.length === 0
    ? []
    : [
        {
          weight: 'look',
          code: 'notAsAsked',
          tool: call.tool,
          line: call.line,
          sentence: `T${call.tool}, assembly ${assembly} in ${place}, is not what the program asks for on line ${call.line}: ${misses.join('; ')}.`,
          remedy: 'Load what is asked for, or correct what is written down as asked for.',
        },
      ];

function stateFindings(call: ToolCall, loaded: LoadedTool): Finding[] {
  const at = { tool: call.tool, line: call.line };
  const name = `T${call.tool}, assembly ${loaded.assembly} in ${loaded.place},`;
  if (loaded.flag === 'broken')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'broken',
        sentence: `${name} is flagged broken.`,
        remedy:
          'Inspect the part it was in and all since the last good check, replace the tool, and only then clear the flag.',
      },
    ];
  if (loaded.flag === 'locked')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'locked',
        sentence: `${name} is locked.`,
        remedy: 'Ask who locked it and why; unlock it or load another.',
      },
    ];
  if (loaded.flag === 'expired')
    return [
      {
        ...at,
        weight: 'stop',
        code: 'expired',
        sentence: `${name} is expired.`,
        remedy: 'Renew it: change the edge, set its life, clear the flag, measure it and zero its wear.',
      },
    ];
  return [];
}

function measureFindings(
  calls: readonly ToolCall[],
  loaded: LoadedTool,
  { rows }: ReadinessQuestion,
): Finding[] {
  const first = calls[0]!;
  const used = new Map(calls.flatMap((call) => call.lengthRows.map((use) => [use.row, use.line] as const)));
  const zero: Finding[] = [...used]
    .filter(([row]) => row !== 0 && (rows.find((state) => state.row === row)?.zero ?? true))
    .map(([row, line]) => ({
      weight: 'stop',
      code: 'zeroLength',
      tool: first.tool,
      line,
      sentence: `Row ${row}, which T${first.tool} uses on line ${line}, still holds a length of zero: the tool would be driven into the part.`,
      remedy: `Measure T${first.tool} and key its length into row ${row}.`,
    }));
  if (zero.length > 0) return zero;
  if (loaded.measuredSinceLoading) return [];
  return [
    {
      weight: 'stop',
      code: 'notMeasured',
      tool: first.tool,
      line: first.line,
      sentence: `T${first.tool}, assembly ${loaded.assembly}, has not been measured since it was put into ${loaded.place}.`,
      remedy: 'Measure it now: every tool that stays in the machine is measured straight after loading.',
    },
  ];
}

function rowFindings(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  const found: Finding[] = [];
  const at = { tool: call.tool, line: call.line };
  if (machine.kind === 'lathe') {
    for (const { row, line } of call.lengthRows)
      if (row !== call.tool)
        found.push({
          ...at,
          line,
          weight: 'look',
          code: 'otherRow',
          sentence: `Station ${call.tool} is called with row ${row} on line ${line}.`,
          remedy: 'Right for a second part on the bar or a second edge; make sure that it is meant.',
        });
    return found;
  }
  if (call.lengthRows.length === 0 && call.cutMilliseconds > 0)
    found.push({
      ...at,
      weight: 'stop',
      code: 'noLengthRow',
      sentence: `T${call.tool} cuts from line ${call.line} on with no length applied.`,
      remedy: 'Give the program back to the programmer: the length call is missing.',
    });
  for (const { row, line } of call.lengthRows)
    if (row !== call.tool && row !== 0)
      found.push({
        ...at,
        line,
        weight: 'stop',
        code: 'rowDoesNotFollow',
        sentence: `T${call.tool} is called on line ${call.line}, but line ${line} applies length row H${row}.`,
        remedy: `Change H${row} to H${call.tool}, or the tool call with it: the length must be the tool's own.`,
      });
  for (const { row, line } of call.radiusRows)
    if (row !== call.tool)
      found.push({
        ...at,
        line,
        weight: 'look',
        code: 'rowDoesNotFollow',
        sentence: `T${call.tool} uses radius row D${row} on line ${line}.`,
        remedy: 'Right only where a second row is meant for a second feature; otherwise change it.',
      });
  return found;
}

function speedFinding(call: ToolCall, { machine }: ReadinessQuestion): Finding[] {
  const most = Math.max(call.speeds?.most ?? 0, call.surfaceSpeed ? (call.speedCeiling ?? 0) : 0);
  if (most <= machine.highestSpeed) return [];
  return [
    {
      weight: 'stop',
      code: 'overSpeed',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} asks for ${most} rpm; ${machine.name} is limited to ${machine.highestSpeed}.`,
      remedy: 'Lower the speed in the program. A chuck or holder may be limited further: see its plate.',
    },
  ];
}

/** A holder or cutter may be limited below the spindle: the lowest of the stack counts. */
function toolSpeedFinding(call: ToolCall, loaded: LoadedTool): Finding[] {
  const most = call.speeds?.most ?? 0;
  if (loaded.speedLimit === null || loaded.speedLimit === undefined || most <= loaded.speedLimit) return [];
  return [
    {
      weight: 'stop',
      code: 'toolSpeed',
      tool: call.tool,
      line: call.line,
      sentence: `T${call.tool} is run at ${most} rpm; assembly ${loaded.assembly} is rated for ${loaded.speedLimit} at most.`,
      remedy: 'Lower the speed in the program, or build the tool from pieces that are rated for it.',
    },
  ];
}

/** Where the path is compensated for the cutter, its D row holds geometry or it does not: never a little of both. */
function cutterFindings(call: ToolCall, { machine, program, rows }: ReadinessQuestion): Finding[] {
  if (machine.kind === 'lathe' || !call.usesRadiusCompensation || !program.cutterBy) return [];
  return call.radiusRows.flatMap(({ row, line }): Finding[] => {
    const zero = rows.find((state) => state.row === row)?.cutterZero;
    if (zero === undefined || zero === (program.cutterBy === 'cam')) return [];
    return [
      {
        weight: 'stop',
        code: 'cutterRow',
        tool: call.tool,
        line,
        sentence: zero
          ? `D${row} on line ${line} holds no cutter, but ${program.name} leaves the cutter's diameter to the control: the path would cut deep by a radius.`
          : `D${row} on line ${line} holds a cutter, but the path of ${program.name} is compensated for it already: it would stand off by a radius.`,
        remedy: zero
          ? `Key the cutter's size into the geometry of row ${row}.`
          : `Clear the geometry of row ${row}; only its wear is used.`,
      },
    ];
  });
}

function mixedFinding({ loaded, program }: ReadinessQuestion, tools: readonly number[]): Finding[] {
  const mixed = mixedMethods(
    loaded.flatMap(({ tool, method }) => (method && tools.includes(tool) ? [{ tool, method }] : [])),
  );
  const first = program.calls[0];
  if (!mixed || !first) return [];
  return [
    {
      weight: 'look',
      code: 'mixedLengths',
      tool: first.tool,
      line: first.line,
      sentence: mixed,
      remedy: 'Measure the odd ones again, the same way as the others.',
    },
  ];
}

function lifeFindings(
  calls: readonly ToolCall[],
  loaded: LoadedTool,
  question: ReadinessQuestion,
): Finding[] {
  const first = calls[0]!;
  if (!loaded.life || loaded.flag) return [];
  const { basis, remaining } = loaded.life;
  const { expiry } = question.machine;
  if (isExpired(remaining, expiry)) return stateFindings(first, { ...loaded, flag: 'expired' });
  const use = {
    holes: calls.reduce((sum, call) => sum + call.holes, 0),
    cutMilliseconds: calls.reduce((sum, call) => sum + call.cutMilliseconds, 0),
    parts: question.program.partsPerCycle,
  };
  const parts = partsLeft(remaining, basis, use, expiry);
  if (parts >= question.quantity) return [];
  return [
    {
      weight: 'look',
      code: 'runsOut',
      tool: first.tool,
      line: first.line,
      afterPart: parts,
      sentence: `T${first.tool}, assembly ${loaded.assembly}, runs out at part ${parts} of ${question.quantity}.`,
      remedy: `Build a replacement now, or renew it before part ${parts + 1}.`,
    },
  ];
}

/** 'ready' only when nothing is found; 'look' when somebody has to decide; 'stop' when the job must not start. */
export function verdictOf(findings: readonly Finding[]): 'ready' | 'look' | 'stop' {
  if (findings.some((finding) => finding.weight === 'stop')) return 'stop';
  return findings.length > 0 ? 'look' : 'ready';
}
