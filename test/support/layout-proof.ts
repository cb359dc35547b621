import type { Page } from 'playwright-core';
import { comparePages } from '../../src/browser/compare-pages.js';

/** The widths at which layouts are compared. */
export const judgedWidths = [320, 375, 480, 540, 600, 601, 700, 1000] as const;

/** How two pages are compared. */
interface Judging {
  readonly widths?: readonly number[];
  readonly scheme?: 'light' | 'dark';
  /** Widths at which the compiled message is compared once more without its head. */
  readonly bareWidths?: readonly number[];
  /** The widths at which pixels are compared too. */
  readonly pixelsAt?: readonly number[];
}

/**
 * Compares a compiled message with its source in a browser: boxes and pixels, at all judged widths.
 * @returns what differs, in words; empty where they agree
 */
export async function compareLayouts(
  page: Page,
  source: string,
  compiled: string,
  { widths = judgedWidths, scheme = 'light', bareWidths = [], pixelsAt = widths }: Judging = {},
): Promise<string[]> {
  const { differences } = await comparePages([page, page], source, compiled, {
    widths,
    scheme,
    tolerance: 1,
    bareWidths,
    pixelsAt,
  });
  return differences.map(
    ({ width, text, withoutHead }) => `${width}${withoutHead ? ' without the head' : ''}: ${text}`,
  );
}
