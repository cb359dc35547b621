import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { Random } from '../support/random.js';
import { repository, TestFolder } from '../support/project.js';
import { brokenLaw, count, keepCase, keepCounts, ROUNDS, runInTime, SEED } from './law.js';
import { mutated } from './mutations.js';

/** A kind of file that something reads: where it lies, what it may hold, and the commands that read it. */
interface Reader {
  readonly name: string;
  /** The files of a kind, by where the mutated one is put. */
  readonly files: readonly (readonly [put: string, from: string])[];
  readonly commands: (put: string) => readonly (readonly string[])[];
}

let project: TestFolder;

beforeAll(() => {
  project = TestFolder.builtDemo().write({ 'data/tools.json': '{ "tools": [{ "name": "Saw", "fee": 1.5 }] }' });
  project.write({
    'messages/of-json.html':
      '<title>Tools</title><meta name="data" content="../data/tools.json"><p>${tools.0.name}</p>',
    'messages/poster.html':
      '<title>Poster</title><img src="../images/poster.png" slices="../images/poster.slices.yaml" alt="">',
    'names.yaml': 'fields:\n  branch: Branch\n  first_name: FirstName\n',
    'page.html': project.read('foreign/bellmoor-export.html'),
  });
});

afterAll(() => {
  project.remove();
  keepCounts('readers');
});

const same = (...paths: string[]): [string, string][] => paths.map((path) => [path, path]);
const visit = (): string[][] =>
  ['branch-notice', 'loans-due', 'may-newsletter', 'membership-receipt', 'of-json'].flatMap((message) => [
    ['build', message, '--to', 'members'],
    ['check', message],
    ['list'],
  ]);
const shipped = (name: string): [string, string] => ['dialects/ours.yaml', join(repository, 'dialects', name)];

const readers: readonly Reader[] = [
  {
    name: 'finished HTML',
    files: [
      'foreign/bellmoor-export.html',
      'out/members/repair-day/index.html',
      'out/archive/membership-receipt/index.html',
    ].map((from) => ['page.html', from]),
    commands: (put) => [
      ['inline', put],
      ['inline', put, '--unused', 'drop', '--keep-head'],
      ['text', put, '--links', 'beside'],
      ['check', put],
      ['convert', put, '--from', 'bellmoor', '--to', 'ferrywire', '--allow-loss', '--footer', 'replace'],
      ['convert', put, '--to', 'neutral', '--report', 'tags.html'],
      ['images', 'shrink', put, '--out', 'light/page.html'],
      ['dialect', 'learn', put, '--out', 'learned.yaml'],
      ['adopt', put, '--as', 'adopted', '--force'],
    ],
  },
  {
    name: 'CSS',
    files: same('styles/house.css', 'styles/parts.css', 'styles/tables.css'),
    commands: (put) => [
      ['inline', 'messages/parts-specimen.html', '--css', put],
      ['build', 'parts-specimen'],
      ['check', 'loans-due'],
    ],
  },
  {
    name: 'messages and parts',
    files: same(
      'messages/may-newsletter.html',
      'messages/loans-due.html',
      'messages/membership-receipt.html',
      'messages/branch-notice.md',
      'parts/lead-story.html',
      'parts/receipt-line.html',
      'frames/letterhead.html',
    ),
    commands: visit,
  },
  { name: 'configuration', files: [...same('inscriba.yaml'), ['inscriba.yaml', 'platforms.yaml']], commands: visit },
  {
    name: 'data',
    files: same(
      'data/tools.yaml',
      'data/receipt.yaml',
      'data/branches.csv',
      'data/tools.json',
      'data/sample-loans.yaml',
    ),
    commands: visit,
  },
  {
    name: 'records',
    files: same('out/.record/loans-due.json', 'out/.record/branch-notice.json', 'deliveries.json'),
    commands: () => [['build', 'loans-due', 'branch-notice'], ['list'], ['list', '--json']],
  },
  {
    name: 'dialect files',
    files: [shipped('bellmoor.yaml'), shipped('larkfold.yaml'), shipped('tansy.yaml')],
    commands: (put) => [
      ['dialect', 'check', put],
      ['dialect', 'show', 'ours'],
      ['convert', 'page.html', '--from', 'bellmoor', '--to', 'ours'],
    ],
  },
  {
    name: 'names of fields',
    files: same('names.yaml'),
    commands: (put) => [['convert', 'page.html', '--to', 'ferrywire', '--fields', put]],
  },
  {
    name: 'plans of slices',
    files: same('images/poster.slices.yaml'),
    commands: (put) => [
      ['build', 'poster'],
      ['slice', 'images/poster.png', '--plan', put, '--out', 'sliced'],
    ],
  },
  {
    name: 'zips and mails',
    files: same('foreign/ferrywire-export.zip', 'foreign/oxbow-export.eml'),
    commands: (put) => [['adopt', put, '--as', 'adopted', '--force']],
  },
  {
    name: 'pictures',
    files: same('images/lathe.jpg', 'images/drill.png', 'images/shed.jpg', 'images/sign.png'),
    commands: (put) => [
      ['build', 'repair-day', '--to', 'archive', '--fresh'],
      ['slice', put],
      ['images', 'embed', 'page.html', '--out', 'whole.html'],
    ],
  },
];

const words = [
  'a',
  'first_name',
  'loans',
  '"x"',
  "'y'",
  '1',
  '0.5',
  '-',
  '+',
  '*',
  '/',
  '==',
  '!=',
  '<',
  '>=',
  '(',
  ')',
  'and',
  'or',
  'not',
  'given',
  '??',
  '?',
  ':',
  '|',
  'upper',
  'date',
  'number',
  '.',
  '#index',
  ',',
  'true',
  '{',
  '}',
  '"',
  '\\',
];

/** Expressions as somebody may type them, most of them wrong. */
const expression = (random: Random): string =>
  Array.from({ length: random.between(1, 14) }, () => random.pick(words)).join(random.pick(['', ' ']));

test('whatever files hold: no crash, no hang, and a word for each failure', async () => {
  const random = new Random(SEED);
  const broken: string[] = [];
  for (let round = 0; round < 24 * ROUNDS; round += 1)
    for (const { name, files, commands } of readers) {
      const [put, from] = random.pick(files);
      const before =
        from === put && name === 'records'
          ? bytesOrNone(put)
          : readFileSync(join(from.startsWith('/') ? '/' : project.path, from));
      const kept = bytesOrNone(put);
      const file = mutated(before, random);
      project.write({ [put]: file });
      const command = random.pick(commands(put));
      const run = await runInTime(project, command);
      count(name);
      const problem = run === 'hang' ? 'it hangs' : brokenLaw(run);
      if (problem !== null)
        broken.push(
          `${problem}: inscriba ${command.join(' ')}; ${put} is ${keepCase(`${broken.length}-${basename(put)}`, file)}`,
        );
      if (run === 'hang') {
        expect(broken).toEqual([]);
        return;
      }
      project.write({ [put]: kept });
    }
  expect(broken).toEqual([]);
}, 3_600_000);

test('whatever is typed into tags', async () => {
  const random = new Random(SEED + 1);
  const broken: string[] = [];
  for (let round = 0; round < 60 * ROUNDS; round += 1) {
    const tags = Array.from({ length: 6 }, () =>
      random.pick([
        `@{${expression(random)}}`,
        `\${${expression(random)}}`,
        `@{if ${expression(random)}}x@{end}`,
        `<template if="${expression(random).replaceAll('"', "'")}">x</template>`,
      ]),
    );
    const message = `<title>Typed ${tags[0]}</title><p>${tags.join('</p>\n<p>')}</p>`;
    project.write({ 'messages/typed.html': message });
    const run = await runInTime(project, [random.pick(['build', 'check']), 'typed']);
    count('expressions', 6);
    const problem = run === 'hang' ? 'it hangs' : brokenLaw(run);
    if (problem !== null) broken.push(`${problem}: ${message}`);
    if (run === 'hang') break;
  }
  project.delete('messages/typed.html');
  expect(broken).toEqual([]);
}, 3_600_000);

function bytesOrNone(path: string): Buffer {
  try {
    return project.bytes(path);
  } catch {
    return Buffer.from('{}');
  }
}
