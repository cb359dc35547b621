import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import stringWidth from 'string-width';
import type { Browser, Page } from 'playwright-core';
import { parseHtml } from '../../src/core/html/parse.js';
import { plainText } from '../../src/core/plaintext/plain-text.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { launchBrowser } from '../support/browser.js';
import { oddDocument } from '../support/odd-documents.js';
import { repository, TestFolder } from '../support/project.js';

let browser: Browser;
let page: Page;

beforeAll(async () => {
  browser = await launchBrowser();
  // Mail clients run no scripts.
  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 1000, height: 800 } });
  await context.route('**/*', (route) => (route.request().isNavigationRequest() ? route.continue() : route.abort()));
  page = await context.newPage();
});

afterAll(async () => {
  await browser?.close();
});

/** What a browser shows: its text, and the addresses of the links that can be seen. */
async function shown(html: string): Promise<{ text: string; links: string[] }> {
  await page.setContent(html, { waitUntil: 'domcontentloaded' });
  return page.evaluate(() => ({
    text: document.body.innerText,
    links: [...document.querySelectorAll<HTMLAnchorElement>('a[href], area[href]')]
      .filter(
        (link) =>
          link.tagName === 'AREA' ||
          (link.checkVisibility({ visibilityProperty: true }) && link.innerText.trim() !== ''),
      )
      .map((link) => link.getAttribute('href') ?? ''),
  }));
}

function textOf(html: string): string {
  const { doc } = parseHtml(new SourceText('x', html), []);
  return plainText(doc, { width: 72, links: 'notes', measure: stringWidth, tagRole: () => null });
}

/** Words, without what takes no room, the numbers of notes, and full stops and commas, which a note may part from their word. */
function wordsOf(text: string): string[] {
  return text
    .replace(/[\u00ad\u034f\u200b-\u200d\u2060\ufeff]/g, '')
    .split(/[\s\u00a0.,]+/)
    .filter((word) => word !== '' && !/^\[\d+\]$/.test(word));
}

/** The words of a browser's text that a plain text does not have in their order. */
function missingWords(expected: string, text: string): string[] {
  const words = wordsOf(text);
  let at = 0;
  return wordsOf(expected).filter((word) => {
    const found = words.indexOf(word, at);
    if (found >= 0) at = found + 1;
    return found < 0;
  });
}

/** Lines that are too long for another reason than an address. */
function longLines(text: string): string[] {
  return text.split('\n').filter((line) => stringWidth(line) > 72 && !line.includes('://'));
}

async function judge(html: string): Promise<void> {
  const expected = await shown(html);
  const text = textOf(html);
  expect(missingWords(expected.text, text)).toEqual([]);
  const addresses = expected.links.filter((link) => link !== '' && !link.startsWith('#'));
  expect(
    addresses.filter(
      (link) =>
        !text.includes(
          link
            .trim()
            .replaceAll(' ', '%20')
            .replace(/^(?:tel|mailto):(?=[^?]*$)/, ''),
        ),
    ),
  ).toEqual([]);
  expect(longLines(text)).toEqual([]);
}

describe('the plain text has every word that a browser shows, in order, and every address', () => {
  test('of the messages of the sample project', async () => {
    const folder = TestFolder.builtDemo();
    const messages = [
      'may-newsletter',
      'loans-due',
      'membership-receipt',
      'parts-specimen',
      'repair-day',
      'branch-notice/mill-yard',
    ];
    // Tags stand for values: filled, so that neither side has blanks within words.
    for (const message of messages)
      await judge(folder.read(`out/archive/${message}/index.html`).replace(/@\{[^}]*\}/g, 'value'));
    folder.remove();
  });

  test.each(['demo/foreign/bellmoor-export.html', 'test/fixtures/odd/every-element.html'])('of %s', async (name) => {
    await judge(readFileSync(join(repository, name), 'utf8'));
  });

  test('of documents that old editors left behind, and no word that is hidden', async () => {
    for (let seed = 1; seed <= 150; seed += 1) {
      const html = oddDocument(seed);
      const expected = await shown(html);
      const text = textOf(html);
      const once = (from: string): string[] => from.toLowerCase().match(/w\d+/g) ?? [];
      expect([seed, once(text)]).toEqual([seed, once(expected.text)]);
      expect([seed, expected.links.filter((link) => !text.includes(link))]).toEqual([seed, []]);
    }
  });
});
