import { redirect } from '@sveltejs/kit';
import { ownPath } from '../own-path';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = async ({ request, cookies }) => {
  const form = await request.formData();
  const theme = form.get('theme') === 'tin-night' ? 'tin-night' : 'tin';
  cookies.set('tin-theme', theme, {
    path: '/',
    maxAge: 31_536_000,
    httpOnly: true,
    sameSite: 'strict',
    secure: false,
  });
  redirect(303, ownPath(form.get('to')));
};
