import { existsSync } from 'node:fs';
import { ensureDebian } from './install.mjs';

// Itself, not the script beside it: that ends without it, and whoever started it waits for ever.
const SHELL = '/usr/lib/chromium/chromium-headless-shell';
const WHOLE = '/usr/bin/chromium';

/** The whole browser, where a camera is asked for. */
export const wholeBrowserPath = () => process.env.CHROME_BIN ?? WHOLE;

/**
 * The browser that tests, pictures and measurements drive. Debian's headless shell is the same Chromium without the
 * windows nobody sees: a page opens in it for four fifths of the work. Where it is not installed, the whole one does.
 */
export const browserPath = () => process.env.CHROME_BIN ?? (existsSync(SHELL) ? SHELL : WHOLE);

/** Makes sure of both. */
export function ensureBrowsers() {
  if (process.env.CHROME_BIN) return;
  ensureDebian(['chromium', 'chromium-headless-shell'], () => existsSync(SHELL) && existsSync(WHOLE));
}
