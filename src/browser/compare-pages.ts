/// <reference lib="dom" />
/// <reference lib="dom.iterable" />
import type { CDPSession, Page } from 'playwright-core';
import { differingShare } from './pixels.js';
import { granted } from './photograph-page.js';
import { openFile } from './open-file.js';
import { placedDifferences, readLayout, type Placed } from './geometry.js';

/** The share of pixels that may differ. */
const PIXEL_SHARE = 0.005;

/** How high the window is, in px. */
const WINDOW_HEIGHT = 600;

/** How two pages are compared. */
export interface Comparison {
  /** Widths of the window, in px. */
  readonly widths: readonly number[];
  readonly scheme: 'light' | 'dark';
  /** How far something may lie from where it belongs, in px. */
  readonly tolerance: number;
  /** Widths at which the second page is compared once more without its style sheets, which some mail clients drop. */
  readonly bareWidths?: readonly number[];
  /** The widths at which pixels are compared too; all where none are given. */
  readonly pixelsAt?: readonly number[];
}

/** Something of a page that is not where, or as large as, it is on another. */
export interface Difference {
  /** The width of the window, in px. */
  readonly width: number;
  /** Whether the second page had lost its style sheets. */
  readonly withoutHead: boolean;
  readonly kind: 'place' | 'content' | 'scroll' | 'pixels';
  /** What differs, in words. */
  readonly text: string;
  /** How far it is off, in px; null for what is no distance. */
  readonly by: number | null;
  /** The mark of the first page's element in which it stands; null where it has none. */
  readonly mark: string | null;
}

/** Two pages at one width. */
export interface Shot {
  readonly width: number;
  readonly withoutHead: boolean;
  readonly before: Buffer;
  readonly after: Buffer;
}

export interface PageComparison {
  readonly differences: readonly Difference[];
  readonly shots: readonly Shot[];
}

interface View {
  readonly boxes: readonly Placed[];
  /** Null where its pixels are not asked for. */
  readonly picture: Buffer | null;
  readonly scrollWidth: number;
  readonly generates: boolean;
}

/** Pages of a browser to show both in: two, and they are shown at the same time; or one, and they are shown in turn. */
export type PagePair = readonly [source: Page, compiled: Page];

/**
 * Compares two pages of a browser by all words, pictures and links on them, and by their pixels. On a busy machine a page is
 * now and then photographed before it is drawn to its end: pixels that differ have to differ twice.
 */
export async function comparePages(
  pages: PagePair,
  source: string,
  compiled: string,
  comparison: Comparison,
): Promise<PageComparison> {
  const first = await compareOnce(pages, source, compiled, comparison);
  const isSeen = first.differences.some(({ kind }) => kind === 'pixels');
  return isSeen ? compareOnce(pages, source, compiled, comparison) : first;
}

async function compareOnce(
  [page, other]: PagePair,
  source: string,
  compiled: string,
  { widths, scheme, tolerance, bareWidths = [], pixelsAt = widths }: Comparison,
): Promise<PageComparison> {
  const differences: Difference[] = [];
  const shots: Shot[] = [];
  const isPictured = (width: number): boolean => pixelsAt.includes(width) || bareWidths.includes(width);
  const expecting = viewsOf(page, source, { scheme, widths: [...new Set([...widths, ...bareWidths])], isPictured });
  if (page === other) await expecting;
  const finding = viewsOf(other, compiled, { scheme, widths, bareWidths, isPictured });
  const [expectations, found] = await Promise.all([expecting, finding]);
  for (const { width, withoutHead, ...actual } of found) {
    const expected = expectations.find((item) => item.width === width);
    if (expected === undefined) continue;
    const off = await viewDifferences(expected, actual, width, tolerance);
    differences.push(...off.map((item) => ({ width, withoutHead, ...item })));
    if (expected.picture !== null && actual.picture !== null)
      shots.push({ width, withoutHead, before: expected.picture, after: actual.picture });
  }
  return { differences, shots };
}

/** Under what a page is looked at. */
interface Looking extends Pick<Comparison, 'widths' | 'bareWidths' | 'scheme'> {
  readonly isPictured: (width: number) => boolean;
}

interface ViewAt extends View {
  readonly width: number;
  readonly withoutHead: boolean;
}

/** What is seen of a page at some widths, and at others without its style sheets. */
async function viewsOf(
  page: Page,
  file: string,
  { widths, bareWidths = [], scheme, isPictured }: Looking,
): Promise<ViewAt[]> {
  await page.emulateMedia({ colorScheme: scheme });
  const camera = await page.context().newCDPSession(page);
  await openFile(page, file);
  const seen: ViewAt[] = [];
  const look = async (width: number, withoutHead: boolean): Promise<unknown> =>
    seen.push({ width, withoutHead, ...(await view(page, camera, width, isPictured(width))) });
  for (const width of widths) await look(width, false);
  if (bareWidths.length > 0) await stripHead(page);
  for (const width of bareWidths) await look(width, true);
  await camera.detach();
  return seen;
}

/** How what is seen of two pages at one width differs. */
async function viewDifferences(
  expected: View,
  actual: View,
  width: number,
  tolerance: number,
): Promise<Omit<Difference, 'width' | 'withoutHead'>[]> {
  const placed = placedDifferences(expected.boxes, actual.boxes, tolerance, expected.generates);
  const scrolls =
    actual.scrollWidth > Math.max(width, expected.scrollWidth)
      ? [
          {
            kind: 'scroll' as const,
            text: `scrolls to ${actual.scrollWidth}`,
            by: actual.scrollWidth - width,
            mark: null,
          },
        ]
      : [];
  if (expected.picture === null || actual.picture === null) return [...placed, ...scrolls];
  const share = await differingShare(expected.picture, actual.picture, 'about');
  if (share <= PIXEL_SHARE) return [...placed, ...scrolls];
  const text = `${(share * 100).toFixed(2)} % of the pixels differ`;
  return [...placed, ...scrolls, { kind: 'pixels', text, by: null, mark: null }];
}

/** Removes every style element, as mail clients do that drop the head. */
export async function stripHead(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
}

async function view(page: Page, camera: CDPSession, width: number, isPictured: boolean): Promise<View> {
  // Without the waits of the page's own call for its size: what is read next is laid out at the new one in any case.
  const size = { width, height: WINDOW_HEIGHT };
  await camera.send('Emulation.setDeviceMetricsOverride', { ...size, deviceScaleFactor: 1, mobile: false });
  const { boxes, scrollWidth, scrollHeight, generates } = await readLayout(page);
  if (!isPictured) return { boxes, scrollWidth, generates, picture: null };
  const picture = await wholePage(camera, Math.max(width, scrollWidth), Math.max(WINDOW_HEIGHT, scrollHeight));
  return { boxes, scrollWidth, generates, picture };
}

async function wholePage(camera: CDPSession, width: number, height: number): Promise<Buffer> {
  const { data } = await granted(() =>
    camera.send('Page.captureScreenshot', {
      format: 'png',
      optimizeForSpeed: true,
      captureBeyondViewport: true,
      clip: { x: 0, y: 0, width, height, scale: 1 },
    }),
  );
  return Buffer.from(data, 'base64');
}
