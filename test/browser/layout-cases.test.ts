import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { stripHead } from '../../src/browser/compare-pages.js';
import { openFile } from '../../src/browser/open-file.js';
import type { Placed } from '../../src/browser/geometry.js';
import { readGeometry, scrollWidthStripped } from '../support/page-geometry.js';
import { compareLayouts } from '../support/layout-proof.js';
import { fixtureNames, LayoutProject } from '../support/layout-project.js';

/** Widths that follow from text are refused: a browser widens and shrinks such columns by what it measures. */
const refused: readonly string[] = ['x-minwidth-auto-longword', 'x2-auto-basis-shrink'];

let browser: Browser;
let page: Page;
let project: LayoutProject;

beforeAll(async () => {
  project = LayoutProject.ofFixtures();
  const { code, err } = project.build();
  expect([code, err.match(/^messages\/\S+ +error .*$/gm)]).toEqual([
    1,
    [
      'messages/x-minwidth-auto-longword.html:11:33  error  css-unsupported  flex: 1 has no equal in tables, for <div> at line 13',
      'messages/x2-auto-basis-shrink.html:13:31  error  css-unsupported  width: auto has no equal in tables, for <div> at line 13',
    ],
  ]);
  browser = await launchBrowser();
  page = await browser.newPage();
}, 60_000);

afterAll(async () => {
  await browser?.close();
  project.remove();
});

const proven = fixtureNames.filter((name) => !refused.includes(name));

test.each(proven)(
  '%s lies where its source lies, and looks like it',
  async (name) => {
    expect(await compareLayouts(page, project.source(name), project.compiled(name))).toEqual([]);
  },
  60_000,
);

test.each(proven)('%s never scrolls sideways without its head', async (name) => {
  for (const width of [375, 700])
    expect(await scrollWidthStripped(page, project.compiled(name), width)).toBeLessThanOrEqual(width);
});

/** Where the first word of each of two columns lies without the head. */
async function columnsAt(name: string, words: readonly [string, string], width: number): Promise<Placed[]> {
  await page.setViewportSize({ width, height: 600 });
  await openFile(page, project.compiled(name));
  await stripHead(page);
  const boxes = await readGeometry(page);
  return words.flatMap((word) => boxes.find(({ what }) => what === `word ${word}`) ?? []);
}

describe('without the head', () => {
  test.each(['b-two-cols-480', 'b-two-cols-600', 'c-third-centre-480'])(
    'the columns of %s stack on a phone and stand side by side on a desktop',
    async (name) => {
      const words = [name.startsWith('b') ? 'Modern' : 'Short', 'longer'] as const;
      const [first, second] = await columnsAt(name, words, 375);
      expect(second?.y).toBeGreaterThan((first?.y ?? Infinity) + 20);
      const wide = await columnsAt(name, words, 700);
      expect(wide[1]?.x).toBeGreaterThan((wide[0]?.x ?? Infinity) + 100);
    },
  );

  test.each(['d-three-nostack', 'd2-weights-132', 'b6-pct-sum-under-100'])(
    'the columns of %s, which never stack, stand side by side on a phone',
    async (name) => {
      await page.setViewportSize({ width: 375, height: 600 });
      await openFile(page, project.compiled(name));
      const before = await readGeometry(page);
      await stripHead(page);
      expect(await readGeometry(page)).toEqual(before);
    },
  );
});

test('--row forces the pattern of a row', () => {
  const document = (row: string): string =>
    `<!doctype html><html lang="en"><head><title>t</title><style>body{margin:0}.r{display:flex;gap:20px;--row:${row}}.r>div{flex:1;background:#eee}@media (max-width:480px){.r{flex-direction:column}}</style></head><body><div class="r"><div><p>One</p></div><div><p>Two</p></div></div></body></html>`;
  const forced = new LayoutProject({ wrap: document('wrap'), cells: document('cells') });
  expect(forced.build().code).toBe(0);
  expect(forced.html('wrap')).toContain('display:inline-block');
  expect(forced.html('cells')).toContain('table-layout:fixed');
  expect(forced.html('cells')).not.toContain('inline-block');
  forced.remove();
});
