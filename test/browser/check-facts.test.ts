import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page as BrowserPage } from 'playwright-core';
import { buttonHeight } from '../../src/core/check/facts/button-height.js';
import { StyledPage, views, type ViewName } from '../../src/core/check/page/styled-page.js';
import { shownTexts } from '../../src/core/check/page/texts.js';
import { groundsOf, type Shades } from '../../src/core/check/page/grounds.js';
import { parseHtml } from '../../src/core/html/parse.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { launchBrowser } from '../support/browser.js';
import { TestFolder } from '../support/project.js';
import { Random } from '../support/random.js';

let browser: Browser;
let window: BrowserPage;
const folder = mkdtempSync(join(tmpdir(), 'inscriba-facts-'));

beforeAll(async () => {
  browser = await launchBrowser();
  window = await browser.newPage();
});

afterAll(async () => {
  await browser?.close();
  rmSync(folder, { recursive: true, force: true });
});

/** What a browser computes for each element: its number, colours as parts of 255, and the size of its text in px. */
interface Computed {
  readonly color: readonly number[];
  /** Null where a picture or a gradient lies beneath. */
  readonly ground: readonly number[] | null;
  readonly size: number;
}

async function computedIn(html: string, view: ViewName, shades: Shades = 'own'): Promise<Computed[]> {
  const path = join(folder, 'page.html');
  writeFileSync(path, html);
  await window.setViewportSize({ width: views[view].width, height: 600 });
  await window.emulateMedia({ colorScheme: views[view].scheme });
  await window.goto(pathToFileURL(path).href);
  return window.evaluate((isInverted) => {
    const probe = document.createElement('i');
    // Relative colours: the browser itself makes of each one that is as light as it was dark (CSS Color 5, 4).
    const turned = (text: string): string => {
      if (!isInverted) return text;
      probe.style.color = `hsl(from ${text} h s calc(100 - l) / alpha)`;
      document.documentElement.append(probe);
      const { color } = getComputedStyle(probe);
      probe.remove();
      return color;
    };
    const parts = (text: string): number[] => {
      const [red = 0, green = 0, blue = 0, alpha = 1] = (turned(text).match(/[\d.]+(?:e-?\d+)?/g) ?? []).map(Number);
      const most = turned(text).startsWith('color(') ? 255 : 1;
      return [red * most, green * most, blue * most, alpha];
    };
    const over = (upper: number[], lower: number[]): number[] => {
      const alpha = upper[3] ?? 1;
      return [0, 1, 2].map((part) => (upper[part] ?? 0) * alpha + (lower[part] ?? 0) * (1 - alpha));
    };
    return [...document.querySelectorAll('*')].map((element) => {
      const around: Element[] = [];
      for (let at: Element | null = element; at !== null; at = at.parentElement) around.unshift(at);
      const hasPicture = around.some((at) => getComputedStyle(at).backgroundImage !== 'none');
      const ground = around.reduce(
        (below, at) => over(parts(getComputedStyle(at).backgroundColor), below),
        isInverted ? [0, 0, 0] : [255, 255, 255],
      );
      const style = getComputedStyle(element);
      return {
        color: over(parts(style.color), ground),
        ground: hasPicture ? null : ground,
        size: parseFloat(style.fontSize),
      };
    });
  }, shades === 'inverted');
}

/** Where the check takes a text for another than the browser shows it. */
async function differences(html: string, view: ViewName, shades: Shades = 'own'): Promise<string[]> {
  const computed = await computedIn(html, view, shades);
  const { doc } = parseHtml(new SourceText('page.html', html), []);
  const page = new StyledPage({ doc, pictures: null });
  const grounds = groundsOf(page, view, shades);
  return shownTexts(page, view).flatMap(({ element, style, words }) => {
    const known = computed[page.index.of.get(element)?.order ?? -1];
    const ground = grounds.beneath(element);
    const color = ground === null ? null : grounds.inkOn(ground, style);
    const size = parseFloat(style.get('font-size')) || 16;
    if (known === undefined) return [`${words}: not there`];
    if ((known.ground === null) !== (ground === null)) return [`${words}: a picture`];
    const wrong = [
      ...(ground === null || isClose([ground.red, ground.green, ground.blue], known.ground ?? [])
        ? []
        : [`ground ${JSON.stringify([ground, known.ground])}`]),
      ...(color === null || isClose([color.red, color.green, color.blue], known.color)
        ? []
        : [`colour ${JSON.stringify([style.get('color'), style.get('background-color'), color, known.color])}`]),
      ...(Math.abs(size - known.size) < 0.02 ? [] : [`size ${size} for ${known.size}`]),
    ];
    return wrong.length === 0 ? [] : [`${view} ${words} <${element.tag}>: ${wrong.join(', ')}`];
  });
}

function isClose(own: readonly number[], known: readonly number[]): boolean {
  return own.every((part, index) => Math.abs(part - (known[index] ?? -9)) < 1.6);
}

/** A page of boxes within boxes, whose colours and sizes rules, attributes and conditions fight over. */
function colouredPage(seed: number): string {
  const random = new Random(seed);
  const colors = [
    '#123',
    '#fa0',
    'rgb(20 40 60)',
    'rgba(0,0,0,.4)',
    'white',
    'transparent',
    'hsl(200 50% 40%)',
    'inherit',
    '#eee8',
    'light-dark(#fff,#111)',
    'color-mix(in srgb, #f00, #00f)',
  ];
  const sizes = ['12px', '1.2em', '90%', 'larger', 'small', '1rem', 'calc(10px + 1vw)', 'inherit', '3vw'];
  const says = (): string =>
    [
      `color:${random.pick(colors)}`,
      `background-color:${random.pick(colors)}`,
      `font-size:${random.pick(sizes)}`,
      'background:linear-gradient(#fff,#000)',
      `background:${random.pick(colors)}`,
    ]
      .filter((_, index) => random.chance(index === 3 ? 0.04 : 0.35))
      .join(';');
  const rules = Array.from(
    { length: 8 },
    (_, index) => `.c${index % 5}${random.pick(['', ' p', ' > div', '.d'])}{${says()}}`,
  );
  const conditional = [
    `@media (max-width:600px){.c${random.pick(['0', '1', '2'])}{${says()}}}`,
    `@media (prefers-color-scheme:dark){.c${random.pick(['2', '3'])}{${says()}}}`,
  ];
  let count = 0;
  const box = (depth: number): string => {
    count += 1;
    const tag = random.pick(['div', 'p', 'td', 'span', 'a', 'h2', 'font']);
    const attributes = `class="c${random.pick(['0', '1', '2', '3', '4'])}${random.chance(0.3) ? ' d' : ''}"${random.chance(0.3) ? ` style="${says()}"` : ''}`;
    const inner = depth === 0 || tag === 'p' ? '' : Array.from({ length: 2 }, () => box(depth - 1)).join('');
    const text = `word${count}`;
    if (tag === 'td') return `<table><tr><td ${attributes} bgcolor="#d0e0f0">${text}${inner}</td></tr></table>`;
    if (tag === 'a') return `<a href="https://a.example/" ${attributes}>${text}</a>`;
    if (tag === 'font') return `<font color="#804020" ${attributes}>${text}</font>`;
    return `<${tag} ${attributes}>${text}${tag === 'div' ? inner : ''}</${tag}>`;
  };
  const body = Array.from({ length: 6 }, () => box(2)).join('\n');
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title><style>:root{color-scheme:light dark}html{background:#fff}\n${[...rules, ...conditional].join('\n')}</style></head><body>${body}</body></html>`;
}

test('colours, grounds and sizes of texts are what a browser computes, on 50 pages and in three views', async () => {
  const found: string[] = [];
  for (let seed = 1; seed <= 50; seed += 1)
    for (const view of ['desk', 'phone', 'darkDesk'] as const)
      found.push(...(await differences(colouredPage(seed), view)).map((text) => `${seed}: ${text}`));
  expect(found).toEqual([]);
}, 120_000);

test('turned round, they are what a browser makes of each colour before it lays them over each other', async () => {
  const found: string[] = [];
  for (let seed = 1; seed <= 50; seed += 1)
    found.push(...(await differences(colouredPage(seed), 'desk', 'inverted')).map((text) => `${seed}: ${text}`));
  expect(found).toEqual([]);
}, 120_000);

test('and on the messages of the sample project, as they are built', async () => {
  const demo = TestFolder.builtDemo();
  const found: string[] = [];
  for (const name of ['may-newsletter', 'loans-due', 'repair-day', 'membership-receipt', 'parts-specimen'])
    for (const view of ['desk', 'phone', 'darkDesk'] as const)
      found.push(
        ...(await differences(readFileSync(join(demo.path, 'out/archive', name, 'index.html'), 'utf8'), view)),
      );
  for (const name of ['may-newsletter', 'loans-due', 'repair-day', 'membership-receipt', 'parts-specimen'])
    found.push(
      ...(await differences(
        readFileSync(join(demo.path, 'out/archive', name, 'index.html'), 'utf8'),
        'desk',
        'inverted',
      )),
    );
  demo.remove();
  expect(found).toEqual([]);
}, 120_000);

test('buttons are as high on a phone as a browser shows them', async () => {
  const random = new Random(7);
  const button = (index: number): string => {
    const box = random.pick(['', 'box-sizing:border-box;']);
    const height = random.pick(['', '', 'height:40px;', 'min-height:44px;']);
    const border = random.pick(['', 'border:2px solid #000;', 'border-width:3px;']);
    const line = random.pick(['line-height:20px', 'line-height:1.5', 'line-height:2em']);
    return `<p><a id="b${index}" href="https://a.example/" style="display:${random.pick(['block', 'inline-block'])};background:#253;color:#fff;padding:${random.between(2, 16)}px 20px ${random.between(2, 16)}px;font-size:${random.between(13, 20)}px;${box}${height}${border}${line}">Go</a></p>`;
  };
  const html = `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title><style>a{margin:4px}@media(max-width:600px){a{font-weight:bold}}</style></head><body>${Array.from({ length: 60 }, (_, index) => button(index)).join('')}</body></html>`;
  await computedIn(html, 'phone');
  const shown = await window.evaluate(() =>
    [...document.querySelectorAll('a')].map((link) => link.getBoundingClientRect().height),
  );
  const { doc } = parseHtml(new SourceText('page.html', html), []);
  const page = new StyledPage({ doc, pictures: null });
  const known = page.withTag('a').map((link) => {
    const style = page.styleOf(link, 'phone');
    return style === null ? null : buttonHeight(link, style);
  });
  expect(known.map((height, index) => Math.abs((height ?? 0) - (shown[index] ?? 0)) < 0.6)).toEqual(
    known.map(() => true),
  );
});
