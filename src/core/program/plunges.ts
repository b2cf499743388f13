import { STILL } from './path-length.ts';

interface Place {
  x: number;
  y?: number;
  z: number;
}

/**
 * Holes that are made without a canned cycle: by feed straight down, pecked or not, at so many places. A tool that also feeds sideways
 * mills, and its plunges are no holes.
 */
export class Plunges {
  private count = 0;
  private sideways = false;
  private last: Place | null = null;
  private readonly lathe: boolean;

  /** @param lathe there only what lies on the centre line is a hole */
  constructor(lathe: boolean) {
    this.lathe = lathe;
  }

  move(from: Place, to: Place, feeds: boolean): void {
    if (!feeds || this.sideways) return;
    if (
      Math.abs(to.x - from.x) > STILL ||
      Math.abs((to.y ?? 0) - (from.y ?? 0)) > STILL ||
      (this.lathe && Math.abs(to.x) > STILL)
    ) {
      this.sideways = true;
      return;
    }
    if (to.z >= from.z - STILL) return;
    const { last } = this;
    // pecks at one place are one hole
    if (last && Math.abs(last.x - to.x) <= STILL && Math.abs((last.y ?? 0) - (to.y ?? 0)) <= STILL) return;
    this.count += 1;
    this.last = to;
  }

  get isSideways(): boolean {
    return this.sideways;
  }

  holes = () => (this.sideways ? 0 : this.count);
}
