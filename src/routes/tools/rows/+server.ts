import { findAssemblies } from '$server/assemblies';
import { pool } from '$server/db';
import { listPage } from '../../list-page';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ url }) =>
  listPage(url, (words, from) => findAssemblies(pool(), words, 100, from));
