import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { pool } from '$server/db';
import {
  cancelDraft,
  draftById,
  forgetBrokenImports,
  lastImports,
  lookAt,
  lookOf,
  takeDraft,
} from '$server/imports';
import { act, id } from '../../action';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
  const asked = id.safeParse(url.searchParams.get('draft'));
  await forgetBrokenImports();
  const draft = asked.success ? await draftById(pool(), asked.data) : null;
  const own = draft && draft.personId === locals.person!.id ? draft : null;
  return {
    past: own ? [] : await lastImports(pool()),
    draft: own,
    look: own?.state === 'looked' ? await lookOf(pool(), own) : null,
  };
};

const MOST_BYTES = 32 * 1024 * 1024;
const upload = z.object({
  key: z.uuid('The form came without its key. Reload the page.'),
  file: z
    .instanceof(File, { error: 'Choose a file.' })
    .refine((file) => file.size > 0, 'Choose a file that is not empty.')
    .refine((file) => file.size <= MOST_BYTES, 'The file is over 32 MB: split it.'),
});

export const actions: Actions = {
  look: async ({ request, locals }) => {
    const form = upload.safeParse(Object.fromEntries(await request.formData()));
    if (!form.success)
      return fail(400, { problem: form.error.issues.map((issue) => issue.message).join(' ') });
    const content = new TextDecoder('utf-8')
      .decode(await form.data.file.arrayBuffer())
      .replaceAll('\u0000', '\uFFFD');
    const outcome = await lookAt(
      { key: form.data.key, personId: locals.person!.id },
      { fileName: form.data.file.name.slice(0, 120), content },
    );
    return outcome.ok ? { done: outcome.value } : fail(409, { problem: outcome.reason });
  },
  take: act(z.object({ draft: id }), ({ input, asking }) => takeDraft(asking, input.draft)),
  cancel: act(z.object({ draft: id }), ({ input, asking }) => cancelDraft(asking, input.draft)),
};
