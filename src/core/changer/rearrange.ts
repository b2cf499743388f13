import type { Call } from './room.ts';

/** What stands in the spindle and in each pocket, by T; null: empty. Index 0 is the spindle, index n pocket n. */
export type Arrangement = readonly (number | null)[];

/**
 * The fewest pocket calls from one arrangement to another, where every call exchanges the spindle's content with one
 * pocket's, and one empty is as good as another. Tools whose places are wrong form cycles and, from a place that is to be
 * empty to one that is empty now, chains. Without empties the number is that of the star graph: with m places wrong in c
 * cycles, m + c when the spindle is right and m + c − 2 when it is not (S. B. Akers, B. Krishnamurthy). Empties may be
 * taken for one another, so all chains are joined into one cycle, and an empty spindle that stays empty is joined to it: each
 * joining saves a call, nothing else can be joined, so this is the fewest.
 */
export function rearrange(
  now: Arrangement,
  wanted: Arrangement,
): { ok: true; calls: Call[] } | { ok: false; reason: string } {
  const refusal = differentTools(now, wanted);
  if (refusal) return { ok: false, reason: refusal };
  const source = sources(now, wanted);
  const content = [...now];
  const home = targets(source);
  /** Which place's content of the beginning stands here. */
  const from = now.map((_, place) => place);
  const calls: Call[] = [];
  const call = (pocket: number) => {
    calls.push({ pocket, puts: content[0] ?? null, takes: content[pocket] ?? null });
    [content[0], content[pocket]] = [content[pocket]!, content[0]!];
    [from[0], from[pocket]] = [from[pocket]!, from[0]!];
  };
  let search = 1;
  for (;;) {
    const next = home[from[0]!]!;
    if (next !== 0) call(next);
    else {
      while (search < now.length && home[from[search]!] === search) search += 1;
      if (search === now.length) return { ok: true, calls };
      call(search);
    }
  }
}

/** How many calls it takes, told from cycles and chains alone. */
export function fewestCalls(now: Arrangement, wanted: Arrangement): number {
  const source = sources(now, wanted);
  const seen = new Set<number>();
  let [wrong, cycles] = [0, 0];
  for (let start = 0; start < source.length; start += 1) {
    if (seen.has(start)) continue;
    let length = 0;
    for (let place = start; !seen.has(place); place = source[place]!) {
      seen.add(place);
      length += 1;
    }
    if (length > 1) [wrong, cycles] = [wrong + length, cycles + 1];
  }
  return wrong === 0 ? 0 : wrong + cycles - (source[0] === 0 ? 0 : 2);
}

/** For each place, the place whose content it is to get; empties are dealt out so that all chains become one cycle. */
function sources(now: Arrangement, wanted: Arrangement): number[] {
  const standsAt = new Map(now.flatMap((tool, place) => (tool === null ? [] : [[tool, place] as const])));
  const source = wanted.map((tool) => (tool === null ? -1 : standsAt.get(tool)!));
  const goesTo = new Map(source.flatMap((from, place) => (from < 0 ? [] : [[from, place] as const])));
  // a chain begins where a tool stands that nothing follows, and ends at an empty that a tool wants
  const chains: { first: number; last: number }[] = [];
  source.forEach((from, place) => {
    if (from >= 0) return;
    if (now[place] === null) {
      source[place] = place;
      return;
    }
    let last = place;
    while (goesTo.has(last)) last = goesTo.get(last)!;
    chains.push({ first: place, last });
  });
  if (chains.length === 0) return source;
  if (now[0] === null && wanted[0] === null) chains.push({ first: 0, last: 0 });
  chains.forEach(({ first }, i) => {
    source[first] = chains[(i + 1) % chains.length]!.last;
  });
  return source;
}

function targets(source: readonly number[]): number[] {
  const home: number[] = [];
  source.forEach((from, place) => (home[from] = place));
  return home;
}

function differentTools(now: Arrangement, wanted: Arrangement): string | null {
  if (now.length !== wanted.length) return 'The two arrangements are of different magazines.';
  const tools = (of: Arrangement) => of.filter((tool) => tool !== null).sort((a, b) => a - b);
  const [has, wants] = [tools(now), tools(wanted)];
  if (new Set(has).size !== has.length || new Set(wants).size !== wants.length)
    return 'A T is recorded in two places: one of them is wrong.';
  const [extra, lacking] = [
    has.filter((tool) => !wants.includes(tool)),
    wants.filter((tool) => !has.includes(tool)),
  ];
  if (extra.length === 0 && lacking.length === 0) return null;
  const named = (list: number[]) => list.map((tool) => `T${tool}`).join(', ');
  return [
    lacking.length > 0 ? `${named(lacking)} must be loaded first.` : '',
    extra.length > 0 ? `${named(extra)} must be taken out first.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}
