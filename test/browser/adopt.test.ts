import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { unzipSync } from 'fflate';
import type { Browser, Page } from 'playwright-core';
import PostalMime from 'postal-mime';
import { launchBrowser } from '../support/browser.js';
import { compareGeometry, readGeometry } from '../support/page-geometry.js';
import { judgedWidths } from '../support/layout-proof.js';
import { TestFolder } from '../support/project.js';

let browser: Browser;
let page: Page;
let folder: TestFolder;

/** What the browser shows of an export: blocks of tags show all their branches, tags that print show an x. */
function shown(html: string, blocks: RegExp, prints: RegExp, badge: RegExp): string {
  expect(html).toMatch(badge);
  return html.replace(badge, '').replace(blocks, '').replace(prints, 'x');
}

beforeAll(async () => {
  folder = TestFolder.demoProject();
  for (const name of ['bellmoor-export.html', 'ferrywire-export.zip', 'oxbow-export.eml'])
    expect(folder.run(['adopt', `foreign/${name}`]).code).toBe(0);
  expect(folder.run(['build', 'bellmoor-export', 'ferrywire-export', 'oxbow-export', '--quiet']).code).toBe(0);
  const bellmoor = folder.read('foreign/bellmoor-export.html');
  const zip = unzipSync(folder.bytes('foreign/ferrywire-export.zip'));
  folder.write(Object.fromEntries(Object.entries(zip).map(([name, bytes]) => [`foreign/${name}`, bytes])));
  const ferrywire = folder.read('foreign/export/new-in-the-shed.html');
  const mail = await PostalMime.parse(folder.bytes('foreign/oxbow-export.eml'));
  const oxbow = (mail.html ?? '').replace(/cid:[^"]*/, '../images/oxbow-export/card.png');
  folder.write({
    'foreign/bellmoor-export.html': shown(
      bellmoor,
      /~~(?:IF|ELSE|END|EACH)[^~]*~~/g,
      /~~[^~]*~~/g,
      /<tr><td align="center" class="bm-sign"[^]*?<\/tr>/,
    ),
    'foreign/export/ferrywire-export.html': shown(
      ferrywire,
      /\[(?:when [^\]]*|otherwise|done)\]/g,
      /\[= [^\]]*\]/g,
      /<tr><td align="center"><a class="fw-badge"[^]*?<\/tr>/,
    ),
    'foreign/oxbow-export.html': shown(
      oxbow,
      /<\/?ox:when[^>]*>/g,
      /<ox:[^>]*>/g,
      /<tr><td class="ox-mark"[^]*?<\/tr>/,
    ),
  });
  for (const name of ['bellmoor-export', 'ferrywire-export', 'oxbow-export']) {
    const file = `out/archive/${name}/index.html`;
    folder.write({
      [file]: folder
        .read(file)
        .replace(/@\{(?:if|else|end|each)[^}]*\}/g, '')
        .replace(/@\{[^}]*\}/g, 'x'),
    });
  }
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

describe('an adopted message', () => {
  test.each([
    ['bellmoor-export', 'foreign/bellmoor-export.html'],
    ['ferrywire-export', 'foreign/export/ferrywire-export.html'],
    ['oxbow-export', 'foreign/oxbow-export.html'],
  ])('%s lies as it did, within 1 px', async (name, original) => {
    for (const width of judgedWidths) {
      await open(original, width);
      const expected = await readGeometry(page);
      expect(expected.length).toBeGreaterThan(15);
      await open(`out/archive/${name}/index.html`, width);
      expect({ width, differences: compareGeometry(expected, await readGeometry(page), 1) }).toEqual({
        width,
        differences: [],
      });
    }
  });
});
