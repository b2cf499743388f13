import { openApi } from '$core/api/openapi';
import type { RequestHandler } from './$types';

/** What other systems may ask, and how. */
export const GET: RequestHandler = () => Response.json(openApi());
