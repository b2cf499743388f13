import { readCuttingTools, type CuttingTools } from '../core/formats/cutting-tools.ts';
import { readPartCount, type PartCount } from '../core/formats/part-count.ts';

/** Where a machine's control answers: its own address, or the stand-in of the demo that goes by its name. */
export const addressOf = (machine: { name: string; controlAddress: string | null }) =>
  machine.controlAddress ??
  (process.env.TIN_STAND_IN ? `${process.env.TIN_STAND_IN}/${machine.name.toLowerCase()}` : null);

/** Where its answers are read. */
interface Asked {
  name: string;
  controlAddress: string | null;
}

/** Asks a machine's control for its count of parts. A control that is away is a sentence, never a failure of the page. */
export const controlCount = (machine: Asked): Promise<PartCount | null> =>
  asked(machine, 'current', readPartCount);

/** Asks a machine's control for its tools: their lives as it counts them, and their lengths as it measured them last. */
export const controlTools = (machine: Asked): Promise<CuttingTools | null> =>
  asked(machine, 'assets', readCuttingTools);

async function asked<T>(
  machine: Asked,
  what: 'current' | 'assets',
  read: (xml: string) => T,
): Promise<T | { ok: false; reason: string } | null> {
  const address = addressOf(machine);
  if (!address) return null;
  try {
    const response = await fetch(`${address}/${what}`, {
      signal: AbortSignal.timeout(700),
      redirect: 'error',
    });
    if (response.status === 404) return null;
    if (!response.ok) return { ok: false, reason: `The control answered with status ${response.status}.` };
    return read(await response.text());
  } catch {
    return { ok: false, reason: 'The control does not answer.' };
  }
}
