import { INSERT_ROLES, type PartRole } from './part-roles.ts';

/** Inserts of one line of the catalogue in an assembly, each used to the same edge. */
export interface InsertSet {
  number: string;
  count: number;
  /** What one of them has; null: nobody said, and it is used up by one. */
  edges: number | null;
  edgesUsed: number;
}

/** Whether there is no edge left on them to turn to: new ones go in. */
export const usedUp = ({ edges, edgesUsed }: Pick<InsertSet, 'edges' | 'edgesUsed'>) =>
  edgesUsed + 1 >= (edges ?? 1);

/** What indexing them comes to: the next edge, or new ones off the shelf. */
export const indexingWords = (set: InsertSet): string =>
  usedUp(set)
    ? `${set.count} new ${set.count === 1 ? 'insert' : 'inserts'} ${set.number}`
    : `${set.number} to edge ${set.edgesUsed + 2} of ${set.edges}`;

/** What of an assembly is turned to its next edge: its inserts, and those of the other tool in a double holder. */
export const insertsOf = <P extends { role: PartRole }>(parts: readonly P[]): P[] =>
  parts.filter(({ role }) => INSERT_ROLES.some((each) => each === role));
