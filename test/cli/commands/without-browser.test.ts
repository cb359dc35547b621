import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { cpSync } from 'node:fs';
import { join } from 'node:path';
import { findBrowser } from '../../../src/browser/browser.js';
import { TestFolder, type Run } from '../../support/project.js';
import { mayMount, quotedCommand, unshared } from '../../support/unshared.js';

let folder: TestFolder;

beforeAll(() => {
  folder = new TestFolder().write({
    'before/inscriba.yaml': 'name: Tools\ndestinations: { archive: { dialect: neutral } }\n',
    'before/messages/saws.html':
      '<!doctype html>\n<html lang="en"><meta charset="utf-8"><title>Saws</title><p style="color:#a33">Saws are back',
  });
  cpSync(join(folder.path, 'before'), join(folder.path, 'now'), { recursive: true });
  folder.change('now/messages/saws.html', 'are back', 'are gone');
});

afterAll(() => folder.remove());

/** Runs a command on a machine on which no browser can be started. */
function withoutBrowser(words: readonly string[]): Run {
  const hidden: string[] = [];
  let path = process.env['PATH'] ?? '';
  for (let found = findBrowser(path); found !== null && !hidden.includes(found); found = findBrowser(path)) {
    hidden.push(found);
    path = path
      .split(':')
      .filter((part) => !(found ?? '').startsWith(`${part}/`))
      .join(':');
  }
  const hide = hidden.map((file) => `mount --bind /dev/null '${file}'`).join(' && ');
  return unshared(join(folder.path, 'now'), `${hide === '' ? 'true' : hide} && ${quotedCommand(words)}`);
}

// Some containers let nobody mount anything: there these are told as skipped.
const testMounts = mayMount() ? test : test.skip;

testMounts('compare compares everything but looks, and says so', () => {
  const { code, out, err } = withoutBrowser(['compare', '--since', '../before']);
  expect([code, out]).toEqual([0, 'saws  words +1 −1\n']);
  expect(err).toContain('1 of 1 message differs.\nnote  looks-skipped  There is no browser on this machine');
  expect(withoutBrowser(['compare', '--since', '../before', '--fail-on', 'words']).code).toBe(1);
});

testMounts.each([['compare', '--since', '../before', '--fail-on', 'look'], ['prove'], ['preview', '--shots', 'shots']])(
  '%s cannot do without one, and says what to install',
  (...words) => {
    const { code, err } = withoutBrowser(words);
    expect([code, err]).toEqual([
      2,
      expect.stringContaining('error  browser-missing  There is no browser on this machine'),
    ]);
    expect(err).toContain('apt-get install chromium');
  },
);
