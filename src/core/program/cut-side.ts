import { nanometres, type Length } from '../units/length.ts';
import { STILL } from './path-length.ts';

/** From which side the tool of a lathe cuts, as far as the moves of its program say (H8, H14). */
export interface CutSide {
  /** All it cuts lies on the centre line: it drills, reams or taps. */
  onCentre: boolean;
  /** Where it goes after a lengthwise cut: away from the centre line it turns, towards it it bores; null: both, or no such cut. */
  leaves: 'outwards' | 'inwards' | null;
  /** Z of the cuts straight across, least and most; null: there are none. Shoulders at the end of a lengthwise cut are not among them. */
  across: { least: Length; most: Length } | null;
}

interface At {
  x: number;
  z: number;
}

/** Gathers the moves under one tool call. Positions in millimetres, X as a diameter. */
export class CutSides {
  private cuts = 0;
  private offCentre = 0;
  private out = 0;
  private in = 0;
  private least = Infinity;
  private most = -Infinity;
  /** The last move was a cut along Z, towards the chuck. */
  private lengthwise = false;

  move(from: At, to: At, feeds: boolean): void {
    const [outwards, dz] = [Math.abs(to.x) - Math.abs(from.x), to.z - from.z];
    const across = Math.abs(dz) < STILL && Math.abs(to.x - from.x) > STILL;
    if (this.lengthwise && Math.abs(outwards) > STILL) {
      if (outwards > 0) this.out += 1;
      else this.in += 1;
    }
    if (feeds) {
      this.cuts += 1;
      if (Math.abs(from.x) > STILL || Math.abs(to.x) > STILL) this.offCentre += 1;
      if (across && (outwards < 0 || !this.lengthwise)) {
        this.least = Math.min(this.least, to.z);
        this.most = Math.max(this.most, to.z);
      }
    }
    if (Math.abs(dz) > STILL || Math.abs(outwards) > STILL)
      this.lengthwise = feeds && dz < -STILL && Math.abs(to.x - from.x) < STILL;
  }

  /** A hole drilled where the tool stands. */
  hole(at: At): void {
    this.cuts += 1;
    if (Math.abs(at.x) > STILL) this.offCentre += 1;
    this.lengthwise = false;
  }

  side(): CutSide {
    const length = (mm: number) => nanometres(Math.round(mm * 1e6));
    return {
      onCentre: this.cuts > 0 && this.offCentre === 0,
      leaves: this.out > 0 && this.in === 0 ? 'outwards' : this.in > 0 && this.out === 0 ? 'inwards' : null,
      across: this.most < this.least ? null : { least: length(this.least), most: length(this.most) },
    };
  }
}
