import type { Finding } from '../../src/core/findings/finding.js';
import { atOrigin } from '../../src/core/findings/finding.js';
import { expandPage } from '../../src/core/template/expand.js';
import { readHtmlMessage, reportCycles } from '../../src/core/template/message-template.js';
import type { Part } from '../../src/core/template/nodes.js';
import { readPart } from '../../src/core/template/read-part.js';
import { buildValue, type BuildRecord } from '../../src/core/expressions/values.js';
import type { ExpandedPage } from '../../src/core/template/expanded-page.js';
import { SourceText } from '../../src/core/text/source-text.js';

/** A message, expanded in memory, and what was found on the way, at the places that an author wrote. */
export interface ExpandedText {
  readonly page: ExpandedPage | null;
  readonly findings: readonly Finding[];
}

/** Expands the text of a message with data and the texts of parts. */
export function expandText(
  html: string,
  data: Readonly<Record<string, unknown>> = {},
  partTexts: Readonly<Record<string, string>> = {},
): ExpandedText {
  const findings: Finding[] = [];
  const report = (item: Finding): unknown => findings.push(atOrigin(item));
  const message = readHtmlMessage(new SourceText('m.html', html), report);
  const parts = new Map<string, Part>();
  for (const [tag, text] of Object.entries(partTexts)) {
    const part = readPart(new SourceText(`${tag}.html`, text), tag, report);
    if (part !== null) parts.set(tag, part);
  }
  reportCycles(parts, report);
  if (message === null) return { page: null, findings };
  const values = buildValue(data) as BuildRecord;
  const page = expandPage(message.page, null, {
    values,
    shared: new Map(),
    parts,
    partNames: Object.keys(partTexts),
    language: 'en',
    fields: new Set(['first_name']),
    report,
  });
  return { page, findings };
}
