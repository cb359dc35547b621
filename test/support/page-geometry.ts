/// <reference lib="dom" />
import type { Page } from 'playwright-core';
import { stripHead } from '../../src/browser/compare-pages.js';
import { placedDifferences, readLayout, type Placed } from '../../src/browser/geometry.js';
import { openFile } from '../../src/browser/open-file.js';

/** How high the window is, in px. */
const WINDOW_HEIGHT = 600;

/** The boxes of all visible words, pictures and links, each kind in document order. */
export async function readGeometry(page: Page): Promise<readonly Placed[]> {
  return (await readLayout(page)).boxes;
}

/** Differences of more than a tolerance, in words. */
export function compareGeometry(expected: readonly Placed[], actual: readonly Placed[], tolerance: number): string[] {
  return placedDifferences(expected, actual, tolerance).map(({ text }) => text);
}

/** The width that a page scrolls to, without its head, at a width of the window. */
export async function scrollWidthStripped(page: Page, file: string, width: number): Promise<number> {
  await page.setViewportSize({ width, height: WINDOW_HEIGHT });
  await openFile(page, file);
  await stripHead(page);
  return page.evaluate(() => document.documentElement.scrollWidth);
}
