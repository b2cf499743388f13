import { pino } from 'pino';

/** One line of JSON an event. PINs, tokens and cookies are never logged. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? 'info',
  base: { pid: process.pid },
  redact: ['pin', '*.pin', 'cookie', '*.cookie', 'token', '*.token'],
});
