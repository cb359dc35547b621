import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { layoutDocument } from '../support/layout-documents.js';
import { scrollWidthStripped } from '../support/page-geometry.js';
import { compareLayouts } from '../support/layout-proof.js';
import { LayoutProject } from '../support/layout-project.js';

/** More layouts by INSCRIBA_LAYOUTS=1000, others by INSCRIBA_SEED=7. */
const layouts = Number(process.env['INSCRIBA_LAYOUTS'] ?? 200);
const firstSeed = Number(process.env['INSCRIBA_SEED'] ?? 1);

/** So many layouts stand in one message, which the browser then loads once for all. */
const LAYOUTS_PER_MESSAGE = 8;

let browser: Browser;
let pages: Page[];
let project: LayoutProject;

const seeds = Array.from({ length: Math.ceil(layouts / LAYOUTS_PER_MESSAGE) }, (_, index) => firstSeed + index);

beforeAll(async () => {
  project = new LayoutProject(
    Object.fromEntries(seeds.map((seed) => [`layouts-${seed}`, layoutDocument(seed, LAYOUTS_PER_MESSAGE)])),
  );
  expect(project.build()).toMatchObject({ code: 0, err: '' });
  browser = await launchBrowser();
  pages = await Promise.all([browser.newPage(), browser.newPage()]);
}, 120_000);

afterAll(async () => {
  await browser?.close();
  project.remove();
});

test(
  `${layouts} nested layouts lie where their sources lie, at two breakpoints and between`,
  async () => {
    const failures: string[] = [];
    const waiting = [...seeds];
    const work = async (page: Page): Promise<void> => {
      for (let seed = waiting.shift(); seed !== undefined && failures.length < 3; seed = waiting.shift()) {
        const name = `layouts-${seed}`;
        const differences = await compareLayouts(page, project.source(name), project.compiled(name));
        const scrollWidth = await scrollWidthStripped(page, project.compiled(name), 375);
        if (scrollWidth > 375) differences.push(`scrolls to ${scrollWidth} without its head`);
        if (differences.length > 0) failures.push(`${name}:\n  ${differences.slice(0, 8).join('\n  ')}`);
      }
    };
    await Promise.all(pages.map(work));
    expect(failures).toEqual([]);
  },
  15 * 60_000,
);
