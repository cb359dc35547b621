import { describe, expect, test } from '@jest/globals';
import type { Finding } from '../../../src/core/findings/finding.js';
import type { TagDelimiters } from '../../../src/core/html/tags.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { checkTags } from '../../../src/core/html/structure/tag-check.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { inlineText } from '../../support/inline-text.js';

const delimiters: readonly TagDelimiters[] = [
  { open: '{{', close: '}}', quotes: true, content: 'any' },
  { open: '{%', close: '%}', quotes: true, content: 'any' },
];

/** What becomes of a style sheet and a body: the head, a bar, the body; and the codes of the findings. */
function inlined(css: string, body: string): [html: string, codes: string] {
  const findings: Finding[] = [];
  const page = `<html><head><style>${css}</style></head><body>${body}</body></html>`;
  const html = inlineText(page, { delimiters, findings })
    .replace('<html><head>', '')
    .replace('</head><body>', ' | ')
    .replace('</body></html>', '');
  return [html, findings.map(({ code }) => code).join(' ')];
}

type Row = [name: string, css: string, body: string, html: string, codes?: string];

const tagged: Row[] = [
  [
    'a tag as a value of the style attribute wins over a rule, and stands byte for byte',
    'tr{background-color:white;color:red}',
    '<table><tr style="background-color: {{ color }};"><td>x</td></tr></table>',
    ' | <table><tr style="color:red;background-color:{{ color }}"><td>x</td></tr></table>',
  ],
  [
    'a tag beside a custom property',
    '.c{--gap:4px;padding:1px;color:red}',
    '<table class="c" style="padding: var(--gap) 0; color: {{color}}"><tr><td>x</td></tr></table>',
    ' | <table class="c" style="padding:4px 0;color:{{color}}"><tr><td>x</td></tr></table>',
  ],
  [
    'a tag that is a whole declaration comes last',
    'p{color:red;margin:0}',
    '<p style="{{more}}">x</p>',
    ' | <p style="color:red;margin:0;{{more}}">x</p>',
  ],
  [
    'declarations between block tags stay between them',
    'p{color:red;margin:0}',
    '<p style="{{#if x}}color:blue{{/if}}">x</p>',
    ' | <p style="color:red;margin:0;{{#if x}}color:blue{{/if}}">x</p>',
  ],
  [
    'tags as values of a rule are inlined as they are written',
    'p{color:{{ink}};margin:{% if a %}0{% else %}1px{% endif %}}',
    '<p>x</p>',
    ' | <p style="color:{{ink}};margin:{% if a %}0{% else %}1px{% endif %}">x</p>',
  ],
  [
    'an important rule is written behind the tag that it beats',
    'p{color:red!important}',
    '<p style="color:{{own}}">x</p>',
    ' | <p style="color:{{own}};color:red">x</p>',
  ],
  [
    'a tag of a rule that loses everywhere is said to be left out',
    'p{color:{{ink}} }',
    '<p style="color:{{own}}">x</p>',
    ' | <p style="color:{{own}}">x</p>',
    'tag-left-out',
  ],
  [
    'a selector that reads an attribute with a tag',
    '[href~="{{url}}"]{color:red}',
    '<a href="{{url}}">x</a><a href="b">y</a>',
    ' | <a href="{{url}}" style="color:red">x</a><a href="b">y</a>',
  ],
  [
    'and is printed with its tag where its rule is split',
    `[data-tpl='{{#if x}}a{{/if}}']{color:red;&:hover{color:blue}}`,
    '<a data-tpl="{{#if x}}a{{/if}}">x</a>',
    `<style>[data-tpl='{{#if x}}a{{/if}}']{&:hover{color:blue!important}}</style> | <a data-tpl="{{#if x}}a{{/if}}" style="color:red">x</a>`,
  ],
];

/** What only the data decide stays in the head, and a finding says so. */
const undecided: Row[] = [
  [
    'a class that a tag completes',
    '.card-red{color:red}',
    '<p class="card-{{kind}}">x</p>',
    '<style>.card-red{color:red}</style> | <p class="card-{{kind}}">x</p>',
    'css-undecided',
  ],
  [
    'stripes over rows that repeat',
    'tr:nth-child(odd){color:red}',
    '<table>{{#each a}}<tr><td>x</td></tr>{{/each}}</table>',
    '<style>tr:nth-child(odd){color:red}</style> | <table>{{#each a}}<tr><td>x</td></tr>{{/each}}</table>',
    'css-undecided',
  ],
  [
    'a style sheet that tags cut into pieces',
    '{{#if x}}@media print{ {{/if}}p{color:blue}}',
    '<p>x</p>',
    '<style>{{#if x}}@media print{ {{/if}}p{color:blue}}</style> | <p>x</p>',
    'style-cut-by-tag css-undecided',
  ],
];

describe('template tags among styles', () => {
  test.each([...tagged, ...undecided])('%s', (_, css, body, html, codes = '') => {
    expect(inlined(css, body)).toEqual([html, codes]);
  });
});

const odd: Row[] = [
  [
    'a prefixed property is a property of its own',
    'p{-moz-border-radius:9px;color:red}',
    '<p style="border-radius:3px">x</p>',
    ' | <p style="-moz-border-radius:9px;color:red;border-radius:3px">x</p>',
  ],
  [
    'so is one that nobody knows',
    'p{x-own:1;color:red}',
    '<p style="color:blue">x</p>',
    ' | <p style="x-own:1;color:blue">x</p>',
  ],
  [
    'colours of the system',
    'p{color:red;color:WindowText;background:canvas}',
    '<p>x</p>',
    ' | <p style="color:WindowText;background:canvas">x</p>',
  ],
  [
    'a part of a position in the style attribute',
    'p{background-position:0 0}',
    '<p style="background-position-x:4px">x</p>',
    ' | <p style="background-position:0 0;background-position-x:4px">x</p>',
  ],
  [
    'all at once, before what is said after it',
    'p{all:unset;color:red}',
    '<p style="margin:0">x</p>',
    ' | <p style="all:unset;color:red;margin:0">x</p>',
  ],
  [
    'a list of selectors that ends with a comma is invalid as a whole',
    '.a, {color:red}p{margin:0}',
    '<p class="a">x</p>',
    '<style>.a, {color:red}</style> | <p class="a" style="margin:0">x</p>',
    'css-ignored',
  ],
  [
    'one invalid selector voids an important rule, so a condition needs no more than it says',
    '[x]:first, *{color:red!important}@media (max-width:9px){p{color:blue}}',
    '<p style="color:green">x</p>',
    '<style>[x]:first, *{color:red!important}@media (max-width:9px){p{color:blue}}</style> | <p style="color:green">x</p>',
    'css-ignored',
  ],
  [
    'a media query without parentheses',
    '@media max-width: 600px {p{color:red}}p{margin:0}',
    '<p>x</p>',
    '<style>@media max-width: 600px {p{color:red}}</style> | <p style="margin:0">x</p>',
    'css-ignored',
  ],
  [
    'a media query whose second part has none',
    '@media screen and max-width: 600px {p{color:red}}p{margin:0}',
    '<p>x</p>',
    '<style>@media screen and max-width: 600px {p{color:red}}</style> | <p style="margin:0">x</p>',
    'css-ignored',
  ],
  [
    'a custom property without a value',
    'p{--x:var(--none);color:var(--x)}',
    '<p>x</p>',
    ' | <p style="color:unset">x</p>',
    'css-variable-empty',
  ],
  [
    'of a list with rules nested in it, only what is not inlined stays important',
    '#i:hover,p{padding-top:4px;b{color:red!important}}',
    '<p id="i">x</p><p>y</p>',
    '<style>#i:hover{padding-top:4px!important}#i:hover,p{b{color:red!important}}</style> | <p id="i" style="padding-top:4px">x</p><p style="padding-top:4px">y</p>',
  ],
  [
    'an important rule for print beats the style attribute from the head',
    '@media print{p{color:red!important}}',
    '<p style="color:blue">x</p>',
    '<style>@media print{p{color:red!important}}</style> | <p style="color:blue">x</p>',
  ],
];

describe('odd and invalid CSS', () => {
  test.each(odd)('%s', (_, css, body, html, codes = '') => {
    expect(inlined(css, body)).toEqual([html, codes]);
  });

  test('rules with two selectors each, 32 deep, and rules 50 deep end in bounded time and space', () => {
    const pairs = `${'p, b { color: red; '.repeat(32)}${'}'.repeat(32)}`;
    const deep = `${'& { color: red; '.repeat(50)}${'}'.repeat(50)}`;
    for (const css of [pairs, `p{${deep}}`, `p{${deep.replaceAll('& ', '& &, b ')}}`]) {
      const findings: Finding[] = [];
      expect(inlineText(`<style>${css}</style><p><b>x</b></p>`, { findings }).length).toBeLessThan(10_000);
    }
  });

  test('a chain of 4,000 custom properties is followed to its end', () => {
    const chain = Array.from({ length: 4000 }, (_, index) => `--v${index + 1}:var(--v${index})`).join(';');
    const out = inlineText(`<style>p{--v0:red;${chain};color:var(--v4000)}</style><p>x</p>`);
    expect(out).toContain('color:red');
  });
});

test('a result in which a tag is gone, changed or new is told, whatever made it', () => {
  const checked = (before: string, after: string): string[] => {
    const findings: Finding[] = [];
    const { doc } = parseHtml(new SourceText('page.html', before), delimiters);
    checkTags(doc, after, (item) => findings.push(item));
    return findings.map(({ code, data, place }) => `${code} ${String(data['tag'])} at ${place?.span.start}`);
  };
  expect(checked('<p>{{a}} <b>{{b}}</b></p>', '<p>{{a}} <b>{{b}}</b></p>')).toEqual([]);
  expect(checked('<p>{{a}} <b>{{b}}</b></p>', '<p>{{a}} <b></b></p>')).toEqual(['tags-changed {{b}} at 12']);
  expect(checked('<p>{{a}} <b>{{b}}</b></p>', '<p>{{a}} <b>{{ b }}</b></p>')).toEqual(['tags-changed {{b}} at 12']);
  expect(checked('<p>{{a}}</p>', '<p>{{a}}{{c}}</p>')).toEqual(['tags-changed {{c}} at 0']);
  expect(checked('<p style="color:{{c}}">{{a}}</p>', '<p>{{a}}</p>')).toEqual(['tag-left-out {{c}} at 16']);
});
