import { readPartCount, type PartCount } from '../core/formats/part-count.ts';

/** Where a machine's control answers: its own address, or the stand-in of the demo that goes by its name. */
const addressOf = (machine: { name: string; controlAddress: string | null }) =>
  machine.controlAddress ??
  (process.env.TIN_STAND_IN ? `${process.env.TIN_STAND_IN}/${machine.name.toLowerCase()}` : null);

/** Asks a machine's control for its count of parts. A control that is away is a sentence, never a failure of the page. */
export async function controlCount(machine: {
  name: string;
  controlAddress: string | null;
}): Promise<PartCount | null> {
  const address = addressOf(machine);
  if (!address) return null;
  try {
    const response = await fetch(`${address}/current`, {
      signal: AbortSignal.timeout(700),
      redirect: 'error',
    });
    if (response.status === 404) return null;
    if (!response.ok) return { ok: false, reason: `The control answered with status ${response.status}.` };
    return readPartCount(await response.text());
  } catch {
    return { ok: false, reason: 'The control does not answer.' };
  }
}
