import { readAssemblyFile, type AssemblyRow } from './assembly-file.ts';
import { readComponentFile, type ComponentRow } from './component-file.ts';
import type { FileResult } from './csv-table.ts';
import { readCuttingToolAssets } from './cutting-tool-asset.ts';
import { readToolJson } from './tool-json.ts';

export type ToolFile =
  | { kind: 'assemblies'; result: FileResult<AssemblyRow>; firstLine: number }
  | { kind: 'components'; result: FileResult<ComponentRow>; firstLine: number };

/** Reads a file of tools by what it is: XML assets, JSON, or CSV by its heading. */
export function readToolFile(text: string): ToolFile {
  if (/^\s*(?:\uFEFF\s*)?</.test(text))
    return { kind: 'assemblies', result: readCuttingToolAssets(text), firstLine: 1 };
  if (/^\s*\{/.test(text)) {
    const json = readToolJson(text);
    if (json) return { ...json, firstLine: 1 };
    return {
      kind: 'assemblies',
      firstLine: 1,
      result: {
        ok: false,
        issues: [{ line: 1, column: '', message: 'The JSON has neither "assemblies" nor "components".' }],
      },
    };
  }
  const heading = text.slice(0, 4000).split('\n', 1)[0]!.toLowerCase();
  return /(gauge_length|stick_out|holder_diameter)/.test(heading)
    ? { kind: 'assemblies', result: readAssemblyFile(text), firstLine: 2 }
    : { kind: 'components', result: readComponentFile(text), firstLine: 2 };
}
