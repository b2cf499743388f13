import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import hashes from './migration-hashes.json';

it('a migration that was committed is never edited again: databases out there have run it', () => {
  const folder = new URL('../../migrations/', import.meta.url);
  const files = readdirSync(folder).filter((name) => name.endsWith('.sql'));
  const now = Object.fromEntries(
    files.sort().map((name) => [
      name,
      createHash('sha256')
        .update(readFileSync(new URL(name, folder)))
        .digest('hex'),
    ]),
  );
  // a new migration is added to migration-hashes.json, and its line stays as it is
  expect(now).toEqual(hashes);
});
