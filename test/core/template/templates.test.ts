import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parseHtml } from '../../../src/core/html/parse.js';
import { neutralDelimiters, replaceSentinels } from '../../../src/core/html/tags.js';
import { attribute, firstElement, textContent } from '../../../src/core/html/tree.js';
import { readMessage } from '../../../src/core/message/read-message.js';
import { formatDate, readDate } from '../../../src/core/expressions/format-date.js';
import { formatNumber } from '../../../src/core/expressions/format-number.js';
import { markdownBody } from '../../../src/core/html/markdown.js';
import { MappedText } from '../../../src/core/text/mapped-text.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { expandText } from '../../support/expand-text.js';

describe('dates', () => {
  const dates: [date: string, pattern: string, language: string, text: string][] = [
    ['2026-05-09', 'd MMMM yyyy', 'en', '9 May 2026'],
    ['2026-05-09', 'dd.MM.yy', 'en', '09.05.26'],
    ['2026-05-09', 'EEEE, d MMM', 'de', 'Samstag, 9 Mai'],
    ['2026-05-14', 'd MMMM', 'pl', '14 maja'],
    ['2026-05-14', 'LLLL', 'pl', 'maj'],
    ['2026-12-31T23:05:07Z', "HH:mm:ss 'on' E", 'en', '23:05:07 on Thu'],
    ['2026-01-01 00:30', "h:mm a, 'o''clock'", 'en', "12:30 AM, o'clock"],
    ['2024-02-29', 'd.M.y', 'no such language!', '29.2.2024'],
  ];

  test.each(dates)('%s as %s in %s', (date, pattern, language, text) => {
    const time = readDate(date);
    expect(time === null ? null : formatDate(time, pattern, language)).toEqual({ text, unknown: null });
  });

  test.each(['2026-02-29', '2026-13-01', '2026-04-31', '26-04-01', '2026-04-01T24:00', 'soon', ''])(
    '%s is none',
    (text) => expect(readDate(text)).toBeNull(),
  );

  test('an unknown field is named', () => {
    const time = readDate('2026-05-09');
    expect(time === null ? null : formatDate(time, 'd QQ', 'en')).toEqual({ text: null, unknown: 'QQ' });
  });
});

describe('numbers', () => {
  const numbers: [value: number, pattern: string, language: string, text: string | null][] = [
    [3.5, '0.00', 'en', '3.50'],
    [1234567.891, '#,##0.##', 'en', '1,234,567.89'],
    [1234.5, '#,##0.00 €', 'de', '1.234,50 €'],
    [7, '000', 'en', '007'],
    [1.005, '0.00', 'en', '1.01'],
    [12.299999999999999, '£0.00', 'en', '£12.30'],
    [-2.5, '0', 'en', '-3'],
    [-0.001, '0.0', 'en', '0.0'],
    [0.1 + 0.2, '0.##', 'en', '0.3'],
    [5, 'none', 'en', null],
  ];

  test.each(numbers)('%d as %s in %s', (value, pattern, language, text) => {
    expect(formatNumber(value, pattern, language)).toBe(text);
  });
});

describe('mapped texts', () => {
  const a = new SourceText('a', 'one two');
  const b = new SourceText('b', '${x}');
  const use = { source: new SourceText('c', '<p-p>'), span: { start: 0, end: 5 } };
  const text = new MappedText('m', [
    { text: 'one ', origin: { source: a, span: { start: 0, end: 4 } }, exact: true, uses: [] },
    { text: '', origin: { source: a, span: { start: 0, end: 0 } }, exact: true, uses: [] },
    { text: 'VALUE', origin: { source: b, span: { start: 0, end: 4 } }, exact: false, uses: [use] },
    { text: 'two', origin: { source: a, span: { start: 4, end: 7 } }, exact: true, uses: [] },
  ]);

  test.each([
    [{ start: 1, end: 3 }, 'a', { start: 1, end: 3 }, 0],
    [{ start: 6, end: 7 }, 'b', { start: 0, end: 4 }, 1],
    [{ start: 9, end: 12 }, 'a', { start: 4, end: 7 }, 0],
    [{ start: 2, end: 12 }, 'a', { start: 2, end: 7 }, 0],
    [{ start: 12, end: 12 }, 'a', { start: 7, end: 7 }, 0],
  ])('%j comes from %s %j', (span, name, origin, uses) => {
    const resolved = text.resolve(span);
    expect([resolved?.origin.source.name, resolved?.origin.span, resolved?.uses.length]).toEqual([name, origin, uses]);
  });

  test('one of pieces of another is followed to the end', () => {
    const outer = new MappedText('o', [
      { text: 'two', origin: { source: text, span: { start: 9, end: 12 } }, exact: true, uses: [use] },
    ]);
    expect(outer.resolve({ start: 1, end: 2 })).toMatchObject({
      origin: { source: { name: 'a' }, span: { start: 5, end: 6 } },
      uses: [use],
    });
    expect(new MappedText('e', []).resolve({ start: 0, end: 0 })).toBeNull();
  });

  test('the HTML of Markdown knows its tags to the character, and all else by its block', () => {
    const source = new SourceText(
      'm.md',
      '---\r\n---\r\n# Hi\r\n\r\nA **b** ${x | upper} and\r\n<tool-card a="1">c</tool-card>\r\n',
    );
    const html = markdownBody(source, { start: 10, end: source.text.length });
    const placeOf = (piece: string): string => {
      const at = html.text.indexOf(piece);
      const { origin } = html.resolve({ start: at, end: at + piece.length }) ?? { origin: null };
      return origin === null ? '' : origin.source.slice(origin.span);
    };
    expect(html.text).toContain('<h1>Hi</h1>');
    expect(placeOf('${x | upper}')).toBe('${x | upper}');
    expect(placeOf('<tool-card a="1">')).toBe('<tool-card a="1">');
    expect(placeOf('<strong>')).toMatch(/^A \*\*b\*\*/);
  });
});

describe('expansion', () => {
  test('any text of the data reads as it stands, in text and in attributes', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (value) => {
        const clean = value.replace(/[\0\r\ufdd0\ufdd1]/g, '').replace(/[\ud800-\udfff](?![\udc00-\udfff])/g, '');
        const { page, findings } = expandText('<p title="${v}" lang=x${v}>a${v}b</p>', { v: clean });
        expect(findings).toEqual([]);
        const { doc } = parseHtml(new SourceText('x', page?.source.text ?? ''), [neutralDelimiters]);
        const paragraph = firstElement(doc.root, 'p');
        const plain = (written: string): string => replaceSentinels(written, () => '@{');
        expect(paragraph === null ? null : plain(textContent(paragraph))).toBe(`a${clean}b`);
        expect(paragraph === null ? null : plain(attribute(paragraph, 'title') ?? '')).toBe(clean);
        expect(paragraph === null ? null : plain(attribute(paragraph, 'lang') ?? '')).toBe(`x${clean}`);
      }),
      { numRuns: 300 },
    );
  });

  const soup = [
    '<template each="x of xs">',
    '<template if="a">',
    '<template else>',
    '<template else if="b">',
    '<template for="word">',
    '</template>',
    '<tool-card name="${a}">',
    '<tool-card>',
    '</tool-card>',
    '<slot>',
    '<slot name="x">',
    '</slot>',
    '<p slot="x">',
    '</p>',
    '<p region="r">',
    '${a}',
    '${x.y}',
    '${',
    '@{first_name}',
    '@{',
    '@{if ${a}}',
    '@{end}',
    '$${',
    '<!-- ${a} -->',
    '<!--[if mso]>',
    '<![endif]-->',
    '<style>',
    '</style>',
    '<table>',
    '<tr>',
    '</table>',
    '<title>',
    '</title>',
    ' title="${a',
    '"',
    "'",
    '>',
    '<',
    '&quot;',
    'é',
    '😀',
    '\r\n',
  ];

  test('nothing that is written together wildly breaks it', () => {
    const data = { a: 'A', b: 0, xs: [{ y: 1 }, { y: '<' }] };
    const part =
      '<style>p{}</style><template accepts="name=\'n\'"><b>${name}</b><slot></slot><slot name="x">d</slot></template>';
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...soup), { maxLength: 25 }), (pieces) => {
        const { page, findings } = expandText(pieces.join(''), data, { 'tool-card': part });
        if (page !== null) readMessage(page, { fields: new Map() }, () => undefined);
        for (const { place } of findings) {
          expect(place?.source).not.toBeInstanceOf(MappedText);
          expect(place?.span.end).toBeLessThanOrEqual(place?.source.text.length ?? 0);
        }
      }),
      { numRuns: 400 },
    );
  });
});
