import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { baseStyles, layoutMessage } from '../support/layout-message.js';
import { openFile } from '../../src/browser/open-file.js';
import { compareLayouts } from '../support/layout-proof.js';
import { LayoutProject } from '../support/layout-project.js';

const dark = layoutMessage(
  `${baseStyles}
.c{border:1px solid #ccc}.b{display:inline-block;padding:12px 20px;background:#06c;color:#fff;text-decoration:none}.b:hover{background:#a33}
.night{display:none}
@media (prefers-color-scheme:dark){body{background:#000;color:#ddd}.c{background:#222;border-color:#555}.day{display:none}.night{display:block}.b{background:#8af;color:#000}}
@media (max-width:600px) and (prefers-color-scheme: dark){h1{color:#ff0}}
@media (max-width:480px){.c{padding:12px;background:#fafafa}}`,
  '<div class="c"><h1>Shed</h1><p class="day">By day</p><p class="night">By night, with a lamp</p><p><a class="b" href="https://alderlane.example/x">Go</a></p></div>',
);

const messages: Readonly<Record<string, string>> = {
  'hidden-column': layoutMessage(
    `${baseStyles}.r{display:flex;gap:20px}.r>div{flex:1;background:#def;padding:8px}@media (max-width:600px){.x{display:none}}@media (max-width:480px){.r{flex-direction:column}}`,
    '<div class="c"><div class="r"><div>One saw</div><div class="x">Two saws</div><div>Three saws and a file</div></div></div>',
  ),
  'phone-first': layoutMessage(
    `${baseStyles}.r{display:flex;flex-direction:column;gap:8px}.r>div{flex:0 0 auto}@media (min-width:601px){.r{flex-direction:row;gap:24px}.r>div{flex:1}}`,
    '<div class="c"><div class="r"><div><p>First column of words</p></div><div><p>Second column with more words in it</p></div></div></div>',
  ),
  'stacked-by-display': layoutMessage(
    `${baseStyles}.r{display:flex;gap:24px}.r>div{flex:1}@media (max-width:500px){.r{display:block}}`,
    '<div class="c"><div class="r"><div><p>First column of words</p></div><div><p>Second column</p></div></div></div>',
  ),
  'block-link': layoutMessage(
    `${baseStyles}.t{display:block;padding:10px;background:#def;color:#036;margin:0 0 12px}`,
    '<div class="c"><p>Before</p><a class="t" href="https://alderlane.example/a">A link that is a block</a><p>After</p></div>',
  ),
  'mixed-tables': layoutMessage(
    `${baseStyles}.d{width:100%;border-spacing:0}.d td{padding:6px;border:1px solid #ccc}.r{display:flex;gap:16px}.r>div{flex:1}`,
    '<div class="c"><p>Hours</p><table class="d"><tr><td>Mill Yard</td><td>10 to 4</td></tr><tr><td colspan="2">Closed on Mondays</td></tr></table><div class="r"><div><p>Left</p></div><div><table class="d"><tbody><tr><td>In a column</td></tr></tbody></table></div></div></div>',
  ),
  'right-to-left': layoutMessage(
    `${baseStyles}.r{display:flex;gap:16px}.r>div{flex:1;padding-inline-start:12px;border-inline-start:2px solid #a33}.n{display:flex;gap:12px;justify-content:flex-start}`,
    '<div class="c"><h1>مرحبا بكم</h1><div class="r"><div><p>نص قصير هنا</p></div><div><p>فقرة أطول من الأولى</p></div></div><div class="n"><a href="https://alderlane.example/1">متجر</a><a href="https://alderlane.example/2">فروع</a></div></div>',
    'lang="ar" dir="rtl"',
  ),
  'growing-beside-content': layoutMessage(
    `${baseStyles}.r{display:flex;gap:16px;align-items:center}.g{flex:1}.b{padding:10px 16px;background:#06c;color:#fff;text-decoration:none}@media (max-width:480px){.r{flex-direction:column;align-items:stretch;gap:8px}}`,
    '<div class="c"><div class="r"><img src="../assets/icon.png" alt="sign" width="48" height="48"><div class="g"><p>Words that grow, and break where the column ends</p></div><a class="b" href="https://alderlane.example/b">Borrow</a></div></div>',
  ),
  gradient: layoutMessage(
    `${baseStyles}.h{padding:40px 24px;background:#234 linear-gradient(#234,#567);color:#fff}`,
    '<div class="c"><div class="h"><h1>Dusk</h1><p>The shed is open.</p></div></div>',
  ),
  'unequal-padding': layoutMessage(
    `${baseStyles}.r{display:flex;gap:24px}.a{flex:1;padding:16px;background:#def}.b{flex:2;padding:16px;background:#fde}@media (max-width:480px){.r{flex-direction:column}}`,
    '<div class="c"><div class="r"><div class="a"><p>Short</p></div><div class="b"><p>Words that fill the wider column of the two</p></div></div></div>',
  ),
  dark,
};

let browser: Browser;
let page: Page;
let project: LayoutProject;

beforeAll(async () => {
  project = new LayoutProject(messages);
  expect(project.build()).toMatchObject({ code: 0, err: '' });
  browser = await launchBrowser();
  page = await browser.newPage();
}, 60_000);

afterAll(async () => {
  await browser?.close();
  project.remove();
});

test.each(Object.keys(messages))(
  '%s lies where its source lies',
  async (name) => {
    expect(await compareLayouts(page, project.source(name), project.compiled(name))).toEqual([]);
  },
  60_000,
);

describe('a dark scheme', () => {
  test('looks like its source, wide and narrow', async () => {
    expect(await compareLayouts(page, project.source('dark'), project.compiled('dark'), { scheme: 'dark' })).toEqual(
      [],
    );
  }, 60_000);

  test('keeps what lies under the pointer a class', async () => {
    await page.emulateMedia({ colorScheme: 'light' });
    await page.setViewportSize({ width: 700, height: 600 });
    await openFile(page, project.compiled('dark'));
    const background = (): Promise<string> =>
      page.evaluate(() => getComputedStyle(document.querySelector('a') ?? document.body).backgroundColor);
    expect(await background()).toBe('rgb(0, 102, 204)');
    await page.hover('a');
    expect(await background()).toBe('rgb(170, 51, 51)');
  });
});
