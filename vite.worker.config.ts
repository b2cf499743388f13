import { defineConfig } from 'vite';

// The worker thread of the server, as a file of its own beside the built server.
export default defineConfig({
  publicDir: false,
  build: {
    ssr: 'src/server/work/main.ts',
    outDir: 'build/work',
    emptyOutDir: true,
    target: 'node20',
  },
});
