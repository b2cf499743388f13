import { readPartCount, type PartCount } from '../core/formats/part-count.ts';

/** Asks a machine's control for its count of parts. A control that is away is a sentence, never a failure of the page. */
export async function controlCount(address: string | null): Promise<PartCount | null> {
  if (!address) return null;
  try {
    const response = await fetch(`${address}/current`, { signal: AbortSignal.timeout(700), redirect: 'error' });
    if (!response.ok) return { ok: false, reason: `The control answered with status ${response.status}.` };
    return readPartCount(await response.text());
  } catch {
    return { ok: false, reason: 'The control does not answer.' };
  }
}
