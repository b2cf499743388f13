import { z } from 'zod';
import { spindleFound, spindleUnsure } from '$server/magazines';
import { act, orEmpty, whole } from '../action';

/** What is said of a spindle that nobody is sure of, on every page of a machine that asks. */
export const spindleActs = {
  doubt: act(z.object({ why: z.string().max(200).default('') }), ({ input, asking, event }) =>
    spindleUnsure(asking, { machineId: Number(event.params.id), why: input.why }),
  ),
  found: act(z.object({ tool: whole('T', 0, 9999), assembly: orEmpty }), ({ input, asking, event }) =>
    spindleFound(asking, {
      machineId: Number(event.params.id),
      tool: input.tool,
      assemblyId: input.assembly,
    }),
  ),
};
