import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { repository, TestFolder, type Run } from '../support/project.js';

const program = join(repository, 'dist/program/inscriba.js');

// Each command of the program as it ships, in a process of its own, beside the same command run here: the two say the same.
describe('the program that ships', () => {
  let shipped: TestFolder;
  let here: TestFolder;

  beforeAll(() => {
    shipped = TestFolder.demoProject();
    here = TestFolder.demoProject();
  });

  afterAll(() => {
    shipped.remove();
    here.remove();
  });

  /** What a run said, without the names of temporary folders. */
  const plain = ({ code, out, err }: Run, { path }: TestFolder): Run => ({
    code,
    out: out.replaceAll(path, '<folder>'),
    err: err.replaceAll(path, '<folder>'),
  });

  const page = '<style>p{color:#223344}</style><p>Hello @{first_name}, <a href="https://a.example/">news</a></p>';

  test.each<[string, string[], string?]>([
    ['new', ['new', 'message', 'june', '--starter', 'blank']],
    ['build', ['build']],
    ['build, of what is built', ['build']],
    ['list', ['list', '--json']],
    ['check', ['check']],
    ['check, of finished HTML', ['check', 'foreign/bellmoor-export.html', '--format', 'sarif']],
    ['pack', ['pack', 'may-newsletter', '--to', 'members']],
    ['inline', ['inline', '-'], page],
    ['text', ['text', '-'], page],
    ['convert', ['convert', '-', '--from', 'neutral', '--to', 'ferrywire'], page],
    ['images', ['images', 'embed', 'foreign/bellmoor-export.html', '--out', 'embedded.html']],
    ['slice', ['slice', 'images/poster.png']],
    ['adopt', ['adopt', 'foreign/oxbow-export.eml', '--name', 'adopted']],
    ['draft', ['draft', 'repair-day', '--to', 'archive', '--out', 'draft.eml']],
    ['copy', ['copy', 'repair-day', '--to', 'archive', '--piece', 'subject']],
    ['dialect', ['dialect', 'list']],
    ['proof, of nothing', ['proof', 'nothing', '--to', 'members']],
    ['standin, of nothing', ['standin', '--smtp-port', 'x']],
    ['preview, of nothing', ['preview', 'nothing']],
    ['compare, with nothing', ['compare', '--since', 'nothing']],
    ['prove, without a browser', ['prove', '--browser', '/nowhere']],
    ['language-server, told what it is not told', ['language-server', '--unknown']],
    ['demo, told what it is not told', ['demo', '--unknown']],
    ['no command', ['nothing']],
    ['help', ['--help']],
  ])('%s', (_, words, input = '') => {
    const own = plain(shipped.runProgram(words, { input }), shipped);
    const known = plain(here.run(words, { input }), here);
    expect(own).toEqual(known);
  });

  test('is what its package names, and can be run', () => {
    const { bin } = JSON.parse(readFileSync(join(repository, 'package.json'), 'utf8')) as { bin: { inscriba: string } };
    expect(join(repository, bin.inscriba)).toBe(program);
    expect(statSync(program).mode & 0o111).not.toBe(0);
    expect(readFileSync(program, 'utf8').startsWith('#!/usr/bin/env node')).toBe(true);
  });
});
