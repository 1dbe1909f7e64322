import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  globalSetup: './template.ts',
  // A file of tests is one house: two of them side by side.
  workers: 2,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 15_000,
    // What slides or fades is drawn a dozen times on the way; the tests are about where it ends.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-dev-shm-usage',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        // A page lives for some seconds here: what its code would gain by being compiled twice it never gets back.
        '--js-flags=--no-opt',
      ],
    },
    screenshot: 'only-on-failure',
  },
});
