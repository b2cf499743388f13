import { pino } from 'pino';
import { asked } from './asked.ts';

/** One line of JSON an event, with the id of the request that it belongs to. PINs, tokens and cookies are never logged. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  base: { pid: process.pid },
  redact: ['pin', '*.pin', 'cookie', '*.cookie', 'token', '*.token'],
  mixin: () => {
    const request = asked();
    return request ? { request: request.id } : {};
  },
});
