// The figures that the program is held to, in one run, each as a ratio of two times that are measured beside each other:
// what is asked for, and what it comes to on this machine. `npm run bench` prints them and writes docs/figures.md; with
// --short it leaves out what takes minutes, and writes nothing.
import { spawnSync } from 'node:child_process';
import { appendFileSync, cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import * as csstree from 'css-tree';
import { parse, serialize } from 'parse5';
import { format, resolveConfig } from 'prettier';
import { editorTimes } from './editor.mjs';
import { newsletter } from './newsletter.mjs';
import { previewTime } from './preview.mjs';

const isShort = process.argv.includes('--short');
const program = resolve('dist/program/inscriba.js');
const folder = mkdtempSync(join(tmpdir(), 'inscriba-figures-'));
const project = join(folder, 'demo');
cpSync('demo', project, { recursive: true, filter: (path) => !/demo\/out(?:\/|$)/.test(path) });

const rows = [];

/** The least time of some runs of a process, in ms, and the most memory that one took, in MB. */
function timed(command, words, { cwd = project, runs = 3, input = '' } = {}) {
  let least = Infinity;
  for (let run = 0; run < runs; run += 1) {
    const start = performance.now();
    const { status, stderr } = spawnSync(command, words, { cwd, input, encoding: 'utf8', maxBuffer: 1e9 });
    if (status === null || status > 1) throw new Error(`${words.join(' ')}: ${stderr}`);
    least = Math.min(least, performance.now() - start);
  }
  return least;
}

const inscriba = (words, options) => timed(process.execPath, [program, ...words], options);

/** How long a command takes beside a Node that does nothing, once what was compiled of it is kept. */
function startRatio(words, input) {
  inscriba(words, { input, runs: 1 });
  const [bare, command] = [[], []];
  for (let run = 0; run < 15; run += 1) {
    bare.push(timed(process.execPath, ['-e', '0'], { runs: 1 }));
    command.push(inscriba(words, { input, runs: 1 }));
  }
  const middle = (times) => times.sort((a, b) => a - b)[times.length >> 1];
  return middle(command) / middle(bare);
}

/** The median of what a function takes in this process, in ms. */
function median(work, rounds = 9) {
  const times = Array.from({ length: rounds }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[rounds >> 1];
}

function figure(what, wanted, value, how, reason = '') {
  const isMet = value <= wanted;
  rows.push({ what, wanted, value, how, isMet, reason: isMet ? '' : reason });
  console.log(`${isMet ? 'met   ' : 'not   '} ${what}: ${value.toFixed(2)} (at most ${wanted})`);
}

// Starts. What is built is listed from the record of the build.
inscriba(['build', '--quiet'], { runs: 1 });
const small =
  '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title><style>p{color:#234}</style></head><body><p>Hello</p></body></html>';
const startReason =
  'What is left is to take the compiled code in, some 13 ms for a megabyte of it, and the work itself; no part of it stands out in a profile.';
for (const [name, words, input] of [
  ['--version', ['--version'], ''],
  ['inline', ['inline', '-'], small],
  ['text', ['text', '-'], small],
  ['convert', ['convert', '-', '--from', 'neutral', '--to', 'liquid'], small],
  ['check', ['check', '-'], small],
  ['list', ['list'], ''],
  ['build, of what is built', ['build', '--quiet'], ''],
])
  figure(
    `start of \`${name}\` on a small input`,
    2,
    startRatio(words, input),
    'the median of 15 processes, from the second on, beside the median of `node -e 0` run by turns with them',
    startReason,
  );

// Commands on 100 KB, in this process, beside parsing and printing the same with the same libraries.
const { inline, plainText, convert } = await import('../dist/core/index.js');
const { Page } = await import('../dist/core/check/facts/page.js');
const { checkPage } = await import('../dist/core/check/check-page.js');
const { allRules } = await import('../dist/core/check/all-rules.js');
const { parseHtml } = await import('../dist/core/html/parse.js');
const { checkPairs } = await import('../dist/core/html/structure.js');
const { SourceText } = await import('../dist/core/text/source-text.js');
const { features } = JSON.parse(readFileSync('dist/engines.json', 'utf8'));
const dialects = JSON.parse(readFileSync('dist/dialects.json', 'utf8'));

const page = newsletter(100_000, 300);
const floor = median(() => {
  serialize(parse(page.html, { sourceCodeLocationInfo: true }));
  csstree.generate(csstree.parse(page.css, { positions: true }));
});
const against =
  'the median beside that of parsing and printing the same page and its rules with the same libraries, in one process';
figure(
  '`inline`, 100 KB and 300 rules',
  2.5,
  median(() => inline(page.html)) / floor,
  against,
  'The cascade itself: each element is asked after by each rule that its names can match.',
);
figure(
  '`text`, 100 KB',
  3,
  median(() => plainText(page.html)) / floor,
  against,
  'What is shown is decided by the cascade.',
);
figure(
  '`convert`, 100 KB',
  3,
  median(() => convert(page.html, { from: dialects.neutral.dialect, to: dialects.liquid.dialect })) / floor,
  against,
);
const checkReason =
  'Most of it is the cascade, in four views (desk, phone, and each in the dark), and the words of each text.';
function checked() {
  const { doc, errors } = parseHtml(new SourceText('x', page.html), []);
  checkPairs(doc, errors);
  const input = {
    doc,
    errors,
    isFinished: true,
    pictures: null,
    outputs: [],
    tags: [],
    project: null,
    features,
    engines: null,
  };
  return checkPage(new Page(input), allRules).length;
}
figure('`check` of finished HTML, 100 KB', 5, median(checked) / floor, against, checkReason);

// Building.
const first = inscriba(['build', '--fresh', '--quiet']);
const second = inscriba(['build', '--quiet']);
const start = inscriba(['--version']);
figure(
  'the sample project again, nothing changed',
  0.2,
  (second - start) / (first - start),
  'the second `build` beside the first, the time of a start taken off both',
  'Of so small a project the configuration is most.',
);

// The editor: what is asked for is a time, so this figure is the share of it that is taken.
const editor = await editorTimes(program);
const share =
  'the median of 40 edits, after 20 that are not counted, beside the time that is asked for (on this machine';
const slow = 'The message is compiled and checked anew at each edit; styles, in all states, are half of it.';
figure(
  'findings after an edit of the newsletter, of 200 ms',
  1,
  editor.findings / 200,
  `${share}: ${editor.findings.toFixed(0)} ms)`,
  slow,
);
figure(
  'completion behind an edit, of 50 ms',
  1,
  editor.completion / 50,
  `${share}: ${editor.completion.toFixed(0)} ms)`,
);

const shownAfter = await previewTime();
if (shownAfter !== null)
  figure(
    'a saved part in all views of the newsletter, of 150 ms',
    1,
    shownAfter / 150,
    `the median of 31 saves, after 10 that are not counted, from the writing of the file to the last of three views in a browser, beside the time that is asked for (on this machine: ${shownAfter.toFixed(0)} ms)`,
    'The message is compiled, which takes half of it, and its page is read by the browser for each view.',
  );

if (!isShort) {
  const many = (name, count, destinations) => {
    const place = join(folder, name);
    cpSync('demo', place, { recursive: true, filter: (path) => !/demo\/out(?:\/|$)/.test(path) });
    const message = readFileSync('demo/messages/may-newsletter.html', 'utf8');
    rmSync(join(place, 'messages'), { recursive: true });
    mkdirSync(join(place, 'messages'));
    for (let n = 0; n < count; n += 1)
      writeFileSync(
        join(place, `messages/news-${String(n).padStart(4, '0')}.html`),
        message.replace('the lathe is back', `number ${n}`),
      );
    for (let n = 2; n < destinations; n += 1)
      appendFileSync(join(place, 'inscriba.yaml'), `  d${n}: { dialect: oxbow, images: { mode: package } }\n`);
    return place;
  };
  /** In ms and MB; `taskset` keeps the process on one core. */
  const measured = (cwd, words, oneCore) => {
    const own = ['-f', '%e %M', ...(oneCore ? ['taskset', '-c', '0'] : []), process.execPath, program, ...words];
    const { stderr } = spawnSync('/usr/bin/time', own, { cwd, encoding: 'utf8', maxBuffer: 1e9 });
    const [seconds, kilobytes] = stderr.trim().split('\n').at(-1).split(' ').map(Number);
    return { time: seconds * 1000, memory: kilobytes / 1024 };
  };
  const large = many('large', 500, 4);
  const both = measured(large, ['build', '--fresh', '--quiet'], false);
  const again = measured(large, ['build', '--quiet'], false);
  const one = measured(large, ['build', '--fresh', '--quiet'], true);
  figure(
    '500 messages × 4 destinations: both cores beside one',
    1 / 1.7,
    both.time / one.time,
    'the build on both cores beside the same on one (`taskset`)',
    'Each worker makes its own machine code of the compiler first, some seconds of each; and both cores share the memory.',
  );
  figure('500 × 4 again, nothing changed', 0.03, again.time / both.time, 'the second build beside the first');
  const larger = measured(many('larger', 1500, 4), ['build', '--fresh', '--quiet'], false);
  figure(
    'memory, three times as many messages',
    1.2,
    larger.memory / both.memory,
    'the most memory of the process, 1,500 messages beside 500',
  );
}

rmSync(folder, { recursive: true, force: true });

if (!isShort) {
  const shown = (number) => (number < 1 ? number.toFixed(3) : number.toFixed(2));
  const table = rows.map(
    ({ what, wanted, value, isMet }) => `| ${what} | ${shown(wanted)} | ${shown(value)} | ${isMet ? 'yes' : 'no'} |`,
  );
  const ways = [...new Set(rows.map(({ how }) => how))].map(
    (how) =>
      `- ${rows
        .filter((row) => row.how === how)
        .map(({ what }) => what)
        .join('; ')}: ${how}.`,
  );
  const reasons = rows
    .filter(({ isMet, reason }) => !isMet && reason !== '')
    .map(({ what, reason }) => `- ${what}: ${reason}`);
  const text = `# Figures

<!-- Written by npm run bench. -->

Every figure is a ratio of two times that were measured beside each other in one run, so that it says the same on a fast machine and on a slow one. \`npm run bench\` measures them anew and writes this page; \`npm run bench -- --short\` leaves out what takes minutes.

| what | at most | measured | met |
| --- | --- | --- | --- |
${table.join('\n')}

## How they are measured

${ways.join('\n')}

## What is not met, and why

${reasons.length === 0 ? 'All are met.' : reasons.join('\n')}
`;
  writeFileSync(
    'docs/figures.md',
    await format(text, { ...(await resolveConfig('docs/figures.md')), filepath: 'docs/figures.md' }),
  );
}
