import { expect, test } from '@jest/globals';
import { chmodSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { findBrowser, openPage } from '../../src/browser/browser.js';
import { launchBrowser } from '../support/browser.js';
import { TestFolder } from '../support/project.js';

const pointedAt =
  '<!doctype html><title>A page</title><style>html:hover, a:hover { color: red }</style><a href="#">Saws</a>';

test('no pointer stands on a page that is shown', async () => {
  const folder = new TestFolder().write({ 'page.html': pointedAt });
  const browser = await launchBrowser();
  const page = await openPage(browser);
  await page.goto(pathToFileURL(join(folder.path, 'page.html')).href);
  await page.screenshot();
  const hovered = await page.evaluate(() => [...document.querySelectorAll(':hover')].map(({ localName }) => localName));
  await browser.close();
  folder.remove();
  expect(hovered).toEqual([]);
});

test('of the browsers in a folder of the path that is taken which never has a window; of folders the first that has one', () => {
  const folder = new TestFolder();
  const install = (name: string): string => {
    folder.write({ [name]: '#!/bin/sh\n' });
    chmodSync(join(folder.path, name), 0o755);
    return join(folder.path, name);
  };
  const searchPath = ['none', 'one', 'two'].map((name) => join(folder.path, name)).join(':');
  const windowed = install('two/chromium');
  expect(findBrowser(searchPath)).toBe(windowed);
  const windowless = install('two/chromium-headless-shell');
  expect(findBrowser(searchPath)).toBe(windowless);
  const first = install('one/google-chrome');
  expect(findBrowser(searchPath)).toBe(first);
  folder.remove();
});
