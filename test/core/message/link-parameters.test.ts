import { describe, expect, test } from '@jest/globals';
import { parseHtml } from '../../../src/core/html/parse.js';
import { neutralDelimiters, replaceSentinels } from '../../../src/core/html/tags.js';
import { attribute, firstElement } from '../../../src/core/html/tree.js';
import { readNeutralTags } from '../../../src/core/dialects/read/read-neutral.js';
import { tagsAsWritten } from '../../../src/core/dialects/write/tag-texts.js';
import { withLinkParameters } from '../../../src/core/message/link-parameters.js';
import { SourceText } from '../../../src/core/text/source-text.js';

const parameters = [
  { name: 'source', value: 'mail' },
  { name: 'campaign', value: 'may & june' },
];

/** The address of a link, with the parameters; null where they cannot be added. */
function linked(address: string): string | null {
  const source = new SourceText('m.html', `<a href='${address}'>x</a>`);
  const { doc } = parseHtml(source, [neutralDelimiters]);
  const link = firstElement(doc.root, 'a');
  const tags = readNeutralTags(source, doc.tags, () => undefined);
  const result = withLinkParameters(link === null ? '' : (attribute(link, 'href') ?? ''), parameters, tags);
  return result === null ? null : replaceSentinels(result, (index) => tagsAsWritten(tags).write(index, 'text'));
}

const added = 'source=mail&campaign=may%20%26%20june';

const addresses: [address: string, result: string | null][] = [
  ['https://a.example', `https://a.example?${added}`],
  ['https://a.example/', `https://a.example/?${added}`],
  ['HTTP://a.example/b', `HTTP://a.example/b?${added}`],
  ['//a.example/b', `//a.example/b?${added}`],
  [' https://a.example/b ', `https://a.example/b?${added}`],
  ['https://a.example/b?c=d', `https://a.example/b?c=d&${added}`],
  ['https://a.example/b?', `https://a.example/b?${added}`],
  ['https://a.example/b?c=d&', `https://a.example/b?c=d&${added}`],
  ['https://a.example/b#top', `https://a.example/b?${added}#top`],
  ['https://a.example/b?c#top?d=e', `https://a.example/b?c&${added}#top?d=e`],
  ['https://a.example/b?source=print', 'https://a.example/b?source=print&campaign=may%20%26%20june'],
  ['https://a.example/b?source=x&amp;campaign=y', 'https://a.example/b?source=x&campaign=y'],
  [
    'https://a.example/@{branch}/b?c=@{first_name ?? "?#&"}#@{x}',
    `https://a.example/@{branch}/b?c=@{first_name ?? "?#&"}&${added}#@{x}`,
  ],
  ['https://a.example/@{if x}b@{else}c@{end}', `https://a.example/@{if x}b@{else}c@{end}?${added}`],
  ['https://a.example/@{if x}?b@{end}', null],
  ['@{link.unsubscribe}', '@{link.unsubscribe}'],
  ['@{shop}/b', '@{shop}/b'],
  ['mailto:desk@a.example?subject=x', 'mailto:desk@a.example?subject=x'],
  ['tel:+441110000000', 'tel:+441110000000'],
  ['sms:+441110000000', 'sms:+441110000000'],
  ['#top', '#top'],
  ['page.html', 'page.html'],
  ['', ''],
];

describe('parameters of links', () => {
  test.each(addresses)('%s', (address, result) => {
    expect(linked(address)).toBe(result);
  });
});
