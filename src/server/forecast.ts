import type { Finding } from '../core/readiness/question.ts';
import { verdictOf } from '../core/readiness/check.ts';
import { shiftsBetween } from '../core/shift/calendar.ts';
import type { ForecastTool, MachineForecast } from '../core/shift/leaf.ts';
import { goneSince, machineHours } from '../core/shift/machine-hours.ts';
import { jobEnds, runOuts, type RunningJob } from '../core/shift/run-out.ts';
import type { Working } from '../core/shift/working-time.ts';
import { type Cell } from './cell.ts';
import { rows, type Db } from './db.ts';
import { forEach, together } from './gather.ts';
import { countedTools, type CountedTool } from './counts.ts';
import { asRunning, isWaiting, openJobs, type Job } from './jobs.ts';
import { likelyOf } from './likely-made.ts';
import { sistersOf } from './now.ts';
import { programById } from './programs.ts';
import { readinessOf } from './readiness.ts';

const DAY = 86_400_000;

/** What each machine does next: which tools run out and when, when its job ends, and whether the next one is ready. */
export async function forecast(db: Db, cell: Cell, now: Date): Promise<MachineForecast[]> {
  const week = new Date(now.getTime() + 7 * DAY);
  // with those before: whoever went an hour ago is still the last who was there, and a machine may run on for a week
  const shifts = shiftsBetween(new Date(now.getTime() - 7 * DAY), week, cell.patterns, cell.timeZone);
  const jobs = await openJobs(db);
  const machines = await rows<{ id: number; name: string; runsOn: number }>(
    db,
    'SELECT id, name, runs_on AS "runsOn" FROM machine ORDER BY name',
  );
  return forEach(db, machines, async (machine): Promise<MachineForecast> => {
    const job = jobs.find((each) => each.machineId === machine.id && each.state === 'running') ?? null;
    const waiting = jobs.find((each) => each.machineId === machine.id && isWaiting(each)) ?? null;
    const { tools, likely, next } = await together(db, {
      tools: async () => (job ? countedTools(db, job) : []),
      likely: async () => job && likelyOf(db, cell, job, now),
      next: async () => waiting && nextJob(db, waiting, job),
    });
    const running = job && asRunning(job, tools, likely!.parts);
    const stretches = machineHours(shifts, machine.runsOn);
    return {
      machineId: machine.id,
      machine: machine.name,
      job,
      likely,
      ends: running && jobEnds(running, now, stretches),
      runsOut: running ? await toolsRunningOut(db, running, tools, now, { stretches, shifts }) : [],
      next,
    };
  });
}

async function toolsRunningOut(
  db: Db,
  running: RunningJob,
  tools: readonly CountedTool[],
  now: Date,
  { stretches, shifts }: { stretches: readonly Working[]; shifts: readonly Working[] },
): Promise<ForecastTool[]> {
  const sisters = await sistersOf(
    db,
    tools.map((tool) => tool.number),
  );
  return runOuts(running, now, stretches).flatMap((runOut) => {
    const tool = tools.find((each) => each.tool === runOut.tool)!;
    if (tool.group && !speaks(tool, tools)) return [];
    if (runOut.beyondJob && tool.flag === null) return [];
    return [
      {
        ...tool,
        afterParts: tool.flag === null ? runOut.afterParts : 0,
        at: tool.flag === null ? runOut.at : now,
        byNow: tool.flag === null && runOut.byNow,
        gone: tool.flag === null && runOut.at && !runOut.byNow ? goneSince(runOut.at, shifts) : null,
        sister: sisters.find((each) => each.like === tool.number)?.number ?? null,
      },
    ];
  });
}

/** Of a group one member stands on the list: a broken one, else the one that cuts next, else, with none left, the first. */
function speaks(tool: CountedTool, tools: readonly CountedTool[]): boolean {
  const group = tools.filter((each) => each.group?.number === tool.group!.number);
  const one =
    group.find(({ flag }) => flag === 'broken') ??
    group.find((each) => each.group!.next) ??
    group.sort((a, b) => a.tool - b.tool)[0]!;
  return one.tool === tool.tool;
}

/** The tools that are not in the machine, broken, or not what is asked for. */
export const lackedTools = (findings: readonly Finding[]): number[] => [
  ...new Set(
    findings.flatMap((each) =>
      each.tool !== null && ['missing', 'broken', 'notAsAsked'].includes(each.code) ? [each.tool] : [],
    ),
  ),
];

async function nextJob(db: Db, waiting: Job, running: Job | null) {
  const program = await programById(db, waiting.programId);
  const left = waiting.quantity - waiting.made;
  const findings = program ? await readinessOf(db, program, left, running ? [running] : []) : [];
  return {
    ...waiting,
    verdict: verdictOf(findings),
    findings: findings.filter(({ weight }) => weight !== 'settled').length,
    lacks: lackedTools(findings),
  };
}
