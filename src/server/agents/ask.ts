import type { Ask } from '../../core/agent/follow.ts';
import { readStreams, type StreamsRead } from '../../core/agent/streams.ts';

/** Things asked for at once, and bytes that an answer may have. */
export const AT_ONCE = 500;
const MOST_BYTES = 1_000_000;

/** Asks an agent, and gives up on one that is slow or does not stop talking. */
export async function askAgent(address: string, ask: Ask, patience: number): Promise<StreamsRead> {
  const path = ask.what === 'current' ? 'current' : `sample?from=${ask.from}&count=${AT_ONCE}`;
  try {
    const response = await fetch(`${address}/${path}`, {
      signal: AbortSignal.timeout(patience),
      redirect: 'error',
      headers: { accept: 'application/xml, text/xml' },
    });
    const text = await limited(response);
    if (text === null) return { ok: false, reason: 'The agent answered with over a megabyte.' };
    const read = readStreams(text, null);
    // an agent's refusal comes as a document with a status of its own
    if (!response.ok && read.ok)
      return { ok: false, reason: `The agent answered with status ${response.status}.` };
    if (!response.ok && !read.ok && !text.includes('MTConnectError'))
      return { ok: false, reason: `The agent answered with status ${response.status}.` };
    return read;
  } catch (error) {
    return {
      ok: false,
      reason:
        (error as Error).name === 'TimeoutError'
          ? `The agent does not answer within ${patience / 1000} s.`
          : 'The agent does not answer.',
    };
  }
}

/** The text of an answer; null, and no more of it is read, where it is too long. */
async function limited(response: Response): Promise<string | null> {
  if (Number(response.headers.get('content-length') ?? 0) > MOST_BYTES) {
    await response.body?.cancel();
    return null;
  }
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  const reader = response.body?.getReader();
  if (!reader) return '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return text + decoder.decode();
    bytes += value.byteLength;
    if (bytes > MOST_BYTES) {
      await reader.cancel();
      return null;
    }
    text += decoder.decode(value, { stream: true });
  }
}
