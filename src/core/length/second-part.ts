import { isWear } from '../inspection/register-words.ts';
import { nanometres, type Length } from '../units/length.ts';

/** What makes the second part of one bar lie nearer to the chuck than the first. */
export interface SecondPart {
  partLength: Length;
  /** Width of the parting tool. */
  parting: Length;
  /** Stock that is left for facing the second part. */
  facing: Length;
}

/** By how much Z of the copied rows moves: towards the chuck, which is minus. */
export const shiftOf = ({ partLength, parting, facing }: SecondPart): Length =>
  nanometres(-(partLength + parting + facing));

export type LatheKind = 'xGeometry' | 'zGeometry' | 'xWear' | 'zWear';
export const LATHE_KINDS: readonly LatheKind[] = ['xGeometry', 'zGeometry', 'xWear', 'zWear'];

/** A register of a row; the same kinds in the row it is copied to. */
export interface HeldRegister {
  id: number;
  row: number;
  kind: string;
  value: Length;
}

/** One register of the second part's block: what it holds, and what it is to hold. */
export interface Copied {
  registerId: number;
  from: number;
  row: number;
  kind: LatheKind;
  before: Length;
  after: Length;
  /** A wear that an earlier job left in the block: it would shift the second part unseen. */
  stale: boolean;
}

/**
 * Copies a family of rows of a lathe to a block, Z shifted towards the chuck (H8): X, Z and wear as the first part has them, since the
 * same edges cut both. A wear row of the block that holds something else is named, because nothing clears it by itself.
 *
 * @throws RangeError where a row of the family, or the one it is copied to, is not among the registers.
 */
export function copyFamily(
  registers: readonly HeldRegister[],
  family: readonly number[],
  block: number,
  shift: Length,
): Copied[] {
  const held = (row: number, kind: LatheKind) => {
    const found = registers.find((each) => each.row === row && each.kind === kind);
    if (!found) throw new RangeError(`There is no row ${row}.`);
    return found;
  };
  return family.flatMap((from) =>
    LATHE_KINDS.map((kind): Copied => {
      const [source, target] = [held(from, kind), held(from + block, kind)];
      const after = kind === 'zGeometry' ? nanometres(source.value + shift) : source.value;
      return {
        registerId: target.id,
        from,
        row: from + block,
        kind,
        before: target.value,
        after,
        stale: isWear(kind) && target.value !== 0 && target.value !== after,
      };
    }),
  );
}

/** Why these rows cannot be copied there; null where they can. `called` are rows that tools use on their own. */
export function familyFault(
  family: readonly number[],
  block: number,
  rows: readonly number[],
  called: readonly number[],
): string | null {
  if (family.length === 0) return 'Say which rows the first part uses, such as 1 2 9.';
  const missing = [...family, ...family.map((row) => row + block)].find((row) => !rows.includes(row));
  if (missing !== undefined) return `This machine has no row ${missing}.`;
  const twice = family.find((row) => family.includes(row + block));
  if (twice !== undefined)
    return `Row ${twice + block} would be copied over while it is still copied from. Choose another block.`;
  const own = family.map((row) => row + block).find((row) => called.includes(row));
  return own === undefined ? null : `Row ${own} belongs to the tool in station ${own}. Choose another block.`;
}
