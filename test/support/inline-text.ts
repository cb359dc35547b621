import { parseHtml } from '../../src/core/html/parse.js';
import type { TagDelimiters } from '../../src/core/html/tags.js';
import { attribute } from '../../src/core/html/tree.js';
import { inlineStyles } from '../../src/core/inline/inline.js';
import { readSheets } from '../../src/core/css/cascade/sheets.js';
import type { Finding } from '../../src/core/findings/finding.js';
import { SourceText } from '../../src/core/text/source-text.js';

/** Inlines a document; what it links is given by name. */
export function inlineText(
  html: string,
  options: {
    keepHead?: boolean;
    delimiters?: readonly TagDelimiters[];
    linked?: ReadonlyMap<string, string>;
    findings?: Finding[];
  } = {},
): string {
  const report = (item: Finding): unknown => options.findings?.push(item);
  const { doc } = parseHtml(new SourceText('page.html', html), options.delimiters ?? []);
  const sheets = readSheets(
    doc,
    [],
    (element) => {
      const name = attribute(element, 'href') ?? '';
      const css = options.linked?.get(name);
      return css === undefined ? null : { source: new SourceText(name, css), base: name.replace(/[^/]*$/, '') };
    },
    report,
  );
  return inlineStyles({ doc, sheets, keepHead: options.keepHead ?? false }, report);
}
