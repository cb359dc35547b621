import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { parseHtml } from '../../../src/core/html/parse.js';
import { tagRoles } from '../../../src/core/dialects/tag-role.js';
import { neutralDialect } from '../../../src/core/dialects/dialect.js';
import { printFlowed } from '../../../src/core/plaintext/lines.js';
import { plainLines, plainText } from '../../../src/core/plaintext/plain-text.js';
import { shownDocument } from '../../../src/core/plaintext/shown-document.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { textWidth } from '../../../src/core/text/text-width.js';

const measure = (text: string): number => [...text].length;

const texts: [name: string, html: string, text: string][] = [
  ['headings are underlined', '<h1>One</h1><h2>Two ü</h2><p>x', 'One\n===\n\nTwo ü\n-----\n\nx\n'],
  [
    'lists hang',
    '<ul><li>one two three fourth<li>five<ol><li>a<li>b</ol></ul>',
    '* one two three\n  fourth\n* five\n  1. a\n  2. b\n',
  ],
  [
    'hidden text is left out',
    '<style>.h{display:none}</style><p class=h>no</p><div style="display:none">no</div><div style="max-height:0;overflow:hidden">no</div>yes<span style="font-size:0">no</span>',
    'yes\n',
  ],
  ['pictures by their alternative text', '<img alt="A lathe" src=x><img alt="" src=y>', 'A lathe\n'],
  [
    'a button has its address below',
    '<div><a href="https://a.example/x" style="display:inline-block">Go</a></div>',
    'Go\nhttps://a.example/x\n',
  ],
  [
    'an address that is its own text is written once',
    '<p>Mail <a href="mailto:a@b.example">a@b.example</a>',
    'Mail a@b.example\n',
  ],
  [
    'an address that is used twice has one note',
    '<p><a href="https://a.example">a</a> <a href="https://b.example">b</a> <a href="https://a.example">c</a>',
    'a [1] b [2] c [1]\n\n[1] https://a.example\n[2] https://b.example\n',
  ],
  [
    'data tables are aligned',
    '<table><tr><th>Item<th>Fee</tr><tr><td>Drill<td>2.50</tr><tr><td>Saw<td>12</tr></table>',
    'Item    Fee\nDrill  2.50\nSaw      12\n',
  ],
  ['layout tables are blocks', '<table role=presentation><tr><td>one<td>two</table>', 'one\n\ntwo\n'],
  ['entities and odd spaces', '<p>a&nbsp;&amp;&shy;b &zwnj;c', 'a &b c\n'],
  ['quotes', '<blockquote><p>one<p>two</blockquote>', '> one\n>\n> two\n'],
  ['line breaks and preserved text', '<p>a<br>b</p><pre>c\nd</pre>', 'a\nb\n\nc\nd\n'],
  ['upper case by style', '<p style="text-transform:uppercase">abc</p>', 'ABC\n'],
  ['nothing', '', ''],
];

const more: [name: string, html: string, text: string][] = [
  [
    'layout cells with one link say where it leads',
    '<table><tr><td><a href="https://a.example">Home</a></td></tr></table>',
    'Home [1]\n\n[1] https://a.example\n',
  ],
  [
    'links in data tables keep their addresses',
    '<table><tr><th>Tool<th>Page</tr><tr><td>Saw<td><a href="https://a.example/saw">more</a></tr></table>',
    'Tool  Page\nSaw   more [1]\n\n[1] https://a.example/saw\n',
  ],
  [
    'a link without words is its address; one with spaces stays one word',
    '<p><a href="https://a.example/a b"><img src=x></a>',
    'https://a.example/a%20b\n',
  ],
  ['links that lead nowhere', '<p><a href="#top">up</a> <a href="">x</a> <a href="javascript:go()">y</a>', 'up x y\n'],
  [
    'an address without its scheme does not say where it leads',
    '<p><a href="https://a.example/">a.example</a>',
    'a.example [1]\n\n[1] https://a.example/\n',
  ],
  [
    'nor does one that is hidden, or written in capitals',
    '<p><a href="https://a.example">x<span hidden>https://a.example</span></a> <a href="https://b.example" style="text-transform:uppercase">https://b.example</a> <a href="https://c.example"><i hidden>c</i></a>',
    'x [1] HTTPS://B.EXAMPLE [2] https://c.example\n\n[1] https://a.example\n[2] https://b.example\n',
  ],
  ['a telephone', '<p><a href="tel:+441110000000">+44 111 000 0000</a>', '+44 111 000 0000\n'],
  [
    'a card that is a link is noted behind its last words',
    '<a href="https://a.example"><div>Saw</div><div>sharp</div></a><p>x',
    'Saw\nsharp [1]\n\nx\n\n[1] https://a.example\n',
  ],
  [
    'places of a picture',
    '<img src=x usemap="#m" alt="Map"><map name=m><area href="https://a.example/1" alt="Mill Yard"></map>',
    'Map\nMill Yard [1]\n\n[1] https://a.example/1\n',
  ],
  ['what is hidden by an attribute', '<p hidden>no</p><input type=hidden value=no><p>yes', 'yes\n'],
  [
    'text that is transparent',
    '<p style="opacity:0">no</p><p style="opacity:.0">no</p><p style="opacity:">a<p style="opacity: 0.9">b',
    'a\n\nb\n',
  ],
  [
    'hidden rows and cells',
    '<style>.h{display:none}</style><table><tr><th>a<th class=h>no<th>b</tr><tr class=h><td>no</tr><tr><td>1<td class=h>no<td>2</tr></table>',
    'a  b\n1  2\n',
  ],
  [
    'captions, spans',
    '<table><caption>Fees</caption><tr><th>Tool<th>Days<th>Fee</tr><tr><td rowspan=2>Saw<td>1<td>2.00</tr><tr><td>7<td>9.50</tr><tr><td colspan=2>Total<td>11.50</tr></table>',
    'Fees\n\nTool  Days    Fee\nSaw      1   2.00\n         7   9.50\nTotal       11.50\n',
  ],
  [
    'a receipt without header cells',
    '<table role=presentation><tr><td>Membership<td>£24.00</tr><tr><td>Deposit<td>£4.50</tr></table>',
    'Membership  £24.00\nDeposit      £4.50\n',
  ],
  [
    'a small grid',
    '<table><tr><td>When<td>Saturday</tr><tr><td>Where<td>Mill Yard</tr></table>',
    'When   Saturday\nWhere  Mill Yard\n',
  ],
  [
    'words wrap within their column',
    '<table><tr><th>What<th>Fee</tr><tr><td>Sharpening of a plane iron, with its cap iron and a new edge on both of them as well<td>7.00</tr></table>',
    'What                                                                 Fee\nSharpening of a plane iron, with its cap iron and a new edge on\nboth of them as well                                                7.00\n',
  ],
  [
    'numbered as the document says',
    '<ol start=3 type=a><li>x<li value=27>y</ol><ol reversed><li>x<li>y</ol><ul style="list-style-type:none"><li>z</ul>',
    'c. x\naa. y\n\n2. x\n1. y\n\nz\n',
  ],
  ['definitions', '<dl><dt>Saw</dt><dd>cuts</dd></dl>', 'Saw\n  cuts\n'],
  ['spaces of preserved text', '<pre>  a  b\n\tc</pre>', '  a  b\n        c\n'],
  [
    'scripts without spaces wrap between words; punctuation begins no line',
    `<p>${'木の道具を借りる。'.repeat(9)}`,
    '木の道具を借りる。木の道具を借りる。木の道具を借りる。木の道具を借りる。\n木の道具を借りる。木の道具を借りる。木の道具を借りる。木の道具を借りる。\n木の道具を借りる。\n',
  ],
  ['joined letters stay joined', '<p>👩‍🔧 می‌خواهم &zwnj;&nbsp;&zwnj;&nbsp;', '👩‍🔧 می‌خواهم\n'],
  [
    'no-break spaces keep words together',
    `<p>${'word '.repeat(13)}20&nbsp;May&nbsp;2026`,
    `${'word '.repeat(13).trim()}\n20 May 2026\n`,
  ],
  [
    'but not for more than a line',
    `<p>${'no&nbsp;break&nbsp;'.repeat(10)}`,
    `${'no break '.repeat(8).trim()}\nno break no break\n`,
  ],
  ['stacked line breaks', '<p>a<br><br><br><br>b', 'a\n\nb\n'],
  ['entities that say nothing', '<p>a &lt;b&gt; &bogus; &nbsp', 'a <b> &bogus;\n'],
  [
    'what only programs read',
    '<svg><title>no</title><text>yes</text></svg><iframe>no</iframe><noscript>seen</noscript>',
    'yesseen\n',
  ],
  [
    'lower case and capitals by style',
    '<p style="text-transform:lowercase">ABC<p style="text-transform:capitalize">a tool',
    'abc\n\nA Tool\n',
  ],
  [
    'what the author has others read instead',
    '<h1 data-text="Open late">Late!</h1><p><a href="https://a.example" data-text="Book a place">Here</a> <img data-text="(picture)" alt=x><ul><li data-text="one">1</ul><div data-text="">no</div><div data-text="a&#10;b">x</div>',
    'Open late\n=========\n\nBook a place [1] (picture)\n\n* one\n\na\nb\n\n[1] https://a.example\n',
  ],
  [
    'tags of blocks close to what they hold',
    '<p>Hello</p>@{if vip}<p>A</p>@{else}<p>B</p>@{end}<p>@{if x}in@{end} line</p>',
    'Hello\n\n@{if vip}\nA\n@{else}\nB\n@{end}\n\n@{if x}in@{end} line\n',
  ],
  [
    'a line under a heading does not count tags',
    '<h2>For @{first_name ?? "neighbour"}</h2>',
    'For @{first_name ?? "neighbour"}\n------------\n',
  ],
  [
    'a tag is never broken',
    `<p>${'word '.repeat(13)}@{first_name ?? "dear neighbour of ours"}, welcome`,
    `${'word '.repeat(13).trim()}\n@{first_name ?? "dear neighbour of ours"}, welcome\n`,
  ],
];

const neutralTags = tagRoles([neutralDialect]);

describe('the plain text of', () => {
  test.each(texts)('%s', (_, html, expected) => {
    const { doc } = parseHtml(new SourceText('x', html), []);
    expect(plainText(doc, { width: 20, links: 'notes', measure, tagRole: () => null })).toBe(expected);
  });

  test.each(more)('%s', (_, html, expected) => {
    const { doc } = parseHtml(new SourceText('x', html), neutralDialect.delimiters);
    expect(plainText(doc, { width: 72, links: 'notes', measure: textWidth, tagRole: neutralTags })).toBe(expected);
  });

  test('5,000 levels', () => {
    const { doc } = parseHtml(new SourceText('x', `${'<div>'.repeat(5000)}deep`), []);
    expect(plainText(doc, { width: 72, links: 'notes', measure, tagRole: () => null })).toBe('deep\n');
  });

  test('addresses beside their words', () => {
    const { doc } = parseHtml(new SourceText('x', '<p><a href="https://a.example">See</a> it'), []);
    const options = { width: 72, measure, tagRole: () => null };
    expect(plainText(doc, { ...options, links: 'beside' })).toBe('See (https://a.example) it\n');
    expect(plainText(doc, { ...options, links: 'none' })).toBe('See it\n');
  });
});

test('flowed text marks the lines that go on, and nothing else (RFC 3676)', () => {
  const html =
    '<p>From here on the lines of this text go on</p><blockquote><p>one two three four five</p></blockquote><ul><li>one two three four five</ul><p>&gt;x';
  const { doc } = parseHtml(new SourceText('x', html), []);
  expect(printFlowed(plainLines(shownDocument(doc), { width: 20, links: 'notes', measure, tagRole: () => null }))).toBe(
    [
      ' From here on the ',
      'lines of this text ',
      'go on',
      '',
      '> one two three four ',
      '> five',
      '',
      '* one two three four',
      '   five',
      '',
      ' >x',
      '',
    ].join('\n'),
  );
});

/** What a paragraph may hold, each piece with what has to stay whole of it. */
const pieces = fc.constantFrom(
  'word',
  'a-word-with-hyphens',
  'naïve',
  '木の道具を借りる。',
  '（ご案内）',
  'ไทยภาษา',
  '20&nbsp;May&nbsp;2026',
  '🛠️',
  'https://alderlane.example/a/rather/long/path?with=a&amp;query=and#fragment',
  '@{first_name ?? "dear neighbour of ours"}',
  '@{if branch == "Mill Yard"}',
  '<b>bold</b>',
  '<br>',
);

test('wrapping loses no word, breaks no address and no tag, and keeps to the width where it can', () => {
  fc.assert(
    fc.property(fc.array(pieces, { maxLength: 40 }), fc.integer({ min: 20, max: 80 }), (parts, width) => {
      const { doc } = parseHtml(new SourceText('x', `<p>${parts.join(' ')}</p>`), neutralDialect.delimiters);
      const text = plainText(doc, { width, links: 'notes', measure: textWidth, tagRole: neutralTags });
      const plain = parts.map((part) =>
        part
          .replace(/<[^>]*>/g, '')
          .replaceAll('&nbsp;', ' ')
          .replaceAll('&amp;', '&'),
      );
      expect(text.replace(/\s+/g, '')).toBe(plain.join('').replace(/\s+/g, ''));
      for (const whole of plain.filter((part) => /^(?:https:|@)/.test(part))) expect(text).toContain(whole);
      for (const line of text.split('\n'))
        expect([line, textWidth(line) <= width || /https:|@\{/.test(line)]).toEqual([line, true]);
    }),
    { numRuns: 300 },
  );
});
