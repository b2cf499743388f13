import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { Outcome } from '../../src/server/outcome.ts';

export const demoFile = (path: string) => readFileSync(new URL(`../../demo/${path}`, import.meta.url), 'utf8');
export const filesIn = (folder: string) =>
  readdirSync(fileURLToPath(new URL(`../../demo/${folder}`, import.meta.url))).sort();

/** What a step of the demo is refused would be a fault of the demo. */
export async function must<T>(outcome: Promise<Outcome<T>>): Promise<T> {
  const answer = await outcome;
  if (!answer.ok) throw new Error(`demo: ${answer.reason}`);
  return answer.value;
}

