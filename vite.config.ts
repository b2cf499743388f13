import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { readdirSync } from 'node:fs';
import { defineConfig } from 'vite';

/** What the database must stand on for this build. */
const newest = readdirSync('migrations')
  .sort()
  .at(-1)!
  .replace(/\.sql$/, '');

export default defineConfig({
  define: { __NEWEST_MIGRATION__: JSON.stringify(newest) },
  plugins: [tailwindcss(), sveltekit()],
  build: { chunkSizeWarningLimit: 900 },
  environments: {
    client: {
      build: {
        rolldownOptions: {
          // what many pages stand on comes as one file: a page that asks for forty small ones waits for each row of six of them
          output: { codeSplitting: { groups: [{ name: 'shared', minShareCount: 8 }] } },
        },
      },
    },
  },
  ssr: { external: ['@node-rs/argon2'] },
});
