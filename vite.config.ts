import { sveltekit } from '@sveltejs/kit/vite';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [tailwindcss(), sveltekit()],
  build: { chunkSizeWarningLimit: 900 },
  ssr: { external: ['@node-rs/argon2'] },
});
