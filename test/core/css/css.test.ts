import { describe, expect, test } from '@jest/globals';
import { matchesGrammar } from '../../../src/core/css/syntax/css-dictionary.js';
import { reduceCalc } from '../../../src/core/css/values/calc.js';
import { indexElements } from '../../../src/core/css/selectors/element-index.js';
import { readWidthCondition } from '../../../src/core/css/cascade/media.js';
import { untagged } from '../../../src/core/css/syntax/tagged-values.js';
import { compileSelectorList } from '../../../src/core/css/selectors/selector.js';
import { judgeValue } from '../../../src/core/css/values/validity.js';
import { expandShorthand } from '../../../src/core/css/values/shorthands.js';
import { parseStyleSheet } from '../../../src/core/css/syntax/style-sheet.js';
import { wholeSheet, type CssItem } from '../../../src/core/css/syntax/css-items.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { attribute } from '../../../src/core/html/tree.js';
import { covers, overlaps } from '../../../src/core/inline/property-sets.js';
import { SourceText } from '../../../src/core/text/source-text.js';

function outline(items: readonly CssItem[], source: SourceText): string {
  return items
    .map((item) => {
      if (item.kind === 'declaration') return `${item.property}:${item.value}${item.important ? '!' : ''};`;
      const head = item.kind === 'rule' ? source.slice(item.prelude) : `@${item.name} ${source.slice(item.prelude)}`;
      return item.items === null ? `${head};` : `${head}{${outline(item.items, source)}}`;
    })
    .join('');
}

const sheets: [name: string, css: string, outline: string, complaints: number][] = [
  ['rules and declarations', 'a { b : c ; d:e!important}', 'a{b:c;d:e!;}', 0],
  ['white space and comments fold', 'a{b:c /* x */  d; e:f/**/g}', 'a{b:c d;e:f/**/g;}', 0],
  ['strings and functions hold delimiters', 'a{b:";}" url(x;y) (1;2)}', 'a{b:";}" url(x;y) (1;2);}', 0],
  [
    'nested rules, with and without &',
    'a{b:c;&:hover{d:e}i{f:g}@media x{h:j}}',
    'a{b:c;&:hover{d:e;}i{f:g;}@media x{h:j;}}',
    0,
  ],
  ['a broken declaration ends at its semicolon', 'a{;:x;b:c;nonsense;d:e}', 'a{b:c;d:e;}', 2],
  ['an unclosed block ends with the sheet', 'a{b:c', 'a{b:c;}', 1],
  ['an unclosed string at the end is closed', 'a{b:"c', 'a{b:"c";}', 1],
  ['a broken string voids its declaration', 'a{b:"c\n;d:e}', 'a{d:e;}', 1],
  ['a rule without a block', 'a{b:c} .x', 'a{b:c;}', 1],
  ['at-rules without a block', '@import "x.css"; @layer a, b;a{b:c}', '@import "x.css";@layer a, b;a{b:c;}', 0],
  ['opaque at-rules are not looked into', '@font-face{src:url(x)}', '@font-face {}', 0],
  ['custom properties may hold braces', 'a{--b:{c:d};e:f}', 'a{--b:{c:d};e:f;}', 0],
  ['markers of old', '<!-- a{b:c} -->', 'a{b:c;}', 0],
];

describe('the grammar of style sheets', () => {
  test.each(sheets)('%s', (_, css, expected, complaints) => {
    const source = new SourceText('x.css', css);
    let count = 0;
    const items = parseStyleSheet(wholeSheet(source), () => (count += 1));
    expect([outline(items, source), count]).toEqual([expected, complaints]);
  });

  test('20,000 open blocks and brackets end in bounded time', () => {
    for (const piece of ['a{', '(', '@media x{']) {
      const css = piece.repeat(3000);
      expect(() => parseStyleSheet(wholeSheet(new SourceText('x', css)), () => undefined)).not.toThrow();
    }
  });
});

const page = `<html lang="en"><body id="b"><div class="a b" data-k="X y" title="Tip"><p>one</p><p class="c"></p><span>s</span><p><a href="#">l</a></p></div>
<ul><li class="x">1</li><li>2</li><li class="x">3</li><li class="x">4</li></ul><td></body></html>`;

const selectors: [selector: string, matched: number | null, conditional: boolean][] = [
  ['p', 3, false],
  ['div > p:first-child', 1, false],
  ['p + p', 1, false],
  ['p ~ p', 2, false],
  ['.a.b', 1, false],
  ['.A', 0, false],
  ['#b P', 3, false],
  ['[data-k~=y]', 1, false],
  ['[data-k="x y" i]', 1, false],
  ['[title^="tip"]', 0, false],
  [':is(.c, #b)', 2, false],
  [':where(p):not(.c)', 2, false],
  ['div:has(> p.c)', 1, false],
  ['p:has(+ span)', 1, false],
  ['li:nth-child(odd)', 2, false],
  ['li:nth-child(-n+2)', 2, false],
  ['li:nth-child(2 of .x)', 1, false],
  ['li:nth-last-child(1)', 1, false],
  ['p:nth-of-type(2)', 1, false],
  ['p:last-of-type', 1, false],
  ['span:only-of-type', 1, false],
  ['p:empty', 1, false],
  [':root', 1, false],
  ['p:lang(en)', 3, false],
  ['a:link', 1, false],
  ['a:hover', 1, true],
  ['p:not(:hover)', 3, true],
  ['p::before', 3, true],
  ['li:constructor', null, false],
  ['p, ::nonsense', null, false],
  ['p >', null, false],
  ['.\\61', 1, false],
];

describe('selectors', () => {
  const { doc } = parseHtml(new SourceText('x', page), []);
  const { elements } = indexElements(doc);
  const context = { ...untagged, nesting: null, relativeToNesting: false, takesCombinator: false, scopeRoot: null };
  test.each(selectors)('%s', (text, matched, conditional) => {
    const list = compileSelectorList(text, context);
    const count =
      list === null ? null : elements.filter((element) => list.some((selector) => selector.matches(element))).length;
    expect([count, list?.some((selector) => selector.conditional) ?? false]).toEqual([matched, conditional]);
  });

  describe('lists of types and classes', () => {
    test.each([
      ['p', [['p', 0, 1]]],
      [
        ' .a ,\n\tH1,td',
        [
          ['.a', 1, 3],
          ['H1', 7, 9],
          ['td', 10, 12],
        ],
      ],
      ['.a_b-c', [['.a_b-c', 0, 6]]],
    ])('%j stands where it is written', (text, expected) => {
      const compiled = compileSelectorList(text, context);
      expect(compiled?.map(({ text: written, start, end }) => [written, start, end])).toEqual(expected);
    });

    test.each(['p,', ',p', 'p,,b', '.', '.1', 'p\u00a0,'])('%j is none', (text) =>
      expect(compileSelectorList(text, context)).toBeNull(),
    );
  });

  test('in quirks mode classes match without case', () => {
    const list = compileSelectorList('.A', { ...context, quirks: true }) ?? [];
    const quirky = indexElements({ ...doc, quirks: true }).elements;
    expect(quirky.filter((element) => list[0]?.matches(element)).map(({ node }) => attribute(node, 'class'))).toEqual([
      'a b',
    ]);
  });
});

const conditions: [string, number[] | null, number[]][] = [
  ['(max-width: 600px)', [320, 600], [600]],
  ['screen and (min-width: 601px)', [601, 1000], [600]],
  ['(400px < width <= 600px)', [600], [400, 600]],
  ['not all and (max-width: 600px)', [601, 1000], [600]],
  ['(max-width: 37.5em)', [320, 600], [600]],
  ['(width >= 600px) or (width < 400px)', [320, 600, 601, 1000], [599, 399]],
  ['(prefers-color-scheme: dark)', null, []],
  ['print', null, []],
];

test.each(conditions)('the media query %s', (text, widths, thresholds) => {
  const condition = readWidthCondition(text);
  expect(condition === null ? null : [320, 600, 601, 1000].filter((width) => condition.matches(width))).toEqual(widths);
  expect([...(condition?.thresholds ?? [])]).toEqual(thresholds);
});

const shorthands: [string, string, Record<string, string>][] = [
  ['margin', '1px 2px', { 'margin-top': '1px', 'margin-right': '2px', 'margin-bottom': '1px', 'margin-left': '2px' }],
  ['flex', '2', { 'flex-grow': '2', 'flex-shrink': '1', 'flex-basis': '0px' }],
  ['flex', '0 0 160px', { 'flex-grow': '0', 'flex-shrink': '0', 'flex-basis': '160px' }],
  ['gap', '4px 8px', { 'row-gap': '4px', 'column-gap': '8px' }],
  [
    'border-left',
    'min(1px, .5em) solid red',
    { 'border-left-width': 'min(1px, .5em)', 'border-left-style': 'solid', 'border-left-color': 'red' },
  ],
  [
    'background',
    'red url(a.png) calc(50% - 2px) 0 / calc(10px + 1em)',
    {
      'background-color': 'red',
      'background-image': 'url(a.png)',
      'background-position': 'calc(50% - 2px) 0',
      'background-size': 'calc(10px + 1em)',
      'background-repeat': 'repeat',
    },
  ],
  ['border-top', 'solid red', { 'border-top-width': 'medium', 'border-top-style': 'solid', 'border-top-color': 'red' }],
  [
    'font',
    'bold 16px/1.5 Georgia, serif',
    {
      'font-style': 'normal',
      'font-variant': 'normal',
      'font-weight': 'bold',
      'line-height': '1.5',
      'font-size': '16px',
      'font-family': 'Georgia, serif',
    },
  ],
];

test.each(shorthands)('the shorthand %s: %s', (property, value, longhands) => {
  expect(Object.fromEntries(expandShorthand(property, value))).toEqual(longhands);
});

const calculations: [string, string][] = [
  ['calc(10px + 2*3px)', '16px'],
  ['calc((1px + 1px) * 2)', '4px'],
  ['calc(100% - 4px)', 'calc(100% - 4px)'],
  ['0 calc(1em / 2) calc(-1 * 2px)', '0 0.5em -2px'],
  ['calc(1px / 0)', 'calc(1px / 0)'],
];

test.each(calculations)('%s', (value, reduced) => expect(reduceCalc(value)).toBe(reduced));

const relations: [string, string, boolean, boolean][] = [
  ['margin', 'margin-left', true, true],
  ['margin-left', 'margin', true, false],
  ['margin-left', 'margin-right', false, false],
  ['margin', 'margin-inline-start', true, true],
  ['margin-left', 'margin-inline-start', true, false],
  ['border', 'border-image-source', true, true],
  ['border', 'border-radius', false, false],
  ['all', 'color', true, true],
  ['all', 'direction', false, false],
  ['font', 'line-height', true, true],
  ['inline-size', 'width', true, false],
];

test.each(relations)('%s and %s', (a, b, overlap, cover) =>
  expect([overlaps(a, b), covers(a, b)]).toEqual([overlap, cover]),
);

describe('what is told without the dictionary, it says, too', () => {
  const sides = ['', '-top', '-right', '-bottom', '-left'];
  const colored = ['color', 'background', 'background-color', ...sides.map((side) => `border${side}-color`)];
  const measured = [
    ...['width', 'height', 'max-width', 'max-height', 'min-width', 'min-height', 'font-size', 'line-height'],
    ...sides.flatMap((side) => [`padding${side}`, `margin${side}`, `border${side}-width`]),
  ];

  test.each([
    [colored, ['#fff', '#0A1b2C'], ['#ff', '#ggg']],
    [measured, ['0', '12px', '1.5em'], ['12pz', '#fff']],
  ])('%j', (names, right, wrong) => {
    for (const name of names) {
      expect([name, right.map((value) => judgeValue(name, value))]).toEqual([name, right.map(() => 'valid')]);
      expect([name, right.map((value) => matchesGrammar(name, value))]).toEqual([name, right.map(() => true)]);
      expect([name, wrong.map((value) => judgeValue(name, value))]).toEqual([name, wrong.map(() => 'invalid')]);
    }
  });
});

test('the dictionary of values', () => {
  expect([matchesGrammar('color', 'red'), matchesGrammar('color', 'nonsense'), matchesGrammar('mso-x', 'y')]).toEqual([
    true,
    false,
    null,
  ]);
});
