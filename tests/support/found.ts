import type { FoundTool } from '../../src/core/changer/load-plan.ts';
import type { WantedTool } from '../../src/core/changer/wanted.ts';

/** A tool as a load plan finds it: its assembly is a hundred more than its T. */
export const found = (tool: number, over: Partial<FoundTool> = {}): FoundTool => ({
  tool,
  assemblyId: 100 + tool,
  number: `A-${tool}`,
  name: 'a tool',
  measured: true,
  radius: 31,
  ...over,
});

/** The same tool as a plan wants it in a pocket. */
export const wish = (tool: number, pocket: number, over: Partial<WantedTool> = {}): WantedTool => ({
  assemblyId: 100 + tool,
  number: `A-${tool}`,
  name: 'a tool',
  tool,
  pocket,
  wide: false,
  heavy: false,
  radius: 31,
  orientation: null,
  ...over,
});
