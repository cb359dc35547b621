import { parseHtml } from '../html/parse.js';
import { delimitersOf, type Dialect } from '../dialects/dialect.js';
import { tagRoles } from '../dialects/tag-role.js';
import type { LinkStyle } from '../plaintext/options.js';
import { plainText as plainTextOf } from '../plaintext/plain-text.js';
import type { SourceText } from '../text/source-text.js';
import { textWidth } from '../text/text-width.js';
import { sourceOf, type Result, type Text } from './result.js';

/** How a plain-text version is written. */
export interface PlainTextOptions {
  /** Columns that a line may take; 72 where this is not said. */
  readonly width?: number;
  /** Addresses of links: as numbered notes at the end (as they are where this is not said), beside the text, or none. */
  readonly links?: LinkStyle;
  /** Dialects whose merge tags may stand in the text: they are broken nowhere, and blocks of them keep their lines. */
  readonly dialects?: readonly Dialect[];
}

/**
 * Writes the plain-text version of HTML: what a reader sees, in order, with the addresses of its links.
 * @example
 * const { value } = plainText('<h1>Saws</h1><p>Bring <b>both</b> back.</p>');
 */
export function plainText(html: Text | SourceText, options: PlainTextOptions = {}): Result<string> {
  const { width = 72, links = 'notes', dialects = [] } = options;
  const { doc } = parseHtml(sourceOf(html, 'index.html'), delimitersOf(dialects));
  const value = plainTextOf(doc, { width, links, measure: textWidth, tagRole: tagRoles(dialects) });
  return { value, findings: [] };
}
