import type { OrdinaryPiece } from './ordinary-pieces.js';

const TEXT = 'Saws, planes and drills are back on the shelf.';
const PHOTO = '<img src="../assets/photo.png" alt="p" width="120" height="60">';
const onPhones = (rules: string): string => `@media(max-width:600px){${rules}}`;

/** Rows, lines and tables of boxes that are plain blocks on phones, and what stands beside floats and in frames. */
export const stackPieces: readonly OrdinaryPiece[] = [
  [
    'column-becomes-block',
    `.r{display:flex;flex-direction:column;gap:16px}${onPhones('.r{display:block}')}`,
    `<div class="r"><p>One</p><p>${TEXT}</p></div><h2>After</h2>`,
  ],
  [
    'column-of-shrunk-becomes-block',
    `.r{display:flex;flex-direction:column;align-items:center}${onPhones('.r{display:block}')}`,
    `<div class="r"><p>One</p><p>${TEXT}</p></div><p>After</p>`,
  ],
  [
    'inline-blocks-become-blocks',
    `.r{font-size:0}.k{display:inline-block;width:48%;font-size:16px;vertical-align:top}${onPhones('.k{display:block;width:100%}')}`,
    `<p>Before</p><div class="r"><div class="k"><p>One</p></div><div class="k"><p>${TEXT}</p></div></div><p>After</p>`,
  ],
  [
    'table-of-boxes-becomes-blocks',
    `.t{display:table;width:100%}.k{display:table-cell}${onPhones('.t,.k{display:block}')}`,
    `<p>Before</p><div class="t"><div class="k"><h3>One</h3> two</div>\n<div class="k"><p>${TEXT}</p></div></div><p>After</p>`,
  ],
  [
    'links-as-cells',
    '.t{display:table;width:100%}.k{display:table-cell;padding:8px;text-align:center;background:#eee}',
    '<nav class="t"><a class="k" href="https://alderlane.example/a">One</a><a class="k" href="https://alderlane.example/b">Two</a></nav>',
  ],
  [
    'table-of-boxes-with-padding',
    '.t{display:table;width:100%;padding:12px;border:1px solid #999}.k{display:table-cell;text-align:end}',
    `<div class="t"><div class="k">One</div><div class="k"><p>${TEXT}</p></div></div>`,
  ],
  [
    'picture-in-line-once-stacked',
    `.r{display:flex;align-items:flex-start}.r img{margin:0 16px 8px 0}${onPhones('.r{display:block;text-align:center}')}`,
    `<div class="r">${PHOTO}<div><h2>Title</h2><p>${TEXT}</p></div></div>`,
  ],
  [
    'picture-in-line-beside-what-grows',
    `.r{display:flex;gap:16px;align-items:flex-start;text-align:center}.k{flex:1}${onPhones('.r{display:block}')}`,
    `<div class="r">${PHOTO}<div class="k"><h2>Title</h2><p>${TEXT}</p></div></div>`,
  ],
  [
    'picture-with-frame-in-row',
    '.r{display:flex;gap:16px;align-items:flex-start}.r img{border:2px solid #2f5d50;padding:3px}',
    `<div class="r">${PHOTO}<div><h2>Title</h2><p>${TEXT}</p></div></div>`,
  ],
  [
    'picture-with-frame-in-grid',
    '.r{display:grid;grid-template-columns:140px 1fr;align-items:start}.r img{border:1px solid #999}',
    `<div class="r">${PHOTO}<div><p>${TEXT}</p></div></div>`,
  ],
  [
    'float-higher-than-text',
    '.r{overflow:hidden;background:#eee}.r img{float:left;margin:0 16px 8px 0}',
    `<div class="r">${PHOTO}<p>Short</p></div><p>After</p>`,
  ],
  [
    'baseline-of-a-frame',
    '.r{display:flex;align-items:baseline}.k{width:120px}.a{padding:8px 16px;border:1px solid #999}',
    '<div class="r"><div class="k"><p class="a">One</p><p>two</p></div><div class="k"><p>Three</p><p>four</p></div></div>',
  ],
  [
    'content-column-becomes-share',
    `.r{display:grid;grid-template-columns:1fr auto;gap:20px;align-items:end}${onPhones('.r{grid-template-columns:1fr 1fr}')}`,
    `<div class="r"><div><h3>Title</h3><p>${TEXT}</p></div><div>Two the three</div></div>`,
  ],
  [
    'first-cell-hidden-once-stacked',
    `.r{display:grid;grid-template-columns:2fr 1fr;gap:12px}${onPhones('.r{display:block}.k:first-child{display:none}')}`,
    `<div class="r"><div class="k">One</div><div class="k">Two<p>${TEXT}</p></div><div class="k"><p>Three</p></div></div>`,
  ],
  [
    'heading-cells-aligned-by-table',
    'table{text-align:left;width:100%}',
    '<table><tr><th>One</th><th>Two</th></tr></table>',
  ],
  [
    'heading-cells-aligned-around',
    'div{text-align:right}table{width:100%}',
    '<div><table><tr><th>One</th><th>Two</th></tr></table></div>',
  ],
  [
    'share-of-width-beside-margins',
    '.k{max-width:80%;background:#eee}',
    `<blockquote class="k">${TEXT} ${TEXT}</blockquote>`,
  ],
  [
    'width-before-margin',
    '.k{width:300px;margin:0 100px 0 20px;background:#eee}',
    `<div class="k"><p>${TEXT}</p></div>`,
  ],
  ['width-pushed-from-margin', '.k{width:200px;margin-left:auto;margin-right:20px}', '<div class="k">One</div>'],
  ['code-in-root-size', 'p{font-size:1.25rem}', '<p>Say <code>inscriba</code></p>'],
  [
    'lines-of-shares',
    '.r{display:flex;flex-wrap:wrap;gap:16px}.k{width:30%}',
    '<nav class="r"><a class="k" href="https://alderlane.example/a">One</a><a class="k" href="https://alderlane.example/b">Two</a><a class="k" href="https://alderlane.example/c">Three</a><a class="k" href="https://alderlane.example/d">Four</a></nav>',
  ],
  [
    'lines-of-shares-with-paint',
    `.r{display:flex;flex-wrap:wrap;gap:20px;align-items:flex-start}.k{width:30%;background:#eee}`,
    `<div class="r"><div class="k">One</div><div class="k">${TEXT}</div></div><p>After</p>`,
  ],
];
