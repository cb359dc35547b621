import { readSheets, type SheetFile } from '../css/cascade/sheets.js';
import type { Report } from '../findings/finding.js';
import { parseHtml } from '../html/parse.js';
import type { TagDelimiters } from '../html/tags.js';
import { attribute, type Doc, type ElementNode } from '../html/tree.js';
import { inlineStyles, isClipped } from '../inline/inline.js';
import { dropUnused } from '../inline/unused.js';
import { SourceText } from '../text/source-text.js';
import { collected, sourceOf, type Result, type Text } from './result.js';

/** How styles are inlined. */
export interface InlineOptions {
  /** Style sheets that come before those of the document. */
  readonly styleSheets?: readonly Text[];
  /** The text of a style sheet that the document links, by its `href`; null where it stays linked (which all do otherwise). */
  readonly linked?: (href: string) => Text | null;
  /** Leaves in the head what was inlined, too. */
  readonly keepHead?: boolean;
  /** What becomes of rules in the head that nothing uses: they are kept unless this says `drop`. */
  readonly unused?: 'keep' | 'drop';
  /** What template tags stand between, so that they stay byte for byte. */
  readonly delimiters?: readonly TagDelimiters[];
}

/**
 * Moves what style sheets say into style attributes (CSS Cascading Level 5). Every byte that has no part in that stays.
 * @example
 * const { value, findings } = inline('<style>p { color: teal }</style><p>Hello</p>');
 * // value: '<p style="color:teal">Hello</p>'
 */
export function inline(html: Text, options: InlineOptions = {}): Result<string> {
  const { styleSheets = [], linked = () => null, keepHead = false, unused = 'keep', delimiters = [] } = options;
  const source = sourceOf(html, 'index.html');
  const { doc } = parseHtml(source, delimiters);
  const sheetFile = (text: Text, base: string): SheetFile => ({ source: sourceOf(text, 'styles.css'), base });
  const linkedSheet = (element: ElementNode): SheetFile | null => {
    const href = attribute(element, 'href') ?? '';
    const text = linked(href);
    return text === null ? null : sheetFile(text, href.replace(/[^/]*$/, ''));
  };
  const added = styleSheets.map((text) => sheetFile(text, ''));
  return collected((report) =>
    inlineDocument(doc, { added, linked: linkedSheet, keepHead, unused, delimiters }, report),
  );
}

/** How the styles of a parsed document are inlined. */
export interface DocumentInlining extends Pick<Required<InlineOptions>, 'keepHead' | 'unused' | 'delimiters'> {
  readonly added: readonly SheetFile[];
  readonly linked: (element: ElementNode) => SheetFile | null;
}

/** Inlines the styles of a parsed document. */
export function inlineDocument(doc: Doc, options: DocumentInlining, report: Report): string {
  const { added, linked, keepHead, unused, delimiters } = options;
  const sheets = readSheets(doc, added, linked, report);
  const { value: inlined, findings } = collected((say) => inlineStyles({ doc, sheets, keepHead }, say));
  const text = unused === 'drop' ? dropUnused(new SourceText(doc.source.name, inlined), delimiters, report) : inlined;
  // What is dropped may bring the file below the size at which it would be clipped.
  for (const item of findings) if (item.code !== 'html-clipped' || isClipped(text)) report(item);
  return text;
}
