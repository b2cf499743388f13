import { LONGEST_LINE, MOST_LINES } from '../correction/register-text.ts';

/** What stands where, by one account: places (0 is the spindle) with the T that stands in each; an empty one is left out. */
export type PlaceMap = ReadonlyMap<number, number>;

/** Places that hang together: what one account has in one of them, the other has in another of them. */
export interface Tangle {
  /** How the two accounts differ there. */
  kind: 'changedPlaces' | 'moved' | 'onlyRecord' | 'onlyControl' | 'other';
  places: number[];
  /** T that stand in these places by either account. */
  tools: number[];
  /** One look there tells which account is right: no look fewer can, since each tangle may be right by either. */
  look: number;
}

/**
 * The pockets of the record beside those of the control, as tangles that can be right or wrong only as a whole, and for each the one place to look
 * into (H4, H18). Where they agree there is nothing to settle by looking.
 *
 * @returns tangles, the one with most tools first
 */
export function tangles(record: PlaceMap, control: PlaceMap): Tangle[] {
  const differing = [...new Set([...record.keys(), ...control.keys()])]
    .filter((place) => record.get(place) !== control.get(place))
    .sort((a, b) => a - b);
  const group = new Map(differing.map((place) => [place, place]));
  const rootOf = (place: number): number => {
    const above = group.get(place)!;
    return above === place ? place : rootOf(above);
  };
  const [inRecord, inControl] = [placesByTool(record), placesByTool(control)];
  for (const [tool, place] of inRecord) {
    const other = inControl.get(tool);
    if (other !== undefined && other !== place) group.set(rootOf(place), rootOf(other));
  }
  const parts = new Map<number, number[]>();
  for (const place of differing) parts.set(rootOf(place), [...(parts.get(rootOf(place)) ?? []), place]);
  return [...parts.values()]
    .map((places): Tangle => {
      const tools = [
        ...new Set(
          places.flatMap((place) =>
            [record.get(place), control.get(place)].filter((tool) => tool !== undefined),
          ),
        ),
      ].sort((a, b) => a - b);
      // an empty pocket is told from a full one with half a glance
      const glance = places.find((place) => !record.has(place) || !control.has(place));
      return { kind: kindOf(places, tools, record, control), places, tools, look: glance ?? places[0]! };
    })
    .sort((a, b) => b.tools.length - a.tools.length || a.places[0]! - b.places[0]!);
}

const placesByTool = (map: PlaceMap) => new Map([...map].map(([place, tool]) => [tool, place]));

function kindOf(places: number[], tools: number[], record: PlaceMap, control: PlaceMap): Tangle['kind'] {
  const full = (map: PlaceMap) => places.filter((place) => map.has(place)).length;
  const [a, b] = [full(record), full(control)];
  if (b === 0) return 'onlyRecord';
  if (a === 0) return 'onlyControl';
  if (a === places.length && b === places.length && tools.length === places.length)
    return places.length === 2 ? 'changedPlaces' : 'other';
  return tools.length === 1 && places.length === 2 ? 'moved' : 'other';
}

const placeWord = (place: number, word: string) => (place === 0 ? 'the spindle' : `${word} ${place}`);

/** A tangle as a setter would say it, with where to look. @param word what a place is called at this machine */
export function tangleWords(tangle: Tangle, record: PlaceMap, control: PlaceMap, word: string): string {
  const { kind, places, tools, look } = tangle;
  const by = (map: PlaceMap, place: number) => (map.has(place) ? `T${map.get(place)} in it` : 'Empty');
  const said = () => {
    switch (kind) {
      case 'changedPlaces':
        return `T${tools[0]} and T${tools[1]} have changed places.`;
      case 'moved':
        return `T${tools[0]} stands in ${placeWord(
          places.find((place) => record.has(place))!,
          word,
        )} on record, and in ${placeWord(
          places.find((place) => control.has(place))!,
          word,
        )} by the control.`;
      case 'onlyRecord':
        return `The control knows nothing of T${tools.join(', T')}.`;
      case 'onlyControl':
        return `The record knows nothing of T${tools.join(', T')}.`;
      case 'other':
        return `${places.length} places stand otherwise: ${tools.map((tool) => `T${tool}`).join(', ')}.`;
    }
  };
  return `${said()} Look into ${placeWord(look, word)}. ${by(record, look)}: the record is right. ${by(control, look)}: the control is right.`;
}

/**
 * Reads a pocket table as a control shows it: a place and a T on each line, `12 7`, `P12 T7`, `12: T7`; no T, `T0`, `-` or nothing is an empty one; the
 * spindle is 0 or `SP`. A bare number is refused: nobody can tell whether it is an empty place, or a T whose place was left out.
 */
export function readPocketTable(
  text: string,
  places: ReadonlySet<number>,
): { map: Map<number, number>; seen: number[]; problems: string[] } {
  const map = new Map<number, number>();
  const seen = new Set<number>();
  const tools = new Set<number>();
  const problems: string[] = [];
  const written = text.split(/\r\n|\r|\n/);
  if (written.length > MOST_LINES)
    return { map, seen: [], problems: [`More than ${MOST_LINES} lines: no pocket table is that long.`] };
  for (const [index, raw] of written.entries()) {
    if (raw.length > LONGEST_LINE) {
      problems.push(`Line ${index + 1}: "${raw.trim().slice(0, 40)}" is too long for a place.`);
      continue;
    }
    // a tab at the end is an empty cell behind the place
    const line = raw
      .replace(/\(.*?\)/g, '')
      .replace(/^\s+| +$/g, '')
      .toUpperCase();
    if (!/\d|^SP(INDLE)?$/.test(line)) continue;
    const at = `Line ${index + 1}: `;
    const found =
      /^(?:P|POT|POCKET)?\s*(SP(?:INDLE)?|\d{1,4})(?:\s*[\s:;,|]\s*|(?=T)|(?<=[A-Z].*)$)(?:T?\s*(\d{1,8})|-|EMPTY)?\s*$/.exec(
        line,
      );
    if (!found) {
      problems.push(`${at}"${raw.trim().slice(0, 40)}" is not a place and a T.`);
      continue;
    }
    const place = found[1]!.startsWith('SP') ? 0 : Number(found[1]);
    const tool = Number(found[2] ?? 0);
    if (!places.has(place)) problems.push(`${at}there is no place ${place}.`);
    else if (seen.has(place)) problems.push(`${at}place ${place} stands there twice.`);
    else if (tool !== 0 && tools.has(tool)) problems.push(`${at}T${tool} stands there twice.`);
    seen.add(place);
    tools.add(tool);
    if (tool !== 0) map.set(place, tool);
  }
  if (seen.size === 0 && problems.length === 0) problems.push('There is no place in it.');
  return { map, seen: [...seen], problems };
}
