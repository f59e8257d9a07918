import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tools/chromium';

/** Tests of the real interface, in Debian's Chromium, against the real server, worker and database. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/start-product.ts',
  timeout: 120_000,
  expect: { timeout: 15_000 },
  workers: 1,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  // The global set-up writes the address before tests read it.
  use: {
    baseURL: process.env.MERRY_SHADOW_ADDRESS,
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    screenshot: 'only-on-failure',
  },
});
