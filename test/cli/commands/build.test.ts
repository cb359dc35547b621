import { afterEach, describe, expect, test } from '@jest/globals';
import { chmodSync, existsSync, readdirSync, readFileSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { repository, TestFolder } from '../../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

const out = 'out/members/may-newsletter';

describe('build', () => {
  test('writes HTML, text, pictures and a manifest for each destination', () => {
    folder = TestFolder.sampleProject();
    expect(folder.run(['build', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
    expect(readdirSync(join(folder.path, out)).sort()).toEqual(['images', 'index.html', 'index.txt', 'manifest.json']);
    const manifest = JSON.parse(folder.read(`${out}/manifest.json`)) as {
      subject: string;
      files: { path: string; bytes: number }[];
    };
    expect(manifest.subject).toBe('~~FIRST_NAME?Neighbour~~, the lathe is back');
    for (const { path, bytes } of manifest.files) expect(folder.bytes(`${out}/${path}`).length).toBe(bytes);
  });

  test('the HTML is presentation tables with inline styles, without flex, with tables for the word engine', () => {
    folder = TestFolder.sampleProject();
    folder.run(['build', '--to', 'members']);
    const html = folder.read(`${out}/index.html`);
    const tables = html.match(/<table[^>]*>/g) ?? [];
    expect(
      tables.every(
        (table) =>
          table.includes('role="presentation"') &&
          table.includes('cellpadding="0"') &&
          table.includes('cellspacing="0"'),
      ),
    ).toBe(true);
    expect(html).not.toMatch(/flex|<main|<section|<template|@\{/);
    expect(html).toContain('<html lang="en">');
    expect(html).toContain(
      '<!--[if mso]><table role="presentation" border="0" cellpadding="0" cellspacing="0" align="center" width="600"><tr><td><![endif]-->',
    );
    expect(html).toContain('<a href="~~LINK_LEAVE~~"');
    expect(html).toContain('bgcolor="#fffdf8"');
    expect(html).toMatch(/<div style="display:none[^"]*">Repair Day on the 14th/);
    expect(html).toContain('@media (max-width:600px)');
  });

  test('the neutral dialect leaves merge tags as they are written', () => {
    folder = TestFolder.sampleProject();
    folder.run(['build', '--to', 'archive']);
    expect(folder.read('out/archive/may-newsletter/index.html')).toContain(
      'Hello @{first_name ?? "neighbour"}, it took',
    );
  });

  test('a field prints the fallback of the project where its tag says none', () => {
    folder = TestFolder.sampleProject().change(
      'messages/may-newsletter.html',
      '@{first_name ?? "neighbour"}, it',
      '@{first_name}, it',
    );
    folder.run(['build', '--to', 'members']);
    expect(folder.read(`${out}/index.html`)).toContain('Hello ~~FIRST_NAME?neighbour~~, it took');
  });

  test('pictures that an earlier build had are removed', () => {
    folder = TestFolder.sampleProject();
    folder.run(['build', '--to', 'members']);
    folder.change('messages/may-newsletter.html', 'src="../images/drill.png"', 'src="../images/plane.png"');
    folder.run(['build', '--to', 'members']);
    expect(readdirSync(join(folder.path, out, 'images')).some((name) => name.startsWith('drill'))).toBe(false);
  });
});

describe('pack', () => {
  test('makes the zip that the platform imports, the same bytes each time', () => {
    folder = TestFolder.sampleProject();
    expect(folder.run(['pack', '--quiet']).code).toBe(0);
    const first = folder.bytes('out/members/may-newsletter.zip');
    folder.run(['pack', '--quiet'], { env: { TZ: 'Asia/Tokyo' } });
    expect(Buffer.compare(first, folder.bytes('out/members/may-newsletter.zip'))).toBe(0);
    expect(first.subarray(0, 2).toString()).toBe('PK');
    // What is not packed in one file has its card beside it.
    expect(existsSync(join(folder.path, 'out/archive/may-newsletter/import-card.txt'))).toBe(true);
    expect(existsSync(join(folder.path, 'out/members/may-newsletter/import-card.txt'))).toBe(false);
  });
});

type Mistake = [
  name: string,
  change: (project: TestFolder) => unknown,
  words: string[],
  code: number,
  place: string,
  finding: string,
  fix: string,
];

const newsletter = 'messages/may-newsletter.html';

const mistakes: Mistake[] = [
  [
    'an unknown key',
    (project) => project.change('inscriba.yaml', 'postal_address', 'postal_adress'),
    ['build'],
    2,
    'inscriba.yaml:8:3',
    'config-unknown-key',
    'Did you mean "postal_address"?',
  ],
  [
    'a wrong type',
    (project) => project.change('inscriba.yaml', 'width: 600', 'width: wide'),
    ['build'],
    2,
    'inscriba.yaml:10:8',
    'config-wrong-type',
    'Write a number here.',
  ],
  [
    'a missing key',
    (project) => project.change('inscriba.yaml', '  address: desk@alderlane.example\n', ''),
    ['build'],
    2,
    'inscriba.yaml:3:1',
    'config-missing-key',
    'Add "address:" with a value.',
  ],
  [
    'a missing file',
    (project) =>
      project.change(
        'inscriba.yaml',
        'branch: { sample: Mill Yard }',
        'loans: { list: { tool: text }, sample: data/loans.yaml }',
      ),
    ['build'],
    2,
    'inscriba.yaml:13:42',
    'config-missing-file',
    'Correct the path',
  ],
  [
    'broken YAML',
    (project) => project.change('inscriba.yaml', 'branch: { sample: Mill Yard }', 'branch: { sample: Mill Yard'),
    ['build'],
    2,
    'inscriba.yaml:14:1',
    'config-syntax',
    'Mend the YAML',
  ],
  [
    'an unknown dialect',
    (project) => project.change('inscriba.yaml', 'bellmoor', 'belmoor'),
    ['build'],
    2,
    'inscriba.yaml:16:14',
    'unknown-dialect',
    'Did you mean "bellmoor"?',
  ],
  [
    'a missing picture',
    (project) => project.change(newsletter, 'sign.png', 'sing.png'),
    ['build'],
    1,
    `${newsletter}:17:55`,
    'picture-missing',
    'Correct the path',
  ],
  [
    'a missing style sheet',
    (project) => project.change(newsletter, 'newsletter.css', 'news.css'),
    ['build'],
    1,
    `${newsletter}:12:28`,
    'style-sheet-missing',
    'Correct the path',
  ],
  [
    'an unclosed tag',
    (project) => project.change(newsletter, '</strong> branch', ' branch'),
    ['build'],
    1,
    `${newsletter}:33:40`,
    'unclosed-tag',
    'Close it with </strong>, at the latest before the </p> in line 33.',
  ],
  [
    'a stray end tag',
    (project) => project.change(newsletter, '</strong> branch', '</strong></b> branch'),
    ['build'],
    1,
    `${newsletter}:33:66`,
    'stray-end-tag',
    'Remove it, or open <b>',
  ],
  [
    'CSS without an equal in tables',
    (project) =>
      project.change(
        'styles/newsletter.css',
        'padding: var(--space);\n  border-bottom',
        'position: absolute;\n  border-bottom',
      ),
    ['build'],
    1,
    'styles/newsletter.css:2:3',
    'css-unsupported',
    'Write a badge as a line above the picture',
  ],
  [
    'an unknown field',
    (project) => project.change(newsletter, 'Hello @{first_name', 'Hello @{frist_name'),
    ['build'],
    1,
    `${newsletter}:24:22`,
    'unknown-field',
    'Did you mean "first_name"?',
  ],
  [
    'a merge tag that cannot be read',
    (project) => project.change(newsletter, 'Hello @{first_name ?? "neighbour"}', 'Hello @{first_name ??}'),
    ['build'],
    1,
    `${newsletter}:24:35`,
    'merge-syntax',
    'Write it as @{field}',
  ],
  [
    'a required tag that is missing',
    (project) => project.change(newsletter, '@{link.unsubscribe}', '#'),
    ['build', '--to', 'members'],
    1,
    `${newsletter}:14:3`,
    'footer-missing',
    'Put @{link.unsubscribe} into the footer.',
  ],
  [
    'a value that no browser takes',
    (project) =>
      project
        .change('styles/house.css', 'color: #ffffff', 'color: whitish')
        .change('styles/newsletter.css', 'flex: 1;', 'flex: 1; visibility: hidden;'),
    ['build'],
    1,
    'styles/house.css:67:3',
    'css-ignored',
    'Correct it, or remove it.',
  ],
];

describe('mistakes are found at their place, and earlier output stays whole', () => {
  test.each(mistakes)('%s', (_, change, words, code, place, finding, fix) => {
    folder = TestFolder.builtProject();
    const before = folder.read(`${out}/index.html`);
    change(folder);
    const run = folder.run(words);
    expect(run.code).toBe(code);
    expect(run.out).toBe('');
    const lines = run.err.split('\n');
    const at = lines.findIndex((line) => line.startsWith(`${place}  `));
    expect(lines[at] ?? run.err).toContain(`  ${finding}  `);
    expect(lines[at + 2]).toMatch(/^ +\^+$/);
    expect(lines[at + 3]).toContain(fix);
    expect(folder.read(`${out}/index.html`)).toBe(before);
  });

  test('one mistake gives one finding', () => {
    folder = TestFolder.sampleProject().change(newsletter, '</strong> branch', ' branch');
    expect(folder.run(['build']).err.match(/ {2}fix: /g)).toHaveLength(1);
  });

  test('an unknown message and an unknown destination are usage errors with the nearest name', () => {
    folder = TestFolder.sampleProject();
    const message = folder.run(['build', 'may-newsleter']);
    expect(message).toEqual({
      code: 2,
      out: '',
      err: 'error  unknown-message  There is no message called "may-newsleter"\n  fix: Did you mean "may-newsletter"?\n\n1 error.\n',
    });
    const destination = folder.run(['build', '--to', 'member']);
    expect([destination.code, destination.err]).toEqual([
      2,
      'error  unknown-destination  There is no destination called "member"\n  fix: Did you mean "members"?\n\n1 error.\n',
    ]);
  });

  test('outside of a project the missing configuration is named', () => {
    folder = new TestFolder();
    const run = folder.run(['build']);
    expect([run.code, run.err.split('\n')[0]]).toEqual([
      2,
      `error  config-missing  No inscriba.yaml in ${folder.path} or in any folder above it`,
    ]);
  });

  test.each([
    ['an empty file', '', 'file-empty'],
    ['UTF-16', Buffer.from('\ufeff<p>x', 'utf16le'), 'not-utf8'],
    ['Latin-1', Buffer.from('<!doctype html><title>t</title><p>caf\xe9', 'latin1'), 'not-utf8'],
  ])('%s is one finding', (_, content, code) => {
    folder = TestFolder.sampleProject().write({ 'messages/other.html': content });
    const run = folder.run(['build', 'other']);
    expect(run.code).toBe(1);
    expect(run.err.match(/ {2}fix: /g)).toHaveLength(1);
    expect(run.err).toContain(`  ${code}  `);
  });

  test('a picture that a link leads out of the project to is refused', () => {
    folder = TestFolder.sampleProject();
    symlinkSync('/etc/hostname', join(folder.path, 'images/away.png'));
    folder.change(newsletter, 'images/sign.png', 'images/away.png');
    const run = folder.run(['build']);
    expect([run.code, run.err.includes('  picture-outside  ')]).toEqual([1, true]);
  });

  test('a file that is no picture is refused', () => {
    folder = TestFolder.sampleProject().write({ 'images/sign.png': 'no picture' });
    const run = folder.run(['build']);
    expect([run.code, run.err.includes('  picture-unreadable  ')]).toEqual([1, true]);
  });

  test('an output that cannot be written is named, and nothing half-written stays', () => {
    folder = TestFolder.sampleProject().write({ 'out/members': 'a file in the way' });
    const run = folder.run(['build', '--to', 'members']);
    expect([run.code, run.err.includes('  file-unwritable  ')]).toEqual([2, true]);
    expect(readFileSync(join(folder.path, 'out/members'), 'utf8')).toBe('a file in the way');
  });

  const isRoot = process.getuid?.() === 0;
  (isRoot ? test.skip : test)('a message without permission is named', () => {
    folder = TestFolder.sampleProject();
    chmodSync(join(folder.path, newsletter), 0);
    expect(folder.run(['build']).err).toContain('there is no permission');
  });
});

test('CRLF, a byte order mark and characters beyond the basic plane pass through', () => {
  folder = TestFolder.sampleProject();
  const text = folder
    .read(newsletter)
    .replace('The lathe is back</h1>', 'The lathe 🛠 is back</h1>')
    .replace(/\n/g, '\r\n');
  folder.write({ [newsletter]: `\ufeff${text}` });
  expect(folder.run(['build', '--quiet'])).toEqual({ code: 0, out: '', err: '' });
  expect(folder.read(`${out}/index.html`)).toContain('The lathe 🛠 is back</h1>');
});

test('help lists what there is, with two examples a command; an unknown command is wrong usage', () => {
  folder = new TestFolder();
  const help = folder.run(['--help']);
  expect(help.code).toBe(0);
  for (const command of ['build', 'pack', 'inline', 'text', 'proof', 'draft', 'copy', 'standin', 'demo']) {
    expect(help.out).toContain(`  ${command} `);
    const own = folder.run([command, '--help']).out;
    expect((own.split('Examples:\n')[1] ?? '').match(/ {2}inscriba /g)).toHaveLength(2);
  }
  expect(folder.run(['bild']).code).toBe(2);
  expect(folder.run(['--version']).out).toMatch(/^\d+\.\d+\.\d+\n$/);
});

test('demo goes the whole road with the sample project, and says what to look at', () => {
  folder = new TestFolder();
  const run = folder.run(['demo']);
  expect(run.code).toBe(0);
  expect(run.err).toContain('out/members/may-newsletter.zip');
  expect(run.err).toContain('  checked  6 messages: no errors, no warnings\n');
  expect(run.err).toContain('  pushed   friends: 8 created\n');
  expect(run.err).toMatch(/^ +members +partners +friends +branches +press +shops +findings$/m);
  expect(run.err).toMatch(/^branch-notice \(3\)(?: +\d+\.\d KB){5} +– +–$/m);
  expect(run.err).not.toContain(repository);
  expect(existsSync(join(folder.path, 'out/platforms/larkfold/state.json'))).toBe(true);
  expect(existsSync(join(folder.path, 'out/members/may-newsletter.zip'))).toBe(true);
  expect(folder.read('out/members/may-newsletter/index.txt')).toContain('The lathe is back\n=================\n');
});

test('links that part by word spacing have spaces between them in the plain text', () => {
  const folder = TestFolder.builtDemo();
  expect(folder.read('out/archive/parts-specimen/index.txt')).toContain('Tools [1] Repair Day [2] Branches [3]');
  folder.remove();
});
