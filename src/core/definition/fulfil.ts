import type { AssemblyKind } from '../assembly/silhouette.ts';
import type { Length } from '../units/length.ts';
import { threadName } from '../component/thread.ts';
import type { Definition } from './read-definition.ts';

/** An assembly as it is held against a definition. */
export interface Candidate {
  id: number;
  number: string;
  name: string;
  kind: AssemblyKind;
  interface: string;
  diameter: Length;
  cornerRadius: Length;
  stickOut: Length;
  teeth: number;
  leftHand: boolean;
  /** The cutter's thread, when its pieces are on record. */
  thread: string;
  flag: string | null;
  /** Share of its life left; null when its life is not counted. */
  lifeLeft: number | null;
  machine: string | null;
  tool: number | null;
  /** Measured since it was built, indexed or loaded. */
  measured: boolean;
}

/** Where it is asked for. */
export interface Asked {
  definition: Definition;
  machine: string;
  tool: number;
  interface: string;
}

export interface Fulfilment {
  candidate: Candidate;
  /** Why it cannot serve; empty when it can. */
  misses: string[];
  /** What cannot be told of it, and what is to be done with it first. */
  remarks: string[];
  /** How many of the remarks, the first ones, are doubts whether it can serve at all. */
  doubts: number;
}

/** Sizes that must be met exactly cut to within this; a mill that the control compensates may be a little worn. */
export const SAME = 20_000;

/** Which assemblies can serve a definition, best first: those without a miss, then the nearest misses. */
export function fulfil(
  asked: Asked,
  candidates: readonly Candidate[],
  show: (value: Length) => string,
): Fulfilment[] {
  return candidates
    .filter((candidate) => candidate.kind === asked.definition.kind)
    .map((candidate) => hold(asked, candidate, show))
    .sort((a, b) => rank(a, asked) - rank(b, asked) || a.candidate.number.localeCompare(b.candidate.number));
}

/** What of an assembly is not of the size, thread or teeth that are asked for; empty when all is. */
export function sizeMisses(
  { diameter, cornerRadius, reach, teeth, thread, leftHand }: Definition,
  candidate: Pick<Candidate, 'diameter' | 'cornerRadius' | 'stickOut' | 'teeth' | 'thread' | 'leftHand'>,
  show: (value: Length) => string,
): string[] {
  const misses: string[] = [];
  if (thread && candidate.thread && threadName(candidate.thread) !== threadName(thread))
    misses.push(`it cuts ${candidate.thread}, ${thread} is asked for`);
  else if (diameter !== null && Math.abs(candidate.diameter - diameter) > SAME)
    misses.push(`it is ${show(candidate.diameter)} across, ${show(diameter)} is asked for`);
  if (leftHand !== null && candidate.leftHand !== leftHand)
    misses.push(
      leftHand ? 'it is right-hand, left-hand is asked for' : 'it is left-hand, right-hand is asked for',
    );
  if (cornerRadius !== null && Math.abs(candidate.cornerRadius - cornerRadius) > SAME)
    misses.push(`its corner is ${show(candidate.cornerRadius)}, ${show(cornerRadius)} is asked for`);
  if (reach !== null && candidate.stickOut < reach)
    misses.push(`it stands out ${show(candidate.stickOut)}, ${show(reach)} is needed`);
  if (teeth !== null && candidate.teeth > 0 && candidate.teeth < teeth)
    misses.push(`it has ${candidate.teeth} teeth, the feed is for ${teeth}`);
  return misses;
}

/** A reamer makes its own size: beyond this its hole is another one (H7 on 12 mm is 18 µm wide). */
const SAME_REAMED = 3_000;

/** Corners of end mills that are called sharp are taken off by so little, so that they do not chip (common practice, no source). */
const PROTECTED = 300_000;

/** What of the size, corner, thread or teeth that are asked for cannot be told of an assembly, or is met by the play of a record alone. */
export function sizeDoubts(
  { diameter, cornerRadius, teeth, thread }: Definition,
  candidate: Pick<Candidate, 'kind' | 'diameter' | 'cornerRadius' | 'teeth' | 'thread'>,
  show: (value: Length) => string,
): string[] {
  const doubts: string[] = [];
  if (thread && !candidate.thread) doubts.push(`its thread is not on record, ${thread} is asked for`);
  const off = diameter === null ? 0 : Math.abs(candidate.diameter - diameter);
  if (candidate.kind === 'reamer' && off > SAME_REAMED && off <= SAME)
    doubts.push(`it is ${show(candidate.diameter)} across, ${show(diameter!)} is asked for: look at the fit`);
  if (candidate.kind === 'endMill' && cornerRadius === null && candidate.cornerRadius > PROTECTED)
    doubts.push(`its corner is ${show(candidate.cornerRadius)}, and nothing is said of one`);
  if (teeth !== null && candidate.teeth === 0)
    doubts.push(`its teeth are not on record, the feed is for ${teeth}`);
  return doubts;
}

function hold(
  { definition, machine, tool, interface: end }: Asked,
  candidate: Candidate,
  show: (value: Length) => string,
): Fulfilment {
  const { leastLife } = definition;
  const doubts = sizeDoubts(definition, candidate, show);
  const remarks = [...doubts];
  const misses = [
    ...(candidate.interface === end ? [] : [`its end is ${candidate.interface}, ${machine} takes ${end}`]),
    ...sizeMisses(definition, candidate, show),
  ];
  if (candidate.flag) misses.push(`it is ${candidate.flag}`);
  if (leastLife !== null && candidate.lifeLeft !== null && candidate.lifeLeft < leastLife)
    misses.push(
      `${Math.round(candidate.lifeLeft * 100)} % of its life is left, ${Math.round(leastLife * 100)} % is asked for`,
    );
  const there = candidate.machine === machine && candidate.tool === tool;
  if (candidate.machine !== null && !there)
    remarks.push(`stands in ${candidate.machine} as T${candidate.tool}`);
  if (!candidate.measured) remarks.push('not measured yet');
  return { candidate, misses, remarks, doubts: doubts.length };
}

/** Fewest misses first, then fewest doubts; then the one that is there, loose ones that are measured, loose ones, and those of other machines. */
function rank({ candidate, misses, doubts }: Fulfilment, { machine, tool }: Asked): number {
  const place =
    candidate.machine === machine && candidate.tool === tool
      ? 0
      : candidate.machine === null
        ? candidate.measured
          ? 1
          : 2
        : 3;
  // among equals the stiffer: the one that stands out less
  return misses.length * 1e7 + doubts * 1e6 + place * 1e5 + candidate.stickOut / 1e6;
}
