import { baseOf } from '../css/values/addresses.js';
import { addressesInCss } from '../css/values/picture-addresses.js';
import { spanAt } from '../text/span.js';
import type { SourceText } from '../text/source-text.js';
import type { MessageSource, MessagePicture } from './read-message.js';

/**
 * The pictures that a message's linked style sheets name, by their paths seen from the message.
 * @param styleSheet the text of a linked style sheet by the path that the message gives
 */
export function backgroundPictures(
  { styleLinks }: MessageSource,
  styleSheet: (path: string) => SourceText | null,
): MessagePicture[] {
  return styleLinks.flatMap((link) => {
    const source = styleSheet(link.path);
    if (source === null) return [];
    const base = baseOf(link.path);
    return addressesInCss(source.text).map(({ path, span }): MessagePicture => ({
      path: /^(?:[a-z][a-z\d+.-]*:|\/)/i.test(path) ? path : base + path,
      place: { source, span: spanAt(span.start, span.end - span.start) },
      use: 'background',
    }));
  });
}
