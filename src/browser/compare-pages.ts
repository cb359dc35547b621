/// <reference lib="dom" />
/// <reference lib="dom.iterable" />
import { pathToFileURL } from 'node:url';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { generatesText, placedDifferences, readGeometry, type Placed } from './geometry.js';

/** The share of pixels that may differ, and by how many of 256 levels a pixel must differ to count. */
const PIXEL_SHARE = 0.005;
const PIXEL_LEVELS = 16;

/** How two pages are compared. */
export interface Comparison {
  /** Widths of the window, in px. */
  readonly widths: readonly number[];
  readonly scheme: 'light' | 'dark';
  /** How far something may lie from where it belongs, in px. */
  readonly tolerance: number;
  /** Whether the second page loses its style sheets first, as some mail clients do to it. */
  readonly withoutHead?: boolean;
}

/** Something of a page that is not where, or as large as, it is on another. */
export interface Difference {
  /** The width of the window, in px. */
  readonly width: number;
  readonly kind: 'place' | 'content' | 'scroll' | 'pixels';
  /** What differs, in words. */
  readonly text: string;
  /** How far it is off, in px; null for what is no distance. */
  readonly by: number | null;
  /** The mark of the first page's element in which it stands; null where it has none. */
  readonly mark: string | null;
}

/** A page at one width. */
export interface Shot {
  readonly width: number;
  readonly before: Buffer;
  readonly after: Buffer;
}

export interface PageComparison {
  readonly differences: readonly Difference[];
  readonly shots: readonly Shot[];
}

interface View {
  readonly boxes: readonly Placed[];
  readonly picture: Buffer;
  readonly scrollWidth: number;
  readonly generates: boolean;
}

/** Compares two pages of a browser by all words, pictures and links on them, and by their pixels. */
export async function comparePages(
  page: Page,
  source: string,
  compiled: string,
  { widths, scheme, tolerance, withoutHead = false }: Comparison,
): Promise<PageComparison> {
  const differences: Difference[] = [];
  const shots: Shot[] = [];
  await page.emulateMedia({ colorScheme: scheme });
  const before: View[] = [];
  await open(page, source);
  for (const width of widths) before.push(await view(page, width));
  await open(page, compiled);
  if (withoutHead) await stripHead(page);
  for (const [index, width] of widths.entries()) {
    const expected = before[index];
    if (expected === undefined) continue;
    const actual = await view(page, width);
    const add = (item: Omit<Difference, 'width'>): unknown => differences.push({ width, ...item });
    for (const item of placedDifferences(expected.boxes, actual.boxes, tolerance, expected.generates)) add(item);
    if (actual.scrollWidth > Math.max(width, expected.scrollWidth))
      add({ kind: 'scroll', text: `scrolls to ${actual.scrollWidth}`, by: actual.scrollWidth - width, mark: null });
    const share = await differingPixels(expected.picture, actual.picture);
    if (share > PIXEL_SHARE)
      add({ kind: 'pixels', text: `${(share * 100).toFixed(2)} % of the pixels differ`, by: null, mark: null });
    shots.push({ width, before: expected.picture, after: actual.picture });
  }
  return { differences, shots };
}

/** Opens a file; pictures and style sheets are loaded when this returns. */
export async function open(page: Page, file: string): Promise<void> {
  await page.goto(pathToFileURL(file).href);
}

/** Removes every style element, as mail clients do that drop the head. */
export async function stripHead(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
}

/** The width that a page scrolls to, without its head, at a width of the window. */
export async function scrollWidthStripped(page: Page, file: string, width: number): Promise<number> {
  await page.setViewportSize({ width, height: 600 });
  await open(page, file);
  await stripHead(page);
  return page.evaluate(() => document.documentElement.scrollWidth);
}

async function view(page: Page, width: number): Promise<View> {
  await page.setViewportSize({ width, height: 600 });
  const boxes = await readGeometry(page);
  const scrollWidth = await page.evaluate(() => document.documentElement.scrollWidth);
  const generates = await generatesText(page);
  return { boxes, scrollWidth, generates, picture: await page.screenshot({ fullPage: true, animations: 'disabled' }) };
}

interface Pixels {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}

/** The share of the pixels that two pictures show otherwise; what one of them lacks differs. */
async function differingPixels(first: Buffer, second: Buffer): Promise<number> {
  if (first.equals(second)) return 0;
  const [a, b] = await Promise.all([pixelsOf(first), pixelsOf(second)]);
  const [width, height] = [Math.max(a.width, b.width), Math.max(a.height, b.height)];
  const marked = differenceMap(a, b);
  return marked.reduce((sum, value) => sum + value, width * height - marked.length) / (width * height);
}

/** For each pixel of what two pictures share, row by row, 1 where they differ. */
function differenceMap(a: Pixels, b: Pixels): Uint8Array {
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  const marked = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      // What lies a pixel beside, as rounding puts it, is there.
      const isThere =
        isAlike([a, x, y], [b, x, y]) ||
        neighbours.some(([right, down]) => isAlike([a, x, y], [b, x + right, y + down]));
      if (!isThere) marked[y * width + x] = 1;
    }
  return marked;
}

type PixelAt = readonly [picture: Pixels, x: number, y: number];

const neighbours = [-1, 0, 1].flatMap((down) => [-1, 0, 1].map((right) => [right, down] as const));

/** Whether a pixel of one picture looks like a pixel of another, which may be beyond its edge. */
function isAlike([a, x, y]: PixelAt, [b, otherX, otherY]: PixelAt): boolean {
  if (otherX < 0 || otherY < 0 || otherX >= b.width || otherY >= b.height) return false;
  const [at, other] = [(y * a.width + x) * 3, (otherY * b.width + otherX) * 3];
  return [0, 1, 2].every(
    (channel) => Math.abs((a.data[at + channel] ?? 0) - (b.data[other + channel] ?? 0)) <= PIXEL_LEVELS,
  );
}

async function pixelsOf(png: Buffer): Promise<Pixels> {
  const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/** Source, compiled and what differs, side by side as one PNG; what differs is red on a pale copy of the source. */
export async function sideBySide({ before, after }: Shot): Promise<Buffer> {
  const [a, b] = await Promise.all([pixelsOf(before), pixelsOf(after)]);
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  const marked = differenceMap(a, b);
  const shown = Buffer.alloc(width * height * 3);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      for (let channel = 0; channel < 3; channel += 1) {
        const pale = 200 + Math.round((a.data[(y * a.width + x) * 3 + channel] ?? 255) * 0.21);
        shown[(y * width + x) * 3 + channel] =
          marked[y * width + x] === 1 ? (channel === 0 ? 220 : 30) : Math.min(255, pale);
      }
  const difference = await sharp(shown, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
  const space = 16;
  const all = [a, b, { width, height }];
  return sharp({
    create: {
      width: all.reduce((sum, picture) => sum + picture.width + space, space),
      height: Math.max(...all.map((picture) => picture.height)) + 2 * space,
      channels: 3,
      background: '#888888',
    },
  })
    .composite(
      [before, after, difference].map((input, index) => ({
        input,
        top: space,
        left: all.slice(0, index).reduce((sum, picture) => sum + picture.width + space, space),
      })),
    )
    .png()
    .toBuffer();
}
