import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Browser, Page } from 'playwright-core';
import { compile, type Finding } from '../../src/core/index.js';
import { launchBrowser } from '../support/browser.js';
import { compareLayouts } from '../support/layout-proof.js';
import { LayoutProject } from '../support/layout-project.js';
import { drawTry, matrixPage } from '../support/matrix-pieces.js';
import { Random } from '../support/random.js';

/** More layouts by INSCRIBA_MATRIX=1000, others by INSCRIBA_SEED=7. */
const layouts = Number(process.env['INSCRIBA_MATRIX'] ?? 200);
const seed = Number(process.env['INSCRIBA_SEED'] ?? 1);

/** So many stand on one page, which the browser loads once for all. */
const ON_A_PAGE = 10;

type Try = ReturnType<typeof drawTry>;

let browser: Browser;
let pages: Page[];
let project: LayoutProject;

beforeAll(async () => {
  project = new LayoutProject({});
  browser = await launchBrowser();
  pages = await Promise.all([browser.newPage(), browser.newPage()]);
}, 60_000);

afterAll(async () => {
  await browser?.close();
  project?.remove();
});

test(
  `${layouts} layouts drawn from the matrix of properties and kinds of boxes are exact, or refused with a finding`,
  async () => {
    const random = new Random(seed);
    const drawn = Array.from({ length: layouts }, () => drawTry(random));
    const waiting = Array.from({ length: Math.ceil(layouts / ON_A_PAGE) }, (_, index) =>
      drawn.slice(index * ON_A_PAGE, (index + 1) * ON_A_PAGE),
    );
    const silent: string[] = [];
    let refused = 0;
    const judge = async (page: Page, tries: readonly Try[]): Promise<void> => {
      if (tries.length === 0) return;
      const html = matrixPage(tries);
      const { value, findings } = compile(html, { pictureSize: () => ({ width: 64, height: 64 }) });
      if (value === null && tries.length === 1) {
        refused += 1;
        if (findings.length === 0) silent.push(`${nameOf(tries[0])}: nothing compiled, and nothing said`);
        return;
      }
      const differences = value === null ? ['refused'] : await compared(page, html, value.html);
      if (differences.length === 0) return;
      if (tries.length === 1) silent.push(`${nameOf(tries[0])}: ${differences.slice(0, 3).join('; ')}`);
      else {
        // One of them is off or refused: which one is found by halves, what is refused by its line.
        const [bad, rest] = parted(tries, html, value === null ? findings : []);
        for (const half of [bad, rest]) await judge(page, half);
      }
    };
    const compared = (page: Page, source: string, compiled: string): Promise<string[]> => {
      const [before, after] = ['source', 'compiled'].map((what) => `${what}-${pages.indexOf(page)}.html`);
      project.folder.write({ [before ?? '']: source, [after ?? '']: compiled });
      const paths = [before, after].map((name) => join(project.folder.path, name ?? ''));
      return compareLayouts(page, paths[0] ?? '', paths[1] ?? '', { widths: [375, 700] });
    };
    const work = async (page: Page): Promise<void> => {
      for (let batch = waiting.shift(); batch !== undefined; batch = waiting.shift()) await judge(page, batch);
    };
    await Promise.all(pages.map(work));
    expect(silent).toEqual([]);
    expect(refused).toBeLessThan(layouts * 0.4);
  },
  15 * 60_000,
);

function nameOf(one: Try | undefined): string {
  return one === undefined ? '' : `${one.kind} { ${one.declarations} } in ${one.html}`;
}

/** The tries of a page whose rules a finding points at, and the others; halves where none does, or all do. */
function parted(tries: readonly Try[], html: string, findings: readonly Finding[]): [readonly Try[], readonly Try[]] {
  const lines = html.split('\n');
  const named = findings.flatMap(({ place }) => {
    const line = place === null ? '' : (lines[html.slice(0, place.span.start).split('\n').length - 1] ?? '');
    return /^\.k(\d+)\{/.exec(line)?.[1] ?? [];
  });
  const bad = tries.filter((_, index) => named.includes(String(index)));
  if (bad.length > 0 && bad.length < tries.length) return [bad, tries.filter((one) => !bad.includes(one))];
  const half = Math.ceil(tries.length / 2);
  return [tries.slice(0, half), tries.slice(half)];
}
