import { z } from 'zod';
import { COLUMNS } from '$core/formats/columns';
import { pool } from '$server/db';
import { fileText } from '$server/file-text';
import {
  askAgainFor,
  cancelDraft,
  draftById,
  forgetBrokenImports,
  lastImports,
  lookAt,
  lookOf,
  questionOfDraft,
  readDraftBy,
  takeDraft,
} from '$server/imports';
import { act, id } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const asked = id.safeParse(url.searchParams.get('draft'));
  await forgetBrokenImports();
  const draft = asked.success ? await draftById(pool(), asked.data) : null;
  const own = draft && draft.personId === locals.person!.id ? draft : null;
  const kind = KINDS.find((each) => each === url.searchParams.get('kind')) ?? null;
  const waits = own?.state === 'looked';
  const question = waits ? await questionOfDraft(pool(), own, kind) : null;
  return {
    past: own ? [] : await lastImports(pool()),
    draft: own,
    question,
    columns: question && COLUMNS[question.kind].map(({ name, words, needed }) => ({ name, words, needed })),
    look: waits && !question ? await lookOf(pool(), own) : null,
  };
};

const KINDS = ['assemblies', 'components'] as const;
const MOST_BYTES = 32 * 1024 * 1024;
const upload = z.object({
  file: z
    .instanceof(File, { error: 'Choose a file.' })
    .refine((file) => file.size > 0, 'Choose a file that is not empty.')
    .refine((file) => file.size <= MOST_BYTES, 'The file is over 32 MB: split it.'),
});

export const actions: Actions = {
  look: act(upload, async ({ input, asking }) => {
    const file = await fileText(input.file);
    if (!file.ok) return file;
    return lookAt(asking, {
      fileName: file.value.fileName,
      content: file.value.text.replaceAll('\u0000', '\uFFFD'),
    });
  }),
  take: act(z.object({ draft: id, sure: z.literal('yes').optional() }), ({ input, asking }) =>
    takeDraft(asking, input.draft, input.sure === 'yes'),
  ),
  read: act(
    z.looseObject({
      draft: id,
      kind: z.enum(KINDS),
      decimal: z.enum(['point', 'comma'], { error: 'Say how its numbers are written.' }),
      unit: z.enum(['mm', 'in']),
    }),
    ({ input, asking }) => {
      const columns: Record<string, string> = {};
      for (const [name, value] of Object.entries(input))
        if (name.startsWith('column ') && typeof value === 'string')
          columns[name.slice(7).toLowerCase()] = value;
      return readDraftBy(asking, input.draft, {
        kind: input.kind,
        columns,
        decimal: input.decimal,
        unit: input.unit,
      });
    },
  ),
  again: act(z.object({ draft: id }), ({ input, asking }) => askAgainFor(asking, input.draft)),
  cancel: act(z.object({ draft: id }), ({ input, asking }) => cancelDraft(asking, input.draft)),
};
