import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import sharp from 'sharp';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { parse } from 'yaml';
import { launchBrowser } from '../support/browser.js';
import { designs, type Design } from '../support/designs.js';
import { TestFolder } from '../support/project.js';

/** As far may an automatic cut lie from a person's, in CSS px. */
const TOLERANCE = 2;

interface PlanFile {
  readonly bands: readonly { readonly to: number; readonly columns?: readonly { readonly to: number }[] }[];
}

let browser: Browser;
beforeAll(async () => {
  browser = await launchBrowser();
});
afterAll(() => browser.close());

/** Photographs a design, one or two device pixels to a CSS px. */
async function draw(design: Design, scale: number): Promise<Buffer> {
  const { width, height, html } = design;
  const page = await browser.newPage({ viewport: { width, height }, deviceScaleFactor: scale });
  await page.setContent(html);
  const picture = await page.screenshot();
  await page.close();
  return picture;
}

/** A folder with a drawn design and its plan, in which every slice has an alt. */
function planned(picture: Buffer): TestFolder {
  const folder = new TestFolder().write({ 'design.png': picture });
  const run = folder.run(['slice', 'design.png', '--link', 'https://alderlane.example/']);
  if (run.code !== 0) throw new Error(run.err);
  folder.write({ 'design.slices.yaml': folder.read('design.slices.yaml').replace(/alt:$/gm, 'alt: "Drawn"') });
  return folder;
}

interface Raw {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}

async function rawOf(picture: Buffer): Promise<Raw> {
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

/** Opens what was cut, on a ground of a colour that no design has. */
async function open(folder: TestFolder, width: number, scale: number): Promise<Page> {
  const page = await browser.newPage({ viewport: { width, height: 800 }, deviceScaleFactor: scale });
  await page.goto(pathToFileURL(join(folder.path, 'design-slices/index.html')).href);
  await page.evaluate(() => (document.body.style.background = '#ff00ff'));
  return page;
}

/** Photographs the table of slices. */
async function photograph(page: Page): Promise<Raw> {
  const clip = await tableBox(page);
  return rawOf(await page.screenshot({ clip, fullPage: true }));
}

async function tableBox(page: Page): Promise<{ x: number; y: number; width: number; height: number }> {
  return page.evaluate(() => {
    const { x, y, width, height } = document.querySelector('table table')?.getBoundingClientRect() ?? new DOMRect();
    return { x, y, width, height };
  });
}

/** How many pixels show the ground between slices. The last row and column may lie half outside of the table. */
function groundPixels({ data, width, height }: Raw): number {
  let found = 0;
  for (let y = 0; y < height - 1; y += 1)
    for (let at = y * width * 3; at < (y * width + width - 1) * 3; at += 3)
      if ((data[at] ?? 0) > 200 && (data[at + 1] ?? 0) < 90 && (data[at + 2] ?? 0) > 200) found += 1;
  return found;
}

describe.each(designs.map((design) => [design.name, design] as const))('%s', (_, design) => {
  const folders: TestFolder[] = [];
  afterAll(() => folders.forEach((folder) => folder.remove()));

  test.each([1, 2])('is cut as a person would, and shows every pixel (drawn at %d×)', async (scale) => {
    const picture = await draw(design, scale);
    const folder = planned(picture);
    folders.push(folder);
    const { bands } = parse(folder.read('design.slices.yaml')) as PlanFile;
    const ends = bands.flatMap(({ to, columns }) => [
      to / scale,
      ...(columns ?? []).map((column) => column.to / scale),
    ]);
    const wanted = design.bands.flatMap(([to, columns]) => [to, ...(columns ?? [])]);
    expect(ends.length).toBe(wanted.length);
    expect(ends.filter((end, index) => Math.abs(end - (wanted[index] ?? 0)) > TOLERANCE)).toEqual([]);

    const run = folder.run(['slice', 'design.png', '--plan', 'design.slices.yaml']);
    expect(run.code).toBe(0);
    const page = await open(folder, 600, scale);
    const [shown, drawn] = [await photograph(page), await rawOf(picture)];
    await page.close();
    expect([shown.width, shown.height]).toEqual([drawn.width, drawn.height]);
    expect(shown.data.equals(drawn.data)).toBe(true);
  });

  test('leaves no gap at any scale, on a phone or without its head', async () => {
    const [folder] = folders;
    if (folder === undefined) throw new Error('The design was not cut.');
    const gaps: string[] = [];
    for (const scale of [1, 1.5, 2, 3]) {
      const page = await open(folder, 600, scale);
      const look = async (width: number, how: string): Promise<void> => {
        await page.setViewportSize({ width, height: 800 });
        const found = groundPixels(await photograph(page));
        if (found > 0) gaps.push(`${width} px at ${scale}×${how}: ${found}`);
      };
      // A photograph of a tall design at its full width takes seconds.
      if (design.height * scale < 4000) await look(600, '');
      await look(375, '');
      await page.evaluate(() => document.head.remove());
      await look(411, ' without head');
      await page.close();
    }
    expect(gaps).toEqual([]);
  }, 180_000);
});

describe('sliced pictures in messages', () => {
  test('stand between live text; a live slice is the text of its part', async () => {
    const design = designs[0];
    if (design === undefined) throw new Error('There is no design.');
    const folder = TestFolder.demoProject().write({ 'images/summer.png': await draw(design, 2) });
    expect(folder.run(['slice', 'images/summer.png', '--link', 'https://alderlane.example/summer']).code).toBe(0);
    const plan = folder
      .read('images/summer.slices.yaml')
      .replace(/alt:$/gm, `alt: 'For @{first_name ?? "you"} & all'`)
      .replace('name: band-4', 'name: footer\n    live: parts/house-footer.html');
    folder.write({
      'images/summer.slices.yaml': plan,
      'messages/summer.html':
        '<!doctype html>\n<html lang="en"><head><title>Summer</title></head>\n<body><p>Before</p>\n<img src="../images/summer.png" slices="../images/summer.slices.yaml">\n<p>After</p></body></html>\n',
    });
    const run = folder.run(['build', 'summer', '--to', 'archive']);
    expect(run.code).toBe(0);
    const html = folder.read('out/archive/summer/index.html');
    expect(html.match(/<img src="images\/summer-band-\d-[\da-f]{8}\.png"/g)?.length).toBe(3);
    expect(html.match(/alt="For @\{first_name \?\? [^}]*you[^}]*\} &amp; all"/g)?.length).toBe(3);
    expect(folder.read('out/archive/summer/index.txt')).toMatch(/^For @\{first_name \?\? ["']you["']\} & all$/m);
    const page = await browser.newPage({ viewport: { width: 600, height: 900 } });
    await page.goto(pathToFileURL(join(folder.path, 'out/archive/summer/index.html')).href);
    const text = await page.evaluate(() => document.body.innerText);
    expect(text).toMatch(/Before[^]*You read this because you are a member[^]*After/);
    // The bands above the footer still meet.
    const boxes = await page.evaluate(() =>
      [...document.images].map((image) => image.getBoundingClientRect()).map(({ top, bottom }) => [top, bottom]),
    );
    expect(boxes.slice(1).map(([top], index) => Math.round((top ?? 0) - (boxes[index]?.[1] ?? 0)))).toEqual([0, 0]);
    await page.close();
    folder.remove();
  });
});
