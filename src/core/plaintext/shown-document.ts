import { selectorSetting } from '../css/syntax/tagged-values.js';
import { applying } from '../css/cascade/cascade.js';
import { appliesAtWidth, declarationsOf, declarationsFrom, onlyOn } from '../css/cascade/document-cascade.js';
import { computeStyles } from '../css/cascade/computed.js';
import { shownProperties, type ShownStyle } from './shown-style.js';
import { indexElements, type ElementIndex } from '../css/selectors/element-index.js';
import { collectRules } from '../css/cascade/rules.js';
import { readSheets } from '../css/cascade/sheets.js';
import type { Doc, ElementNode } from '../html/tree.js';
import { SourceText } from '../text/source-text.js';
import { spanAt } from '../text/span.js';

/** The viewport that decides what is shown: a wide one. */
export const WIDE_VIEWPORT = 1000;

/** A tree as a reader sees it. */
export interface ShownTree {
  readonly index: ElementIndex;
  /** The styles of its elements in a wide window, by their order. */
  readonly styles: readonly ShownStyle[];
}

/** A document as a reader sees it: what a text version is made from. */
export interface ShownDocument extends ShownTree {
  /** A template tag, by its number in the sentinels that stand for it. */
  readonly restore: (index: number) => string;
}

const ignore = (): void => undefined;

const isAskedFor = onlyOn(shownProperties);

/** A parsed document, with its own style sheets. */
export function shownDocument(doc: Doc): ShownDocument {
  const index = indexElements(doc);
  const rules = collectRules(
    readSheets(doc, [], () => null, ignore),
    selectorSetting(doc),
    ignore,
    isAskedFor,
  );
  const declared = declarationsOf(index, rules, ignore, isAskedFor);
  const shown = applying((item) => appliesAtWidth(item, WIDE_VIEWPORT));
  const { styles } = computeStyles(index, ({ order }) => shown(declared[order]));
  return { index, styles, restore: (number) => doc.source.slice(doc.tags[number] ?? spanAt(0, 0)) };
}

/** A tree whose styles are known: the same view of a document that need not be printed and parsed for it. */
export function shownTree({
  root,
  styleOf,
}: {
  readonly root: ElementNode;
  readonly styleOf: (element: ElementNode) => ReadonlyMap<string, string> | null;
}): ShownTree {
  const index = indexElements(treeAlone(root));
  const declared = declarationsFrom(index, (element) => styleOf(element.node), isAskedFor);
  return { index, styles: computeStyles(index, ({ order }) => declared[order] ?? []).styles };
}

/** A tree that was not parsed as a document. */
export function treeAlone(root: ElementNode): Doc {
  const source = new SourceText('', '');
  return { source, masked: '', root, outside: [], doctype: null, quirks: false, tags: [], delimiters: [] };
}
