import { selectorSetting } from '../css/syntax/tagged-values.js';
import { appliesAtWidth, declarationsOf } from '../css/cascade/document-cascade.js';
import { computeStyles, type ComputedStyle } from '../css/cascade/computed.js';
import type { ElementIndex } from '../css/selectors/element-index.js';
import { collectRules, type SheetSource } from '../css/cascade/rules.js';
import { parseStyleSheet } from '../css/syntax/style-sheet.js';
import { attribute, elementsOf, type Doc } from '../html/tree.js';

/** The viewport that decides what is shown: a wide one. */
const VIEWPORT = 1000;

/** The styles of all elements of a finished document, as a wide window shows it, by the elements' order. */
export function shownStyles(doc: Doc, index: ElementIndex): readonly ComputedStyle[] {
  const ignore = (): void => undefined;
  const rules = collectRules(styleElements(doc), selectorSetting(doc), ignore);
  const declared = declarationsOf(index, rules, ignore);
  return computeStyles(index, (element) =>
    (declared[element.order] ?? []).filter((item) => appliesAtWidth(item, VIEWPORT)),
  ).styles;
}

function styleElements(doc: Doc): SheetSource[] {
  return [...elementsOf(doc.root)].flatMap((element): SheetSource[] => {
    if (element.tag !== 'style' || element.startTag === null) return [];
    const span = {
      start: element.startTag.end,
      end: element.endTag?.start ?? element.span?.end ?? element.startTag.end,
    };
    const media = attribute(element, 'media');
    const place = { source: doc.source, span };
    const conditions = media === null ? [] : [{ kind: 'media', text: media, place }];
    const items = parseStyleSheet({ source: doc.source, text: doc.masked, span, tags: doc.tags }, () => undefined);
    return [{ source: doc.source, text: doc.masked, items, conditions }];
  });
}
