import { readControlXml } from '../formats/control-xml.ts';

/** One thing that an agent says of a machine. */
export interface Observation {
  /** The data item, as the agent names it. */
  id: string;
  /** What it is: `Execution`, `PartCount`, `ToolOffsetTable` …; of a condition its type, `SYSTEM`, `LOGIC_PROGRAM` … */
  type: string;
  subType: string | null;
  sequence: number;
  at: string;
  /** Null: the agent does not know. */
  value: string | null;
  /** Of a condition how bad it is; null of everything else. */
  level: 'Fault' | 'Warning' | 'Normal' | 'Unavailable' | null;
  /** Of a table its rows, each with its cells. */
  rows: { key: string; cells: Record<string, string> }[] | null;
}

export interface Streams {
  ok: true;
  /** Another number is another run of the agent: its sequences began anew. */
  instance: string;
  /** Sequences that its buffer still holds, and the one to ask for next. */
  first: number;
  next: number;
  /** The agent's clock. */
  at: string;
  observed: Observation[];
}

export type StreamsRead =
  | Streams
  /** It no longer holds, or does not yet hold, what was asked for. */
  | { ok: false; outOfRange: true; instance: string; reason: string }
  | { ok: false; outOfRange?: false; reason: string };

type Node = Record<string, unknown>;
const LEVELS = new Set(['Fault', 'Warning', 'Normal', 'Unavailable']);
/** Observations of one document. */
const MOST = 50_000;

const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null;
const child = (node: unknown, name: string): unknown => (isNode(node) ? node[name] : undefined);
const list = (node: unknown): unknown[] =>
  Array.isArray(node) ? node : node === undefined || node === '' ? [] : [node];
function attribute(node: unknown, name: string): string | null {
  const found = child(node, `@${name}`);
  return typeof found === 'string' ? found : null;
}
function textOf(node: unknown): string {
  const found = isNode(node) ? node['#text'] : node;
  return typeof found === 'string' ? found.trim() : '';
}
const counted = (text: string | null): number | null =>
  text !== null && /^\d{1,15}$/.test(text) ? Number(text) : null;

/**
 * Reads a document of an MTConnect agent as it answers `current` and `sample` (ANSI/MTC1.4 parts 2 and 3, from memory; namespaces
 * 1.3 to 2.x alike), or its error document. Nothing is half taken: an observation without its sequence refuses the whole.
 *
 * @param device where an agent serves several, the name of the one that counts; null: there must be one only
 */
export function readStreams(xml: string, device: string | null): StreamsRead {
  const read = readControlXml(xml);
  if (!read.ok) return read;
  const failed = child(read.tree, 'MTConnectError');
  if (failed !== undefined) return errorOf(failed);
  const root = child(read.tree, 'MTConnectStreams');
  if (root === undefined) return { ok: false, reason: 'The control answered, but not as an agent does.' };
  const header = child(root, 'Header');
  const [instance, first, next] = [
    attribute(header, 'instanceId'),
    counted(attribute(header, 'firstSequence')),
    counted(attribute(header, 'nextSequence')),
  ];
  if (instance === null || first === null || next === null)
    return { ok: false, reason: 'The agent does not say which sequences it holds.' };
  const devices = list(child(child(root, 'Streams'), 'DeviceStream'));
  const own =
    device === null ? devices : devices.filter((each) => attribute(each, 'name')?.toLowerCase() === device);
  if (own.length > 1)
    return { ok: false, reason: 'The agent serves several machines: its address must name one of them.' };
  const observed: Observation[] = [];
  for (const component of list(child(own[0], 'ComponentStream')))
    for (const category of ['Samples', 'Events', 'Condition']) {
      const group = list(child(component, category))[0];
      if (!isNode(group)) continue;
      for (const [name, found] of Object.entries(group)) {
        if (name.startsWith('@') || name.startsWith('#')) continue;
        for (const node of list(found)) {
          const one = observationOf(name, node);
          if (one === null) return { ok: false, reason: `The agent says ${name} without its sequence.` };
          observed.push(one);
          if (observed.length > MOST)
            return { ok: false, reason: `The agent said over ${MOST} things at once.` };
        }
      }
    }
  observed.sort((a, b) => a.sequence - b.sequence);
  return { ok: true, instance, first, next, at: attribute(header, 'creationTime') ?? '', observed };
}

function observationOf(name: string, node: unknown): Observation | null {
  const sequence = counted(attribute(node, 'sequence'));
  const id = attribute(node, 'dataItemId');
  if (sequence === null || id === null) return null;
  const level = LEVELS.has(name) ? (name as Observation['level']) : null;
  const text = textOf(node);
  const entries = list(child(node, 'Entry'));
  return {
    id,
    type: level === null ? name : (attribute(node, 'type') ?? ''),
    subType: attribute(node, 'subType'),
    sequence,
    at: attribute(node, 'timestamp') ?? '',
    value: level === 'Unavailable' || text === 'UNAVAILABLE' ? null : text,
    level,
    rows:
      entries.length === 0
        ? null
        : entries.map((entry) => ({
            key: attribute(entry, 'key') ?? '',
            cells: Object.fromEntries(
              list(child(entry, 'Cell')).map((cell) => [attribute(cell, 'key') ?? '', textOf(cell)]),
            ),
          })),
  };
}

function errorOf(failed: unknown): StreamsRead {
  const all = [...list(child(child(failed, 'Errors'), 'Error')), ...list(child(failed, 'Error'))];
  const said = all.map((each) => `${attribute(each, 'errorCode') ?? ''} ${textOf(each)}`.trim());
  const reason = `The agent refused: ${(said[0] ?? 'without a reason').slice(0, 120)}`;
  const instance = attribute(child(failed, 'Header'), 'instanceId');
  return all.some((each) => attribute(each, 'errorCode') === 'OUT_OF_RANGE') && instance !== null
    ? { ok: false, outOfRange: true, instance, reason }
    : { ok: false, reason };
}
