import { z } from 'zod';
import { COLUMNS, type Column, type FileKind } from './columns.ts';

/** Which edition of the JSON this program writes; it reads this one and those before. */
export const EDITION = 1;

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)$/;
const numberOr = (words: string) => z.union([z.number(), z.string().regex(NUMBER)]).describe(words);

function fieldOf({ words, type, choices = [] }: Column) {
  switch (type) {
    case 'text':
      return z.string().max(120).describe(words);
    case 'length':
      return z
        .union([z.number(), z.string().max(40)])
        .describe(`${words}: millimetres, or a text with its unit (1/2in, 0.5 in, 12.7 mm)`);
    case 'number':
    case 'whole':
      return numberOr(words);
    case 'yes':
      return z.union([z.boolean(), z.enum(['yes', 'no'])]).describe(words);
    case 'choice':
      return z
        .enum(
          choices.flatMap((choice) => [...new Set([choice.value, choice.words])]) as [string, ...string[]],
        )
        .describe(words);
  }
}

/** One tool as an object: the headings of the CSV as names, what must be there and what may. */
const toolOf = (kind: FileKind) =>
  z.strictObject(
    Object.fromEntries(
      COLUMNS[kind].map((column) => [
        column.name,
        column.needed ? fieldOf(column) : z.union([fieldOf(column), z.literal(''), z.null()]).optional(),
      ]),
    ),
  );

/** A file of tools as JSON. */
export const toolFileSchema = (kind: FileKind) =>
  z.strictObject({
    $schema: z.string().optional(),
    version: z.number().int().min(1).max(EDITION).optional(),
    [kind]: z.array(toolOf(kind)).max(100_000),
  });

/** That as a JSON Schema (draft 2020-12), for whoever writes or checks such a file. */
export const publishedSchema = (kind: FileKind): Record<string, unknown> => ({
  ...z.toJSONSchema(toolFileSchema(kind)),
  title: `Tin Almanac: ${kind}, edition ${EDITION}`,
});
