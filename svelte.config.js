import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ precompress: true }),
    // a browser keeps pages only where a machine is worked at: src/lib/offline/keeper.ts
    serviceWorker: { register: false },
    alias: { $core: 'src/core', $server: 'src/server' },
    // Our own same-host check in hooks.server.ts covers every method and every content type,
    // and works however the shop reaches the server (name, address, port). See docs/decisions.md.
    csrf: { trustedOrigins: ['*'] },
    csp: {
      mode: 'nonce',
      directives: {
        'default-src': ['none'],
        'script-src': ['self'],
        'style-src': ['self'],
        'style-src-attr': ['unsafe-inline'],
        'img-src': ['self', 'data:'],
        'font-src': ['self'],
        'connect-src': ['self'],
        'worker-src': ['self'],
        'manifest-src': ['self'],
        'form-action': ['self'],
        'base-uri': ['none'],
        'frame-ancestors': ['none'],
      },
    },
    typescript: {
      config: (config) => ({
        ...config,
        include: [...config.include, '../tests/**/*.ts', '../sim/**/*.ts', '../scripts/**/*.ts', '../*.ts'],
      }),
    },
  },
};
