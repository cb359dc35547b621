import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { invalidMedia } from '../../src/core/css/cascade/media-validity.js';
import { readWidthCondition, splitCondition } from '../../src/core/css/cascade/media.js';
import { indexElements } from '../../src/core/css/selectors/element-index.js';
import { compileSelectorList } from '../../src/core/css/selectors/selector.js';
import { untagged } from '../../src/core/css/syntax/tagged-values.js';
import { mathPixels, readMath } from '../../src/core/css/values/math.js';
import { readColor } from '../../src/core/css/values/mixed-color.js';
import { parseHtml } from '../../src/core/html/parse.js';
import { SourceText } from '../../src/core/text/source-text.js';
import { launchBrowser } from '../support/browser.js';
import { colour, mathLength, mediaQuery, namedPage, selectorList } from '../support/css-samples.js';
import { Random } from '../support/random.js';

/** How many of each are judged; more by hand: `INSCRIBA_PIECES=20000 INSCRIBA_SEED=7`. */
const count = Number(process.env['INSCRIBA_PIECES'] ?? 2000);
const seed = Number(process.env['INSCRIBA_SEED'] ?? 1);

let browser: Browser;
let page: Page;

beforeAll(async () => {
  browser = await launchBrowser();
  page = await browser.newPage({ viewport: { width: 1000, height: 600 } });
});

afterAll(() => browser.close());

/** Different pieces of a kind. */
function samples(make: (random: Random) => string, most = count): string[] {
  const random = new Random(seed);
  return [...new Set(Array.from({ length: most }, () => make(random)))];
}

/** At most so many are left to who draws the page, of those that a browser takes. */
const isMostly = (decided: number, taken: number): boolean => decided > taken * 0.9;

test('media queries hold at the widths at which a browser says so, and what it never takes is told', async () => {
  const queries = samples(mediaQuery);
  const widths = [300, 320, 400, 480, 599, 600, 601, 777, 1000];
  const held = new Map<string, boolean[]>(queries.map((query) => [query, []]));
  let taken = new Map<string, boolean>();
  await page.setContent('<!doctype html><p>');
  for (const width of widths) {
    await page.setViewportSize({ width, height: 600 });
    const said = await page.evaluate(
      (all) => all.map((query) => [matchMedia(query).matches, matchMedia(query).media !== 'not all'] as const),
      queries,
    );
    said.forEach(([matches], index) => held.get(queries[index] ?? '')?.push(matches));
    taken = new Map(said.map(([, isTaken], index) => [queries[index] ?? '', isTaken]));
  }
  const wrong: string[] = [];
  let decided = 0;
  for (const query of queries) {
    const truth = held.get(query) ?? [];
    const own = readWidthCondition(query);
    const split = splitCondition(query);
    if (own !== null) decided += 1;
    if (own !== null && widths.map((width) => own.matches(width)).join() !== truth.join())
      wrong.push(`${query}: holds at ${widths.filter((_, at) => truth[at]).join()}`);
    // A change of the answer lies at a threshold.
    const changes = widths.slice(1).filter((_, at) => truth[at] !== truth[at + 1]);
    const isMarked = (to: number): boolean =>
      own?.thresholds.some((border) => border < to && border >= (widths[widths.indexOf(to) - 1] ?? 0)) === true;
    if (own !== null && !changes.every(isMarked)) wrong.push(`${query}: thresholds ${own.thresholds.join()}`);
    if (split?.rest === null && own === null) wrong.push(`${query}: split and not read`);
    const invalid = invalidMedia(query);
    if (taken.get(query) === false && invalid === null) wrong.push(`${query}: no browser takes it`);
    if (invalid !== null && !/\b(?:or|not)\b/.test(query) && truth.includes(true))
      wrong.push(`${query}: browsers take it`);
  }
  expect(wrong).toEqual([]);
  expect(
    isMostly(decided, queries.filter((query) => invalidMedia(query) === null && !/print|tv/.test(query)).length),
  ).toBe(true);
});

test('selectors match the elements that they match in a browser, and are invalid where they are there', async () => {
  const random = new Random(seed);
  const wrong: string[] = [];
  let valid = 0;
  for (let number = 0; number < count / 200; number += 1) {
    const html = namedPage(random);
    const selectors = Array.from({ length: 200 }, () => selectorList(random));
    const { doc } = parseHtml(new SourceText('page', html), []);
    const { elements } = indexElements(doc);
    await page.setContent(html);
    const truth = await page.evaluate((all) => {
      const every = [...document.querySelectorAll('*')];
      return all.map((selector) => {
        try {
          const found = new Set(document.querySelectorAll(selector));
          return every.flatMap((element, at) => (found.has(element) ? [at] : [])).join();
        } catch {
          return null;
        }
      });
    }, selectors);
    const context = {
      ...untagged,
      quirks: doc.quirks,
      nesting: null,
      relativeToNesting: false,
      takesCombinator: false,
    };
    selectors.forEach((selector, index) => {
      const own = compileSelectorList(selector, { ...context, scopeRoot: null });
      const matched = truth[index] ?? null;
      if ((own === null) !== (matched === null)) wrong.push(`${selector}: ${matched === null ? 'invalid' : 'valid'}`);
      if (own === null || matched === null || own.some(({ conditional }) => conditional)) return;
      valid += 1;
      const found = elements.flatMap((element, at) => (own.some(({ matches }) => matches(element)) ? [at] : []));
      if (found.join() !== matched) wrong.push(`${selector}: ${found.join()}, and not ${matched}`);
    });
  }
  expect(wrong).toEqual([]);
  expect(valid).toBeGreaterThan(count / 2);
});

test('colours come to the levels that a browser paints', async () => {
  const colours = samples(colour);
  await page.setContent('<!doctype html><p id="text"></p><canvas width="1" height="1"></canvas>');
  const painted = await page.evaluate((all) => {
    const text = document.querySelector('p');
    const context = document.querySelector('canvas')?.getContext('2d');
    return all.map((written) => {
      if (text === null || context === null || context === undefined) return null;
      text.style.color = '';
      text.style.color = written;
      if (text.style.color === '') return null;
      context.fillStyle = getComputedStyle(text).color;
      context.fillRect(0, 0, 1, 1);
      return [...context.getImageData(0, 0, 1, 1).data];
    });
  }, colours);
  const wrong = colours.filter((written, index) => {
    const [own, truth] = [readColor(written), painted[index] ?? null];
    if (own === null || truth === null) return own !== truth;
    return [own.red, own.green, own.blue].some((level, at) => Math.abs(level - (truth[at] ?? 0)) > 2);
  });
  expect(wrong).toEqual([]);
});

test('math functions come to the lengths that a browser lays out', async () => {
  const lengths = samples(mathLength);
  await page.setViewportSize({ width: 1000, height: 600 });
  await page.setContent(
    '<!doctype html><div style="width:600px"><div id="box" style="position:absolute;left:0;font-size:20px">x</div></div>',
  );
  const laidOut = await page.evaluate((all) => {
    const box = document.createElement('div');
    const around = document.querySelector('div');
    box.style.fontSize = '20px';
    around?.append(box);
    return all.map((written) => {
      box.style.marginLeft = '';
      box.style.marginLeft = written;
      if (box.style.marginLeft === '') return null;
      return box.getBoundingClientRect().left - (around?.getBoundingClientRect().left ?? 0);
    });
  }, lengths);
  const wrong = lengths.filter((written, index) => {
    const own = readMath(written, { fontSize: 20, rootFontSize: 16, viewportWidth: 1000 });
    const truth = laidOut[index] ?? null;
    return own === null || truth === null ? own !== truth : Math.abs(mathPixels(own, 600) - truth) > 0.1;
  });
  expect(wrong).toEqual([]);
});
