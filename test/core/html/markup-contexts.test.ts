import { describe, expect, test } from '@jest/globals';
import { parseHtml } from '../../../src/core/html/parse.js';
import { markupContexts, tagContexts, type TagContext } from '../../../src/core/html/tag-context.js';
import { neutralDelimiters } from '../../../src/core/html/tags.js';
import { SourceText } from '../../../src/core/text/source-text.js';
import { Random } from '../../support/random.js';

type Piece = readonly [before: string, after: string, kind: TagContext['kind'], quote: string];

/** Markup around a place, and where that is. */
const pieces: readonly Piece[] = [
  ['<p>Saws ', ' and more</p>', 'text', ''],
  ['<p>1 < 2, "', '" said</p>', 'text', ''],
  ['<a href="https://alderlane.example/?a=', '&b=1">x</a>', 'attribute', '"'],
  ["<a title='It is > ", "' href=x>x</a>", 'attribute', "'"],
  ['<a href = "', '">x</a>', 'attribute', '"'],
  ['<a\n  title="a\n', '\nb"\n>x</a>', 'attribute', '"'],
  ['<img alt=', ' src="a.png">', 'unquoted', ''],
  ['<td ', ' width="3"></td>', 'between', ''],
  ['<style>p { color: ', ' }</style>', 'style', ''],
  ['<!-- a note ', ' -->', 'comment', ''],
  [`<p title="${'long '.repeat(900)}`, ' end">x</p>', 'attribute', '"'],
  ['<b title="a &quot; ', ' c">x</b>', 'attribute', '"'],
];

describe('where in the markup a place stands', () => {
  test.each(pieces)('%j … %j', (before, after, kind, quote) => {
    const plain = `<!doctype html><html><body><table><tr>${before}${after}</tr></table></body></html>`;
    const outside = `<!doctype html><html><body>${before}X${after}</body></html>`;
    const html = before.startsWith('<td') ? plain : outside;
    const { doc } = parseHtml(new SourceText('page.html', html), []);
    expect(markupContexts(doc)(html.indexOf(before) + before.length)).toEqual({ kind, quote });
  });

  test('of a template tag it is the same, whoever asks', () => {
    const random = new Random(7);
    for (let round = 0; round < 60; round += 1) {
      const chosen = Array.from({ length: 6 }, () => random.pick(pieces)).filter(
        ([before]) => !before.startsWith('<td'),
      );
      const places: { readonly at: number; readonly said: TagContext }[] = [];
      let html = '<!doctype html><html><body>';
      for (const [before, after, kind, quote] of chosen) {
        html += before;
        places.push({ at: html.length, said: { kind, quote } });
        html += `@{first_name}${after}`;
      }
      const { doc } = parseHtml(new SourceText('page.html', `${html}</body></html>`), [neutralDelimiters]);
      const [ofTags, ofAll] = [tagContexts(doc), markupContexts(doc)];
      expect(places.map(({ at }) => ofTags(at))).toEqual(places.map(({ said }) => said));
      expect(places.map(({ at }) => ofAll(at))).toEqual(places.map(({ said }) => said));
    }
  });
});
