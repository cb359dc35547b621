import { attribute } from '../html/tree.js';
import { SourceText } from '../text/source-text.js';
import type { Report } from '../finding.js';
import { browserStyles } from './browser-styles.js';
import { declaredBy, declaredInAttribute, RuleIndex, type Declared } from './cascade.js';
import type { ElementIndex, IndexedElement } from './element-index.js';
import { readWidthCondition } from './media.js';
import { collectRules, type StyleRule } from './rules.js';
import { parseStyleSheet } from './syntax.js';

/**
 * For each element (by its order number) what applies to it under any condition, weakest first: the browser's rules,
 * presentational attributes, the author's rules, the style attribute.
 */
export function declarationsOf(index: ElementIndex, rules: readonly StyleRule[], report: Report): Declared[][] {
  const browser = new RuleIndex(browserRules());
  const author = new RuleIndex(rules);
  return index.elements.map((element) => [
    ...declaredBy(browser.matching(element), 'browser'),
    ...attributeHints(element),
    ...declaredBy(author.matching(element), 'author'),
    ...declaredInAttribute(index, element, report),
  ]);
}

let readBrowserRules: StyleRule[] | null = null;

function browserRules(): StyleRule[] {
  if (readBrowserRules === null) {
    const source = new SourceText('browser.css', browserStyles);
    const ignore = (): void => undefined;
    const items = parseStyleSheet(source, source.text, { start: 0, end: source.text.length }, ignore);
    readBrowserRules = collectRules([{ source, text: source.text, items, conditions: [] }], false, ignore);
  }
  return readBrowserRules;
}

/** `width` and `height` of a picture count as styles of the author's with no specificity (HTML standard, 15.4.3). */
function attributeHints(element: IndexedElement): Declared[] {
  if (element.node.tag !== 'img') return [];
  return ['width', 'height'].flatMap((property, position): Declared[] => {
    const value = attribute(element.node, property)?.trim() ?? '';
    if (!/^\d+(?:\.\d+)?%?$/.test(value)) return [];
    const place = { source: new SourceText('', value), span: { start: 0, end: value.length } };
    const written = value.endsWith('%') ? value : `${value}px`;
    const declaration = {
      kind: 'declaration',
      property,
      value: written,
      important: false,
      place,
      valueSpan: place.span,
    } as const;
    return [
      {
        declaration,
        origin: 'attribute-hint',
        conditions: [],
        stateful: false,
        layerRank: 0,
        specificity: 0,
        proximity: Infinity,
        order: 0,
        position,
        selector: '',
        match: null,
      },
    ];
  });
}

/** Whether a declaration applies on a screen of this width with no state (`:hover`) in play; unknown conditions do not hold. */
export function appliesAtWidth(item: Declared, width: number): boolean {
  return (
    !item.stateful &&
    item.conditions.every(
      (condition) => condition.kind === 'media' && readWidthCondition(condition.text)?.matches(width) === true,
    )
  );
}
