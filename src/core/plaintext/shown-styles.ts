import { selectorSetting } from '../css/syntax/tagged-values.js';
import { appliesAtWidth, declarationsOf } from '../css/cascade/document-cascade.js';
import { computeStyles, type ComputedStyle } from '../css/cascade/computed.js';
import type { ElementIndex } from '../css/selectors/element-index.js';
import { collectRules } from '../css/cascade/rules.js';
import { readSheets } from '../css/cascade/sheets.js';
import { type Doc } from '../html/tree.js';

/** The viewport that decides what is shown: a wide one. */
const VIEWPORT = 1000;

/** The styles of all elements of a finished document, as a wide window shows it, by the elements' order. */
export function shownStyles(doc: Doc, index: ElementIndex): readonly ComputedStyle[] {
  const ignore = (): void => undefined;
  const rules = collectRules(
    readSheets(doc, [], () => null, ignore),
    selectorSetting(doc),
    ignore,
  );
  const declared = declarationsOf(index, rules, ignore);
  return computeStyles(index, (element) =>
    (declared[element.order] ?? []).filter((item) => appliesAtWidth(item, VIEWPORT)),
  ).styles;
}
