import type { Point } from './path-length.ts';

/** How coordinates are moved: turned, shifted by so much, zero set where it stands, read as polar, scaled; and what ends it. */
export const FRAMES = {
  16: 'G15',
  // a lathe of turning cycles sets its zero by G50, as others do by G92
  50: null,
  51: 'G50',
  52: 'G52 X0. Y0. Z0.',
  68: 'G69',
  92: null,
} as const;
export type FrameCode = keyof typeof FRAMES;
const ENDS: Readonly<Record<number, FrameCode>> = { 15: 16, 50: 51, 69: 68 };

/** What moves the coordinates of a mill at present, and what has moved them before. */
export class Frame {
  /** Line index at which each that is in force came. */
  private readonly since = new Map<FrameCode, number>();
  private readonly ever = new Set<FrameCode>();
  private shift: Point = { x: 0, y: 0, z: 0 };

  get isMoved(): boolean {
    return this.since.size > 0;
  }

  /** G16, G51, G68 begin; G15, G50, G69 end. @returns whether anything came or went */
  code(code: number, line: number): boolean {
    const ended = ENDS[code];
    if (ended !== undefined) return this.since.delete(ended);
    if (code !== 16 && code !== 51 && code !== 68) return false;
    this.begin(code, line);
    return true;
  }

  /** G52: zero lies so far from that of the work offset; an axis without a word stays. @returns by how much places now read less */
  local(by: Partial<Point>, line: number): Point {
    const before = this.shift;
    this.shift = { ...before, ...by };
    const { x, y, z } = this.shift;
    if (x !== 0 || y !== 0 || z !== 0) this.begin(52, line);
    else this.since.delete(52);
    return { x: x - before.x, y: y - before.y, z: z - before.z };
  }

  /** G92, or G50 on a lathe: where it stands is so and so from now on. Nothing of the family ends it for certain. */
  set(code: 50 | 92, line: number): void {
    this.begin(code, line);
  }

  private begin(code: FrameCode, line: number): void {
    this.since.set(code, line);
    this.ever.add(code);
  }

  /** Those in force, each with its line from 1. */
  now = (): FrameNow[] => [...this.since].map(([code, line]) => ({ code, line: line + 1 }));

  /** Those that were in force at any time. */
  were = (): FrameCode[] => [...this.ever];
}

export interface FrameNow {
  code: FrameCode;
  line: number;
}
