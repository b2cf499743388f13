import type { Told } from '../live/concerns';
import { dev, version } from '$app/environment';
import { pagesOf } from './kept-pages';

const STORE = 'tin-machines';
/** Of which machines the pages were kept last in this browser, by which version, and when. */
const KEPT = 'tin-kept';
/** At how many machines a device may stand. */
const MOST = 3;
/** When the pages are kept anew, milliseconds: first, after something was told, at least, and at most so often. */
const [FIRST, SOON, SPREAD, ALWAYS, BETWEEN] = [2_000, 15_000, 20_000, 600_000, 120_000];

/** The machines this device stood at last, the newest first. */
function machinesHere(now: number | null): number[] {
  const before = JSON.parse(localStorage.getItem(STORE) ?? '[]') as number[];
  const all = [...new Set(now === null ? before : [now, ...before])].slice(0, MOST);
  localStorage.setItem(STORE, JSON.stringify(all));
  return all;
}

/** For whom and of which machines pages are kept, in whichever order those were stood at. */
const named = (person: number, machines: readonly number[]) =>
  `${version} ${person} ${machines.toSorted((a, b) => a - b).join()}`;
/** How long ago just these were kept, by whichever page of this browser, milliseconds; Infinity: never. */
function keptAgo(name: string): number {
  const [of, at] = JSON.parse(localStorage.getItem(KEPT) ?? '["", 0]') as [string, number];
  const ago = Date.now() - at;
  return of === name && ago >= 0 ? ago : Infinity;
}
/** Nobody is signed in: what was kept is gone, and is kept anew for whoever comes. */
export const forgetKept = (): void => localStorage.removeItem(KEPT);

/**
 * Has the pages of the machines that this device stands at kept for when there is no network, and renewed when something happens there. Where the
 * page comes by plain http from another machine a browser keeps nothing.
 *
 * @param at the machine that is worked at just now
 * @param who is signed in
 * @returns to be told of entries, and of another page being shown
 */
export function keeper(at: () => number | null, who: () => number) {
  const nothing = () => {};
  if (!('serviceWorker' in navigator)) return { told: nothing, moved: nothing, stop: nothing };
  const now = () => named(who(), machinesHere(at()));
  let timer: ReturnType<typeof setTimeout> | undefined;
  let due = Infinity;
  const keep = async () => {
    timer = undefined;
    due = Infinity;
    const machines = machinesHere(at());
    // nobody is asked for pages that nobody works by, nor from a page that is put away
    if (machines.length > 0 && document.visibilityState === 'visible') {
      await navigator.serviceWorker.register('/service-worker.js', { type: dev ? 'module' : 'classic' });
      const { active } = await navigator.serviceWorker.ready;
      active?.postMessage({ keep: machines.flatMap(pagesOf) });
      localStorage.setItem(KEPT, JSON.stringify([named(who(), machines), Date.now()]));
    }
    plan(ALWAYS);
  };
  const plan = (wait: number) => {
    // another page of this browser, or this one before it was loaded anew, may have done it just now
    const then = Date.now() + Math.max(wait, BETWEEN - keptAgo(now()));
    if (then >= due) return;
    clearTimeout(timer);
    due = then;
    timer = setTimeout(() => void keep().catch(() => plan(ALWAYS)), then - Date.now());
  };
  // not anew for each page that is opened
  const moved = () => plan(keptAgo(now()) < ALWAYS ? ALWAYS : FIRST);
  moved();
  return {
    moved,
    told: ({ kind, machine }: Told) => {
      if (kind === 'back' || machine === null || machinesHere(null).includes(machine))
        plan(SOON + Math.random() * SPREAD);
    },
    stop: () => clearTimeout(timer),
  };
}
