// The figures that the program is held to, each as a ratio of two times that are measured beside each other: what is asked
// for, and what it comes to on this machine. `npm run bench` prints them all, keeps them in bench/figures.json and writes
// docs/figures.md; with the names of parts it measures those alone (`npm run bench -- starts commands`), and the rest stays
// as it was measured before.
import { spawnSync } from 'node:child_process';
import {
  appendFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { performance } from 'node:perf_hooks';
import * as csstree from 'css-tree';
import { parse } from 'parse5';
import { format, resolveConfig } from 'prettier';
import { editorTimes } from './editor.mjs';
import { editionTime } from './editions.mjs';
import { worstGrowth } from './growth.mjs';
import { hundredRatios } from './hundred.mjs';
import { previewTime } from './preview.mjs';

const KEPT = 'bench/figures.json';
const TEST_REPORT = 'build/test-report.json';
const parts = ['starts', 'commands', 'builds', 'editor', 'preview', 'editions', 'tests', 'large', 'growth'];
const chosen = process.argv.slice(2);
const unknown = chosen.filter((name) => !parts.includes(name));
if (unknown.length > 0) throw new Error(`There is no part ${unknown.join(', ')}: ${parts.join(', ')}`);
const isChosen = (name) => chosen.length === 0 || chosen.includes(name);
const program = resolve('dist/program/inscriba.js');
const folder = mkdtempSync(join(tmpdir(), 'inscriba-figures-'));
const project = join(folder, 'demo');
cpSync('demo', project, { recursive: true, filter: (path) => !/demo\/out(?:\/|$)/.test(path) });

const today = new Date().toISOString().slice(0, 10);
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
  rows.push({ what, wanted, value: Number(value.toPrecision(3)), how, reason, date: today });
  console.log(`${value <= wanted ? 'met   ' : 'not   '} ${what}: ${value.toFixed(2)} (at most ${wanted})`);
}

// Starts. What is built is listed from the record of the build.
async function starts() {
  inscriba(['build', '--quiet'], { runs: 1 });
  const small =
    '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>x</title><style>p{color:#234}</style></head><body><p>Hello</p></body></html>';
  const startReason =
    'By profiles of a start the compiled code that is taken in is a fifth of it, some 16 ms for a megabyte, files that are read a tenth, garbage a fifteenth; the rest is Node’s own start and the work itself.';
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
}

// Commands on 100 KB, beside parsing and printing the same with the same libraries.
function commands() {
  const ratios = hundredRatios();
  const against =
    'the median of nine rounds in a process, and of nine processes, beside that of parsing and printing the same page and its rules with the same libraries, by turns';
  figure(
    '`inline`, 100 KB and 300 rules',
    2.5,
    ratios.inline,
    against,
    'By a profile of nine rounds 40 % is parsing the page, which is the half of what it is measured beside, 30 % finding out what each rule says of each element, 8 % reading the rules, 7 % writing the attributes; 13 % is collecting garbage. It was 2.67 before places were kept without what nobody asks of them and styles that elements share were written once.',
  );
  figure('`text`, 100 KB', 3, ratios.text, against, 'What is shown is decided by the cascade.');
  figure('`convert`, 100 KB', 3, ratios.convert, against);
  figure(
    '`check` of finished HTML, 100 KB',
    5,
    ratios.check,
    against,
    'By a profile of nine rounds 48 % is the cascade, in four views (desk, phone, and each in the dark), 19 % parsing the page, 8 % contrasts, 17 % collecting garbage. It was 6.41 before elements that match alike shared their declarations, and 5.05 before places were kept without what nobody asks of them; it is 4.1 to 5.2 from run to run.',
  );
}

// Building.
async function builds() {
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
  const message = readFileSync(join(project, 'messages/may-newsletter.html'), 'utf8');
  const read = (paths) => paths.map((path) => readFileSync(join(project, path), 'utf8'));
  const markup = [
    message,
    ...read(['parts/tool-card.html', 'parts/lead-story.html', 'parts/house-footer.html', 'parts/house-sign.html']),
  ];
  const sheets = read(['styles/house.css', 'styles/newsletter.css']);
  const parsing = median(() => {
    for (const text of markup) parse(text, { sourceCodeLocationInfo: true });
    for (const text of sheets) csstree.parse(text, { positions: true });
  }, 31);
  const { run } = await import('../dist/cli/run.js');
  const { noProgress } = await import('../dist/cli/io/progress.js');
  const io = {
    out: () => undefined,
    err: () => undefined,
    folder: project,
    color: false,
    outIsTerminal: false,
    shown: (path) => path,
    progress: () => Promise.resolve(noProgress),
  };
  const times = [];
  for (let round = 0; round < 25; round += 1) {
    const begun = performance.now();
    await run(['build', 'may-newsletter', '--to', 'members', '--fresh', '--quiet'], io);
    times.push(performance.now() - begun);
  }
  figure(
    'building the newsletter for one destination, beside parsing its sources',
    12,
    times.sort((a, b) => a - b)[times.length >> 1] / parsing,
    'the median of 25 builds in one process, files and check included, beside that of parsing the message, its parts and its style sheets with the same libraries',
    'By a profile of 60 builds 39 % is compiling (styles in all states 11, laying out 20), 13 % the check, which has the declarations from there, 8 % writing for the destination, 8 % waiting for files, 7 % collecting garbage. The more often a process builds, the more its parsing gains, and the larger the ratio is.',
  );
}

async function editor() {
  // The editor: what is asked for is a time, so this figure is the share of it that is taken.
  const measured = await editorTimes(program);
  const share =
    'the median of 40 edits, after 20 that are not counted, beside the time that is asked for (on this machine';
  const slow = 'The message is compiled and checked anew at each edit; styles, in all states, are half of it.';
  figure(
    'findings after an edit of the newsletter, of 200 ms',
    1,
    measured.findings / 200,
    `${share}: ${measured.findings.toFixed(0)} ms)`,
    slow,
  );
  figure(
    'completion behind an edit, of 50 ms',
    1,
    measured.completion / 50,
    `${share}: ${measured.completion.toFixed(0)} ms)`,
  );
}

async function preview() {
  const shownAfter = await previewTime();
  if (shownAfter !== null)
    figure(
      'a saved part in all views of the newsletter, of 150 ms',
      1,
      shownAfter / 150,
      `the median of 31 saves, after 10 that are not counted, from the writing of the file to the last of three views in a browser, beside the time that is asked for (on this machine: ${shownAfter.toFixed(0)} ms)`,
      'The message is compiled, which takes half of it, and its page is read by the browser for each view.',
    );
}

async function editions() {
  figure(
    'an edition of the branch notice, of 2 ms',
    1,
    editionTime(5000) / 2,
    'a build with 5,000 rows, less one with a single row, shared out, beside the time that is asked for',
    'By a profile of a worker with 1,000 rows 40 % is putting an edition together (22 its plain text, 15 its page, of which printing it, 11, is done once for a destination since), 12 % compiling what all share, 10 % writing its four files, 4 % collecting garbage; the first fifty are compiled and checked one by one.',
  );
}

/** What the last verify on this machine took for its tests, and one test from a changed source. */
function tests() {
  if (existsSync(TEST_REPORT)) wholeRun();
  else console.log(`left   the tests of verify: ${TEST_REPORT} is not there; npm run verify writes it`);
  oneTest();
}

function wholeRun() {
  const report = JSON.parse(readFileSync(TEST_REPORT, 'utf8'));
  const ends = report.testResults.map(({ endTime }) => endTime);
  figure(
    'the tests of verify, of 7 minutes',
    1,
    (Math.max(...ends) - report.startTime) / 420_000,
    'the last whole run on this machine, from its report',
    'The work is that of the judges: of 2,029 s on two cores browsers take 824, the pages of the documentation, whose commands start the program, 324, servers, disks and processes that are broken 357, editors 143, everything else 380. Both cores are busy for 92 % of it. By profiles of the longest ones two thirds of their time is the browser’s own: pages are laid out, all their styles read, photographed and compared. Nothing that they assert was given up.',
  );
}

function oneTest() {
  const source = 'src/core/css/values/value.ts';
  const before = readFileSync(source, 'utf8');
  writeFileSync(source, `${before}// \n`);
  let one = Infinity;
  try {
    one = timed(process.execPath, ['scripts/one.mjs', 'core/css/colors'], { cwd: '.', runs: 1 });
  } finally {
    writeFileSync(source, before);
  }
  figure(
    'one test from a changed source, of 4 s',
    1,
    one / 4000,
    'one run of `npm run one`, a line added to a source before',
  );
}

async function large() {
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
  const project500 = many('large', 500, 4);
  const both = measured(project500, ['build', '--fresh', '--quiet'], false);
  const again = measured(project500, ['build', '--quiet'], false);
  const one = measured(project500, ['build', '--fresh', '--quiet'], true);
  figure(
    '500 messages × 4 destinations: both cores beside one',
    1 / 1.7,
    both.time / one.time,
    'the build on both cores beside the same on one (`taskset`)',
    'Both cores are busy all the time; each worker makes its own machine code of the compiler first, which takes 5 s of processor time more in all, and both share the memory. While others use the second core the ratio is that of one: it was 0.51 in a quiet run, and 0.74 in one in which the host took twenty seconds of the two cores.',
  );
  figure(
    '500 × 4 again, nothing changed',
    0.03,
    again.time / both.time,
    'the second build beside the first',
    'By a profile of the second build 23 % is waiting for the records, 16 % collecting garbage, 10 % reading them, 8 % looking at each output that stands, 6 % at what they were made from; the first build, beside which it is measured, has become quicker.',
  );
  const larger = measured(many('larger', 1500, 4), ['build', '--fresh', '--quiet'], false);
  figure(
    'memory, three times as many messages',
    1.2,
    larger.memory / both.memory,
    'the most memory of the process, 1,500 messages beside 500',
  );
}

async function growth() {
  figure(
    'twice the input, of 18 kinds, beside once',
    2.2,
    worstGrowth(3),
    'the worst of the ratios that `node bench/growth.mjs` prints, the time of a start taken off',
    'Which case is the worst changes from run to run, with what else the machine does: of four runs one had 5.29 for text outside the basic plane, which was 1.53 and 2.13 in others, one 2.30 for custom properties, which were 1.30 to 1.72, and two 3 for combining marks, which were 1.07 to 1.96 alone (and 1.24 to 5.47 with the program of the day before, by turns). Profiles have their time in what is gone through once, from front to end, and in collecting garbage.',
  );
}

const all = { starts, commands, builds, editor, preview, editions, tests, large, growth };
for (const [name, measure] of Object.entries(all)) if (isChosen(name)) await measure();
rmSync(folder, { recursive: true, force: true });

await writePage(keptRows());

/** The rows of this run, and those of runs before that it did not measure, in the order of the parts. */
function keptRows() {
  const before = JSON.parse(readFileSync(KEPT, 'utf8'));
  const now = new Map(rows.map((row) => [row.what, row]));
  const kept = before.map((row) => now.get(row.what) ?? row);
  const merged = [...kept, ...rows.filter(({ what }) => !before.some((row) => row.what === what))];
  writeFileSync(KEPT, `${JSON.stringify(merged, null, 2)}\n`);
  return merged;
}

async function writePage(rows) {
  const shown = (number) => (number < 1 ? number.toFixed(3) : number.toFixed(2));
  const table = rows.map(
    ({ what, wanted, value, date }) =>
      `| ${what} | ${shown(wanted)} | ${shown(value)} | ${value <= wanted ? 'yes' : 'no'} | ${date} |`,
  );
  const ways = [...new Set(rows.map(({ how }) => how))].map(
    (how) =>
      `- ${rows
        .filter((row) => row.how === how)
        .map(({ what }) => what)
        .join('; ')}: ${how}.`,
  );
  const reasons = rows
    .filter(({ value, wanted, reason }) => value > wanted && reason !== '')
    .map(({ what, reason }) => `- ${what}: ${reason}`);
  const text = `# Figures

<!-- Written by npm run bench. -->

Every figure is a ratio of two times that were measured beside each other in one run, so that it says the same on a fast machine and on a slow one. \`npm run bench\` measures them all anew and writes this page; with the names of parts (${parts.map((name) => `\`${name}\``).join(', ')}) it measures those alone, and the rest stays.

| what | at most | measured | met | on |
| --- | --- | --- | --- | --- |
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
