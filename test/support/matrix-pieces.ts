import { boxKinds, matrix, type BoxKind } from '../../src/core/layout/account/matrix.js';
import type { Random } from './random.js';

const text = 'Saws, planes and drills are back on the shelf, sharpened and ready for spring.';
const picture = '<img class="k" src="assets/icon.png" alt="i" width="64" height="64">';

/** What each kind of box looks like in a page: the element of the kind has the class `k`. */
export const pieces: Readonly<Record<BoxKind, readonly string[]>> = {
  block: [
    `<div class="k"><p>${text}</p><p>Second</p></div>`,
    `<div class="k pad"><p>${text}</p></div>`,
    `<section class="k"><h3>Title</h3><div class="pad">${text}</div></section>`,
    `<blockquote class="k"><p>${text}</p></blockquote>`,
  ],
  text: [`<p class="k">${text}</p>`, `<div class="k">${text}</div>`, '<h2 class="k">Title of it</h2>'],
  inline: [
    '<p>One <span class="k">two three</span> four</p>',
    '<p>One <a class="k" href="https://alderlane.example/">two three</a> four</p>',
    '<p>One <strong class="k">two</strong></p>',
  ],
  'inline block': ['<p>One <span class="k ib">two three</span> four</p>'],
  'flex container': [
    `<div class="k row"><div class="g">${text}</div><div class="g">Two</div></div>`,
    `<div class="k column"><div>${text}</div><div>Two</div></div>`,
  ],
  'flex item': [
    `<div class="row"><div class="k g">${text}</div><div class="g">Two ${text} ${text}</div></div>`,
    `<div class="column"><div class="k">${text}</div><div>Two</div></div>`,
  ],
  'grid container': [`<div class="k grid"><div>${text}</div><div>Two</div><div>Three</div></div>`],
  'grid item': [`<div class="grid"><div class="k">${text}</div><div>Two ${text} ${text}</div><div>Three</div></div>`],
  list: ['<ul class="k"><li>one</li><li>two</li></ul>', '<ol class="k"><li>one</li><li>two</li></ol>'],
  'list item': ['<ul><li class="k">one</li><li>two</li></ul>'],
  table: ['<table class="k"><tr><td>one</td><td>two</td></tr></table>'],
  'table cell': ['<table><tr><td class="k">one</td><td>two<br>three</td></tr></table>'],
  picture: [picture, picture.replace('class="k"', 'class="k block"')],
  'button link': ['<p><a class="k button" href="https://alderlane.example/">Go there</a></p>'],
};

/** The rules that the pieces stand on. */
export const pieceRules = `.pad{padding:12px;background:#eef}.ib{display:inline-block}.row{display:flex}.g{flex:1}
.column{display:flex;flex-direction:column}.grid{display:grid;grid-template-columns:1fr 1fr}.block{display:block}
.button{display:inline-block;padding:10px 20px;background:#06c;color:#fff}`;

/** Declarations of the properties of each row of the matrix, by its first property. */
const samples: Readonly<Record<string, readonly string[]>> = {
  color:
    'color:#c00;font-family:Georgia,serif;font-size:20px;font-size:1.25em;font-style:italic;font-weight:bold;line-height:30px;line-height:1.2;font-variant:small-caps'.split(
      ';',
    ),
  'letter-spacing': ['letter-spacing:2px', 'word-spacing:6px', 'text-transform:uppercase'],
  'text-align': ['text-align:center', 'text-align:right', 'text-align:justify', 'text-indent:30px'],
  'text-decoration': ['text-decoration:underline', 'text-decoration:line-through'],
  'white-space': ['white-space:nowrap', 'white-space:pre-line', 'word-break:break-all', 'overflow-wrap:anywhere'],
  direction: ['direction:rtl'],
  'list-style-type': ['list-style:none', 'list-style-type:square', 'list-style-position:inside'],
  'border-collapse': ['border-collapse:collapse', 'border-spacing:8px', 'caption-side:bottom'],
  'table-layout': ['table-layout:fixed'],
  quotes: ['quotes:none'],
  'text-shadow': ['text-shadow:1px 1px 2px #888', 'text-wrap:balance', 'text-align-last:center'],
  hyphens: ['hyphens:auto'],
  cursor: ['cursor:pointer'],
  visibility: ['visibility:hidden'],
  display: ['display:block', 'display:inline-block', 'display:none', 'display:flex', 'display:inline'],
  'box-sizing': ['box-sizing:border-box', 'box-sizing:border-box;width:200px;padding:12px'],
  width: ['width:200px', 'width:50%', 'width:100%', 'max-width:250px', 'max-width:100%', 'width:fit-content'],
  'min-width': ['min-width:300px', 'min-width:0'],
  height: ['height:100px', 'min-height:90px', 'height:auto', 'height:50%'],
  'max-height': ['max-height:30px'],
  'margin-top': ['margin-top:30px', 'margin-bottom:24px', 'margin-top:0', 'margin-top:-8px'],
  'margin-left': ['margin-left:40px', 'margin:0 auto', 'margin-right:16px', 'margin:20px'],
  'padding-top': ['padding:10px', 'padding-left:30px', 'padding:5%', 'padding:0'],
  'border-top-width': ['border:2px solid #c63', 'border-left:5px solid #06c', 'border-bottom:1px dashed #444'],
  'border-top-left-radius': ['border-radius:10px', 'background:#fe9;border-radius:10px'],
  'background-color': ['background:#fe9', 'background-color:rgba(0,0,0,.1)'],
  'background-image': [
    'background:url(assets/icon.png) no-repeat right top #eee',
    'background-image:linear-gradient(#fff,#ccc)',
  ],
  'background-attachment': ['background-attachment:local'],
  'flex-direction': ['flex-wrap:wrap', 'flex-direction:column', 'flex-direction:row-reverse'],
  'justify-content': ['justify-content:center', 'justify-content:space-between', 'justify-content:flex-end'],
  'align-items': ['align-items:center', 'align-items:flex-start', 'align-items:baseline'],
  'align-content': ['align-content:center'],
  'row-gap': ['gap:30px', 'column-gap:12px', 'row-gap:16px'],
  'flex-grow': ['flex:2', 'flex:0 0 150px', 'flex:none', 'flex-shrink:0'],
  'align-self': ['align-self:center', 'align-self:flex-end', 'align-self:stretch'],
  order: ['order:-1', 'order:2'],
  'justify-items': ['justify-items:center'],
  'justify-self': ['justify-self:center'],
  'grid-template-columns': ['grid-template-columns:1fr 2fr', "grid-template-areas:'a b'"],
  'grid-template-rows': ['grid-template-rows:40px 40px', 'grid-auto-flow:column'],
  'grid-column': ['grid-column:span 2', 'grid-row:2', 'grid-column:1 / -1'],
  animation: ['animation:none'],
  'box-shadow': ['box-shadow:2px 2px 6px #888'],
  opacity: ['opacity:.5'],
  'vertical-align': ['vertical-align:middle', 'vertical-align:top', 'vertical-align:bottom'],
  overflow: ['overflow:hidden', 'overflow-x:auto', 'overflow:auto'],
  position: ['position:relative', 'position:absolute'],
  top: ['top:5px', 'position:relative;top:5px', 'left:12px'],
  float: ['float:left', 'float:right'],
  clear: ['clear:both'],
  'object-fit': ['object-fit:cover', 'object-fit:cover;width:120px;height:60px'],
  'aspect-ratio': ['aspect-ratio:1', 'aspect-ratio:2 / 1'],
  content: ['counter-reset:step', 'counter-increment:step'],
};

/** One cell of the matrix, tried: a declaration on a piece of a kind. */
export interface MatrixTry {
  readonly kind: BoxKind;
  /** The first property of the row. */
  readonly row: string;
  readonly declarations: string;
  readonly html: string;
}

/** All tries: every sample of every row on every piece of every kind. */
export function matrixTries(): MatrixTry[] {
  return matrix.flatMap(({ properties: [row = ''] }) =>
    (samples[row] ?? []).flatMap((declarations) =>
      boxKinds.flatMap((kind) => pieces[kind].map((html) => ({ kind, row, declarations, html }))),
    ),
  );
}

/** A try drawn by chance: one to three declarations of different rows on a piece of a kind. */
export function drawTry(random: Random): Pick<MatrixTry, 'kind' | 'declarations' | 'html'> {
  const kind = random.pick(boxKinds);
  const rows = Array.from({ length: random.between(1, 3) }, () => random.pick(matrix).properties[0] ?? '');
  const declarations = [...new Set(rows)].map((row) => random.pick(samples[row] ?? ['color:#c00'])).join(';');
  return { kind, declarations, html: random.pick(pieces[kind]) };
}

/** A page of several tries, one below the other, each between paragraphs. */
export function matrixPage(tries: readonly Pick<MatrixTry, 'declarations' | 'html'>[]): string {
  const rules = tries.map(({ declarations }, index) => `.k${index}{${declarations}}`).join('\n');
  const body = tries
    .map(
      ({ html }, index) => `<div class="try">\n${html.replace(/class="k\b/, `class="k${index}`)}\n<p>after</p>\n</div>`,
    )
    .join('\n');
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Matrix</title><style>
body{margin:0;font-family:Arial,sans-serif;font-size:16px;line-height:1.5;color:#223}
.page{max-width:600px;margin:0 auto;padding:16px}
${pieceRules}
${rules}
</style></head><body><div class="page">
${body}
</div></body></html>`;
}
