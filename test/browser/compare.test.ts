import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { TestFolder } from '../support/project.js';

let folder: TestFolder;

function git(...words: string[]): string {
  return execFileSync('git', ['-c', 'user.name=Ines', '-c', 'user.email=ines@alderlane.example', ...words], {
    cwd: folder.path,
    encoding: 'utf8',
  });
}

beforeAll(() => {
  // The project lies in a folder of its repository.
  folder = new TestFolder();
  const demo = TestFolder.demoProject();
  execFileSync('cp', ['-r', demo.path, join(folder.path, 'mails')]);
  demo.remove();
  folder.write({ '.gitignore': 'out/\n', 'readme.txt': 'Mails\n' });
  git('init', '-q');
  git('add', '-A');
  git('commit', '-qm', 'The mails');
}, 60_000);

afterAll(() => folder.remove());

const compare = (...words: string[]): { code: number | null; out: string; err: string } =>
  folder.run(['compare', '--since', 'HEAD', ...words], { folder: 'mails' });

describe('compare', () => {
  test('says what a change of one style does, and to which messages, and touches nothing', () => {
    // A colour that the tables of two messages alone use.
    folder.change('mails/styles/tables.css', '#a3341f', '#a3341e');
    folder.change('mails/messages/repair-day.html', '</h2>', ' soon</h2>');
    git('add', 'mails/styles/tables.css');
    const status = git('status', '--porcelain');
    const { code, out, err } = compare('--report', 'changes.html');
    expect(git('status', '--porcelain').replace(/^\?\? mails\/changes.*\n/gm, '')).toBe(status);
    const lines = new Map(out.split('\n').map((line) => [line.split(/\s/)[0] ?? '', line]));
    expect(lines.get('may-newsletter')).toMatch(/ same bytes$/);
    expect(lines.get('branch-notice')).toMatch(/ same bytes$/);
    expect(lines.get('loans-due')).toMatch(/ other look in 3 of 3 views \(700 webkit light [\d.]+ %/);
    expect(lines.get('loans-due')).not.toContain('words');
    expect(lines.get('repair-day')).toMatch(/other look in 3 of 3 views .*; words \+\d+ −\d+/);
    expect(err).toContain(' of 6 messages differ.\n');
    expect(code).toBe(0);
    const page = folder.read('mails/changes.html');
    expect(page).toContain('loans-due for members and archive');
    expect(page).not.toContain('<h2>may-newsletter');
    const pictures = readdirSync(join(folder.path, 'mails/changes-pictures'));
    for (const [, path = ''] of page.matchAll(/<img src="([^"]+)"/g))
      expect(existsSync(join(folder.path, 'mails', decodeURIComponent(path)))).toBe(true);
    expect(pictures.filter((name) => name.startsWith('loans-due')).length).toBe(9);
    git('reset', '-q', '--hard');
    git('clean', '-qfd');
  }, 180_000);

  test('fails on what it is told to, and on what does not build any more', () => {
    const styles = folder.read('mails/styles/newsletter.css');
    folder.write({ 'mails/styles/newsletter.css': `${styles}\n.nobody { color: red }\n` });
    expect(compare('repair-day', '--fail-on', 'any').code).toBe(0);
    folder.change('mails/messages/repair-day.html', 'Repair Day', 'Mending Day');
    expect(compare('repair-day', '--fail-on', 'words').code).toBe(1);
    expect(compare('loans-due', '--fail-on', 'words').code).toBe(0);
    folder.change('mails/messages/repair-day.html', '</h2>', '');
    const { code, out } = compare('repair-day', '--json');
    const { messages } = JSON.parse(out) as { messages: { name: string; fate: string; differs: boolean }[] };
    expect(messages.map(({ name, fate, differs }) => ({ name, fate, differs }))).toEqual([
      { name: 'repair-day', fate: 'broken-now', differs: true },
      { name: 'repair-day', fate: 'broken-now', differs: true },
    ]);
    expect(code).toBe(1);
    git('reset', '-q', '--hard');
  }, 180_000);

  test.each<[string, string[], string]>([
    ['a revision that there is not', ['compare', '--since', 'nope'], 'unknown-revision'],
    ['what looks like an option', ['compare', '--since=--help'], 'unknown-revision'],
    ['a browser that does not start', ['compare', '--since', 'HEAD', '--browser', '/nowhere'], 'browser-failed'],
    ['a message that there is not', ['compare', 'nope', '--since', 'HEAD'], 'unknown-message'],
  ])('tells of %s', (_, words, told) => {
    const { code, err } = folder.run(words, { folder: 'mails' });
    expect(err).toContain(told);
    expect(code).toBe(2);
  });
});

test('compare tells of a state before in which there is nothing to read, and says nothing of the messages', () => {
  folder.write({ 'empty/inscriba.yaml': 'name: Alder Lane\ndestinations: { web: { dialect: liquid } }\n' });
  const { code, out, err } = folder.run(['compare', '--since', '../empty'], { folder: 'mails' });
  expect(err).toMatch(/past-unreadable {2}The project as it was at "\.\.\/empty" cannot be read: .*messages/);
  expect(out).toBe('');
  expect(code).toBe(2);
});

describe('preview --shots', () => {
  test('writes each message in each view, the same bytes each time', () => {
    const shoot = (to: string): string[] => {
      const words = [
        'preview',
        'repair-day',
        'branch-notice/mill-yard',
        '--shots',
        to,
        '--view',
        '375 word dark',
        '--view',
        '500 source regions',
      ];
      const { code, err } = folder.run(words, { folder: 'mails' });
      expect(err).toBe(`4 pictures in ${to}\n`);
      expect(code).toBe(0);
      return readdirSync(join(folder.path, 'mails', to)).sort();
    };
    const names = shoot('one');
    expect(names).toEqual([
      'branch-notice-mill-yard-375-word-dark.png',
      'branch-notice-mill-yard-500-source-light-regions.png',
      'repair-day-375-word-dark.png',
      'repair-day-500-source-light-regions.png',
    ]);
    expect(shoot('two')).toEqual(names);
    for (const name of names)
      expect(folder.bytes(`mails/one/${name}`).equals(folder.bytes(`mails/two/${name}`))).toBe(true);
  }, 120_000);
});
