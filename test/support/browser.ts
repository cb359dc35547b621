import type { Browser } from 'playwright-core';
import { findBrowser, startBrowser } from '../../src/browser/browser.js';

/** Starts the browser that judges; a machine without one fails the tests. */
export async function launchBrowser(): Promise<Browser> {
  const path = process.env['CHROMIUM'] ?? findBrowser(process.env['PATH'] ?? '');
  if (path === null) throw new Error('No Chromium found: npm run verify installs it, or set CHROMIUM to its path.');
  return startBrowser(path);
}
