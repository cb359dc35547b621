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
  readonly #byId = new Map<string, Match[]>();
  readonly #byClass = new Map<string, Match[]>();
  readonly #byTag = new Map<string, Match[]>();
  readonly #rest: Match[] = [];
  readonly #inScopes = new Map<Match, Map<number, Match>>();

  /** @param test how selectors are asked */
  constructor(
    rules: readonly StyleRule[],
    private readonly test: 'matches' | 'may' = 'matches',
  ) {
    for (const rule of rules)
      for (const selector of rule.selectors) this.listFor(selector).push({ rule, selector, proximity: Infinity });
  }

  /**
   * The candidates that match, conditional ones included, without those for pseudo-elements. Of each candidate, and of how near its
   * scope is, there is one match.
   */
  matching(element: IndexedElement): Match[] {
    return this.matchingPart(element, null);
  }

  /** The candidates that match a pseudo-element of an element; of the element itself for null. */
  matchingPart(element: IndexedElement, pseudoElement: string | null): Match[] {
    const found: Match[] = [];
    const tryAll = (list: readonly Match[] | undefined): void => {
      for (const candidate of list ?? []) {
        if (candidate.selector.pseudoElement !== pseudoElement) continue;
        const proximity = proximityOf(candidate, element, this.test);
        if (proximity !== null) found.push(proximity === Infinity ? candidate : this.within(candidate, proximity));
      }
    };
    if (element.id !== null) tryAll(this.#byId.get(element.id));
    for (const name of element.classes) tryAll(this.#byClass.get(name));
    tryAll(this.#byTag.get(element.node.tag.toLowerCase()));
    tryAll(this.#rest);
    return found;
  }

  private within(candidate: Match, proximity: number): Match {
    const known = this.#inScopes.get(candidate) ?? new Map<number, Match>();
    this.#inScopes.set(candidate, known);
    const match = known.get(proximity) ?? { ...candidate, proximity };
    known.set(proximity, match);
    return match;
  }

  private listFor(selector: Selector): Match[] {
    const { key } = selector;
    if (key.kind === 'any') return this.#rest;
    const map = { id: this.#byId, class: this.#byClass, tag: this.#byTag }[key.kind];
    const list = map.get(key.name);
    if (list !== undefined) return list;
    const fresh: Match[] = [];
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
  matches: readonly Match[],
  origin: Origin,
  isOpen: (selector: Selector) => boolean = () => false,
): readonly Declared[] {
  return inCascadeOrder(matches.flatMap((match) => declaredIn(match, origin, isOpen(match.selector))));
}

/** What each match declares, which is the same on each element. */
const known = new WeakMap<Match, readonly Declared[]>();

function declaredIn(match: Match, origin: Origin, isOpen: boolean): readonly Declared[] {
  const before = isOpen ? undefined : known.get(match);
  if (before !== undefined) return before;
  const { rule, selector, proximity } = match;
  const declared = rule.declarations.map((declaration, position): Declared => ({
    declaration,
    origin,
    conditions: rule.conditions,
    stateful: selector.conditional || isOpen,
    layerRank: rule.layer?.rank ?? UNLAYERED,
    specificity: selector.specificity,
    proximity,
    order: rule.order,
    position,
    selector: selector.text,
    match,
  }));
  if (!isOpen) known.set(match, declared);
  return declared;
}

/** Declarations, weakest first. Most come in that order. */
export function inCascadeOrder(declared: readonly Declared[]): readonly Declared[] {
  const isInOrder = declared.every((item, index) => {
    const before = declared[index - 1];
    return before === undefined || compareCascade(before, item) <= 0;
  });
  return isInOrder ? declared : [...declared].sort(compareCascade);
}

/** What comes of matches, by what these are: elements that match alike share it. */
export class ByMatches<T extends object> {
  readonly #top: Behind<T> = { behind: new Map(), value: null };

  /** What came of these matches before, or what `make` gives, which is kept. */
  get(matches: readonly Match[], make: () => T): T {
    let at = this.#top;
    for (const match of matches) {
      let next = at.behind.get(match);
      if (next === undefined) at.behind.set(match, (next = { behind: new Map(), value: null }));
      at = next;
    }
    at.value ??= make();
    return at.value;
  }
}

interface Behind<T> {
  readonly behind: Map<Match, Behind<T>>;
  value: T | null;
}

/** What of a list applies under some condition; of each list it is found out once, and where all applies it is the list itself. */
export function applying(
  applies: (item: Declared) => boolean,
): (declared: readonly Declared[] | undefined) => readonly Declared[] {
  const found = new Map<readonly Declared[], readonly Declared[]>();
  return (declared = nothing) => {
    const before = found.get(declared);
    if (before !== undefined) return before;
    const applied = declared.every(applies) ? declared : declared.filter(applies);
    found.set(declared, applied);
    return applied;
  };
}

const nothing: readonly Declared[] = [];

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
