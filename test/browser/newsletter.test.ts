import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { compareGeometry, readGeometry } from '../support/page-geometry.js';
import { judgedWidths } from '../support/layout-proof.js';
import { TestFolder } from '../support/project.js';

let browser: Browser;
let page: Page;
let folder: TestFolder;

const source = 'messages/may-newsletter.html';
const built = 'out/archive/may-newsletter/index.html';

/** What a recipient would read, the same in the source and in what is built from it. */
function fillTags(html: string): string {
  return html.replace(/@\{first_name[^}]*\}/g, 'Ines').replace(/@\{[^}]*\}/g, 'https://alderlane.example/x');
}

beforeAll(async () => {
  folder = TestFolder.sampleProject();
  expect(folder.run(['build', '--quiet']).code).toBe(0);
  for (const name of [source, built]) folder.write({ [name]: fillTags(folder.read(name)) });
  browser = await launchBrowser();
  page = await browser.newPage();
});

afterAll(async () => {
  await browser?.close();
  folder.remove();
});

async function open(name: string, width: number): Promise<void> {
  await page.setViewportSize({ width, height: 800 });
  await page.goto(pathToFileURL(join(folder.path, name)).href);
}

async function withoutStyles(): Promise<void> {
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
}

describe('the newsletter', () => {
  test.each(judgedWidths)('lies within 1 px of its source at %d px', async (width) => {
    await open(source, width);
    const expected = await readGeometry(page);
    await open(built, width);
    expect(expected.length).toBeGreaterThan(100);
    expect(compareGeometry(expected, await readGeometry(page), 1)).toEqual([]);
  });

  test('without its head, a phone shows it without sideways scrolling, and its columns wrap', async () => {
    await open(built, 375);
    await withoutStyles();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(375);
    const boxes = await readGeometry(page);
    const picture = boxes.find(({ what }) => what.startsWith('picture A small bench lathe'));
    const heading = boxes.find(({ what }) => what === 'word lathe');
    expect(picture?.width).toBe(327);
    expect(heading?.y).toBeGreaterThan((picture?.y ?? Infinity) + (picture?.height ?? 0));
  });

  test('without its head, a wide window shows the columns side by side, and what never stacks never does', async () => {
    for (const width of [375, 700]) {
      await open(built, width);
      await withoutStyles();
      const trio = (await readGeometry(page)).filter(({ what }) => /^picture (?:Cordless|Step|Smoothing)/.test(what));
      expect(new Set(trio.map(({ y }) => Math.round(y))).size).toBe(1);
    }
    const boxes = await readGeometry(page);
    const picture = boxes.find(({ what }) => what.startsWith('picture A small bench lathe'));
    const heading = boxes.find(({ what }) => what === 'word lathe');
    expect(heading?.x).toBeGreaterThan((picture?.x ?? Infinity) + (picture?.width ?? 0));
  });
});
