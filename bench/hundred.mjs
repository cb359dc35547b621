// What the commands do with a page of 100 KB and 300 rules, and what parsing and printing it with the same libraries takes: the
// median of some rounds, each kind in a process of its own, since what a process did before decides how fast it is.
// `node bench/hundred.mjs [kind]`
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { newsletter } from './newsletter.mjs';

const self = fileURLToPath(import.meta.url);
const page = newsletter(100_000, 300);
const median = (times) => times.sort((a, b) => a - b)[times.length >> 1];

async function floor() {
  const { parse, serialize } = await import('parse5');
  const csstree = await import('css-tree');
  return () => {
    serialize(parse(page.html, { sourceCodeLocationInfo: true }));
    csstree.generate(csstree.parse(page.css, { positions: true }));
  };
}

async function inline() {
  const core = await import('../dist/core/index.js');
  return () => core.inline(page.html);
}

async function text() {
  const core = await import('../dist/core/index.js');
  return () => core.plainText(page.html);
}

async function convert() {
  const core = await import('../dist/core/index.js');
  const dialects = JSON.parse(readFileSync('dist/dialects.json', 'utf8'));
  return () => core.convert(page.html, { from: dialects.neutral.dialect, to: dialects.liquid.dialect });
}

async function check() {
  const { Page } = await import('../dist/core/check/page/page.js');
  const { checkPage } = await import('../dist/core/check/check-page.js');
  const { allRules } = await import('../dist/core/check/all-rules.js');
  const { parseHtml } = await import('../dist/core/html/parse.js');
  const { checkPairs } = await import('../dist/core/html/structure/structure.js');
  const { SourceText } = await import('../dist/core/text/source-text.js');
  const { features } = JSON.parse(readFileSync('dist/engines.json', 'utf8'));
  const asked = { isFinished: true, pictures: null, outputs: [], tags: [], project: null, features, engines: null };
  return () => {
    const { doc, errors } = parseHtml(new SourceText('x', page.html), []);
    checkPairs(doc, errors);
    checkPage(new Page({ doc, errors, ...asked }), allRules);
  };
}

const kinds = { floor, inline, text, convert, check };

/** How often each kind is beside parsing and printing: by turns, in nine processes each. */
export function hundredRatios() {
  const times = Object.fromEntries(Object.keys(kinds).map((kind) => [kind, []]));
  for (let turn = 0; turn < 9; turn += 1)
    for (const kind of Object.keys(kinds))
      times[kind].push(Number(spawnSync(process.execPath, [self, kind], { encoding: 'utf8' }).stdout));
  const base = median(times.floor);
  return Object.fromEntries(Object.keys(kinds).map((kind) => [kind, median(times[kind]) / base]));
}

if (process.argv[1] === self) {
  const [, , kind] = process.argv;
  if (kind === undefined) console.log(hundredRatios());
  else {
    const work = await kinds[kind]();
    const times = Array.from({ length: 9 }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    });
    console.log(median(times));
  }
}
