/** When a page asks again, milliseconds: soon, not all pages at the same moment, and not again at once. */
export interface Pace {
  soon: number;
  spread: number;
  between: number;
}
export const PACE: Pace = { soon: 120, spread: 380, between: 1000 };

/**
 * Asks again when something was told: once for all that is told meanwhile. What is told while it asks, it asks for once more; a stream that
 * never stops puts it off no longer than the pace says.
 *
 * @param ask resolves once it has asked
 */
export function refresher(ask: () => Promise<void>, { soon, spread, between }: Pace = PACE) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let asking = false;
  let more = false;
  let last = -Infinity;
  const run = async () => {
    timer = undefined;
    asking = true;
    more = false;
    try {
      await ask();
    } finally {
      asking = false;
      last = Date.now();
      if (more) tell();
    }
  };
  const tell = () => {
    if (asking) more = true;
    else if (timer === undefined) {
      const wait = soon + Math.random() * spread;
      timer = setTimeout(() => void run(), Math.max(wait, last + between - Date.now()));
    }
  };
  return { tell, stop: () => clearTimeout(timer) };
}
