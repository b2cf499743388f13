/** What this page asked for itself, by the beginning of the key of its form: on its way, told to others meanwhile, or answered and shown. */
const acts = new Map<string, 'open' | 'told' | 'shown'>();
/** How many are remembered: what they leave is told within moments. */
const MOST = 50;
let onMissed = () => {};

/** What is to be done where something was told of an act whose answer did not bring it to the page. */
export const whenMissed = (tell: () => void): void => void (onMissed = tell);

/**
 * An act of this page is on its way. What others are told of it is no reason to load this page once more: its answer does.
 *
 * @param key of its form; entries are told with the first eight of its signs (`once` says them to the database)
 * @returns to be called when the answer is here, or given up: whether the page has loaded its data after it
 */
export function beginAct(key: string): (loaded: boolean) => void {
  const act = key.slice(0, 8);
  acts.set(act, 'open');
  for (const old of [...acts.keys()].slice(0, -MOST)) acts.delete(old);
  return (loaded) => {
    const missed = !loaded && acts.get(act) === 'told';
    if (loaded) acts.set(act, 'shown');
    else acts.delete(act);
    if (missed) onMissed();
  };
}

/** Whether what is told is of an act of this page, whose answer brings it, or has brought it. */
export function isOwn(act: string | null | undefined): boolean {
  const known = acts.get(act ?? '');
  if (known === 'open') acts.set(act!, 'told');
  return known !== undefined;
}
