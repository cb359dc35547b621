import { pathToFileURL } from 'node:url';
import type { Page } from 'playwright-core';
import sharp from 'sharp';
import { compareGeometry, generatesText, judgedWidths, readGeometry, type Placed } from './geometry.js';

/** How far words, pictures and links may lie from where the source has them, in CSS px. */
const GEOMETRY_TOLERANCE = 1;

/** The share of pixels that may differ, and by how many of 256 levels a pixel must differ to count. */
const PIXEL_SHARE = 0.005;
const PIXEL_LEVELS = 16;

interface View {
  readonly boxes: readonly Placed[];
  readonly picture: Buffer;
  readonly scrollWidth: number;
  readonly generates: boolean;
}

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
  const differences: string[] = [];
  await page.emulateMedia({ colorScheme: scheme });
  const before: View[] = [];
  await open(page, source);
  for (const width of widths) before.push(await view(page, width));
  await open(page, compiled);
  for (const [index, width] of widths.entries()) {
    const expected = before[index];
    if (expected === undefined) continue;
    const actual = await view(page, width);
    const found = compareGeometry(expected.boxes, actual.boxes, GEOMETRY_TOLERANCE, expected.generates);
    if (actual.scrollWidth > Math.max(width, expected.scrollWidth)) found.push(`scrolls to ${actual.scrollWidth}`);
    const share = await differingPixels(expected.picture, actual.picture);
    if (share > PIXEL_SHARE) found.push(`${(share * 100).toFixed(2)} % of the pixels differ`);
    differences.push(...found.map((text) => `${width}: ${text}`));
  }
  return differences;
}

/** Opens a file; pictures and style sheets are loaded when this returns. */
export async function open(page: Page, file: string): Promise<void> {
  await page.goto(pathToFileURL(file).href);
}

async function view(page: Page, width: number): Promise<View> {
  await page.setViewportSize({ width, height: 600 });
  const boxes = await readGeometry(page);
  const scrollWidth = await page.evaluate(() => document.documentElement.scrollWidth);
  const generates = await generatesText(page);
  return { boxes, scrollWidth, generates, picture: await page.screenshot({ fullPage: true, animations: 'disabled' }) };
}

async function differingPixels(first: Buffer, second: Buffer): Promise<number> {
  if (first.equals(second)) return 0;
  const [a, b] = await Promise.all([first, second].map(pixelsOf));
  if (a === undefined || b === undefined) return 1;
  const width = Math.max(a.width, b.width);
  const height = Math.max(a.height, b.height);
  const [sharedWidth, sharedHeight] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  let differing = width * height - sharedWidth * sharedHeight;
  for (let y = 0; y < sharedHeight; y += 1) {
    for (let x = 0; x < sharedWidth; x += 1) {
      const [at, other] = [(y * a.width + x) * 3, (y * b.width + x) * 3];
      if (
        isOff(a.data, at, b.data, other) ||
        isOff(a.data, at + 1, b.data, other + 1) ||
        isOff(a.data, at + 2, b.data, other + 2)
      )
        differing += 1;
    }
  }
  return differing / (width * height);
}

function isOff(a: Buffer, at: number, b: Buffer, other: number): boolean {
  return Math.abs((a[at] ?? 0) - (b[other] ?? 0)) > PIXEL_LEVELS;
}

async function pixelsOf(png: Buffer): Promise<{ data: Buffer; width: number; height: number }> {
  const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/** Removes every style element, as mail clients do that drop the head. */
export async function stripHead(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelectorAll('style').forEach((element) => element.remove()));
}

/** The width that a page scrolls to, without its head, at a viewport width. */
export async function scrollWidthStripped(page: Page, file: string, width: number): Promise<number> {
  await page.setViewportSize({ width, height: 600 });
  await open(page, file);
  await stripHead(page);
  return page.evaluate(() => document.documentElement.scrollWidth);
}
