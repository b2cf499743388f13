import { pool } from '$server/db';
import { findPrograms } from '$server/program-list';
import { listPage } from '../../list-page';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ url }) =>
  listPage(url, (words, from) => findPrograms(pool(), words, 100, from));
