import type { GroupRules, MemberRole } from './group.ts';

/** A group as somebody writes it down. */
export interface WrittenGroup extends GroupRules {
  number: number;
  purpose: string;
  initialise: boolean;
  members: readonly {
    tool: number;
    role: MemberRole;
    lengthRows: readonly number[];
    radiusRows: readonly number[];
  }[];
}

/** What of the machine a group is held against. */
export interface GroupMachine {
  name: string;
  kind: 'mill' | 'lathe';
  highestTool: number;
  /** Rows that the control has. */
  rows: readonly number[];
  /** The other groups of the machine. */
  others: readonly { number: number; tools: readonly number[] }[];
}

/**
 * What is wrong with a group (H11): every fault in a sentence; empty: none. Members need not be identical, but each has a T and rows of
 * its own: two that share a length would cut with one another's.
 */
export function groupFaults(group: WrittenGroup, machine: GroupMachine): string[] {
  const faults: string[] = [];
  const place = machine.kind === 'mill' ? 'T' : 'station ';
  if (machine.others.some(({ number }) => number === group.number))
    faults.push(`${machine.name} already has a group ${group.number}.`);
  if (group.members.length === 0) faults.push('A group has one member at least.');
  if (group.members.length > 0 && !group.members.some(({ role }) => role === 'original'))
    faults.push('One member at least is an original.');
  const seen = new Set<number>();
  const rowOf = new Map<string, number>();
  for (const { tool, lengthRows, radiusRows } of group.members) {
    const name = `${place}${tool}`;
    if (!Number.isInteger(tool) || tool < 1 || tool > machine.highestTool)
      faults.push(`${name}: ${machine.name} has T1 to T${machine.highestTool}.`);
    if (seen.has(tool)) faults.push(`${name} is in it twice.`);
    seen.add(tool);
    const other = machine.others.find(({ tools }) => tools.includes(tool));
    if (other) faults.push(`${name} is in group ${other.number} already.`);
    if (lengthRows.length === 0) faults.push(`${name} has no row of its own.`);
    if (machine.kind === 'mill' && lengthRows.length > 1) faults.push(`${name}: one length row on a mill.`);
    if (machine.kind === 'lathe' && radiusRows.length > 0) faults.push(`${name}: a lathe has no D rows.`);
    if (lengthRows.length > 3 || radiusRows.length > 3) faults.push(`${name}: up to three rows of a kind.`);
    for (const [kind, rows] of [
      ['row ', lengthRows],
      ['D', radiusRows],
    ] as const)
      for (const row of rows) {
        if (!machine.rows.includes(row)) faults.push(`${name}: ${machine.name} has no row ${row}.`);
        const taken = rowOf.get(`${kind}${row}`);
        if (taken !== undefined)
          faults.push(
            taken === tool
              ? `${name} names ${kind}${row} twice.`
              : `${name} and ${place}${taken} share ${kind}${row}: each needs its own.`,
          );
        rowOf.set(`${kind}${row}`, tool);
      }
  }
  return [...new Set(faults)];
}
