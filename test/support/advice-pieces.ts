import type { layoutAdvice } from '../../src/core/findings/wording/layout.js';

/** What is refused with an advice, and the same once the advice is followed: rules, and where it is about markup, markup. */
export interface AdvicePiece {
  readonly html: string;
  readonly refused: string;
  readonly followed: string;
  /** The markup once the advice is followed, where that changes. */
  readonly then?: string;
}

const text = 'Saws, planes and drills are back on the shelf, sharpened and ready for spring.';
const block = `<div class="k"><p>${text}</p><p>Second</p></div>`;
const row = '<div class="row k"><div class="a">One</div><div class="b">Two</div></div>';
const three = '<div class="row k"><div class="a">One</div><div class="b">Two</div><div class="c">Three</div></div>';
const long = `<div class="row k"><div class="a">${text}</div><div class="b">${text} ${text}</div></div>`;
const grid = `<div class="grid k"><div class="a">One</div><div class="b">Two ${text}</div><div>Three</div></div>`;
const picture = '<img class="k" src="assets/photo.png" alt="p" width="600" height="300">';
const narrow = (rules: string): string => `@media(max-width:480px){${rules}}`;

/** By the advice of the layout that is followed. */
export const advicePieces: Readonly<Partial<Record<keyof typeof layoutAdvice, AdvicePiece>>> = {
  growsWithWindow: { html: block, refused: '.k{padding-left:5vw}', followed: '.k{padding-left:min(5vw,30px)}' },
  tracks: {
    html: grid,
    refused: '.k{grid-template-columns:max-content max-content}',
    followed: '.k{grid-template-columns:2fr 1fr}',
  },
  trackLeast: {
    html: grid,
    refused: '.k{grid-template-columns:repeat(2,minmax(250px,1fr))}',
    followed: `.k{grid-template-columns:repeat(2,minmax(250px,1fr))}@media(max-width:600px){.k{grid-template-columns:1fr}}`,
  },
  shapeOfPicture: {
    html: picture,
    refused: '.k{width:100%;height:200px;object-fit:cover}',
    followed: '.k{width:100%;height:auto;aspect-ratio:2/1;object-fit:cover}',
  },
  fitOfPicture: {
    html: picture,
    refused: '.k{width:300px;height:300px;object-fit:scale-down}',
    followed: '.k{width:300px;height:150px;object-fit:cover}',
  },
  oneShape: {
    html: picture,
    refused: `.k{width:300px;height:200px;object-fit:cover}${narrow('.k{height:100px}')}`,
    followed: `.k{width:300px;height:150px;object-fit:cover}${narrow('.k{width:200px;height:100px}')}`,
  },
  cropFirst: {
    html: picture,
    refused: '.k{width:300px;height:200px;object-fit:cover}',
    followed: '.k{width:300px;height:auto}',
  },
  markerOfItem: {
    html: '<ul class="k"><li>One</li><li>Two</li></ul>',
    refused: '.k{display:flex;gap:20px}',
    followed: '.k{display:flex;gap:20px;list-style:none}',
  },
  gridPlace: {
    html: grid,
    refused: '.a{grid-area:side}',
    followed: '.k{grid-template-areas:"side other"}.a{grid-area:side}',
  },
  gridColumns: {
    html: grid,
    refused: `.a{grid-column:2}${narrow('.k{grid-template-columns:1fr}')}`,
    followed: `.a{grid-column:2}${narrow('.k{grid-template-columns:1fr}.a{grid-column:auto}')}`,
  },
  rowsBeside: {
    html: `<div class="grid k"><div class="a">One</div><div>Two</div><div>Three</div><div>Four</div><div>Five</div></div>`,
    refused: '.k{grid-template-columns:1fr 1fr 1fr}.a{grid-row:span 2}',
    followed: '.k{grid-template-columns:1fr 2fr}.a{grid-row:span 4}',
  },
  gapInPixels: { html: grid, refused: '.k{row-gap:5%}', followed: '.k{row-gap:12px}' },
  equalLines: {
    html: three,
    refused: '.k{flex-wrap:wrap;justify-content:center}.k>div{width:45%;background:#eee}',
    followed: '.k{flex-wrap:wrap;justify-content:center;align-items:flex-start}.k>div{width:45%;background:#eee}',
  },
  pictureStretched: {
    html: `<div class="row k"><img src="assets/icon.png" alt="i" width="40"><div class="b">${text} ${text}</div></div>`,
    refused: '.b{flex:1}',
    followed: '.b{flex:1}.k{align-items:flex-start}',
  },
  blocksOnceStacked: {
    html: '<div class="row k"><span class="a">One</span><span class="b">Two</span></div>',
    refused: `.k>span{flex:1}${narrow('.k{display:block}')}`,
    followed: `.k>span{flex:1}${narrow('.k{display:block}.k>span{display:block}')}`,
  },
  lowBox: { html: block, refused: '.k{height:40px}', followed: '.k{min-height:40px;padding:1px 0}' },
  lastMargin: { html: block, refused: '.k{min-height:90px}', followed: '.k{min-height:90px}.k p{margin-bottom:0}' },
  floatAlone: {
    html: '<p><span class="k">Alone</span></p>',
    refused: '.k{float:left}',
    followed: '.k{float:left}',
    then: `<p><span class="k">Alone </span>${text} ${text}</p>`,
  },
  unevenRows: { html: grid, refused: '.k{height:300px}', followed: '' },
  alignByMargins: { html: block, refused: '.k{justify-self:center}', followed: '.k{width:200px;margin:0 auto}' },
  widthOfRow: { html: row, refused: '.k{width:fit-content}.k>div{flex:1}', followed: '.k{width:280px}.k>div{flex:1}' },
  boundOfGrowing: {
    html: long,
    refused: '.k>div{flex:1;max-width:250px}',
    followed: '.a{flex:0 0 140px}.b{flex:1}',
  },
  keepsInColumn: { html: long, refused: '.k>div{flex:1}.a{white-space:nowrap}', followed: '.k>div{flex:1}' },
  longWord: {
    html: '<div class="row k"><div class="a">members@alderlane.example</div><div class="b">Two</div></div>',
    refused: '.k>div{flex:1}',
    followed: '.k>div{flex:1;overflow-wrap:anywhere}',
  },
  widerThanColumn: { html: grid, refused: '.a{width:240px}', followed: '.a{max-width:240px}' },
  columnsLeast: {
    html: row,
    refused: '.a{flex:0 0 200px}.b{flex:0 0 200px}',
    followed: `.a{flex:0 0 200px}.b{flex:0 0 200px}${narrow('.k{display:block}')}`,
  },
  tableAsRow: {
    html: '<table class="k"><tr><td>One</td><td>Two</td></tr></table>',
    refused: '.k{display:flex}',
    followed: '.k{display:flex}.k>div{flex:1}',
    then: '<div class="k"><div>One</div><div>Two</div></div>',
  },
  floatWidth: {
    html: `<div class="k"><div class="a">One</div><div class="b">Two</div><br class="c"></div>`,
    refused: '.a,.b{float:left}.c{clear:both}',
    followed: '.k{display:flex;gap:12px}',
    then: '<div class="k"><div class="a">One</div><div class="b">Two</div></div>',
  },
  floatCleared: {
    html: `<div class="k"><div class="a">One</div><div class="b">Two</div></div>`,
    refused: '.a,.b{float:left;width:50%}',
    followed: '.k{overflow:hidden}.a,.b{float:left;width:50%}',
  },
  floatBesideText: {
    html: '<div class="k"><img class="a" src="assets/icon.png" alt="i" width="64" height="64"><table><tr><td>One</td></tr></table></div>',
    refused: '.a{float:left}',
    followed: '.k{display:flex}.b{flex:1}',
    then: '<div class="k"><img class="a" src="assets/icon.png" alt="i" width="64" height="64"><div class="b">One</div></div>',
  },
  gridEverywhere: {
    html: grid,
    refused: narrow('.k{display:flex}'),
    followed: narrow('.k{grid-template-columns:1fr}'),
  },
  gridFlow: { html: grid, refused: '.k{grid-auto-flow:dense}', followed: '' },
  gridRows: { html: grid, refused: '.k{grid-template-rows:40px 200px}', followed: '' },
  fillRow: {
    html: grid,
    refused: '.k{grid-template-columns:100px 1fr;justify-content:center}',
    followed: '.k{grid-template-columns:100px 1fr}',
  },
  hideGrid: {
    html: grid,
    refused: `.a{display:none}${narrow('.a{display:block}')}${'@media(max-width:400px){.a{display:none}}'}`,
    followed: '.k{margin:0}',
  },
  gridGap: { html: grid, refused: '.a{margin-left:-4px}', followed: '.k{gap:4px}' },
  withinLine: {
    html: '<p>One <span class="k">two</span></p>',
    refused: '.k{display:ruby}',
    followed: '.k{display:inline-block}',
  },
  rowInNative: {
    html: '<ul><li>One</li><li><div class="k"><div class="a">One</div><div class="b">Two</div></div></li></ul>',
    refused: '.k{display:flex}.k>div{flex:1}',
    followed: '.k{display:flex}.k>div{flex:1}',
    then: '<ul><li>One</li></ul><div class="k"><div class="a">One</div><div class="b">Two</div></div>',
  },
  ownHover: {
    html: '<p class="a">One <a class="k" href="https://alderlane.example/">two</a></p>',
    refused: '.a:hover .k{color:#c00}',
    followed: '.k:hover{color:#c00}',
  },
  borderBox: {
    html: '<div class="row k"><ul class="a"><li>One</li></ul><div class="b">Two</div></div>',
    refused: '.a{width:50%}.b{flex:1}',
    followed: '.a{width:50%;box-sizing:border-box}.b{flex:1}',
  },
  equalEdges: {
    html: long,
    refused: '.a{flex:1;border:2px solid #c63;border-radius:8px}.b{flex:2}',
    followed: '.a{flex:1}.b{flex:2}',
  },
  wholeWeights: {
    html: three,
    refused: '.a{flex:0 0 20%}.b{flex:1}.c{flex:3.14159}',
    followed: '.a{flex:0 0 20%}.b{flex:1}.c{flex:3}',
  },
  wrapNoStacking: {
    html: three,
    refused: `.k{flex-wrap:wrap;gap:8px}${narrow('.k{flex-direction:column}')}`,
    followed: '.k{flex-wrap:wrap;gap:8px}',
  },
  wrapSides: {
    html: three,
    refused: '.k{flex-wrap:wrap;justify-content:space-between}',
    followed: '.k{flex-wrap:wrap;gap:8px;justify-content:center}',
  },
  rowGap: {
    html: three,
    refused: '.k{flex-wrap:wrap}.k>div{margin-left:-2px}',
    followed: '.k{flex-wrap:wrap;gap:8px}',
  },
  itemOrder: {
    html: three,
    refused: `.k{flex-wrap:wrap}${narrow('.a{order:2}')}`,
    followed: '.k{flex-wrap:wrap}',
  },
  oneGrows: { html: three, refused: '.a{flex:0.5}', followed: '.a{flex:1}' },
  columnDirection: {
    html: three,
    refused: '.k{flex-direction:row-reverse;gap:8px}',
    followed: '.k{gap:8px}',
  },
  wrapEverywhere: {
    html: three,
    refused: `.k{gap:8px}${narrow('.k{flex-wrap:wrap}')}`,
    followed: '.k{gap:8px;flex-wrap:wrap}',
  },
  widthOfLongText: { html: long, refused: '.b{flex:1}', followed: '.a{flex:0 0 160px}.b{flex:1}' },
  stretchStacked: {
    html: row,
    refused: `.k{align-items:center}.k>div{flex:1}${narrow('.k{flex-direction:column}')}`,
    followed: `.k{align-items:center}.k>div{flex:1}${narrow('.k{flex-direction:column;align-items:stretch}')}`,
  },
  wideSideBySide: {
    html: row,
    refused: `.k{flex-direction:column}.k>div{flex:1}${narrow('.k{flex-direction:row}')}`,
    followed: `.k>div{flex:1}${narrow('.k{flex-direction:column}')}`,
  },
  oneDirection: {
    html: row,
    refused: `.k>div{flex:1}${narrow('.k{flex-direction:row-reverse}')}`,
    followed: `.k>div{flex:1}${narrow('.k{flex-direction:column}')}`,
  },
  stackInsteadOfWrap: {
    html: row,
    refused: '.k{flex-wrap:wrap}.k>div{flex:1}',
    followed: `.k>div{flex:1}${narrow('.k{flex-direction:column}')}`,
  },
  oneDistribution: {
    html: three,
    refused: `.k{justify-content:space-between}.k>div{flex:0 0 30%}${narrow('.k{justify-content:center}')}`,
    followed: '.k{justify-content:space-between}.k>div{flex:0 0 30%}',
  },
  columnGap: { html: row, refused: '.k>div{flex:1}.a{margin-right:-4px}', followed: '.k{gap:4px}.k>div{flex:1}' },
  noScrolling: {
    html: `<div class="k">${text} ${text}</div>`,
    refused: '.k{overflow:auto;white-space:nowrap}',
    followed: '.k{overflow:auto}',
  },
  columnOrder: {
    html: three,
    refused: `.k>div{flex:1}${narrow('.k{flex-direction:column}.c{order:-1}')}`,
    followed: `.k>div{flex:1}${narrow('.k{flex-direction:column-reverse}')}`,
  },
  basisOnceStacked: {
    html: row,
    refused: `.a{flex:0 0 40%}.b{flex:1}${narrow('.k{flex-direction:column}')}`,
    followed: `.a{flex:0 0 40%}.b{flex:1}${narrow('.k{flex-direction:column}.a{flex:none;width:100%}.b{flex:none}')}`,
  },
  weights: { html: row, refused: '.k>div{flex:0.5}', followed: '.k>div{flex:1}' },
  growOrWidth: { html: row, refused: '.k>div{flex:1 1 160px}', followed: '.a{flex:0 0 160px}.b{flex:1}' },
  widthOfText: { html: three, refused: '.a{flex:auto}.b{flex:auto}', followed: '.a{flex:1}.b{flex:1}.c{flex:1}' },
  notTaken: { html: block, refused: '.k{justify-items:center}', followed: '' },
  mediaQuery: {
    html: block,
    refused: '@media (sunlight: strong){.k{color:#c00}}',
    followed: '@media (max-width: 600px){.k{color:#c00}}',
  },
};

/** By the rule of what tables cannot do, in the words of its table. */
export const rulePieces: Readonly<Record<string, AdvicePiece>> = {
  'position: absolute, fixed, sticky': {
    html: `<div class="k"><span class="a">New</span>${picture}</div>`,
    refused: '.a{position:absolute;top:8px;left:8px}',
    followed: '.a{display:block}',
  },
  'top, right, bottom, left of what is position: relative': {
    html: block,
    refused: '.k{position:relative;top:8px}',
    followed: '.k{padding-top:8px}',
  },
  'display: contents, ruby; inline-flex and inline-grid of more than short text and pictures of a fixed size': {
    html: '<p>Open <span class="k"><b class="a">One</b><b class="b">Two</b></span> today</p>',
    refused: '.k{display:inline-flex;gap:8px}.a{width:50%}',
    followed: '.k{display:inline-flex;gap:8px}',
  },
  'transform, filter, clip-path, mask, mix-blend-mode': {
    html: picture,
    refused: '.k{filter:blur(2px)}',
    followed: '',
  },
  'opacity below 1 of pictures, and of what lies over a picture': {
    html: picture,
    refused: '.k{opacity:.5}',
    followed: '',
  },
  'colours that refer to others: rgb(from …), and calc() in colours': {
    html: block,
    refused: '.k{color:rgb(from #2f5d50 r g b)}',
    followed: '.k{color:#2f5d50}',
  },
  'overflow: scroll, and overflow: auto beside a height': {
    html: block,
    refused: '.k{overflow:auto;height:60px}',
    followed: '.k{overflow:auto}',
  },
  'text-overflow: ellipsis, line-clamp': {
    html: '<p class="k">Saws and planes</p>',
    refused: '.k{overflow:hidden;text-overflow:ellipsis}',
    followed: '.k{overflow:hidden}',
  },
  'columns, column-count, column-width': {
    html: '<div class="k"><div>One</div><div>Two</div></div>',
    refused: '.k{columns:2}',
    followed: '.k{display:flex}.k>div{flex:1}',
  },
  'grid, grid-template, grid-auto-rows, grid-auto-columns': {
    html: grid,
    refused: ".k{grid-template:'a b' auto / 1fr 1fr}",
    followed: '.k{grid-template-columns:1fr 1fr}',
  },
  'writing-mode other than horizontal-tb': {
    html: '<p class="k">One</p>',
    refused: '.k{writing-mode:vertical-rl}',
    followed: '',
    then: '<p class="k"><img src="assets/icon.png" alt="One" width="64" height="64"></p>',
  },
  'aspect-ratio on anything but a picture': {
    html: '<div class="k"><p class="a">One</p></div>',
    refused: '.k{aspect-ratio:2/1;background:#eef}.a{margin:0}',
    followed: '.k{min-height:200px;background:#eef}.a{margin:0}',
  },
  'container-type, container-name': {
    html: block,
    refused: '.k{container-type:inline-size}',
    followed: '@media(max-width:600px){.k{padding:8px}}',
  },
  'negative margins, but for those of rows that reach no further than the padding around them': {
    html: block,
    refused: '.k{margin-top:-8px}',
    followed: '.k{margin-top:0}',
  },
  'padding, margin in %': { html: grid, refused: '.a{padding:5%}', followed: '.a{padding:16px}' },
  'height, min-height in %': {
    html: '<div class="row k"><div class="a"><p>One</p></div><div class="b">Two</div></div>',
    refused: '.k>div{flex:1}.a p{height:100%}',
    followed: '.k>div{flex:1}.a p{height:60px}',
  },
  'lengths in vw, vh, ex, ch': { html: block, refused: '.k{max-width:40ch}', followed: '.k{max-width:20em}' },
  'calc(), min(), max(), clamp() that do not come to px or a percentage': {
    html: grid,
    refused: '.a{width:max(100px,50%)}',
    followed: '.a{width:50%}',
  },
  'max-height on anything but a picture': { html: block, refused: '.k{max-height:40px}', followed: '' },
  'visibility: hidden, collapse': {
    html: block,
    refused: narrow('.k{visibility:hidden}'),
    followed: narrow('.k{display:none}'),
  },
  'align-content': {
    html: block,
    refused: '.k{align-content:center;min-height:200px}',
    followed: '.k{padding:40px 0}',
  },
  'min-width other than 0': {
    html: row,
    refused: '.k>div{flex:1}.a{min-width:200px}',
    followed: '.a{width:160px}.b{flex:1}',
  },
};
