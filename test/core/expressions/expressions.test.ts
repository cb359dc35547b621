import { describe, expect, test } from '@jest/globals';
import type { Finding } from '../../../src/core/findings/finding.js';
import { findTags, neutralDelimiters } from '../../../src/core/html/tags.js';
import { neutralDialect, type Dialect, type Spelling } from '../../../src/core/dialects/dialect.js';
import { parseExpression, type Expression } from '../../../src/core/expressions/expression.js';
import { usualBinding } from '../../../src/core/dialects/grammar.js';
import { checkBlocks, readNeutralTags } from '../../../src/core/dialects/read/read-neutral.js';
import { tagsInDialect } from '../../../src/core/dialects/write/write-tags.js';
import { SourceText } from '../../../src/core/text/source-text.js';

/** An expression with all its parentheses. */
function show(expression: Expression): string {
  switch (expression.kind) {
    case 'path':
      return expression.segments.join('.');
    case 'text':
      return JSON.stringify(expression.value);
    case 'number':
      return expression.written;
    case 'flag':
      return String(expression.value);
    case 'fallback':
      return `(${show(expression.value)} ?? ${show(expression.otherwise)})`;
    case 'filter':
      return `(${show(expression.value)} | ${expression.name}${expression.parameter === null ? '' : ` ${show(expression.parameter)}`})`;
    case 'conditional':
      return `(${show(expression.condition)} ? ${show(expression.yes)} : ${show(expression.no)})`;
    case 'comparison':
    case 'arithmetic':
      return `(${show(expression.left)} ${expression.operator} ${show(expression.right)})`;
    case 'and':
    case 'or':
      return `(${show(expression.left)} ${expression.kind === 'and' ? 'and' : 'or'} ${show(expression.right)})`;
    case 'not':
      return `(not ${show(expression.value)})`;
    case 'exists':
      return `(given ${show(expression.value)})`;
  }
}

const precedence: [string, string][] = [
  ['first_name', 'first_name'],
  [' loan . tool ', 'loan.tool'],
  ['x | upper ?? "t"', '((x | upper) ?? "t")'],
  ['(x ?? "t") | upper', '((x ?? "t") | upper)'],
  ['a or b and not c', '(a or (b and (not c)))'],
  ['(a or b) and c', '((a or b) and c)'],
  ['branch == "Mill Yard" and points >= 3', '((branch == "Mill Yard") and (points >= 3))'],
  ['vip ? "a" : "b"', '(vip ? "a" : "b")'],
  ['due | date "d MMMM" | upper', '((due | date "d MMMM") | upper)'],
  ['given x', '(given x)'],
  ['a + b * c - 1 > d ?? 0', '(((a + (b * c)) - 1) > (d ?? 0))'],
  ['unit-price * 2', '(unit-price * 2)'],
  ['given', 'given'],
  ['x ?? "a \\"quote\\" and a }"', '(x ?? "a \\"quote\\" and a }")'],
  ["x ?? 'single'", '(x ?? "single")'],
  ['-1.50', '-1.50'],
  ['(a + b) -1', '((a + b) - 1)'],
  ['10 -3*2', '(10 - (3 * 2))'],
  ['count -1 == -1', '((count - 1) == -1)'],
];

describe('expressions', () => {
  test.each(precedence)('%s', (text, shown) => {
    const { expression } = parseExpression(text, 0);
    expect(expression === null ? null : show(expression)).toBe(shown);
  });

  const broken: [string, number, string][] = [
    ['', 10, 'something is missing at its end'],
    ['x ??', 14, 'something is missing at its end'],
    ['x y', 12, '"y" is not expected here'],
    ['x.', 12, 'a name is missing after the dot'],
    ['x | "a"', 14, 'the name of a filter is missing here'],
    ['(x', 12, '")" is missing here'],
    ['x ? "a"', 17, '":" is missing here'],
    ['x ?? "open', 15, 'the quote " without its partner is not expected here'],
    ['x # y', 12, '"#" is not expected here'],
  ];

  test.each(broken)('%s is refused at its place', (text, at, detail) => {
    const { error } = parseExpression(text, 10);
    expect([error?.span.start, error?.detail]).toEqual([at, detail]);
  });

  test('deep nesting is refused, not followed', () => {
    expect(parseExpression('('.repeat(5000), 0).error?.detail).toBe('it is nested too deep');
  });
});

const one = (pattern: string): readonly Spelling[] => [{ pattern, verdict: 'exact' }];

const dialect: Dialect = {
  ...neutralDialect,
  name: 'sample',
  title: 'Sample',
  verbatim: false,
  delimiters: [],
  tags: {
    field: one('<<{field}>>'),
    fallback: one('<<{field}/{text}>>'),
    if: one('<<when {condition}>>'),
    else: one('<<other>>'),
    end_if: one('<<done>>'),
  },
  filters: { upper: one('<<{field} big>>') },
  expressions: { present: one('{left}'), equal: one('{left} is {right}'), text: one("'{text}'"), path: one('{field}') },
  binding: usualBinding,
  fieldNames: { branch: 'Shed' },
  fieldCase: 'pascal',
  system: { 'link.unsubscribe': '<<Leave>>' },
  systemFields: false,
  paths: { ...neutralDialect.paths, item: ['{item}.{name}'], plain_item: ['{item}'] },
};

/** The text with its tags in the sample dialect, and the codes of the findings. */
function convert(text: string): { text: string; codes: string[] } {
  const source = new SourceText('x', text);
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(item);
  const spans = findTags(text, [neutralDelimiters]);
  const tags = readNeutralTags(source, spans, report);
  checkBlocks(tags, report);
  const texts = tagsInDialect(tags, dialect, new Map(), report);
  let result = '';
  let position = 0;
  spans.forEach((span, index) => {
    result += text.slice(position, span.start) + texts.write(index, 'text');
    position = span.end;
  });
  return { text: result + text.slice(position), codes: findings.map(({ code }) => code) };
}

const conversions: [string, string, string[]][] = [
  ['Hi @{first_name}!', 'Hi <<FirstName>>!', []],
  ['@{first_name ?? "you}"}', '<<FirstName/you}>>', []],
  ['@{branch | upper}', '<<Shed big>>', []],
  ['@{if branch == "Mill Yard"}a@{else}b@{end}', "<<when Shed is 'Mill Yard'>>a<<other>>b<<done>>", []],
  ['@{link.unsubscribe}', '<<Leave>>', []],
  ['a@@{b}', 'a@{b}', []],
  ['@{# note }x', 'x', []],
  ['@{+html}', '', ['merge-loss']],
  ['@{link.forward}', '', ['merge-loss']],
  ['@{each loans as loan}x@{end}', 'x', ['merge-loss']],
  ['@{if branch}a', '<<when Shed>>a', ['merge-unclosed']],
  ['a@{end}', 'a', ['merge-stray']],
  ['@{each x}', '', ['merge-syntax']],
];

describe('neutral tags in a dialect', () => {
  test.each(conversions)('%s', (from, to, codes) => expect(convert(from)).toEqual({ text: to, codes }));
});
