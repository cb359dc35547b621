import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { fillTags, writeExpanded } from '../support/expanded.js';
import { compareLayouts } from '../support/layout-proof.js';
import { TestFolder } from '../support/project.js';

let browser: Browser;
let page: Page;
let folder: TestFolder;

beforeAll(async () => {
  folder = TestFolder.builtDemo();
  browser = await launchBrowser();
  page = await browser.newPage();
}, 60_000);

afterAll(async () => {
  await browser?.close();
  folder?.remove();
});

describe('the messages of the sample project', () => {
  const messages: [name: string, edition: string | null][] = [
    ['may-newsletter', null],
    ['repair-day', null],
    ['loans-due', null],
    ['membership-receipt', null],
    ['branch-notice', 'mill-yard'],
    ['branch-notice', 'station-arches'],
  ];

  test.each(messages)('%s (%s) lies where its page with parts and values put in lies', async (name, edition) => {
    const source = join(folder.path, await writeExpanded(folder, name, edition));
    const compiled = join(folder.path, 'out/archive', name, edition ?? '', 'index.html');
    fillTags(source);
    fillTags(compiled);
    expect(await compareLayouts(page, source, compiled)).toEqual([]);
  });

  test.each(messages)('the pictures of %s (%s) are at most twice as wide as they show', async (name, edition) => {
    await page.goto(pathToFileURL(join(folder.path, 'out/archive', name, edition ?? '', 'index.html')).href);
    const shown = new Map<string, { natural: number; widest: number }>();
    for (const width of [320, 375, 480, 481, 599, 600, 601, 700, 1000, 1200]) {
      await page.setViewportSize({ width, height: 800 });
      const pictures = await page.evaluate(() =>
        [...document.images].map(({ src, naturalWidth, clientWidth }) => ({ src, naturalWidth, clientWidth })),
      );
      for (const { src, naturalWidth, clientWidth } of pictures)
        shown.set(src, { natural: naturalWidth, widest: Math.max(clientWidth, shown.get(src)?.widest ?? 0) });
    }
    const tooWide = [...shown].filter(([, { natural, widest }]) => natural === 0 || natural > 2 * widest + 1);
    expect(tooWide).toEqual([]);
  });

  test('the newsletter made of parts is the newsletter written out', () => {
    const written = TestFolder.builtProject();
    const file = 'out/archive/may-newsletter/index.html';
    expect(TestFolder.builtDemo().read(file)).toBe(written.read(file));
    written.remove();
  });
});
