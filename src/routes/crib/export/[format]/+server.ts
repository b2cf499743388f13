import { error } from '@sveltejs/kit';
import { toolExport } from '$server/tool-export';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async ({ params, url, locals }) =>
  (await toolExport(locals.told, 'components', params.format, url.searchParams.has('template'))) ??
  error(404, 'There is no such format: use CSV or JSON, or XML for assemblies.');
