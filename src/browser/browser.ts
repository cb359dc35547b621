import { accessSync, constants } from 'node:fs';
import { delimiter, join } from 'node:path';
import { chromium, type Browser, type Page } from 'playwright-core';

export type { Browser, Page } from 'playwright-core';

/**
 * The names under which browsers of this engine are installed, and where systems put them that are not on the path. One that
 * never has a window draws the same and starts in half the time.
 */
const names = [
  'chromium-headless-shell',
  'chromium',
  'chromium-browser',
  'google-chrome',
  'chrome',
  'microsoft-edge',
  'msedge',
];
const places = [
  '/usr/bin/chromium',
  '/snap/bin/chromium',
  '/Applications/Chromium.app/Contents/MacOS/Chromium',
  '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
  'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
  'C:\\Program Files (x86)\\Microsoft\\Edge\\Application\\msedge.exe',
];

/**
 * The browser of this machine; null where there is none.
 * @param searchPath the value of `PATH`
 */
export function findBrowser(searchPath: string): string | null {
  const onPath = searchPath.split(delimiter).flatMap((folder) => names.map((name) => join(folder, name)));
  return [...onPath, ...places].find(isProgram) ?? null;
}

/** Whether a path is that of a program. */
function isProgram(path: string): boolean {
  try {
    accessSync(path, constants.X_OK);
    return true;
  } catch {
    return false;
  }
}

/** Starts a browser without a window, which asks nothing of the network by itself. */
export async function startBrowser(executablePath: string): Promise<Browser> {
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

/** Two pages, each of which a browser draws on a core of its own where there are two. */
export async function openPages(browser: Browser): Promise<readonly [Page, Page]> {
  return Promise.all([openPage(browser), openPage(browser)]);
}

/**
 * A page that shows nothing yet. No pointer stands on it: without a window it is at a corner, and what lies there would be shown
 * as pointed at. Only on a page that has content it can be moved away for good.
 */
export async function openPage(browser: Browser): Promise<Page> {
  const page = await browser.newPage();
  await page.setContent('<p>');
  await page.mouse.move(-1, -1);
  return page;
}
