import { kindsOfGroup } from '$core/component/kinds';
import { findComponents } from '$server/components';
import { pool } from '$server/db';
import { listPage } from '../../list-page';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ url }) =>
  listPage(url, (words, from) =>
    findComponents(pool(), words, kindsOfGroup(url.searchParams.get('group')), 100, from),
  );
