import { afterEach, describe, expect, test } from '@jest/globals';
import { readFileSync } from 'node:fs';
import { exitCodeOf } from '../../src/core/findings/finding.js';
import { loadConfig } from '../../src/project/config/config.js';
import type { VisitChoice } from '../../src/project/visit/choose-messages.js';
import { visitMessages, type EditionVisitor } from '../../src/project/visit/visit-messages.js';
import { layoutMessage } from '../support/layout-message.js';
import { findingsOf, page, projectOf } from '../support/parts-project.js';
import type { TestFolder } from '../support/project.js';

let folder: TestFolder;

afterEach(() => folder.remove());

/** Builds one message with a style sheet; gives the code, and what was found. */
function build(css: string, body: string): [code: number | null, findings: string[], err: string] {
  folder = projectOf({ 'messages/a.html': layoutMessage(css, body) });
  const { code, err } = folder.run(['build', '--quiet']);
  return [code, findingsOf(err), err];
}

describe('what no client takes', () => {
  test.each([
    ['max-width: 600px', 'it cannot be read', '@media (max-width: 600px)'],
    ['screen and max-width: 600px', 'it cannot be read', '@media screen and (max-width: 600px)'],
    ['(max-widht: 600px)', 'there is no feature "max-widht"', '@media (max-width: 600px)'],
  ])('the media query %s is an error with the nearest right one', (query, what, nearest) => {
    const [code, findings, err] = build(`@media ${query} { p { color: red } }`, '<p>x</p>');
    expect([code, findings]).toEqual([1, ['messages/a.html:3:1 media-query-invalid']]);
    expect(err).toContain(what);
    expect(err).toContain(`fix: Write ${nearest}.`);
  });

  test('an unknown selector and an empty one are left out with a warning', () => {
    const [code, findings] = build('p:first{color:red}.a, {margin:0}', '<p class="a">x</p>');
    expect([code, findings]).toEqual([0, ['messages/a.html:3:1 css-ignored', 'messages/a.html:3:19 css-ignored']]);
  });
});

describe('layouts that ended the program', () => {
  const undone = ['text-align', 'box-sizing', 'white-space', 'display', 'vertical-align', 'color', 'table-layout'];

  test.each(undone)('%s is said again where only one width resets it', (property) => {
    const value = { display: 'block', 'text-align': 'center', color: 'red' }[property] ?? 'initial';
    const css = `p{${property}:${value}}@media (max-width:600px){p{${property}:revert}}`;
    expect(build(css, '<p>x</p><table><tr><td>y</td></tr></table>')[0]).toBe(0);
  });

  test('a grid that is one at one width only, with an empty one beside it', () => {
    const [code, findings] = build(
      'p{margin:0}@media (max-width:600px){.b{display:grid}}',
      '<div class="b"></div><div class="b"><p>x</p></div>',
    );
    expect([code, findings]).toEqual([0, []]);
  });
});

describe('tags of fields among the styles of a message', () => {
  test('a value that the layout depends on has to be known', () => {
    expect(build('', '<p style="width:@{first_name}">x</p>').slice(0, 2)).toEqual([
      1,
      ['messages/a.html:5:11 css-filled-in'],
    ]);
  });

  test('a colour may be filled in, and its tag is written wherever the colour is', () => {
    expect(build('', '<p style="margin:0;color:@{branch}">x</p>')[0]).toBe(0);
    expect(folder.read('out/plain/a/index.html')).toContain('color:@{branch}');
  });

  test('a tag that is written nowhere is told', () => {
    expect(build('.none{color:@{branch}}', '<p>x</p>').slice(0, 2)).toEqual([0, ['messages/a.html:3:13 tag-left-out']]);
  });
});

test('a defect in one message is told with its name, and ends nothing for the others', async () => {
  folder = projectOf({
    'dialects/neutral.yaml': readFileSync('dialects/neutral.yaml', 'utf8'),
    'messages/a.html': page('<p>A</p>'),
    'messages/b.html': page('<p>B</p>'),
    'messages/c.html': page('<p>C</p>'),
  });
  const { config } = await loadConfig(folder.path);
  if (config === null) throw new Error('the project has no configuration');
  const visitor: EditionVisitor<{ name: string; failed: boolean; findings: [] }> & VisitChoice = {
    targets: (targets) => targets,
    takesEditions: false,
    visit: ({ message }) => {
      if (message === 'b') throw new TypeError('Nothing is where something was expected.');
      return Promise.resolve({ name: message, failed: false, findings: [] });
    },
    failed: (name) => ({ name, failed: true, findings: [] }),
  };
  const { outcomes, findings } = await visitMessages({ config, messages: [], destinations: [] }, visitor);
  expect(outcomes.map(({ name, failed }) => [name, failed])).toEqual([
    ['a', false],
    ['b', true],
    ['c', false],
  ]);
  expect(findings.map(({ code, data }) => [code, data['message']])).toEqual([['message-defect', 'b.html']]);
  expect(findings[0]?.data['detail']).toContain('TypeError: Nothing is where something was expected. (at ');
  expect(exitCodeOf(findings)).toBe(70);
});
