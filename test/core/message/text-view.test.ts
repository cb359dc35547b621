import { expect, test } from '@jest/globals';
import { neutralDialect } from '../../../src/core/dialects/dialect.js';
import { compile } from '../../../src/core/library/compile.js';
import { plainText } from '../../../src/core/library/plain-text.js';
import { layoutDocument } from '../../support/layout-documents.js';

/** Compiles a page; its text version is made from the tree of the message, without its HTML. */
function bothTexts(page: string): [fromTree: string | undefined, fromHtml: string] {
  const { value } = compile(page, { pictureSize: () => ({ width: 240, height: 120 }) });
  return [value?.text, plainText(value?.html ?? '', { dialects: [neutralDialect] }).value];
}

test('the text version says what a reading of the finished HTML says', () => {
  const written = Array.from({ length: 60 }, (_, seed) => bothTexts(layoutDocument(seed + 1, 2)));
  const compiled = written.filter(([fromTree]) => fromTree !== undefined);
  expect(compiled.length).toBeGreaterThan(40);
  for (const [fromTree, fromHtml] of compiled) expect(fromTree).toBe(fromHtml);
});

test.each([
  [
    'rows of a table in a body of their own',
    '<table><tr><th>Tool</th><th>Fee</th></tr><tr><td>Saw</td><td>2</td></tr></table>',
  ],
  [
    'pictures side by side',
    '<div style="display:flex"><img src="a.png" alt="one" width="9"><img src="b.png" alt="two" width="9"></div>',
  ],
  [
    'what the desktop hides',
    '<p style="display:none">never</p><style>@media (max-width:600px){.n{display:none}}</style><p class="n">wide</p>',
  ],
  [
    'what a wide threshold changes',
    '<style>@media (max-width:1100px){.w{display:none}}</style><p class="w">very wide</p><p>rest</p>',
  ],
  ['preserved space and capitals', '<pre>a  b\n c</pre><p style="text-transform:uppercase">loud</p>'],
  [
    'a button, and a rounded one',
    '<p><a href="https://alderlane.example/b" style="display:inline-block;padding:8px 16px;background:#246;color:#fff">Book</a></p>',
  ],
  ['comments for one engine', '<!--[if mso]><p>word</p><![endif]--><p>all</p>'],
  [
    'merge tags, in links too',
    '<p>Hi @{name ?? "you"}</p><p><a href="https://alderlane.example/?n=@{name}">mine</a></p>',
  ],
  ['a background picture', '<div style="background:#eee url(a.png);padding:8px"><p>over it</p></div>'],
])('so it does for %s', (_, body) => {
  const page = `<!doctype html><html lang="en"><head><title>T</title></head><body>${body}</body></html>`;
  const fields = new Map([['name', { type: 'text' as const, sample: 'Ines', fallback: null }]]);
  const { value } = compile(page, {}, { fields });
  expect(value?.text).toBe(plainText(value?.html ?? '', { dialects: [neutralDialect] }).value);
  expect(value?.text).not.toBe('');
});
