/** A tool as a plan wants it to stand. */
export interface WantedTool {
  /** The physical piece; null: it must be built first. */
  assemblyId: number | null;
  /** Its number, or what is asked for. */
  number: string;
  name: string;
  tool: number;
  pocket: number;
  /** The pocket is to be declared wide for it, or its neighbours kept empty. */
  wide: boolean;
  heavy: boolean;
  /** How it must stand in the spindle (H10); null: it does not matter. */
  orientation: 'tip' | 'probe' | null;
}

/** Where a machine is to come to: what stands where, and what is to be gone. */
export interface Wanted {
  tools: WantedTool[];
  /** Assemblies to be taken out. */
  out: number[];
}

/** Fine boring bars face a way, and a probe goes in the same way round for ever (H10). */
export const orientationOf = (kind: string): WantedTool['orientation'] =>
  kind === 'boringBar' ? 'tip' : kind === 'probe' ? 'probe' : null;
