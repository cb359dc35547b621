import type { Page } from 'playwright-core';
import { comparePages } from '../../src/browser/compare-pages.js';

/** The widths at which layouts are compared. */
export const judgedWidths = [320, 375, 480, 540, 600, 601, 700, 1000] as const;

/**
 * Compares a compiled message with its source in a browser: boxes and pixels, at all judged widths.
 * @returns what differs, in words; empty where they agree
 */
export async function compareLayouts(
  page: Page,
  source: string,
  compiled: string,
  { widths = judgedWidths, scheme = 'light' }: { widths?: readonly number[]; scheme?: 'light' | 'dark' } = {},
): Promise<string[]> {
  const { differences } = await comparePages(page, source, compiled, { widths, scheme, tolerance: 1 });
  return differences.map(({ width, text }) => `${width}: ${text}`);
}
