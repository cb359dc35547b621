import { parseHtml } from '../../src/core/html/parse.js';
import type { TagDelimiters } from '../../src/core/html/tags.js';
import { inlineStyles } from '../../src/core/inline/inline.js';
import { readSheets } from '../../src/core/inline/sheets.js';
import type { Finding } from '../../src/core/finding.js';
import { SourceText } from '../../src/core/text/source-text.js';

/** Inlines a document that links nothing. */
export function inlineText(
  html: string,
  options: { keepHead?: boolean; delimiters?: readonly TagDelimiters[]; findings?: Finding[] } = {},
): string {
  const report = (item: Finding): unknown => options.findings?.push(item);
  const { doc } = parseHtml(new SourceText('page.html', html), options.delimiters ?? []);
  const sheets = readSheets(doc, [], () => null, report);
  return inlineStyles({ doc, sheets, keepHead: options.keepHead ?? false }, report);
}
