import type { Length } from '../units/length.ts';
import { parseLength } from '../units/parse-length.ts';
import { measureOf } from './asset-measures.ts';
import { readControlXml } from './control-xml.ts';

/** A counter of a control, in its own direction. */
export interface ControlLife {
  type: 'PART_COUNT' | 'MINUTES' | 'WEAR';
  direction: 'UP' | 'DOWN';
  value: number;
  /** Where it began, and where it ends; null: not said. */
  initial: number | null;
  limit: number | null;
}

export interface ControlTool {
  tool: number;
  /** NEW, USED, EXPIRED, BROKEN … as the control says. */
  status: string[];
  lives: ControlLife[];
  /** The pocket that it stands in, 0 the spindle; null: the control does not say. */
  place: number | null;
  /** From the gauge line to the tip; null: it was not measured. */
  functionalLength: Length | null;
}

export type CuttingTools = { ok: true; tools: ControlTool[] } | { ok: false; reason: string };

const LISTED = new Set(['CuttingTool', 'Status', 'ToolLife']);
/** Tools of one document. */
const MOST = 2000;

/**
 * Reads the tools that a control holds out of an MTConnect assets document: for each ProgramToolNumber its CutterStatus, its ToolLife
 * and its FunctionalLength, in millimetres unless it says otherwise (ANSI/MTC1.4 part 4, from memory). Entities are not expanded, so a document cannot grow; a
 * T that is there twice, or a number that is none, is a refusal of the whole.
 */
export function readCuttingTools(xml: string): CuttingTools {
  const read = readControlXml(xml, (name) => LISTED.has(name));
  if (!read.ok) return read;
  const root = child(read.tree, 'MTConnectAssets');
  if (!root) return { ok: false, reason: 'The control answered, but not with its tools.' };
  const assets = listOf(child(root, 'Assets'), 'CuttingTool');
  if (assets.length > MOST) return { ok: false, reason: `The control names more than ${MOST} tools.` };
  const tools: ControlTool[] = [];
  for (const asset of assets) {
    // what was taken out of the control goes on being told for a while
    if (attribute(asset, 'removed') === 'true') continue;
    const cycle = child(asset, 'CuttingToolLifeCycle');
    const number = text(child(cycle, 'ProgramToolNumber'));
    if (number === null) continue;
    const tool = Number(number);
    if (!Number.isInteger(tool) || tool < 1 || tool > 99_999_999)
      return { ok: false, reason: `The control calls a tool "${number.slice(0, 20)}", which is no T.` };
    if (tools.some((each) => each.tool === tool))
      return { ok: false, reason: `The control names T${tool} twice.` };
    const lives: ControlLife[] = [];
    for (const each of listOf(cycle, 'ToolLife')) {
      const read = lifeOf(each);
      if (read === null) return { ok: false, reason: `A life of T${tool} cannot be read.` };
      lives.push(read);
    }
    const length = lengthIn(child(child(cycle, 'Measurements'), 'FunctionalLength'));
    if (length !== null && !length.ok)
      return { ok: false, reason: `The length of T${tool} cannot be read: "${length.said.slice(0, 20)}".` };
    const place = placeOf(child(cycle, 'Location'));
    if (place === 'unreadable') return { ok: false, reason: `The place of T${tool} cannot be read.` };
    if (place !== null && tools.some((each) => each.place === place))
      return { ok: false, reason: `The control has two tools in place ${place}.` };
    tools.push({
      tool,
      place,
      status: listOf(child(cycle, 'CutterStatus'), 'Status').flatMap((each) => text(each) ?? []),
      lives,
      functionalLength: length === null ? null : length.value,
    });
  }
  return { ok: true, tools };
}

/** A length that was measured, in the unit that is said with it; what it was meant to be is none. */
function lengthIn(node: unknown): { ok: true; value: Length } | { ok: false; said: string } | null {
  if (text(node) === null) return null;
  const said = measureOf(node);
  const read = /^-?\d{1,5}(\.\d{1,9})?(in|µm)?$/.test(said) ? parseLength(said, 'mm') : null;
  return read?.ok ? read : { ok: false, said };
}

/** A pot or a station by its number, the spindle as 0; a tool that is nowhere, or in a rack beside the machine, has none. */
function placeOf(node: unknown): number | null | 'unreadable' {
  const type = attribute(node, 'type');
  if (type === 'SPINDLE') return 0;
  if (type !== 'POT' && type !== 'STATION') return null;
  const number = text(node) ?? '';
  return /^\d{1,4}$/.test(number) && Number(number) > 0 ? Number(number) : 'unreadable';
}

function lifeOf(node: unknown): ControlLife | null {
  const type = attribute(node, 'type');
  const direction = attribute(node, 'countDirection');
  if (type !== 'PART_COUNT' && type !== 'MINUTES' && type !== 'WEAR') return null;
  if (direction !== 'UP' && direction !== 'DOWN') return null;
  const value = numberOf(text(node));
  if (value === null) return null;
  return {
    type,
    direction,
    value,
    initial: numberOf(attribute(node, 'initial')),
    limit: numberOf(attribute(node, 'limit')),
  };
}

const child = (node: unknown, name: string): unknown =>
  typeof node === 'object' && node !== null ? (node as Record<string, unknown>)[name] : undefined;
const listOf = (node: unknown, name: string): unknown[] => {
  const found = child(node, name);
  return Array.isArray(found) ? found : found === undefined ? [] : [found];
};
const attribute = (node: unknown, name: string): string | null => {
  const found = child(node, `@${name}`);
  return typeof found === 'string' ? found : null;
};
function text(node: unknown): string | null {
  const found = typeof node === 'object' ? child(node, '#text') : node;
  return typeof found === 'string' && found.trim() !== '' ? found.trim() : null;
}
const numberOf = (typed: string | null): number | null =>
  typed !== null && /^-?\d{1,9}(\.\d{1,6})?$/.test(typed) ? Number(typed) : null;
