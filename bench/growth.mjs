// What grows: input that once cost more than in proportion, at one size and at twice that size. Each run is the whole
// program in a process of its own; the time of a start is taken off, and the ratios are of the least of three runs. Twice
// the input may cost 2.2 times as much. `node bench/growth.mjs [part of a name]`
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';

const MOST = 2.2;
/** In milliseconds. */
const TOO_LITTLE = 300;
const program = resolve('dist/program/inscriba.js');
let folder = '';

function makeFolder() {
  folder = mkdtempSync(join(tmpdir(), 'inscriba-bench-'));
  mkdirSync(join(folder, 'messages'));
  writeFileSync(
    join(folder, 'inscriba.yaml'),
    'sender: { name: Desk, address: desk@alderlane.example, postal_address: 14 Alder Lane, website: https://alderlane.example }\n' +
      'destinations: { plain: { dialect: neutral } }\n',
  );
}

const many = (count, write) => Array.from({ length: count }, (_, n) => write(n)).join('');
const page = (css, body) =>
  `<!doctype html><html lang="en"><head><title>Growth</title><style>${css}</style></head><body>${body}</body></html>`;

const inline = (html) => ({ words: ['inline', '-'], input: html });
const text = (html) => ({ words: ['text', '-'], input: html });
const convert = (from, html) => ({
  words: ['convert', '-', '--from', from, '--to', 'liquid', '--allow-loss'],
  input: html,
});
const learn = (html) => ({ words: ['dialect', 'learn', 'page.html'], files: { 'page.html': html } });
const build = (html) => ({ words: ['build', '--quiet'], files: { 'messages/growth.html': html } });

/** The name of each case, its size, and what is run at a size. */
const cases = [
  [
    'inline: a chain of custom properties',
    16_000,
    (n) =>
      inline(page(`:root{--v0:red;${many(n, (i) => `--v${i + 1}:var(--v${i});`)}}p{color:var(--v${n})}`, '<p>x</p>')),
  ],
  [
    'inline: rules over 20 elements',
    24_000,
    (n) =>
      inline(
        page(
          many(n, (i) => `.c${i}{color:#${String(i % 1000).padStart(3, '0')}}`),
          many(20, (i) => `<p class="c${i}">x</p>`),
        ),
      ),
  ],
  [
    'inline: @scope',
    24_000,
    (n) =>
      inline(
        page(
          '@scope(.a){.b{color:red}p{margin:0}}',
          many(n, () => '<div class="a"><p class="b">x</p></div>'),
        ),
      ),
  ],
  [
    'inline: elements in elements',
    32_000,
    (n) => inline(page('div div{color:red}.x .y{top:0}', `${'<div>'.repeat(n)}x`)),
  ],
  [
    'inline: one custom property for each element',
    4000,
    (n) =>
      inline(
        page(
          many(n, (i) => `.c${i}{--c${i}:red;color:var(--c${i})}`),
          many(n, (i) => `<p class="c${i}">x</p>`),
        ),
      ),
  ],
  ['inline: findings on one line', 8000, (n) => inline(page('p:nonsense{color:red}'.repeat(n), '<p>x</p>'))],
  ['text: links', 16_000, (n) => text(many(n, (i) => `<a href="https://x.example/${i}">w${i}</a> `))],
  ['text: the same link', 32_000, (n) => text(many(n, (i) => `<a href="https://x.example/a">w${i}</a> `))],
  ['text: lists in lists', 4000, (n) => text(`${'<ul><li>'.repeat(n)}x`)],
  ['text: quotes in quotes', 8000, (n) => text(`${'<blockquote>'.repeat(n)}x`)],
  ['text: combining marks', 800_000, (n) => text(`<p>a${'\u0301'.repeat(n)}`)],
  [
    'build: width conditions',
    400,
    (n) =>
      build(
        page(
          many(n, (i) => `@media (max-width:${i + 300}px){.a{padding:${i}px}}`),
          '<p class="a">x</p>'.repeat(10),
        ),
      ),
  ],
  ['build: findings on one line', 4000, (n) => build(page('', '<p style="position:absolute">x</p>'.repeat(n)))],
  ['learn: one run of punctuation', 4_000_000, (n) => learn(`<p>${'!'.repeat(n)}`)],
  ['learn: text outside the basic plane', 1_000_000, (n) => learn(`<p>${'\u{1d4b3}'.repeat(n)}`)],
  ['convert: tildes', 200_000, (n) => convert('bellmoor', '~'.repeat(n))],
  [
    'convert: unknown tags',
    8000,
    (n) =>
      convert(
        'jinja',
        many(n, (i) => `{{ x${i} | odd }} `),
      ),
  ],
  ['convert: raw blocks', 16_000, (n) => convert('jinja', '{% raw %}x{% endraw %}'.repeat(n))],
];

/** The time of a run of the program, in milliseconds; what it finds may be errors, but it must come to its end. */
function time({ words, input = '', files = {} }) {
  for (const [name, content] of Object.entries(files)) writeFileSync(join(folder, name), content);
  const start = performance.now();
  const { status, stderr } = spawnSync(process.execPath, [program, ...words], {
    cwd: folder,
    input,
    encoding: 'utf8',
    maxBuffer: 2 ** 28,
  });
  if (status !== 0 && status !== 1) throw new Error(stderr);
  return performance.now() - start;
}

/** The worst ratio of a case at twice its size and at its size, each by the least of some rounds; each case is printed. */
export function worstGrowth(rounds, wanted = '') {
  makeFolder();
  const least = (run) => Math.min(...Array.from({ length: rounds }, () => time(run)));
  let worst = 0;
  console.log(`${'input'.padEnd(46)} ${'size'.padStart(8)} ${'time'.padStart(9)}   twice that, ÷`);
  for (const [name, size, make] of cases.filter(([name]) => name.includes(wanted))) {
    const start = least(make(1));
    const [once, twice] = [least(make(size)), least(make(2 * size))];
    // What is over at once tells nothing by its ratio, which is that of the starts.
    const ratio = once - start < TOO_LITTLE && twice - start < TOO_LITTLE ? 0 : (twice - start) / (once - start);
    worst = Math.max(worst, ratio);
    const said = ratio === 0 ? 'over at once' : ratio.toFixed(2);
    const mark = ratio > MOST ? '  more than in proportion' : '';
    console.log(
      `${name.padEnd(46)} ${String(size).padStart(8)} ${(once / 1000).toFixed(2).padStart(7)} s ${said.padStart(14)}${mark}`,
    );
  }
  rmSync(folder, { recursive: true, force: true });
  return worst;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const worst = worstGrowth(3, process.argv[2]);
  console.log(`The worst is ${worst.toFixed(2)}; at most ${MOST} is meant.`);
}
