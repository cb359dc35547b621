import { afterEach, describe, expect, test } from '@jest/globals';
import { spawnSync } from 'node:child_process';
import { chmodSync } from 'node:fs';
import { join } from 'node:path';
import { repository, TestFolder } from '../../support/project.js';

const program = join(repository, 'dist/program/inscriba.js');

let folder: TestFolder;

afterEach(() => folder.remove());

/** Runs a program in a terminal, and gives what the terminal was sent. */
const inTerminal = `
import os, pty, sys
sent = bytearray()
def keep(fd):
    data = os.read(fd, 65536)
    sent.extend(data)
    return data
devnull = os.open(os.devnull, os.O_WRONLY)
os.dup2(devnull, 1)
status = pty.spawn(sys.argv[1:], keep)
sys.stderr.buffer.write(bytes(sent))
sys.exit(os.waitstatus_to_exitcode(status))
`;

function terminal(words: readonly string[], env: Record<string, string>): { code: number | null; sent: string } {
  const { status, stderr } = spawnSync('python3', ['-c', inTerminal, process.execPath, program, ...words], {
    cwd: folder.path,
    encoding: 'utf8',
    env: { PATH: process.env['PATH'] ?? '', NO_COLOR: '1', ...env },
    maxBuffer: 16 * 1024 * 1024,
  });
  return { code: status, sent: stderr.replaceAll('\r\n', '\n') };
}

describe('copy', () => {
  test('prints a piece where the output goes to another program', () => {
    folder = TestFolder.demoProject();
    folder.run(['build', 'may-newsletter', 'branch-notice']);
    const copy = (...words: string[]): string => {
      const run = folder.run(['copy', ...words]);
      expect([words, run.code, run.err]).toEqual([words, 0, '']);
      return run.out;
    };
    const page = folder.read('out/members/may-newsletter/index.html');
    expect(copy('may-newsletter', 'html', '--to', 'members')).toBe(page);
    expect(copy('may-newsletter', 'text', '--to', 'members')).toBe(folder.read('out/members/may-newsletter/index.txt'));
    expect(copy('may-newsletter', 'subject', '--to', 'members')).toBe('~~FIRST_NAME?Neighbour~~, the lathe is back\n');
    expect(copy('may-newsletter', 'body', '--to', 'archive')).toMatch(/^<!--\[if mso\]><style>[^]*<\/div>\n$/);
    expect(copy('may-newsletter', 'css', '--to', 'archive')).toMatch(/^body\{margin:0[^]*@media \(max-width:600px\)/);
    expect(copy('branch-notice/mill-yard', 'html', '--to', 'archive')).toBe(
      folder.read('out/archive/branch-notice/mill-yard/index.html'),
    );
  });

  test('asks which edition and which destination; tells of messages that are wrong', () => {
    folder = TestFolder.demoProject();
    const wrong: [string[], number, string][] = [
      [['branch-notice', 'text', '--to', 'archive'], 2, 'Say which: branch-notice/alder-lane.'],
      [['may-newsletter', 'text'], 2, 'destination-needed'],
      [['may-newsleter', 'text', '--to', 'archive'], 2, 'Did you mean "may-newsletter"?'],
      [['may-newsletter', 'pictures', '--to', 'archive'], 2, 'Allowed choices are html, body, css, text, subject'],
    ];
    for (const [words, code, said] of wrong) {
      const run = folder.run(['copy', ...words]);
      expect([words, run.code, run.out, run.err]).toEqual([words, code, '', expect.stringContaining(said)]);
    }
    folder.change('messages/repair-day.html', '<house-footer></house-footer>', '');
    const run = folder.run(['copy', 'repair-day', 'text', '--to', 'members']);
    expect([run.code, run.out]).toEqual([1, '']);
  });

  test('in a terminal, fills the clipboard by its sequence (OSC 52)', () => {
    folder = TestFolder.demoProject();
    const { code, sent } = terminal(['copy', 'may-newsletter', 'subject', '--to', 'members'], {});
    const [, content] = /\u001b\]52;c;([A-Za-z\d+/=]*)\u0007/.exec(sent) ?? [];
    expect([code, Buffer.from(content ?? '', 'base64').toString()]).toEqual([
      0,
      '~~FIRST_NAME?Neighbour~~, the lathe is back',
    ]);
    expect(sent).toContain('On the clipboard, by the terminal: the subject of may-newsletter, 43 characters\n');
  });

  test('by a program of the desktop, where there is one; not by that of another machine', () => {
    folder = TestFolder.demoProject().write({ 'bin/xclip': '#!/bin/sh\necho "$@" > words\ncat > clipboard\n' });
    chmodSync(join(folder.path, 'bin/xclip'), 0o755);
    const PATH = `${join(folder.path, 'bin')}:${process.env['PATH'] ?? ''}`;
    const words = ['copy', 'may-newsletter', 'text', '--to', 'archive'];
    const here = terminal(words, { DISPLAY: ':9', PATH });
    expect([here.code, here.sent]).toEqual([
      0,
      expect.stringContaining('On the clipboard, by xclip: the plain text of may-newsletter'),
    ]);
    folder.run(['build', 'may-newsletter', '--to', 'archive']);
    expect(folder.read('clipboard')).toBe(folder.read('out/archive/may-newsletter/index.txt'));
    expect(folder.read('words')).toBe('-selection clipboard -in\n');
    const there = terminal(words, { DISPLAY: ':9', PATH, SSH_CONNECTION: '10.0.0.1 1 10.0.0.2 22' });
    expect(there.sent).toContain('\u001b]52;c;');
    // A program that fails leaves it to the terminal.
    folder.write({ 'bin/xclip': '#!/bin/sh\nexit 1\n' });
    expect(terminal(words, { DISPLAY: ':9', PATH }).sent).toContain('\u001b]52;c;');
  });
});
