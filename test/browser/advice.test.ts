import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { compile } from '../../src/core/index.js';
import { layoutAdvice } from '../../src/core/findings/wording/layout.js';
import { unsupportedRules } from '../../src/core/layout/account/support.js';
import { advicePieces, rulePieces, type AdvicePiece } from '../support/advice-pieces.js';
import { launchBrowser } from '../support/browser.js';
import { compareLayouts } from '../support/layout-proof.js';
import { LayoutProject } from '../support/layout-project.js';
import { pieceRules } from '../support/matrix-pieces.js';

let browser: Browser;
let page: Page;
let project: LayoutProject;

beforeAll(async () => {
  project = new LayoutProject({});
  browser = await launchBrowser();
  page = await browser.newPage();
}, 60_000);

afterAll(async () => {
  await browser?.close();
  project?.remove();
});

const pictureSize = (path: string): { width: number; height: number } =>
  path.includes('icon') ? { width: 64, height: 64 } : { width: 1200, height: 600 };

function pageOf(rules: string, html: string): string {
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Advice</title><style>
body{margin:0;font-family:Arial,sans-serif;font-size:16px;line-height:1.5;color:#223}
.page{max-width:600px;margin:0 auto;padding:16px}
${pieceRules}
${rules}
</style></head><body><div class="page">${html}<p>after</p></div></body></html>`;
}

/** What is refused names the advice, and what follows it compiles to the same as it was written. */
async function follow(piece: AdvicePiece, advice: string): Promise<void> {
  const refused = compile(pageOf(piece.refused, piece.html), { pictureSize });
  expect(refused.value).toBeNull();
  expect(refused.findings.map(({ data }) => data['advice'])).toContain(advice);
  const source = pageOf(piece.followed, piece.then ?? piece.html);
  const { value } = compile(source, { pictureSize });
  project.folder.write({ 'source.html': source, 'compiled.html': value?.html ?? '' });
  const paths = ['source.html', 'compiled.html'].map((name) => join(project.folder.path, name));
  expect(await compareLayouts(page, paths[0] ?? '', paths[1] ?? '', { widths: [375, 700] })).toEqual([]);
}

describe('an advice of the layout works when it is followed', () => {
  test.each(Object.entries(layoutAdvice))('%s', async (name, advice) => {
    const piece = advicePieces[name as keyof typeof layoutAdvice];
    if (piece === undefined) throw new Error(`No piece follows the advice ${name}.`);
    await follow(piece, typeof advice === 'string' ? advice : advice('div'));
  });
});

describe('an advice beside what tables cannot do works when it is followed', () => {
  const rules = unsupportedRules.filter(({ verdict }) => verdict === 'refused');
  test.each(rules.map((rule) => [rule.shown, rule.advice] as const))('%s', async (shown, advice) => {
    const piece = rulePieces[shown];
    if (piece === undefined) throw new Error(`No piece follows the advice for ${shown}.`);
    await follow(piece, advice);
  });
});
