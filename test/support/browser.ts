import { existsSync } from 'node:fs';
import { chromium, type Browser } from 'playwright-core';

const candidates = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];

/** Starts the browser that judges; a machine without one fails the tests. */
export async function launchBrowser(): Promise<Browser> {
  const executablePath = process.env['CHROMIUM'] ?? candidates.find((path) => existsSync(path));
  if (executablePath === undefined)
    throw new Error('No Chromium found: npm run verify installs it, or set CHROMIUM to its path.');
  return chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--font-render-hinting=none',
    ],
  });
}
