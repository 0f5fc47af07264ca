import { defineConfig } from '@playwright/test';

/** Where the application is served, once for each worker: see setup/check.ts. */
const stages: unknown[] = JSON.parse(process.env.STAGES ?? '[0]');

export default defineConfig({
  testDir: 'tests/browser',
  workers: stages.length,
  retries: 0,
  // A loaded machine may be many times slower; what hangs still ends.
  timeout: 180_000,
  expect: { timeout: 45_000 },
  reporter: [['list'], ['json']],
  use: {
    trace: 'off',
    launchOptions: {
      executablePath: '/usr/bin/chromium-headless-shell',
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
