/** How one machine is left at the end of a shift (H18). */
export interface EndMachine {
  id: number;
  name: string;
  /** What is in the spindle by the record, and where it can be put away; null on a machine without a spindle of its own for tools. */
  spindle: { sure: boolean; tool: number | null; name: string; pocket: string | null } | null;
  checks: {
    id: number;
    text: string;
    about: 'spindle' | 'stands' | null;
    /** Of this machine alone. */
    own: boolean;
    by: string | null;
    at: Date | null;
    otherwise: string | null;
  }[];
}

/** What the record says to the line about the spindle. */
export function spindleWords({ spindle }: EndMachine): string {
  if (spindle === null) return '';
  if (!spindle.sure) return 'Nobody is sure what is in the spindle: look, and say so on the machine’s page.';
  if (spindle.tool === null) return 'By the record the spindle is empty.';
  const is = `By the record T${spindle.tool} (${spindle.name}) is in it`;
  return spindle.pocket === null
    ? `${is}, and no pocket is free for it: it stays there, or is taken out by hand.`
    : `${is}; ${spindle.pocket} takes it.`;
}

/** Machines, of these, at which something is open or otherwise than it should be. */
export const notLeftWell = (machines: readonly EndMachine[]) =>
  machines.filter(({ checks }) => checks.some(({ by, otherwise }) => by === null || otherwise !== null));
