import type { LengthUnit } from '../units/length.ts';

export type GaugeLine =
  | { ok: true; gauge: string; value: string; unit: LengthUnit }
  | { ok: false; reason: string };

const MOST = 200;

/** A line that a bench gauge sends when its data key is pressed: `GAUGE micrometer 1-2 in = 1.3781 IN`. */
export function readGaugeLine(line: string): GaugeLine {
  const text = line.trim();
  if (text.length > MOST) return { ok: false, reason: 'The gauge sent more than a line.' };
  const refused = /^ERROR\s+(.+)$/i.exec(text);
  if (refused) return { ok: false, reason: `The gauge says: ${refused[1]}.` };
  const found = /^GAUGE\s+(.{1,60}?)\s*=\s*([+-]?\d{1,6}(?:\.\d{1,7})?)\s*(MM|IN)$/i.exec(text);
  if (!found) return { ok: false, reason: `The gauge sent "${text.slice(0, 40)}", which is no reading.` };
  return { ok: true, gauge: found[1]!, value: found[2]!, unit: found[3]!.toLowerCase() as LengthUnit };
}
