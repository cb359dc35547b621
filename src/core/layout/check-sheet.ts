import { collectRules } from '../css/cascade/rules.js';
import { wholeSheet } from '../css/syntax/css-items.js';
import { parseStyleSheet } from '../css/syntax/style-sheet.js';
import { untagged } from '../css/syntax/tagged-values.js';
import type { Report } from '../findings/finding.js';
import type { SourceText } from '../text/source-text.js';
import { reportRules } from './account/report-styles.js';

/** Reports what is wrong with a style sheet by itself, whatever its rules match. */
export function checkSheet(source: SourceText, report: Report): void {
  const sheet = { source, text: source.text, items: parseStyleSheet(wholeSheet(source), report), conditions: [] };
  reportRules(collectRules([sheet], untagged, report), report);
}
