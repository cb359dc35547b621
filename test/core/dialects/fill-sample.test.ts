import { describe, expect, test } from '@jest/globals';
import { findTags, neutralDelimiters, sentinel } from '../../../src/core/html/tags.js';
import { readNeutralTags } from '../../../src/core/dialects/read/read-neutral.js';
import type { MergeField } from '../../../src/core/dialects/model.js';
import { fillSample, sampleRecipient } from '../../../src/core/dialects/sample/fill-sample.js';
import { SourceText } from '../../../src/core/text/source-text.js';

const field = (sample: unknown): MergeField => ({ type: 'text', sample, fallback: null });

const fields = new Map<string, MergeField>(
  Object.entries({
    name: field('Ines & <Co>'),
    empty: field(''),
    zero: field(0),
    no: field(false),
    loans: field([
      { tool: 'Saw', late: true, fees: [1, 2] },
      { tool: 'Drill', late: false, fees: [] },
    ]),
    none: field([]),
    due: field('2026-05-09'),
  }),
);

/** What a sample recipient reads in place of a neutral text. */
function fill(text: string): string {
  const source = new SourceText('m.html', text);
  const spans = findTags(text, [neutralDelimiters]);
  const tags = readNeutralTags(source, spans, () => undefined);
  let position = 0;
  const pieces = spans.map((span, index) => {
    const before = text.slice(position, span.start) + sentinel(index);
    position = span.end;
    return before;
  });
  const recipient = sampleRecipient(
    fields,
    { company: 'Alder Lane CIC', postalAddress: '14 Alder Lane', year: 2026, unsubscribe: null },
    'en',
  );
  return fillSample(pieces.join('') + text.slice(position), tags, recipient, (value) => value.replaceAll('<', '&lt;'));
}

const rows: [text: string, filled: string][] = [
  ['a @{name} b @{+name}', 'a Ines & &lt;Co> b Ines & <Co>'],
  ['@{empty ?? "x"}@{zero ?? "x"}@{missing ?? "y"}@{missing}', 'x0y'],
  ['@{name | upper}, @{due | date "d MMMM"}', 'INES & &lt;CO>, 9 May'],
  ['@@{name} @{# nothing }', '@{name} '],
  ['@{link.unsubscribe} @{sender.company}, @{date.year}', 'https://platform.example/unsubscribe Alder Lane CIC, 2026'],
  ['@{if name}a@{else}b@{end}@{if empty}a@{else}b@{end}@{if zero}a@{end}c', 'abc'],
  ['@{if given zero}a@{end}@{if given no}b@{end}@{if not none}c@{end}', 'ac'],
  ['@{if no}1@{else if zero}2@{else if name == "Ines & <Co>"}3@{else if name}4@{else}5@{end}', '3'],
  ['@{if name}1@{else if name}2@{else}3@{end}!', '1!'],
  [
    '@{each loans as loan}@{loan.tool}@{if loan.late} late@{else} in time@{end}; @{else}none@{end}.',
    'Saw late; Drill in time; .',
  ],
  ['@{each none as x}a@{else}b@{end}c', 'bc'],
  ['@{each none as x}a@{end}c', 'c'],
  ['@{each loans as loan}[@{each loan.fees as fee}@{fee},@{else}-@{end}]@{end}', '[1,2,][-]'],
  ['@{each loans as loan}@{if loan.late}@{each loan.fees as fee}@{loan.tool}@{fee} @{end}@{end}@{end}', 'Saw1 Saw2 '],
  ['@{if no}@{each loans as loan}x@{else}y@{end}@{else}z@{end}', 'z'],
  ['@{if name}never closed', 'never closed'],
];

describe('sample fill', () => {
  test.each(rows)('%s', (text, filled) => {
    expect(fill(text)).toBe(filled);
  });

  test('blocks may be nested as deep as they like', () => {
    const depth = 5000;
    expect(fill(`${'@{if name}'.repeat(depth)}x${'@{end}'.repeat(depth)}`)).toBe('x');
  });
});
