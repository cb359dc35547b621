import { parseDeclarationList } from '../syntax/style-sheet.js';
import type { CssInput, Declaration } from '../syntax/css-items.js';
import type { ElementIndex, IndexedElement } from '../selectors/element-index.js';
import type { Condition, StyleRule } from './rules.js';
import type { Selector } from '../selectors/part.js';
import type { Report } from '../../findings/finding.js';
import { decodedValue, valueSpan } from '../../html/decoded-value.js';
import { maskedValue, type Attribute, type Doc } from '../../html/tree.js';

/** Where a declaration comes from, from weak to strong among normal declarations. */
export const origins = ['browser', 'attribute-hint', 'author', 'style-attribute'] as const;
export type Origin = (typeof origins)[number];

/** A declaration as it applies to one element. */
export interface Declared {
  readonly declaration: Declaration;
  readonly origin: Origin;
  readonly conditions: readonly Condition[];
  /** True where a state pseudo-class takes part. */
  readonly stateful: boolean;
  readonly layerRank: number;
  readonly specificity: number;
  /** Generations to the root of the rule's scope; infinite outside of any. */
  readonly proximity: number;
  /** Order of appearance of the rule, then of the declaration in it. */
  readonly order: number;
  readonly position: number;
  /** The selector as written; empty for a style attribute. */
  readonly selector: string;
  /** The rule and selector that it comes from; null for a style attribute or a hint. */
  readonly match: Match | null;
}

/** Stronger than every layer: what stands outside of layers. */
export const UNLAYERED = Number.MAX_SAFE_INTEGER;

/**
 * Compares by the cascade (CSS Cascading Level 5, 6.1): origin and importance, style attributes, layers, specificity,
 * order. Negative where `a` is the weaker.
 */
export function compareCascade(a: Declared, b: Declared): number {
  const important = a.declaration.important;
  if (important !== b.declaration.important) return important ? 1 : -1;
  if (a.origin !== b.origin) return origins.indexOf(a.origin) - origins.indexOf(b.origin);
  // Among important declarations the order of layers is turned round (6.4.4).
  if (a.layerRank !== b.layerRank) return important ? b.layerRank - a.layerRank : a.layerRank - b.layerRank;
  if (a.specificity !== b.specificity) return a.specificity - b.specificity;
  // The nearer scope is the stronger (CSS Cascading Level 6, 2.5.1).
  if (a.proximity !== b.proximity) return b.proximity - a.proximity;
  return a.order - b.order || a.position - b.position;
}

/** A rule's selector, ready to be tried on elements. */
export interface Candidate {
  readonly rule: StyleRule;
  readonly selector: Selector;
}

/** A candidate that matches an element. */
export interface Match extends Candidate {
  readonly proximity: number;
}

/** Rules by what the rightmost compound of their selectors asks for, so that an element tries few of them. */
export class RuleIndex {
  readonly #byId = new Map<string, Candidate[]>();
  readonly #byClass = new Map<string, Candidate[]>();
  readonly #byTag = new Map<string, Candidate[]>();
  readonly #rest: Candidate[] = [];

  /** @param test how selectors are asked */
  constructor(
    rules: readonly StyleRule[],
    private readonly test: 'matches' | 'may' = 'matches',
  ) {
    for (const rule of rules) for (const selector of rule.selectors) this.listFor(selector).push({ rule, selector });
  }

  /** The candidates that match, conditional ones included, without those for pseudo-elements. */
  matching(element: IndexedElement): Match[] {
    return this.matchingPart(element, null);
  }

  /** The candidates that match a pseudo-element of an element; of the element itself for null. */
  matchingPart(element: IndexedElement, pseudoElement: string | null): Match[] {
    const found: Match[] = [];
    const tryAll = (list: readonly Candidate[] | undefined): void => {
      for (const candidate of list ?? []) {
        if (candidate.selector.pseudoElement !== pseudoElement) continue;
        const proximity = proximityOf(candidate, element, this.test);
        if (proximity !== null) found.push({ ...candidate, proximity });
      }
    };
    if (element.id !== null) tryAll(this.#byId.get(element.id));
    for (const name of element.classes) tryAll(this.#byClass.get(name));
    tryAll(this.#byTag.get(element.node.tag.toLowerCase()));
    tryAll(this.#rest);
    return found;
  }

  private listFor(selector: Selector): Candidate[] {
    const { key } = selector;
    if (key.kind === 'any') return this.#rest;
    const map = { id: this.#byId, class: this.#byClass, tag: this.#byTag }[key.kind];
    const list = map.get(key.name);
    if (list !== undefined) return list;
    const fresh: Candidate[] = [];
    map.set(key.name, fresh);
    return fresh;
  }
}

/** Whether a candidate matches an element for certain, whatever a platform fills in. */
export function isCertain(candidate: Candidate, element: IndexedElement): boolean {
  return proximityOf(candidate, element, 'must') !== null;
}

function proximityOf(
  { rule, selector }: Candidate,
  element: IndexedElement,
  test: 'matches' | 'may' | 'must',
): number | null {
  if (rule.scope !== null) return rule.scope.distance(element, selector[test]);
  return selector[test](element) ? Infinity : null;
}

/**
 * What applies to an element from rules, weakest first. Of several matching selectors of a rule the most specific counts.
 * @param isOpen whether what a platform fills in decides where a selector matches, so that it counts as a condition
 */
export function declaredBy(
  candidates: readonly Match[],
  origin: Origin,
  isOpen: (selector: Selector) => boolean = () => false,
): Declared[] {
  return candidates
    .flatMap(({ rule, selector, proximity }) =>
      rule.declarations.map((declaration, position): Declared => ({
        declaration,
        origin,
        conditions: rule.conditions,
        stateful: selector.conditional || isOpen(selector),
        layerRank: rule.layer?.rank ?? UNLAYERED,
        specificity: selector.specificity,
        proximity,
        order: rule.order,
        position,
        selector: selector.text,
        match: { rule, selector, proximity },
      })),
    )
    .sort(compareCascade);
}

/** What an element's own style attribute declares. */
export function declaredInAttribute(index: ElementIndex, element: IndexedElement, report: Report): Declared[] {
  const found = element.node.attributes.get('style');
  if (found === undefined) return [];
  return parseDeclarationList(styleAttributeText(index.doc, found), report).map((declaration, position) => ({
    declaration,
    origin: 'style-attribute',
    conditions: [],
    stateful: false,
    layerRank: UNLAYERED,
    specificity: 0,
    proximity: Infinity,
    order: 0,
    position,
    selector: '',
    match: null,
  }));
}

/** Where to read a style attribute's value: in the document, or by itself where character references stand in it. */
function styleAttributeText(doc: Doc, attribute: Attribute): CssInput {
  const { source, masked, tags } = doc;
  const span = valueSpan(doc, attribute);
  if (masked.slice(span.start, span.end) === maskedValue(doc, attribute.value))
    return { source, text: masked, span, tags };
  const decoded = decodedValue(doc, attribute);
  const text = decoded.masked;
  return { source: decoded.source, text, span: { start: 0, end: text.length }, tags: decoded.tags };
}
