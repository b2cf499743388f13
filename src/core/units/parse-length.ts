import { NM_PER, nanometres, type Length, type LengthUnit } from './length.ts';

export type Parsed<T> = { ok: true; value: T } | { ok: false; reason: string };

const SUFFIX: Record<string, [LengthUnit, bigint, bigint]> = {
  mm: ['mm', 1n, 1n],
  in: ['in', 1n, 1n],
  '"': ['in', 1n, 1n],
  inch: ['in', 1n, 1n],
  um: ['mm', 1n, 1000n],
  µm: ['mm', 1n, 1000n],
  μm: ['mm', 1n, 1000n],
  thou: ['in', 1n, 1000n],
};
const TERM =
  /^\s*(?<sign>[+−–-]?)\s*(?:(?<whole>\d+)\s+(?=\d+\/\d))?(?:(?<top>\d+)\/(?<bottom>\d+)|(?<number>\d+(?:\.\d*)?|\.\d+))\s*(?<suffix>mm|inch|in|"|um|µm|μm|thou)?/i;

interface Term {
  top: bigint;
  bottom: bigint;
  suffix: string | undefined;
}

/**
 * Reads what a person types for a length: a number in the machine's own unit, or with a suffix
 * (`mm`, `in`, `"`, `µm`, `thou`), a fraction (`1 1/2in`), or a simple sum (`1.5074-1.4965`).
 * One suffix in a sum covers the terms that carry none. Exact: no floating point on the way; a value
 * that falls between two nanometres goes to the nearer.
 */
export function parseLength(text: string, unit: LengthUnit): Parsed<Length> {
  const trimmed = text.trim();
  if (trimmed === '') return no('Type a number.');
  if (/\d,\d/.test(trimmed))
    return no(`"${trimmed}" has a comma: write the decimal point as "." and leave out thousands marks.`);
  const terms: Term[] = [];
  let rest = trimmed;
  while (rest !== '') {
    const match = TERM.exec(rest);
    const groups = match?.groups;
    if (!match || !groups || (terms.length > 0 && groups.sign === ''))
      return no(
        `"${trimmed}" is not a length: "${rest}" was not understood. Write 37.985, 1.4955in or 1.5074-1.4965.`,
      );
    const term = readTerm(groups);
    if (!term) return no(`"${trimmed}" divides by zero.`);
    terms.push(term);
    rest = rest.slice(match[0].length).trimStart();
  }
  const suffixes = new Set(terms.flatMap((term) => (term.suffix ? [term.suffix] : [])));
  const shared = suffixes.size === 1 ? [...suffixes][0] : undefined;
  if (suffixes.size > 1 && terms.some((term) => !term.suffix))
    return no(`"${trimmed}" mixes units: write a unit after every number.`);
  return total(terms, shared ?? unit, trimmed);
}

/** Reads a size as a drawing or a catalogue has it. `1-1/2` is refused: one and a half there, half of one as a sum. */
export function parseSize(text: string, unit: LengthUnit): Parsed<Length> {
  const either = /^(\d+)[-–](\d+\/\d+)/.exec(text.trim());
  if (!either) return parseLength(text, unit);
  const [typed, whole, part] = [text.trim(), either[1]!, either[2]!];
  return no(
    `"${typed}" may be ${whole} ${part}, or ${whole} less ${part}: write ${whole} ${part}, or the decimal number.`,
  );
}

function readTerm(groups: Record<string, string | undefined>): Term | null {
  const sign = groups.sign && groups.sign !== '+' ? -1n : 1n;
  const suffix = groups.suffix?.toLowerCase();
  if (groups.bottom !== undefined) {
    const bottom = BigInt(groups.bottom);
    if (bottom === 0n) return null;
    return { top: sign * (BigInt(groups.whole ?? '0') * bottom + BigInt(groups.top!)), bottom, suffix };
  }
  const [whole = '', fraction = ''] = groups.number!.split('.');
  return { top: sign * BigInt(whole + fraction || '0'), bottom: 10n ** BigInt(fraction.length), suffix };
}

function total(terms: readonly Term[], fallback: string, typed: string): Parsed<Length> {
  let top = 0n;
  let bottom = 1n;
  for (const term of terms) {
    const [unit, up, down] = SUFFIX[term.suffix ?? fallback]!;
    const termTop = term.top * BigInt(NM_PER[unit]) * up;
    const termBottom = term.bottom * down;
    top = top * termBottom + termTop * bottom;
    bottom *= termBottom;
  }
  const magnitude = top < 0n ? -top : top;
  const rounded = (magnitude * 2n + bottom) / (bottom * 2n);
  if (rounded > 100_000_000_000n) return no(`"${typed}" is over 100 m: check the number and its unit.`);
  return { ok: true, value: nanometres(Number(top < 0n ? -rounded : rounded)) };
}

const no = (reason: string): Parsed<never> => ({ ok: false, reason });
