import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, BrowserContext, Frame, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { TestFolder, type RunningProgram } from '../support/project.js';

let browser: Browser;
let context: BrowserContext;
let page: Page;
let folder: TestFolder;
let program: RunningProgram;
let address: string;
let newsletter: string;
const problems: string[] = [];

beforeAll(async () => {
  folder = TestFolder.demoProject();
  newsletter = folder.read('messages/may-newsletter.html');
  program = folder.start(['preview', '--port', '0']);
  await program.says(/Ctrl-C stops\.\n/);
  address = /http:\/\/[\d.:]+\//.exec(program.err)?.[0] ?? '';
  browser = await launchBrowser();
  context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.grantPermissions(['clipboard-read', 'clipboard-write'], { origin: address.replace(/\/$/, '') });
  page = await context.newPage();
  // The driver of the browser itself reaches into frames in which nothing may run.
  page.on('console', (said) => {
    if (said.type() === 'error' && !said.text().startsWith('Blocked script execution')) problems.push(said.text());
  });
  page.on('pageerror', (error) => problems.push(error.message));
}, 120_000);

afterEach(() => {
  folder.write({ 'messages/may-newsletter.html': newsletter });
  expect(problems.splice(0)).toEqual([]);
});

afterAll(async () => {
  await browser?.close();
  await program?.stop();
  folder?.remove();
});

const frames = (on: Page = page): Frame[] => on.frames().filter((frame) => frame.url().includes('/-/frame/'));
const texts = (on: Page = page): Promise<string[]> =>
  Promise.all(frames(on).map((frame) => frame.locator('body').innerText()));
const labels = (): Promise<string[]> => page.locator('.view .label').allInnerTexts();

/** Waits until something holds; what it came to last is told where it does not. */
async function until<T>(found: () => Promise<T>, holds: (value: T) => boolean): Promise<T> {
  const end = Date.now() + 40_000;
  for (;;) {
    const value = await found();
    if (holds(value)) return value;
    if (Date.now() > end) throw new Error(`It did not come to that: ${JSON.stringify(value)}`);
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
}

async function openBench(query = ''): Promise<void> {
  await page.goto(`${address}may-newsletter${query}`);
  await page.evaluate(() => localStorage.clear());
  if (query === '') await page.goto(`${address}may-newsletter`);
  const count = query === '' ? 3 : query.split('view=').length - 1;
  await until(texts, (all) => all.length === count && all.every((text) => text.includes('The lathe is back')));
}

describe('the wall', () => {
  test('shows every message, filters them, marks what changed, and names what does not build', async () => {
    await page.goto(address);
    const states = (): Promise<string[]> => page.locator('.card .state').allInnerTexts();
    await until(states, (all) => all.length === 6 && all.every((text) => text === 'fine'));
    expect(await page.locator('h1').innerText()).toBe('Alder Lane Tool Library');
    expect(await page.locator('.card .mark:visible').count()).toBe(0);
    await page.keyboard.press('/');
    await page.keyboard.type('hours');
    await until(
      () => page.locator('.card:visible h2').allInnerTexts(),
      (all) => all.length === 1,
    );
    expect(await page.locator('.status').innerText()).toBe('1 of 6 messages');
    await page.locator('input[type=search]').fill('');
    folder.change('messages/may-newsletter.html', 'a puzzle', 'riddles');
    await until(
      () => page.locator('.card:has(.mark:visible) h2 a').allInnerTexts(),
      (all) => all.join() === 'Ines, the lathe is back',
    );
    folder.change('messages/may-newsletter.html', '</h2>', '');
    await until(states, (all) => all.includes('does not build'));
    folder.write({ 'messages/may-newsletter.html': newsletter });
    await until(states, (all) => all.every((text) => text === 'fine'));
    // What is as it was when the page was opened carries no mark.
    await until(
      () => page.locator('.card .mark:visible').count(),
      (count) => count === 0,
    );
  }, 150_000);

  test('a message that comes and goes is there, and gone', async () => {
    await page.goto(address);
    const count = (): Promise<number> => page.locator('.card').count();
    await until(count, (found) => found === 6);
    folder.write({ 'messages/extra.html': newsletter });
    await until(count, (found) => found === 7);
    const { rmSync } = await import('node:fs');
    const states = (): Promise<string> =>
      page
        .locator('.card .state')
        .allInnerTexts()
        .then((all) => all.join());
    await until(states, (text) => text.includes('warning'));
    rmSync(join(folder.path, 'messages/extra.html'));
    await until(count, (found) => found === 6);
    // Its subject was that of another, which has it for itself again.
    await until(states, (text) => !text.includes('warning'));
  }, 150_000);
});

describe('the bench', () => {
  test('a saved part changes every view, and nothing scrolls', async () => {
    await openBench();
    await frames()[1]?.evaluate(() => scrollTo(0, 300));
    const part = folder.read('parts/house-footer.html');
    folder.write({ 'parts/house-footer.html': part.replace('</p>', ' Saws are welcome.</p>') });
    await until(texts, (all) => all.every((text) => text.includes('Saws are welcome.')));
    expect(await frames()[1]?.evaluate(() => scrollY)).toBe(300);
    folder.write({ 'parts/house-footer.html': part });
    await until(texts, (all) => all.every((text) => !text.includes('Saws are welcome.')));
  }, 150_000);

  test('views are added, copied, made wider, set and removed; the address keeps them, and so does the browser', async () => {
    await openBench();
    expect(await labels()).toEqual([
      '700 px · webkit · light',
      '375 px · webkit · light',
      '375 px · strict-webmail · light',
    ]);
    await page.keyboard.press('2');
    await page.keyboard.press('a');
    await until(labels, (all) => all.length === 4);
    for (const key of ['e', 's', 't', 'i', ']', ']', 'r']) await page.keyboard.press(key);
    expect(await labels()).toEqual([
      '700 px · webkit · light',
      '375 px · webkit · light',
      '395 px · source · dark · no pictures · raw tags',
      '375 px · strict-webmail · light',
    ]);
    await page.keyboard.press('1');
    await page.keyboard.press('x');
    await page.locator('.view').last().getByRole('button', { name: 'Copy this view' }).click();
    await until(labels, (all) => all.length === 4);
    const edge = page.locator('.view').first().getByRole('separator');
    const box = await edge.boundingBox();
    if (box === null) throw new Error('The edge is not there');
    await page.mouse.move(box.x + 5, box.y + 60);
    await page.mouse.down();
    await page.mouse.move(box.x + 55, box.y + 60, { steps: 4 });
    await page.mouse.up();
    const width = Number(await edge.getAttribute('aria-valuenow'));
    expect(width).toBeGreaterThan(405);
    await edge.focus();
    await page.keyboard.press('ArrowRight');
    expect(await edge.getAttribute('aria-valuenow')).toBe(String(width + 1));
    const kept = await labels();
    expect(new URL(page.url()).searchParams.getAll('view')[1]).toBe('395 source dark no-pictures raw regions');
    await page.reload();
    await until(labels, (all) => all.join() === kept.join());
    await page.goto(`${address}may-newsletter`);
    await until(labels, (all) => all.join() === kept.join());
    await page.evaluate(() => localStorage.clear());
  }, 150_000);

  test('views show what they say: engines, schemes, samples, pictures, tags', async () => {
    await openBench(
      '?view=700+word+light+nobody&view=375+webkit+inverted&view=500+source+dark+no-pictures&view=600+webkit+light+chips&view=600+webkit+light+raw',
    );
    const [word = '', , , chips = '', raw = ''] = await texts();
    expect(word).toContain('Hello neighbour,');
    expect(chips).toContain('first_name ?? "neighbour"');
    expect(raw).toContain('Hello ~~FIRST_NAME?neighbour~~,');
    const [, inverted, source] = frames();
    expect(await inverted?.evaluate(() => getComputedStyle(document.body).backgroundColor)).toBe('rgb(45, 36, 16)');
    expect(await source?.locator('img').count()).toBe(0);
    expect(await source?.locator('main.sheet').count()).toBe(1);
    await page.locator('.view').first().locator('.label').click();
    await page.getByLabel('Engine').first().selectOption('webmail');
    await until(
      () => frames()[0]?.locator('[class^="m_"]').count() ?? Promise.resolve(0),
      (count) => count > 0,
    );
  }, 150_000);

  test('an element is found in all views, with its line; a click copies that', async () => {
    await openBench();
    await frames()[0]?.locator('h2').first().hover();
    const line = newsletter.split('\n').findIndex((text) => text.includes('<h2>Repair Day')) + 1;
    await until(
      () => page.locator('.pointed').innerText(),
      (text) => text === `messages/may-newsletter.html:${line}`,
    );
    const outlined = await Promise.all(
      frames().map((frame) =>
        frame
          .locator('h2')
          .first()
          .evaluate((element) => getComputedStyle(element).outlineWidth),
      ),
    );
    expect(outlined).toEqual(['2px', '2px', '2px']);
    await frames()[0]?.locator('h2').first().click();
    await until(
      () => page.evaluate(() => navigator.clipboard.readText()),
      (text) => text.endsWith(`.html:${line}`),
    );
    // A link leads nowhere.
    await frames()[0]?.locator('a').first().click();
    expect(frames()).toHaveLength(3);
  }, 150_000);

  test('what is found leads to its place; what is broken lies over the views until it is mended', async () => {
    await openBench();
    folder.change('messages/may-newsletter.html', 'href="https://alderlane.example/repair-day"', 'href=""');
    const finding = page.locator('.finding', { hasText: 'link-empty' });
    await finding.waitFor({ timeout: 40_000 });
    await finding.click();
    await until(
      () => frames()[1]?.evaluate(() => scrollY) ?? Promise.resolve(0),
      (top) => top > 0,
    );
    folder.change('messages/may-newsletter.html', '</h2>', '');
    const trouble = page.getByRole('alert');
    await trouble.waitFor({ timeout: 40_000 });
    expect(await trouble.innerText()).toMatch(
      /does not build[\s\S]*messages\/may-newsletter\.html:\d+:9[\s\S]*never closed[\s\S]*\^/,
    );
    expect((await texts()).every((text) => text.includes('The lathe is back'))).toBe(true);
    folder.write({ 'messages/may-newsletter.html': newsletter });
    await trouble.waitFor({ state: 'hidden', timeout: 40_000 });
  }, 150_000);

  test('fifty quick saves end in the last state, in two browsers at once', async () => {
    await openBench();
    const other = await context.newPage();
    await other.goto(`${address}may-newsletter`);
    for (let count = 1; count <= 50; count += 1) {
      const text = newsletter.replace('a puzzle', `puzzle ${count}.`);
      writeFileSync(join(folder.path, 'messages/may-newsletter.html'), text);
      await new Promise((resolve) => setTimeout(resolve, 12));
    }
    for (const on of [page, other])
      await until(
        () => texts(on),
        (all) => all.length === 3 && all.every((text) => text.includes('puzzle 50.')),
      );
    await other.close();
  }, 150_000);

  test('a script in a message does not run, and its frame leads nowhere else', async () => {
    await openBench();
    folder.change(
      'messages/may-newsletter.html',
      '<hr class="divider">',
      '<div data-raw><p onclick="top.evil=1" id="trap">Trap</p><a href="javascript:top.evil=2">Link</a></div>',
    );
    await until(texts, (all) => all.every((text) => text.includes('Trap')));
    await frames()[0]?.locator('#trap').click();
    await frames()[0]?.locator('a[href^=javascript]').click();
    expect(await page.evaluate(() => 'evil' in window)).toBe(false);
    expect(await frames()[0]?.evaluate(() => frameElement?.getAttribute('sandbox'))).toBe('allow-same-origin');
  }, 150_000);

  test('has names, roles and an order for those who do not see it', async () => {
    await openBench();
    const nameless = await page.evaluate(() =>
      [...document.querySelectorAll('button,select,input,a,[tabindex="0"],iframe')].flatMap((element) => {
        const label = element.closest('label')?.textContent ?? '';
        const name =
          element.getAttribute('aria-label') ?? element.getAttribute('title') ?? `${element.textContent ?? ''}${label}`;
        return name.trim() === '' && !element.hasAttribute('aria-labelledby') ? [element.outerHTML.slice(0, 80)] : [];
      }),
    );
    expect(nameless).toEqual([]);
    const tree = await page.locator('body').ariaSnapshot();
    expect(tree).toMatch(/tab "findings[^"]*" \[selected\]/);
    for (const part of [
      'heading "may-newsletter"',
      'tablist "About this message"',
      'tabpanel',
      'group "Views"',
      'separator "Width of this view, px"',
      'status',
    ])
      expect(tree).toContain(part);
    await page.keyboard.press('?');
    expect(await page.getByRole('dialog', { name: 'Keys' }).innerText()).toContain('the next engine');
    await page.keyboard.press('Escape');
    await page.keyboard.press('2');
    await page.keyboard.press('PageDown');
    expect(await frames()[1]?.evaluate(() => scrollY)).toBeGreaterThan(100);
    // By the Tab key alone, from the link above to the tabs beside.
    const reached = new Set<string>();
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    for (let count = 0; count < 40; count += 1) {
      await page.keyboard.press('Tab');
      reached.add(await page.evaluate(() => document.activeElement?.textContent?.trim().slice(0, 20) ?? ''));
    }
    for (const name of ['All messages', '+ view', '700 px · webkit · li', 'copy', 'findings'])
      expect([...reached].filter((text) => text.startsWith(name))).not.toEqual([]);
  }, 150_000);

  test.each(['light', 'dark'] as const)(
    'can be read in its %s scheme',
    async (colorScheme) => {
      await page.emulateMedia({ colorScheme });
      await openBench();
      const faint = await page.evaluate(() => {
        const parts = (color: string): number[] => (color.match(/[\d.]+/g) ?? []).map(Number);
        const light = (color: string): number => {
          const [r = 0, g = 0, b = 0] = parts(color).map((level) =>
            level / 255 <= 0.04045 ? level / 255 / 12.92 : ((level / 255 + 0.055) / 1.055) ** 2.4,
          );
          return 0.2126 * r + 0.7152 * g + 0.0722 * b;
        };
        const ground = (element: Element | null): string => {
          for (let at = element; at !== null; at = at.parentElement) {
            const color = getComputedStyle(at).backgroundColor;
            if (parts(color)[3] !== 0) return color;
          }
          return 'rgb(255,255,255)';
        };
        return [...document.querySelectorAll('#preview *')].flatMap((element) => {
          const hasText = [...element.childNodes].some(
            (node) => node.nodeType === 3 && (node.textContent ?? '').trim() !== '',
          );
          if (!hasText || !element.checkVisibility()) return [];
          const [low = 0, high = 0] = [light(getComputedStyle(element).color), light(ground(element))].sort(
            (a, b) => a - b,
          );
          const contrast = (high + 0.05) / (low + 0.05);
          return contrast < 4.5 ? [`${element.className} ${contrast.toFixed(1)}`] : [];
        });
      });
      expect(faint).toEqual([]);
      await page.emulateMedia({ colorScheme: null });
    },
    60_000,
  );

  test('works in the width of a phone', async () => {
    await page.setViewportSize({ width: 390, height: 844 });
    await openBench();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    const [row, strip] = await Promise.all([page.locator('.row').boundingBox(), page.locator('.strip').boundingBox()]);
    expect((row?.y ?? 0) + (row?.height ?? 0)).toBeLessThanOrEqual((strip?.y ?? 0) + 1);
    await page.goto(address);
    await page.locator('.card').first().waitFor();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    await page.setViewportSize({ width: 1280, height: 800 });
  }, 150_000);
});

describe('finished HTML without a project', () => {
  test('is shown, checked and shown again when it is saved', async () => {
    const own = new TestFolder().write({
      'page.html':
        '<!doctype html><html lang="en"><head><title>Saws</title></head><body><p>Bring them <a href="">back</a>.</p></body></html>',
    });
    const served = own.start(['preview', 'page.html', '--port', '0']);
    await served.says(/Ctrl-C stops\.\n/);
    await page.goto(`${/http:\/\/[\d.:]+\//.exec(served.err)?.[0] ?? ''}page`);
    await until(texts, (all) => all.length === 3 && all.every((text) => text === 'Bring them back.'));
    expect(await page.locator('.finding', { hasText: 'link-empty' }).innerText()).toContain('page.html:1:');
    own.change('page.html', 'them', 'all of them');
    await until(texts, (all) => all.every((text) => text === 'Bring all of them back.'));
    expect(await served.stop()).toBe(130);
    own.remove();
  }, 150_000);
});
