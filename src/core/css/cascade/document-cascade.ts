import { hintsOf } from './attribute-hints.js';
import { untagged } from '../syntax/tagged-values.js';
import { SourceText } from '../../text/source-text.js';
import type { Report } from '../../findings/finding.js';
import { browserStyles } from './browser-styles.js';
import {
  ByMatches,
  declaredBy,
  declaredInAttribute,
  inCascadeOrder,
  RuleIndex,
  UNLAYERED,
  type Declared,
} from './cascade.js';
import type { ElementIndex, IndexedElement } from '../selectors/element-index.js';
import { longhandNames } from './longhand-names.js';
import { readWidthCondition } from './media.js';
import { collectRules, type StyleRule } from './rules.js';
import { parseStyleSheet } from '../syntax/style-sheet.js';
import { wholeSheet } from '../syntax/css-items.js';

/** Which properties are asked for: what is said of others is left out. */
export type PropertyFilter = (property: string) => boolean;

const everything: PropertyFilter = () => true;

/** What decides the values of some longhands: themselves, their shorthands, and what any value may refer to. */
export function onlyOn(longhands: readonly string[]): PropertyFilter {
  const wanted = new Set([...longhands, 'direction']);
  const known = new Map<string, boolean>();
  return (property) => {
    const before = known.get(property);
    if (before !== undefined) return before;
    const isWanted = property.startsWith('--') || longhandNames(property).some((name) => wanted.has(name));
    known.set(property, isWanted);
    return isWanted;
  };
}

/** Declarations of each element, by its order number, weakest first. Elements to which the same applies may share a list. */
export type DeclaredByOrder = readonly (readonly Declared[])[];

/** The elements of a document with what the rules of its style sheets and all else say of them. */
export interface DeclaredStyles {
  readonly index: ElementIndex;
  readonly rules: readonly StyleRule[];
  readonly declared: DeclaredByOrder;
}

/**
 * For each element (by its order number) what applies to it under any condition, weakest first: the browser's rules,
 * presentational attributes, the author's rules, the style attribute.
 */
export function declarationsOf(
  index: ElementIndex,
  rules: readonly StyleRule[],
  report: Report,
  isAskedFor = everything,
): DeclaredByOrder {
  const browser = new RuleIndex(rulesOn(browserRules(), isAskedFor));
  const author = new RuleIndex(rulesOn(rules, isAskedFor));
  const lists = new ByMatches<readonly Declared[]>();
  return index.elements.map((element) => {
    const fromBrowser = browser.matching(element);
    const fromAuthor = author.matching(element);
    const own = [...hintDeclarations(hintsOf(element.node)), ...declaredInAttribute(index, element, report)].filter(
      ({ declaration }) => isAskedFor(declaration.property),
    );
    const all = (): readonly Declared[] =>
      inCascadeOrder([...declaredBy(fromBrowser, 'browser'), ...own, ...declaredBy(fromAuthor, 'author')]);
    return own.length > 0 ? all() : lists.get([...fromBrowser, ...fromAuthor], all);
  });
}

/** The same for elements whose own style is known as declarations, weakest first, and which no rule of the author's matches. */
export function declarationsFrom(
  index: ElementIndex,
  styleOf: (element: IndexedElement) => ReadonlyMap<string, string> | null,
  isAskedFor = everything,
): DeclaredByOrder {
  const browser = new RuleIndex(rulesOn(browserRules(), isAskedFor));
  const lists = new ByMatches<Map<string, readonly Declared[]>>();
  return index.elements.map((element) => {
    const fromBrowser = browser.matching(element);
    const hints = hintsOf(element.node).filter(([property]) => isAskedFor(property));
    const style = [...(styleOf(element) ?? [])].filter(([property]) => isAskedFor(property));
    const alike = lists.get(fromBrowser, () => new Map());
    const key = JSON.stringify([hints, style]);
    const list =
      alike.get(key) ??
      inCascadeOrder([
        ...declaredBy(fromBrowser, 'browser'),
        ...hintDeclarations(hints),
        ...style.map(([property, value], position) =>
          unplaced(property, value, { origin: 'style-attribute', layerRank: UNLAYERED, position }),
        ),
      ]);
    alike.set(key, list);
    return list;
  });
}

/** Rules, as far as they say something of what is asked for. */
function rulesOn(rules: readonly StyleRule[], isAskedFor: PropertyFilter): readonly StyleRule[] {
  if (isAskedFor === everything) return rules;
  return rules.flatMap((rule) => {
    const declarations = rule.declarations.filter(({ property }) => isAskedFor(property));
    return declarations.length === 0 ? [] : [{ ...rule, declarations }];
  });
}

let readBrowserRules: StyleRule[] | null = null;

function browserRules(): StyleRule[] {
  if (readBrowserRules === null) {
    const source = new SourceText('browser.css', browserStyles);
    const ignore = (): void => undefined;
    const items = parseStyleSheet(wholeSheet(source), ignore);
    readBrowserRules = collectRules([{ source, text: source.text, items, conditions: [] }], untagged, ignore);
  }
  return readBrowserRules;
}

/** Presentational attributes count as styles of the author's with no specificity (HTML standard, 15.2 to 15.4). */
function hintDeclarations(hints: ReturnType<typeof hintsOf>): Declared[] {
  return hints.map(([property, value], position) =>
    unplaced(property, value, { origin: 'attribute-hint', layerRank: 0, position }),
  );
}

/** A declaration that stands nowhere in a style sheet. */
function unplaced(
  property: string,
  value: string,
  rank: Pick<Declared, 'origin' | 'layerRank' | 'position'>,
): Declared {
  const place = { source: new SourceText('', value), span: { start: 0, end: value.length } };
  return {
    declaration: { kind: 'declaration', property, value, important: false, place, valueSpan: place.span },
    conditions: [],
    stateful: false,
    specificity: 0,
    proximity: Infinity,
    order: 0,
    selector: '',
    match: null,
    ...rank,
  };
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
