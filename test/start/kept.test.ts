import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals';
import { programFile, TestFolder } from '../support/project.js';

const config = `name: Tools
fields: { loans: { list: { tool: text }, sample: loans.yaml } }
destinations: { archive: { dialect: neutral, checks: { colour: off } } }
`;
describe('what a configuration came to is kept between runs', () => {
  let folder: TestFolder;
  const keptIn = (): string => join(folder.path, 'kept');

  beforeEach(() => {
    folder = new TestFolder();
    folder.write({
      'inscriba.yaml': config.replace('colour: off', ''),
      'loans.yaml': '- { tool: Ladder }\n',
      'messages/due.html': '---\nsubject: Due\n---\n<p>Due.</p>\n',
    });
  });

  afterEach(() => folder.remove());

  const run = (...words: string[]): { code: number | null; out: string; lines: string[] } => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [programFile, ...words], {
      cwd: folder.path,
      encoding: 'utf8',
      env: { PATH: process.env['PATH'], NODE_COMPILE_CACHE: keptIn() },
    });
    return { code: status, out: stdout, lines: stderr.split('\n') };
  };

  /** The files that are kept of a kind. */
  const kept = (kind: string): string[] => {
    const root = join(keptIn(), 'inscriba');
    return readdirSync(root).flatMap((name) =>
      readdirSync(join(root, name)).flatMap((file) => (file.startsWith(`${kind}-`) ? [join(root, name, file)] : [])),
    );
  };

  test('by the first run already, and is what the next one takes', () => {
    const first = run('list');
    expect(first.code).toBe(0);
    const files = [...kept('config'), ...kept('sample')];
    expect(files).toHaveLength(2);
    for (const file of files) utimesSync(file, 1, 1);
    expect(run('list')).toEqual(first);
    expect(files.map((file) => statSync(file).mtimeMs)).toEqual([1000, 1000]);
  });

  test('places in it are those of the text', () => {
    folder.write({ 'inscriba.yaml': config });
    const first = run('list');
    expect([first.code, ...first.lines.slice(0, 3)]).toEqual([
      2,
      'inscriba.yaml:3:64  error  check-code-unknown  There is no finding "colour" that could be set',
      '  3 | destinations: { archive: { dialect: neutral, checks: { colour: off } } }',
      '                                                                     ^^^',
    ]);
    expect(kept('config')).toHaveLength(1);
    expect(run('list')).toEqual(first);
  });

  test('another text is read anew, and what is wrong with it is told', () => {
    run('list');
    folder.write({ 'inscriba.yaml': config.replace('name: Tools', 'nane: Tools') });
    const { code, lines } = run('list');
    expect([code, lines[0]]).toEqual([2, 'inscriba.yaml:1:1  error  config-unknown-key  There is no key "nane" here']);
  });

  test('another sample is read anew', () => {
    const first = run('list');
    folder.write({ 'loans.yaml': '- { tool: Ladder' });
    const { code, lines } = run('list');
    expect([code, lines[0]?.slice(0, 38)]).toEqual([2, 'loans.yaml:1:17  error  config-syntax ']);
    folder.write({ 'loans.yaml': '- { tool: Ladder }\n' });
    expect(run('list')).toEqual(first);
  });

  test('of files that are not read again, but for the last ones', () => {
    const first = run('list');
    const [file = ''] = kept('config');
    for (let number = 0; number < 60; number += 1) {
      writeFileSync(join(file, '..', `config-${number}`), '');
      utimesSync(join(file, '..', `config-${number}`), 1, 1);
    }
    folder.write({ 'inscriba.yaml': `${config.replace('colour: off', '')}# more\n` });
    expect(run('list')).toEqual(first);
    expect([kept('config').length, kept('config').includes(file)]).toEqual([40, true]);
  });

  test.each<[string, (content: string) => string]>([
    ['cut', (content) => content.slice(0, 200)],
    ['empty', () => ''],
    ['with another name in it', (content) => content.replace('Tools', 'Spoon')],
    ['of something else', () => 'a\n{}\n'],
  ])('counts for nothing where it is %s, and is written anew', (_, damage) => {
    const first = run('list');
    const [file = ''] = kept('config');
    writeFileSync(file, damage(readFileSync(file, 'utf8')));
    utimesSync(file, 1, 1);
    expect(run('list')).toEqual(first);
    expect(statSync(file).mtimeMs).toBeGreaterThan(1000);
  });
});
