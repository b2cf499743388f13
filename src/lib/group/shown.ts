import type { LifeBasis } from '$core/life/count';
import type { GroupPlay, StandingGroup } from '$core/life/group';
import type { GroupDid } from '$core/life/group-did';

/** A group as its page shows it. */
export interface GroupShown extends StandingGroup {
  /** T that cuts the next part. */
  next: number | null;
  seen: string;
  /** What the control will do on the running job; null: nothing running calls it. */
  play: GroupPlay | null;
  /** Whether the control did as foretold with the parts it made since the last count; null: it cannot be asked. */
  did: GroupDid | null;
  card: { tool: number; basis: LifeBasis; set: number; left: number; row: number[] }[];
}
export interface GroupMachineShown {
  id: number;
  name: string;
  kind: 'mill' | 'lathe';
  expiry: 'atZero' | 'belowZero';
}
