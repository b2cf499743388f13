import type { LifeBasis } from '$core/life/count';
import type { Flag } from '$core/life/flag';
import type { GroupPlay, GroupRules, MemberRole } from '$core/life/group';

/** A group as its page shows it. */
export interface GroupShown {
  id: number;
  number: number;
  purpose: string;
  rules: GroupRules;
  initialise: boolean;
  inUse: number | null;
  /** T that cuts the next part. */
  next: number | null;
  seen: string;
  members: {
    tool: number;
    role: MemberRole;
    lengthRows: number[];
    radiusRows: number[];
    unkeyed: boolean;
    fresh: boolean;
    assembly: {
      id: number;
      number: string;
      name: string;
      flag: Flag | null;
      life: { basis: LifeBasis; remaining: number; limit: number } | null;
    } | null;
  }[];
  /** What the control will do on the running job; null: nothing running calls it. */
  play: GroupPlay | null;
  card: { tool: number; basis: LifeBasis; set: number; left: number; row: number[] }[];
}
export interface GroupMachineShown {
  id: number;
  name: string;
  kind: 'mill' | 'lathe';
  expiry: 'atZero' | 'belowZero';
}
