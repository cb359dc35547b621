import { describe, expect, test } from '@jest/globals';
import { inline } from '../../../src/core/library/inline.js';
import { decodedValue } from '../../../src/core/html/decoded-value.js';
import { parseHtml } from '../../../src/core/html/parse.js';
import { neutralDelimiters } from '../../../src/core/html/tags.js';
import { firstElement, maskedValue, type Attribute, type Doc } from '../../../src/core/html/tree.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { Random } from '../../support/random.js';

function styleOf(html: string): { readonly doc: Doc; readonly style: Attribute } {
  const { doc } = parseHtml(new SourceText('page.html', html), [neutralDelimiters]);
  const style = firstElement(doc.root, 'p')?.attributes.get('style');
  if (style === undefined) throw new Error('There is no style.');
  return { doc, style };
}

const pieces = [
  ...['a', ';', '&quot;', '&#34;', '&#x22;', '&amp;', '&', '&copy', '&copy=', '&copyx', '&notit;', '&#128;', '&#0;'],
  ...[' ', '@{x}', '\n', 'é'],
];

describe('the value of an attribute with character references', () => {
  test('is what the parser makes of it, with any references', () => {
    const random = new Random(7);
    for (let round = 0; round < 800; round += 1) {
      const written = Array.from({ length: random.between(0, 8) }, () => random.pick(pieces)).join('');
      const { doc, style } = styleOf(`<p id=x style="${written}">x</p>`);
      const { masked, source } = decodedValue(doc, style);
      expect({ written, masked }).toEqual({ written, masked: maskedValue(doc, style.value) });
      expect(source.text.length).toBe(masked.length);
    }
  });

  test('leads back to where it is written', () => {
    const { doc, style } = styleOf('<p style="font-family:&quot;A&quot;;color:@{c};x">y</p>');
    const { source, masked, tags } = decodedValue(doc, style);
    const at = (part: string): unknown => {
      const start = masked.indexOf(part);
      return source.resolve({ start, end: start + 1 })?.origin.span;
    };
    expect(at('"A')).toEqual({ start: 22, end: 28 });
    expect(at('A')).toEqual({ start: 28, end: 29 });
    expect(at('color')).toEqual({ start: 36, end: 37 });
    expect(tags.map((tag) => source.slice(tag))).toEqual(['@{c}']);
  });

  test('what is wrong in it is shown in the file as it is written', () => {
    const html = '<title>x</title>\n<p style="font-family:&quot;A&quot;;margin 0">y</p>';
    const [item] = inline({ name: 'page.html', text: html }).findings;
    expect(item?.code).toBe('css-syntax');
    expect(item?.place?.source.text).toBe(html);
    expect(item?.place?.source.slice(item.place.span)).toBe('margin 0');
  });

  test('template tags elsewhere are not of it', () => {
    const html =
      '<style>b{margin:0}</style><i title="@{a}">@{b}</i><b style="font-family:&quot;A&quot;;color:red">y</b>@{c}';
    expect(inline(html, { delimiters: [neutralDelimiters] }).value).toContain(
      `<b style="margin:0;font-family:'A';color:red">`,
    );
  });

  test('a template tag in it stays one', () => {
    const html = '<p style="font-family:&quot;A&quot;;color:@{c}">y</p>';
    expect(inline(`<style>p{margin:0}</style>${html}`, { delimiters: [neutralDelimiters] }).value).toContain(
      'color:@{c}',
    );
  });
});
