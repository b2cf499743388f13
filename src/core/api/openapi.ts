import { z } from 'zod';
import { ENDPOINTS, event, fault, SCOPES } from './contract.ts';

const schema = (of: z.ZodType, io: 'input' | 'output') => {
  const described: Record<string, unknown> = z.toJSONSchema(of, { io, target: 'draft-2020-12' });
  // the whole description says which schema it speaks
  delete described.$schema;
  return described;
};
const json = (of: z.ZodType, io: 'input' | 'output') => ({ 'application/json': { schema: schema(of, io) } });

/** The description of all that other systems may ask, as OpenAPI 3.1 (openapis.org). */
export function openApi(): object {
  const paths: Record<string, Record<string, object>> = {};
  for (const [name, { method, path, scope, summary, takes, gives }] of Object.entries(ENDPOINTS)) {
    const fields = schema(takes, 'input') as {
      properties?: Record<string, object>;
      required?: readonly string[];
    };
    const inAddress = Object.entries(fields.properties ?? {}).map(([field, of]) => ({
      name: field,
      in: 'query',
      required: fields.required?.includes(field) ?? false,
      schema: of,
    }));
    const key = {
      name: 'Idempotency-Key',
      in: 'header',
      required: true,
      description: 'Any text of up to 100 characters. The same key is done once and answered alike.',
      schema: { type: 'string', minLength: 1, maxLength: 100 },
    };
    (paths[path] ??= {})[method] = {
      operationId: name,
      summary,
      security: [{ token: [scope] }],
      parameters: method === 'get' ? inAddress : [key],
      ...(method === 'post' ? { requestBody: { required: true, content: json(takes, 'input') } } : {}),
      responses: {
        200: { description: 'Done.', content: json(gives, 'output') },
        400: { description: 'It cannot be read; the sentence says what.', content: json(fault, 'output') },
        401: { description: 'No token, or one that has ended.', content: json(fault, 'output') },
        403: { description: 'The token may not do this.', content: json(fault, 'output') },
        409: { description: 'It is refused; the sentence says why.', content: json(fault, 'output') },
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Tin Almanac',
      version: '1',
      description: `Scopes of a token: ${Object.entries(SCOPES)
        .map(([scope, words]) => `\`${scope}\` (${words})`)
        .join(', ')}.`,
    },
    servers: [{ url: '/api/v1' }],
    paths,
    webhooks: {
      entry: {
        post: {
          summary: 'An entry of the ledger, in their order, at least once.',
          requestBody: { required: true, content: json(event, 'output') },
          responses: { 200: { description: 'Taken. Anything else is tried again.' } },
        },
      },
    },
    components: { securitySchemes: { token: { type: 'http', scheme: 'bearer' } } },
  };
}
