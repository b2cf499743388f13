import { parseLength } from '../units/parse-length.ts';
import type { Length, LengthUnit } from '../units/length.ts';

export interface PresetterReading {
  number: string;
  gaugeLength: Length;
  diameter: Length | null;
  cornerRadius: Length | null;
  runOut: Length | null;
  unit: LengthUnit;
}

export type PresetterResult = { ok: true; reading: PresetterReading } | { ok: false; reason: string };

/**
 * One line of a presetter: `TOOL A-103 L 118.2241 D 9.9982 R 0.2010 U 0.0042 MM`: number, length, diameter, corner
 * radius, run-out, unit; all but number, length and unit may be missing. `ERROR words` says why there is none.
 */
export function readPresetterLine(line: string): PresetterResult {
  const text = line.trim();
  if (/^ERROR\b/i.test(text))
    return { ok: false, reason: text.slice(5).trim() || 'The presetter could not measure.' };
  const parts = /^TOOL\s+(\S{1,20})\s+(.+?)\s+(MM|IN)$/i.exec(text);
  if (!parts)
    return { ok: false, reason: `The presetter sent "${text.slice(0, 60)}", which is not a measurement.` };
  const unit: LengthUnit = parts[3]!.toUpperCase() === 'MM' ? 'mm' : 'in';
  const found = new Map<string, Length>();
  const words = parts[2]!.split(/\s+/);
  for (let i = 0; i < words.length; i += 2) {
    const [letter, number = ''] = [words[i]!.toUpperCase(), words[i + 1]];
    // a device sends a number, no sum and no other unit, and each measure once
    const value = /^\+?\d{1,6}(\.\d{1,8})?$/.test(number) ? parseLength(number, unit) : null;
    if (!/^[LDRU]$/.test(letter) || found.has(letter) || !value?.ok)
      return {
        ok: false,
        reason: `"${words[i]} ${number}" in the presetter's line is not understood.`,
      };
    found.set(letter, value.value);
  }
  const gaugeLength = found.get('L');
  if (!gaugeLength) return { ok: false, reason: "The presetter's line has no length." };
  return {
    ok: true,
    reading: {
      number: parts[1]!,
      gaugeLength,
      diameter: found.get('D') ?? null,
      cornerRadius: found.get('R') ?? null,
      runOut: found.get('U') ?? null,
      unit,
    },
  };
}
