import { describe, expect, test } from '@jest/globals';
import type { Finding } from '../../../src/core/findings/finding.js';
import type { TagDelimiters } from '../../../src/core/html/tags.js';
import { inlineText } from '../../support/inline-text.js';
import { templateDelimiters } from '../../support/style-vocabulary.js';
import { styledDocument } from '../../support/styled-documents.js';

/** Wraps a style sheet and a body; the result shows what became of both. */
function result(css: string, body: string): string {
  const out = inlineText(`<!doctype html><html><head><style>${css}</style></head><body>${body}</body></html>`);
  return out.replace('<!doctype html><html><head>', '').replace('</head><body>', ' | ').replace('</body></html>', '');
}

type Row = [name: string, css: string, body: string, expected: string];

const rows: Row[] = [
  ['a rule goes, and takes its style element', 'p{color:red}', '<p>x</p>', ' | <p style="color:red">x</p>'],
  [
    'the more specific rule wins, whatever the order',
    '#i{color:red}p{color:blue}',
    '<p id="i">x</p>',
    ' | <p id="i" style="color:red">x</p>',
  ],
  ['invalid values are dropped', 'p{color:red;color:nonsense}', '<p>x</p>', ' | <p style="color:red">x</p>'],
  [
    'a longhand after its shorthand stays behind it',
    'p{margin:0}p{margin-left:4px}',
    '<p>x</p>',
    ' | <p style="margin:0;margin-left:4px">x</p>',
  ],
  ['a shorthand does its longhands over', 'p{margin-left:4px}p{margin:0}', '<p>x</p>', ' | <p style="margin:0">x</p>'],
  [
    'fallbacks of one block are kept',
    'p{background:#eee;background:linear-gradient(red,blue)}',
    '<p>x</p>',
    ' | <p style="background:#eee;background:linear-gradient(red,blue)">x</p>',
  ],
  [
    'an existing style wins over rules',
    'p{color:red;margin:0}',
    '<p style="color:blue">x</p>',
    ' | <p style="margin:0;color:blue">x</p>',
  ],
  [
    'an important rule wins over an existing style',
    'p{color:red!important}',
    '<p style="color:blue">x</p>',
    ' | <p style="color:red">x</p>',
  ],
  [
    'custom properties are put in',
    ':root{--c:teal}p{color:var(--c);margin:var(--none,4px)}',
    '<p>x</p>',
    ' | <p style="color:teal;margin:4px">x</p>',
  ],
  [
    'calculations are done where units agree',
    'p{width:calc(10px + 2*3px);margin:calc(100% - 4px)}',
    '<p>x</p>',
    ' | <p style="width:16px;margin:calc(100% - 4px)">x</p>',
  ],
  [
    'layers count',
    '@layer a,b;@layer b{p{color:red}}@layer a{#i{color:blue}}',
    '<p id="i">x</p>',
    ' | <p id="i" style="color:red">x</p>',
  ],
  [
    'nested rules are resolved',
    '.a{color:red;& b{color:blue}> i{color:green}}',
    '<p class="a"><b>x</b><i>y</i></p>',
    ' | <p class="a" style="color:red"><b style="color:blue">x</b><i style="color:green">y</i></p>',
  ],
  [
    'a conditional rule becomes important where it has to beat an inlined one',
    'p{color:red}@media (max-width:600px){p{color:blue;margin:0}}',
    '<p>x</p>',
    '<style>@media (max-width:600px){p{color:blue!important;margin:0}}</style> | <p style="color:red">x</p>',
  ],
  [
    'one that always loses stays as it is',
    '#i{color:red}@media (max-width:600px){p{color:blue}}',
    '<p id="i">x</p>',
    '<style>@media (max-width:600px){p{color:blue}}</style> | <p id="i" style="color:red">x</p>',
  ],
  [
    'where it wins on one element and loses on another, the winner becomes important too',
    'p{color:red}#i{color:green}@media (max-width:600px){p{color:blue}}',
    '<p>x</p><p id="i">y</p>',
    '<style>@media (max-width:600px){p{color:blue!important}}</style> | <p style="color:red">x</p><p id="i" style="color:green!important">y</p>',
  ],
  [
    'of a selector list, what is inlined goes',
    '.a,.b:hover,.none{color:red}',
    '<p class="a b">x</p>',
    '<style>.b:hover,.none{color:red!important}</style> | <p class="a b" style="color:red">x</p>',
  ],
  [
    'rules that match nothing stay',
    '.quirk{color:red}p{margin:0}',
    '<p>x</p>',
    '<style>.quirk{color:red}</style> | <p style="margin:0">x</p>',
  ],
  [
    'font faces, keyframes and imports stay',
    '@font-face{font-family:K;src:url(k.woff2)}p{margin:0}',
    '<p>x</p>',
    '<style>@font-face{font-family:K;src:url(k.woff2)}</style> | <p style="margin:0">x</p>',
  ],
  [
    'what only a word processor reads is kept',
    'td{mso-line-height-rule:exactly}',
    '<table><tbody><tr><td>x</td></tr></tbody></table>',
    ' | <table><tbody><tr><td style="mso-line-height-rule:exactly">x</td></tr></tbody></table>',
  ],
  [
    'old attributes are added, never over the author’s',
    'td{background-color:#fff;text-align:center;width:50px}',
    '<table><tbody><tr><td width="9">x</td></tr></tbody></table>',
    ' | <table><tbody><tr><td width="9" bgcolor="#ffffff" align="center" style="background-color:#fff;text-align:center;width:50px">x</td></tr></tbody></table>',
  ],
  [
    'elements without a tag keep their rules in the head',
    'tbody{color:red}',
    '<table><tr><td>x</td></tr></table>',
    '<style>tbody{color:red}</style> | <table><tr><td>x</td></tr></table>',
  ],
  [
    'container queries and starting styles are conditions',
    'p{color:red}@container (min-width:300px){p{color:blue}}@starting-style{p{color:teal}}',
    '<p>x</p>',
    '<style>@container (min-width:300px){p{color:blue!important}}@starting-style{p{color:teal!important}}</style> | <p style="color:red">x</p>',
  ],
  [
    'a state does not hide the weaker selector that holds without it',
    'p{margin:0}@media (max-width:600px){p,p:hover{margin:4px}}',
    '<p>x</p>',
    '<style>@media (max-width:600px){p,p:hover{margin:4px!important}}</style> | <p style="margin:0">x</p>',
  ],
  [
    'what revert-layer rolls back stays rolled back',
    '@media (max-width:600px){p{margin-left:4px}}p{margin:revert-layer}',
    '<p>x</p>',
    '<style>@media (max-width:600px){p{margin-left:4px}}</style> | <p style="margin:revert">x</p>',
  ],
  [
    'a custom property that a condition takes away keeps its reader in the head',
    'p{--c:red;color:var(--c)}@media (max-width:600px){p{--c:var(--none)}}',
    '<p>x</p>',
    '<style>p{--c:red;}@media (max-width:600px){p{--c:var(--none)}}\n.in-1:not(in){color:var(--c)!important}\n</style> | <p class="in-1" style="color:red">x</p>',
  ],
  [
    'what is added stands outside a sheet whose last rule is never closed',
    'p{--c:red;color:var(--c)}@media (max-width:600px){p{--c:var(--none)}}b:hover( {}',
    '<p>x</p>',
    '<style>p{--c:red;}@media (max-width:600px){p{--c:var(--none)}}b:hover( {}</style><style>\n.in-1:not(in){color:var(--c)!important}\n</style>\n | <p class="in-1" style="color:red">x</p>',
  ],
  [
    'a copy of a scoped rule stands outside of its scope, whose nearness would make it win',
    'b{--c:red;color:var(--c)}@media (max-width:9px){b{--c:var(--none)}}@scope (.a){b:hover{color:lime}}@media print{#i{color:blue}}',
    '<p class="a"><b id="i">x</b></p>',
    '<style>b{--c:red;}@media (max-width:9px){b{--c:var(--none)}}@scope (.a){b:hover{color:lime!important}}@media print{#i{color:blue!important}}\n' +
      '.in-1:not(#in-1).in-1:not(in){color:var(--c)!important}\nb:hover.in-1:not(#in-1){color:lime!important}\n@media print{#i.in-1.in-1:not(in){color:blue!important}}\n' +
      '</style> | <p class="a"><b id="i" class="in-1" style="color:red">x</b></p>',
  ],
  [
    'revert-layer uncovers an old attribute, which revert would not',
    'table{border:0}table{border-top:revert-layer}',
    '<table border="1"></table><table></table>',
    ' | <table border="1" style="border:0;border-top:revert-layer"></table><table style="border:0;border-top:revert"></table>',
  ],
  [
    'what a first line sets reaches the elements in it',
    'p{--n:1px}p::first-line{--n:4px}b{padding:var(--n)}',
    '<p><b>x</b></p>',
    '<style>p{--n:1px}p::first-line{--n:4px}</style> | <p><b style="padding:1px;padding:var(--n,1px)">x</b></p>',
  ],
  [
    'strings change their quotes',
    'p{font-family:"Trebuchet MS",serif}',
    '<p>x</p>',
    ` | <p style="font-family:'Trebuchet MS',serif">x</p>`,
  ],
];

describe('what inlining makes of rules', () => {
  test.each(rows)('%s', (_, css, body, expected) => expect(result(css, body)).toBe(expected));
});

test('a style element with data-inline="keep" is left alone, and one with media is conditional', () => {
  const html =
    '<style data-inline="keep">p{margin:0}</style><style>p{color:red}</style><style media="(max-width:600px)">p{color:blue}</style><p>x</p>';
  expect(inlineText(html)).toBe(
    '<style data-inline="keep">p{margin:0}</style><style media="(max-width:600px)">p{color:blue!important}</style><p style="color:red">x</p>',
  );
});

test('what is restated does not go into a style element that has a condition', () => {
  const html =
    '<style>@media (max-width:9px){p{color:red!important}}#a{color:blue!important}</style><style media="print">p{margin:0}</style><p id="a">x</p>';
  const out = inlineText(html);
  expect(out.slice(out.indexOf('<style media'))).toBe(
    '<style media="print">p{margin:0}</style><p id="a" style="color:blue!important">x</p>',
  );
});

test('a rule restated from a linked sheet finds its pictures from where the document stands', () => {
  const linked = new Map([
    ['styles/s.css', '@media (max-width:9px){p{background:url(a.png)!important}}#a{background:none!important}'],
  ]);
  const out = inlineText(
    '<style data-inline="keep">p{background:red}</style><link rel="stylesheet" href="styles/s.css"><p id="a">x</p>',
    { linked },
  );
  expect(out).toContain('p{background:url(styles/a.png)!important}');
});

test('an attribute that is written over keeps its quotes and the white space around them', () => {
  expect(inlineText(`<style>p{color:red;font-family:"A B"}</style><P STYLE = 'margin:0'>x</P>`)).toBe(
    `<P STYLE = 'color:red;font-family:"A B";margin:0'>x</P>`,
  );
});

const six = [
  '@{a ?? "b"}',
  '~~A?b c~~',
  '{{ a | default: "b" }}',
  '{% if a == "b" %}',
  '[= A / "b" ]',
  '(:a-b:)',
  '<ox:field name="a"/>',
  '#{person:a}',
  '$(a)',
];
const pair = (open: string, close: string, quotes: boolean, content: 'any' | 'name' = 'any'): TagDelimiters => ({
  open,
  close,
  quotes,
  content,
});
const delimiters = [
  pair('@{', '}', true),
  pair('~~', '~~', false),
  pair('{{', '}}', true),
  pair('{%', '%}', true),
  pair('[= ', ']', true),
  pair('(:', ':)', false, 'name'),
  pair('<ox:', '>', true),
  pair('#{', '}', true),
  pair('$(', ')', false, 'name'),
];

describe('losslessness', () => {
  test.each(six)(
    '%s stands between rows, in attributes, between attributes and in values, and nothing else changes',
    (tag) => {
      const html = `\r\n<P CLASS=a title='${tag}' >&eacute;&nbsp;<BR/><table>${tag}<tr ${tag}>${tag}<td class="a" style="width:${tag.replace(/"/g, "'")}">x</td></tr>${tag}</table><!--[if mso]><b class="a"><![endif]--><DIV class="a">unclosed ${tag}`;
      const expected = html
        .replace("title='" + tag + "'", `title='${tag}' style="color:red"`)
        .replace(/<td class="a" style="(.*?)">/, (_, style: string) => `<td class="a" style="color:red;${style}">`)
        .replace('<DIV class="a"', '<DIV class="a" style="color:red"');
      const out = inlineText(`<style>.a{color:red}</style>${html}`, { delimiters });
      expect(out).toBe(expected);
    },
  );

  test('a document that no rule touches comes out byte for byte', () => {
    const html =
      '<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN">\r\n<STYLE>.none { color : red }</STYLE>\r<p style = "COLOR:RED;;" Class=x>🛠 a&amp;b<br /><!-- c --><font color=red>y';
    expect(inlineText(html)).toBe(html);
  });

  test('only styles, style attributes and classes differ, on generated documents', () => {
    const bare = (html: string): string =>
      html
        // The quotes of a template tag end no attribute.
        .replaceAll('{{ color | default: "red; }" }}', '{{color}}')
        .replace(/<style[\s\S]*?<\/style>\n?|<link [^>]*>\n?/g, '')
        .replace(/ (?:style|bgcolor|align|width|height|valign|background|cellspacing)=(?:"[^"]*"|'[^']*')/g, '')
        .replace(/ class="in-\d+"/g, '')
        .replace(/(class\s*=\s*["'][^"']*?) in-\d+/gi, '$1');
    for (let seed = 1; seed <= 150; seed += 1) {
      const { html, linked } = styledDocument(seed);
      const inlined = inlineText(html, { linked, delimiters: templateDelimiters });
      expect(bare(inlined).replace(/[\r\n]+/g, '\n')).toBe(bare(html).replace(/[\r\n]+/g, '\n'));
    }
  });
});

describe('bounds', () => {
  test('5,000 levels deep', () => {
    const html = `<style>div div{color:red}</style>${'<div>'.repeat(5000)}x${'</div>'.repeat(5000)}`;
    expect(inlineText(html).match(/style="color:red"/g)).toHaveLength(4999);
  });

  test('a chain of custom properties that doubles is refused, not followed', () => {
    const chain = Array.from({ length: 40 }, (_, index) => `--v${index + 1}:var(--v${index}) var(--v${index})`).join(
      ';',
    );
    const findings: Finding[] = [];
    const out = inlineText(`<style>p{--v0:x;${chain};font-family:var(--v40)}</style><p>x</p>`, { findings });
    expect(out.length).toBeLessThan(10_000);
    expect(findings.map(({ code }) => code)).toContain('css-variable-empty');
  });

  const pathological: [name: string, html: string][] = [
    [
      'a chain of descendants that never ends',
      `<style>.x .a .a .a .a{color:red}</style>${'<div class=a>'.repeat(1500)}`,
    ],
    [
      ':has() at every level',
      `<style>div:has(.none){color:red}div:has(div .a .b){margin:0}</style>${'<div class=a>'.repeat(1000)}`,
    ],
    [
      'thousands of siblings',
      `<style>p:only-of-type{color:red}p:nth-child(2n of .a){margin:0}.z~p{top:0}</style>${'<p class=a>x'.repeat(4000)}`,
    ],
    [
      'hundreds of conditions on everything',
      `<style>${'@media (max-width:9px){*{color:red}}'.repeat(500)}p{color:red}</style>${'<p>x</p>'.repeat(500)}`,
    ],
    [
      'selectors in selectors',
      `<style>${':is('.repeat(3000)}a${')'.repeat(3000)}{color:red}p{width:${'calc('.repeat(3000)}1px}</style><p>x`,
    ],
    ['tags that never close', `<style>p{color:red}</style>${'{{x "'.repeat(10_000)}`],
  ];

  test.each(pathological)('%s ends in bounded time', (_, html) => {
    expect(inlineText(html, { delimiters: [pair('{{', '}}', true)] }).length).toBeGreaterThan(0);
  });

  test('an unclosed brace, string and comment end with the sheet', () => {
    for (const css of ['p{color:red', 'p{color:red;content:"x', 'p{color:red}/* open']) {
      expect(inlineText(`<style>${css}</style><p>x</p>`)).toMatch(/<p style="color:red(?:;content:'x')?">/);
    }
  });
});

test.each([
  [
    'max-width: 600px, print',
    'the media query "max-width: 600px" never holds: it cannot be read; did you mean "(max-width: 600px), print"?',
  ],
  [
    'print, (max-widht: 9px)',
    'the media query "(max-widht: 9px)" never holds: there is no feature "max-widht"; did you mean "print, (max-width: 9px)"?',
  ],
  ['print, screen and (max-width: 9px)', null],
  ['print,', null],
])('of the list %s the query that never holds is named', (list, expected) => {
  const findings: Finding[] = [];
  inlineText(`<style>@media ${list}{p{color:red}}</style><p>x</p>`, { findings });
  expect(findings.map(({ data }) => data['detail'])).toEqual(expected === null ? [] : [expected]);
});
