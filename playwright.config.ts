import { defineConfig, devices } from '@playwright/test';
import chromiumFlags from './scripts/chromium-flags.json' with { type: 'json' };

/** Debian's Chromium, without its connections to the outside. */
export const CHROMIUM = {
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: chromiumFlags,
};

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/demo-folder.ts',
  outputDir: 'test-results',
  // They end what hangs; a machine may be several times slower than the one that a test was written on.
  timeout: 240000,
  expect: { timeout: 45000 },
  workers: 2,
  fullyParallel: true,
  // On a busy machine a page may be late; what needed its second try is listed at the end.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    // Only those tests have one that are about it: it answers in the server's place.
    serviceWorkers: 'block',
    ...devices['Desktop Chrome'],
    launchOptions: CHROMIUM,
    viewport: { width: 1280, height: 800 },
  },
});
