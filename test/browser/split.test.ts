import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import sharp from 'sharp';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { TestFolder } from '../support/project.js';

let browser: Browser;
let page: Page;
let folder: TestFolder;

const messages = ['may-newsletter', 'parts-specimen', 'repair-day', 'loans-due'];

beforeAll(async () => {
  folder = TestFolder.demoProject();
  expect(folder.run(['pack', ...messages, '--to', 'archive', '--shape', 'split', '--quiet']).code).toBe(0);
  browser = await launchBrowser();
  page = await browser.newPage();
});

afterAll(async () => {
  await browser?.close();
  folder.remove();
});

async function photograph(name: string, width: number, colorScheme: 'light' | 'dark'): Promise<Buffer> {
  await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' });
  await page.setViewportSize({ width, height: 800 });
  await page.goto(pathToFileURL(join(folder.path, name)).href);
  // What moves is photographed at its beginning.
  await page.evaluate(() => document.getAnimations().forEach((animation) => animation.cancel()));
  return sharp(await page.screenshot({ fullPage: true }))
    .raw()
    .toBuffer();
}

describe('style sheet and body, put into another page, show what the page shows', () => {
  test.each(messages)('%s', async (message) => {
    const path = `out/archive/${message}`;
    const [css, body] = [folder.read(`${path}/styles.css`), folder.read(`${path}/body.html`)];
    expect(body).not.toMatch(/<\/?(?:html|head|body|meta|title)\b/);
    folder.write({
      [`${path}/again.html`]: `<!doctype html><html><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>x</title><style>${css}</style></head><body>${body}</body></html>`,
    });
    for (const width of [375, 700, 1000])
      for (const scheme of ['light', 'dark'] as const) {
        const whole = await photograph(`${path}/index.html`, width, scheme);
        const again = await photograph(`${path}/again.html`, width, scheme);
        expect([width, scheme, whole.length, whole.equals(again)]).toEqual([width, scheme, again.length, true]);
      }
  });

  test('the body alone keeps its colour and its columns where the style sheet is lost', async () => {
    const body = folder.read('out/archive/may-newsletter/body.html');
    await page.setContent(body);
    const ground = await page.evaluate(
      () => getComputedStyle(document.body.querySelector('div') as Element).backgroundColor,
    );
    expect(ground).toBe('rgb(239, 230, 210)');
  });
});
