import { kindFacts, type Component } from '../component/kinds.ts';
import type { Length } from '../units/length.ts';
import { hasSeats, LEAST_GRIP } from '../holding/fits.ts';
import { threadName } from '../component/thread.ts';
import { SAME } from './fulfil.ts';
import type { Definition } from './read-definition.ts';

/** Why an assembly with this cutter could never be what is asked for; empty when it could. */
export function cutterMisses(
  asked: Definition,
  cutter: Component,
  show: (value: Length) => string,
): string[] {
  const { DC, RE, ZEFP, OAL, DCONMS } = cutter.dimensions as Partial<Record<string, Length>>;
  const misses: string[] = [];
  if (kindFacts(cutter.kind).makes !== asked.kind) misses.push(`it is a ${kindFacts(cutter.kind).words}`);
  if (asked.thread) {
    if (threadName(cutter.series) !== threadName(asked.thread))
      misses.push(`it cuts ${cutter.series || 'no thread on record'}, ${asked.thread} is asked for`);
  } else if (asked.diameter !== null && (DC === undefined || Math.abs(DC - asked.diameter) > SAME))
    misses.push(
      `it is ${DC === undefined ? 'of no diameter on record' : `${show(DC)} across`}, ${show(asked.diameter)} is asked for`,
    );
  // the corner of one that carries inserts is theirs
  const byInserts = RE === undefined && hasSeats(cutter);
  if (asked.cornerRadius !== null && !byInserts && Math.abs((RE ?? 0) - asked.cornerRadius) > SAME)
    misses.push(`its corner is ${show((RE ?? 0) as Length)}, ${show(asked.cornerRadius)} is asked for`);
  if (asked.teeth !== null && ZEFP !== undefined && ZEFP < asked.teeth)
    misses.push(`it has ${ZEFP} teeth, the feed is for ${asked.teeth}`);
  if (asked.reach !== null && OAL !== undefined && OAL - LEAST_GRIP * (DCONMS ?? 0) < asked.reach)
    misses.push(`it is ${show(OAL)} long: it cannot stand out ${show(asked.reach)} and still be held`);
  return misses;
}

/** Whether an insert gives the corner that is asked for, in a cutter that is not ground to one itself. */
export const givesCorner = (
  asked: Length | null,
  cutter: Pick<Component, 'dimensions'>,
  insert: Pick<Component, 'dimensions'>,
): boolean =>
  asked === null ||
  cutter.dimensions.RE !== undefined ||
  Math.abs((insert.dimensions.RE ?? 0) - asked) <= SAME;
