import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { repository, TestFolder } from '../../support/project.js';

let folder: TestFolder;

beforeAll(() => {
  folder = new TestFolder();
  for (const shell of ['bash', 'zsh', 'fish']) {
    const { code, out, err } = folder.run(['completion', shell]);
    expect([code, err]).toEqual([0, '']);
    writeFileSync(join(folder.path, shell), out);
  }
});

afterAll(() => folder.remove());

/** Lines that are typed, and some of what a shell then offers. */
const typed: readonly (readonly [line: string, offered: readonly string[]])[] = [
  ['inscriba bui', ['build']],
  ['inscriba comp', ['compare', 'completion']],
  ['inscriba images ', ['embed', 'fetch', 'host', 'shrink']],
  ['inscriba images embed --o', ['--out']],
  ['inscriba completion ', ['bash', 'fish', 'zsh']],
  ['inscriba check --format ', ['json', 'sarif']],
  ['inscriba dialect le', ['learn']],
  ['inscriba build --fr', ['--fresh']],
];

function says(command: string, words: readonly string[]): string[] {
  const { stdout, stderr } = spawnSync(command, words, { cwd: folder.path, encoding: 'utf8' });
  expect(stderr).toBe('');
  return stdout
    .split('\n')
    .map((line) => line.split('\t')[0] ?? '')
    .filter((line) => line !== '');
}

describe('completion in the shells themselves', () => {
  test.each(typed)('bash: %s', (line, offered) => {
    const script = `source ./bash; compopt() { :; }; COMP_WORDS=(${line}${line.endsWith(' ') ? " ''" : ''}); COMP_CWORD=$((\${#COMP_WORDS[@]} - 1)); _inscriba; printf '%s\\n' "\${COMPREPLY[@]}"`;
    expect(says('bash', ['--norc', '-c', script])).toEqual(expect.arrayContaining([...offered]));
  });

  test.each(typed)('fish: %s', (line, offered) => {
    const found = says('fish', ['--no-config', '-c', `source ./fish; complete -C '${line}'`]);
    expect(found).toEqual(expect.arrayContaining([...offered]));
  });

  // What is completed in zsh is seen in a terminal only: one is opened within it, and a tab is typed there.
  test('zsh', () => {
    const keys = `
zmodload zsh/zpty
zpty shell zsh -f -i
zpty -w shell "PS1=; autoload -U compinit; compinit -u -D; source ./zsh; zstyle ':completion:*' list-colors ''; LISTMAX=1000"
sleep 1
zpty -w -n shell "inscriba bui"$'\\t'"--fr"$'\\t'
sleep 1
zpty -r -t shell output '*--fresh*' && print -r -- "$output" | tail -c 60
zpty -d shell
`;
    const { stdout } = spawnSync('zsh', ['-f', '-c', keys], { cwd: folder.path, encoding: 'utf8' });
    expect(stdout.replace(/\u001b\[[?\d;]*[a-zA-Z]/g, '')).toMatch(/build\W+--fresh/);
  });
});

test('every command is offered with its line in the help', () => {
  const help = folder.run(['--help']).out;
  const fish = readFileSync(join(folder.path, 'fish'), 'utf8');
  for (const name of ['new', 'build', 'check', 'push', 'language-server', 'completion'])
    expect(fish).toMatch(new RegExp(`-a ${name} -d '.+'`));
  expect(help).toContain('completion');
});

test('the manual page is one that man takes without a warning, and has all commands', () => {
  const page = join(repository, 'dist/inscriba.1');
  const { status, stdout, stderr } = spawnSync('groff', ['-man', '-Tutf8', '-ww', '-P-cbou', page], {
    encoding: 'utf8',
  });
  expect([status, stderr]).toEqual([0, '']);
  for (const line of ['inscriba build [message...]', '--strict', 'EXIT STATUS', 'inscriba images embed <file.html...>'])
    expect(stdout).toContain(line);
});
