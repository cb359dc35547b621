import { cpSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { launchBrowser } from '../support/browser.js';
import { compareLayouts } from '../support/layout-proof.js';
import { LayoutProject } from '../support/layout-project.js';
import { ordinaryPieces } from '../support/ordinary-pieces.js';
import { rowPieces } from '../support/ordinary-rows.js';
import { stackPieces } from '../support/ordinary-stacks.js';
import { repository } from '../support/project.js';

const pieces = [...ordinaryPieces, ...rowPieces, ...stackPieces];
const messages = join(repository, 'test/fixtures/ordinary');

const page = (css: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>A piece</title><style>
body{margin:0;font-family:Arial,sans-serif;font-size:16px;line-height:1.5;color:#223}
.page{max-width:600px;margin:0 auto;padding:16px}
${css}
</style></head><body><div class="page">${body}</div></body></html>
`;

describe('messages that were written as any page is', () => {
  let project: LayoutProject;

  beforeAll(() => {
    project = new LayoutProject({});
    for (const file of readdirSync(messages)) cpSync(join(messages, file), join(project.folder.path, 'messages', file));
  });

  afterAll(() => project.remove());

  test('are built, and proved to be the same as their sources', () => {
    const { code, out, err } = project.folder.run(['prove', '--json']);
    expect(err).toBe('');
    const proved = JSON.parse(out) as { messages: { name: string; same: boolean; differences: unknown[] }[] };
    expect(proved.messages.filter(({ same }) => !same)).toEqual([]);
    expect(proved.messages.map(({ name }) => name)).toEqual([
      'bare-page',
      'bare-picture',
      'digest',
      'event',
      'launch',
      'letter',
      'newsletter',
      'receipt',
    ]);
    expect(code).toBe(0);
  }, 180_000);
});

describe('colours that depend on the scheme', () => {
  test.each([
    [
      'light-dark()',
      ':root{color-scheme:light dark}body{background:light-dark(#fff,#112)}p{color:light-dark(#333,#eee)}',
    ],
    ['a scheme without colours', ':root{color-scheme:light dark}'],
    ['rules for the dark alone', '@media(prefers-color-scheme:dark){p{color:#900}}'],
  ])('%s', (_, css) => {
    const project = new LayoutProject({ colours: page(css, '<p>Saws are back</p>') });
    const { code, out } = project.folder.run(['prove']);
    project.remove();
    expect(out).toMatch(/^colours: same at 2 widths, light and dark/);
    expect(code).toBe(0);
  });
});

describe('prove', () => {
  // How wide the letters of this font are is not known to who compiles: the word is wider than it is taken to be.
  const wide = page(
    '.r{display:flex;font-family:Verdana,sans-serif}.w{flex:1}',
    '<div class="r"><div class="w">WWWMMMWWWMMMWWW</div><div class="w">Two</div></div>',
  );

  test('says what is off, where it is written, by how much and at which width', () => {
    const project = new LayoutProject({ wide, plain: page('', '<p>Nothing special</p>') });
    const { code, out } = project.folder.run(['prove', '--shots', 'shots']);
    expect(code).toBe(1);
    expect(out).toContain('plain: same at 2 widths, light, with and without the head\n');
    expect(out).toMatch(/^wide: off at 375 px, of 2 widths/m);
    expect(readdirSync(join(project.folder.path, 'shots')).sort()).toEqual([
      'plain-light-1000.png',
      'plain-light-375.png',
      'plain-light-without-head-1000.png',
      'wide-light-1000.png',
      'wide-light-375.png',
      'wide-light-without-head-1000.png',
    ]);
    project.remove();
  }, 120_000);

  test('says where it cannot write its pictures', () => {
    const project = new LayoutProject({ plain: page('', '<p>x</p>') });
    project.folder.write({ shots: 'a file' });
    const { code, err } = project.folder.run(['prove', '--shots', 'shots']);
    expect(code).toBe(2);
    expect(
      err.match(/file-unwritable {2}shots\/plain-light\S* cannot be written: part of the path is no folder/g),
    ).toHaveLength(1);
    project.remove();
  }, 60_000);

  test('asks for a browser where there is none', () => {
    const project = new LayoutProject({ plain: page('', '<p>x</p>') });
    const { code, err } = project.folder.run(['prove', '--browser', '/nowhere/chromium']);
    expect(code).toBe(2);
    expect(err).toContain('browser-failed  The browser /nowhere/chromium does not start');
    expect(err).toContain('--browser <path>');
    project.remove();
  }, 60_000);
});

describe('pieces of ordinary CSS', () => {
  let project: LayoutProject;
  let browser: Browser;
  let pages: Page[];

  beforeAll(async () => {
    project = new LayoutProject(Object.fromEntries(pieces.map(([name, css, body]) => [name, page(css, body)])));
    const { err } = project.build();
    expect(err.split('\n').filter((line) => line.includes('  error  '))).toEqual([]);
    browser = await launchBrowser();
    pages = await Promise.all([browser.newPage(), browser.newPage(), browser.newPage()]);
  }, 240_000);

  afterAll(async () => {
    await browser?.close();
    project.remove();
  });

  test(`${pieces.length} of them lie where their sources lie`, async () => {
    const failures: string[] = [];
    const waiting = [...pieces];
    const work = async (own: Page): Promise<void> => {
      for (let piece = waiting.shift(); piece !== undefined; piece = waiting.shift()) {
        const [name, css] = piece;
        const files = [project.source(name), project.compiled(name)] as const;
        // Without its head a message is what its desktop is: conditions are gone, and first letters and lines, as a note says.
        const bareWidths = /::first-l/.test(css) ? [] : [1000];
        const differences = await compareLayouts(own, ...files, { pixelsAt: [375, 600, 1000], bareWidths });
        if (differences.length > 0) failures.push(`${name}: ${differences.slice(0, 3).join('; ')}`);
      }
    };
    await Promise.all(pages.map(work));
    expect(failures).toEqual([]);
  }, 600_000);
});
