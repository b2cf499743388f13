import { get } from 'node:http';
import type { Visitor } from './server.ts';

/** A page's live stream, read as a browser reads it. */
export interface Hearing {
  /** What was told, in order: what it is about. */
  told: string[];
  /** By which acts it was written, where that was told. */
  acts: Set<string>;
  /** Is called with each line as it comes. */
  onTold?: (line: string) => void;
  /** The last entry that was said to be told. */
  id: () => string;
  /** Whether it was closed by the other side. */
  over: () => boolean;
  stop: () => void;
}

/** @param after the id that a stream said last before it broke off, as a browser sends it */
export function hear(visitor: Visitor, url: string, path = '/live', after?: string): Promise<Hearing> {
  return new Promise((resolve, reject) => {
    const told: string[] = [];
    const acts = new Set<string>();
    const hearing = {} as Hearing;
    const heard = (data: string) => {
      const { act, ...about } = JSON.parse(data) as { act?: string | null };
      const line = JSON.stringify(about);
      if (act) acts.add(act);
      told.push(line);
      hearing.onTold?.(line);
    };
    let [id, over, rest] = ['', false, ''];
    const asked = get(
      url + path,
      {
        headers: {
          cookie: visitor.cookie,
          accept: 'text/event-stream',
          ...(after === undefined ? {} : { 'last-event-id': after }),
        },
        agent: false,
      },
      (answer) => {
        if (answer.statusCode !== 200) return reject(new Error(`the stream answered ${answer.statusCode}`));
        answer.setEncoding('utf8').on('data', (chunk: string) => {
          const lines = (rest + chunk).split('\n');
          rest = lines.pop()!;
          for (const line of lines) {
            if (line.startsWith('data: ')) heard(line.slice(6));
            if (line.startsWith('id: ')) id = line.slice(4);
          }
        });
        answer.on('close', () => (over = true));
        Object.assign(hearing, { told, acts, id: () => id, over: () => over, stop: () => asked.destroy() });
        resolve(hearing);
      },
    ).on('error', (error) => (over ? undefined : reject(error)));
  });
}
