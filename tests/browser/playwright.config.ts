import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  outputDir: '../../test-results',
  fullyParallel: false,
  // each worker has a server and a cell of its own
  workers: 2,
  // a busy machine is no fault
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    // what a device keeps is tried in offline.spec.ts, and by a whole round; elsewhere each test would fetch all of it for nothing
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env.TIN_CHROMIUM,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
