import { defineConfig } from '@playwright/test';
import { browserPath } from '../tools/browser.mjs';

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  globalSetup: './template.ts',
  // A file of tests is one house. One more of them than there are cores: while one waits, another works.
  workers: 3,
  timeout: 240_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 15_000,
    // What slides or fades is drawn a dozen times on the way; the tests are about where it ends.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: browserPath(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-dev-shm-usage',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        // A page lives for some seconds here: what its code would gain by being compiled twice it never gets back. And
        // who asked for what is written down while it is compiled, since somebody watches: not in a second reading.
        '--js-flags=--no-opt,--no-enable-lazy-source-positions',
      ],
    },
    screenshot: 'only-on-failure',
  },
});
