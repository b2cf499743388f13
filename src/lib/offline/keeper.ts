import type { Told } from '../live/concerns';
import { dev } from '$app/environment';
import { pagesOf } from './kept-pages';

const STORE = 'tin-machines';
/** At how many machines a device may stand. */
const MOST = 3;
/** When the pages are kept anew, milliseconds: first, after something was told, at least, and at most so often. */
const [FIRST, SOON, SPREAD, ALWAYS, BETWEEN] = [5_000, 15_000, 20_000, 600_000, 120_000];

/** The machines this device stood at last, the newest first. */
function machinesHere(now: number | null): number[] {
  const before = JSON.parse(localStorage.getItem(STORE) ?? '[]') as number[];
  const all = [...new Set(now === null ? before : [now, ...before])].slice(0, MOST);
  localStorage.setItem(STORE, JSON.stringify(all));
  return all;
}

/**
 * Has the pages of the machines that this device stands at kept for when there is no network, and renewed when something happens there. Where the
 * page comes by plain http from another machine a browser keeps nothing.
 *
 * @param at the machine that is worked at just now
 */
export function keeper(at: () => number | null): { told: (told: Told) => void; stop: () => void } {
  if (!('serviceWorker' in navigator)) return { told: () => {}, stop: () => {} };
  let last = -Infinity;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let due = Infinity;
  const keep = async () => {
    timer = undefined;
    due = Infinity;
    const machines = machinesHere(at());
    // nobody is asked for pages that nobody works by, nor from a page that is put away
    if (machines.length > 0 && document.visibilityState === 'visible') {
      last = Date.now();
      await navigator.serviceWorker.register('/service-worker.js', { type: dev ? 'module' : 'classic' });
      const { active } = await navigator.serviceWorker.ready;
      active?.postMessage({ keep: machines.flatMap(pagesOf) });
    }
    plan(ALWAYS);
  };
  const plan = (wait: number) => {
    const then = Math.max(Date.now() + wait, last + BETWEEN);
    if (then >= due) return;
    clearTimeout(timer);
    due = then;
    timer = setTimeout(() => void keep().catch(() => plan(ALWAYS)), then - Date.now());
  };
  plan(FIRST);
  return {
    told: ({ kind, machine }) => {
      if (kind === 'back' || machine === null || machinesHere(null).includes(machine))
        plan(SOON + Math.random() * SPREAD);
    },
    stop: () => clearTimeout(timer),
  };
}
