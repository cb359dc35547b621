import {
  ByMatches,
  compareCascade,
  declaredBy,
  declaredInAttribute,
  isCertain,
  RuleIndex,
  type Declared,
  type Match,
} from '../css/cascade/cascade.js';
import type { ElementIndex, IndexedElement } from '../css/selectors/element-index.js';
import type { StyleRule } from '../css/cascade/rules.js';
import type { Selector } from '../css/selectors/part.js';
import type { Declaration } from '../css/syntax/css-items.js';
import { finding, type Report } from '../findings/finding.js';
import { findTags, holdsTag } from '../html/tags.js';
import type { Doc } from '../html/tree.js';
import {
  composeStyle,
  outermostVariables,
  variablesOf,
  type CompositionContext,
  type InlineEntry,
  type Variables,
} from './element-styles.js';
import { hasPresentationalHints } from './legacy-attributes.js';
import type { StyledElement } from './plan.js';
import type { Sheet } from '../css/cascade/sheets.js';
import { checkSheets, reportOpen, readsStyle } from './report-sheets.js';
import { spanAt } from '../text/span.js';

export interface Reading {
  readonly styled: readonly StyledElement[];
  readonly isInlined: (rule: StyleRule, selector: Selector) => boolean;
  readonly isSpent: (rule: StyleRule) => boolean;
  readonly isDone: (rule: StyleRule, selector: Selector) => boolean;
}

/** Elements of the head show nothing; styling them would only make it longer. */
const unstyled: ReadonlySet<string> = new Set([
  'head',
  'title',
  'meta',
  'link',
  'style',
  'script',
  'base',
  'template',
  'noscript',
]);

export function readElements(
  index: ElementIndex,
  rules: readonly StyleRule[],
  keepHead: boolean,
  written: (text: string) => string,
  report: Report,
): Reading {
  const ruleIndex = new RuleIndex(rules, 'may');
  const matching = index.elements.map((element) => ruleIndex.matching(element));
  const open = openSelectors(index, matching);
  const shared = sharedTags(index);
  const pinned = new Set<Selector>();
  const matched = new Set<Selector>();
  const unresolved = new Set<Declared['declaration']>();
  const variables: Variables[] = [];
  const ofLines = variablesOfLines(rules);
  const outermost = outermostVariables(ofLines);
  const context: Omit<CompositionContext, 'hasHints' | 'onInexact'> = {
    quirks: index.doc.quirks,
    ownVariables: variablesInAttributes(index),
    holdsTag: tagFinder(index.doc),
    onUnresolved: ({ declaration }: Declared): void => {
      if (unresolved.has(declaration)) return;
      unresolved.add(declaration);
      const name = /var\(\s*(--[^\s,)]+)/i.exec(declaration.value)?.[1] ?? declaration.value;
      report(finding('css-variable-empty', declaration.place, { name }));
    },
  };
  const alike = new AlikeStyles();
  const unconditional = new Map<StyledElement['head'], readonly Declared[]>();
  const first = index.elements.map((element): StyledElement => {
    const inherited = variables[element.parent?.order ?? -1] ?? outermost;
    const matches = matching[element.order] ?? [];
    const hasTag = element.node.tagId >= 0 && !shared.has(element.node.tagId);
    const read = (): ReadStyle => {
      const style = readStyle(index, element, { matches, open, inherited, ofLines, hasTag }, context, report);
      if (hasTag) unconditional.set(style.head, style.unconditional);
      return style;
    };
    const own =
      element.node.attributes.has('style') || isUnstyled(element)
        ? read()
        : alike.among(inherited, hasTag, hasPresentationalHints(element.node)).get(matches, read);
    variables.push(own.variables);
    if (isUnstyled(element)) return { element, hasTag: true, inline: [], head: [], remaining: nothing };
    for (const { match } of own.unconditional) {
      if (match === null) continue;
      if (!hasTag && !pinned.has(match.selector)) noteMissingTag(element, match, report);
      (hasTag ? matched : pinned).add(match.selector);
    }
    return { element, hasTag, inline: own.inline, head: own.head, remaining: nothing };
  });
  const isWhole = !keepHead && pinned.size === 0;
  const styled = isWhole ? first : withRemaining(first, unconditional, (selector) => keepHead || pinned.has(selector));
  const keepsVariables = needsVariables(styled, rules, matched);
  const isDone = (rule: StyleRule, selector: Selector): boolean =>
    matched.has(selector) && !pinned.has(selector) && !selector.conditional && isUnconditional(rule);
  const isInlined = (rule: StyleRule, selector: Selector): boolean =>
    isDone(rule, selector) && !(keepsVariables && rule.declarations.some(({ property }) => property.startsWith('--')));
  const isSpent = (rule: StyleRule): boolean => rule.selectors.every((selector) => isDone(rule, selector));
  checkSheets(rules, context, report);
  reportOpen(rules, open, written, report);
  return { styled, isInlined, isSpent, isDone };
}

const nothing: ReadonlySet<Declared> = new Set();

/** The custom properties that style attributes set. */
function variablesInAttributes(index: ElementIndex): ReadonlySet<string> {
  const names = new Set<string>();
  for (const { node } of index.elements) {
    const style = node.attributes.get('style')?.value ?? '';
    if (style.includes('--')) for (const match of style.matchAll(/--[^\s:;]+/g)) names.add(match[0]);
  }
  return names;
}

/** The custom properties that rules set for a first line. */
function variablesOfLines(rules: readonly StyleRule[]): Declaration[] {
  return rules
    .filter(({ selectors }) => selectors.some(({ pseudoElement }) => pseudoElement === '::first-line'))
    .flatMap(({ declarations }) => declarations.filter(({ property }) => property.startsWith('--')));
}

/** Declarations of rules that stay in the head, though they hold without condition, compete with what is inline like any that stays. */
function withRemaining(
  styled: readonly StyledElement[],
  unconditional: ReadonlyMap<StyledElement['head'], readonly Declared[]>,
  remains: (selector: Selector) => boolean,
): StyledElement[] {
  const known = new Map<StyledElement['head'], Pick<StyledElement, 'head' | 'remaining'>>();
  return styled.map((element) => {
    let found = known.get(element.head);
    if (found === undefined) {
      const staying = (unconditional.get(element.head) ?? []).filter(
        ({ declaration, match }) => !declaration.property.startsWith('--') && match !== null && remains(match.selector),
      );
      const head = staying.length === 0 ? element.head : [...element.head, ...staying].sort(compareCascade);
      found = { head, remaining: new Set(staying) };
      known.set(element.head, found);
    }
    return { element: element.element, hasTag: element.hasTag, inline: element.inline, ...found };
  });
}

/** What rules and its own attribute come to on an element. */
interface ReadStyle {
  readonly inline: readonly InlineEntry[];
  readonly head: readonly Declared[];
  readonly variables: Variables;
  /** What holds without condition, strongest last. */
  readonly unconditional: readonly Declared[];
}

/** Selectors that some element may match and need not, as a platform fills something in that decides. */
function openSelectors(
  { doc, elements }: ElementIndex,
  matching: readonly (readonly Match[])[],
): ReadonlySet<Selector> {
  const open = new Set<Selector>();
  if (doc.tags.length === 0) return open;
  for (const element of elements)
    for (const match of matching[element.order] ?? []) if (!isCertain(match, element)) open.add(match.selector);
  return open;
}

/** What is known of an element before its style is read. */
interface Surroundings {
  readonly matches: readonly Match[];
  readonly open: ReadonlySet<Selector>;
  readonly inherited: Variables;
  readonly ofLines: readonly Declaration[];
  readonly hasTag: boolean;
}

function readStyle(
  index: ElementIndex,
  element: IndexedElement,
  { matches, open, inherited, ofLines, hasTag }: Surroundings,
  context: Omit<CompositionContext, 'hasHints' | 'onInexact'>,
  report: Report,
): ReadStyle {
  const isOpen = (selector: Selector): boolean => open.has(selector);
  const declared = [...declaredBy(matches, 'author', isOpen), ...declaredInAttribute(index, element, report)];
  const [staying, moving]: [Declared[], Declared[]] = [[], []];
  for (const item of declared) (staysInHead(item) ? staying : moving).push(item);
  const head = strongestPerDeclaration(staying);
  const unconditional = strongestPerDeclaration(moving);
  const variables = variablesOf(inherited, unconditional, head, ofLines);
  const inline =
    hasTag && !isUnstyled(element)
      ? composeStyle(unconditional, head, variables, {
          ...context,
          hasHints: hasPresentationalHints(element.node),
          onInexact: () => reportInexact(index.doc, element, 'reverted', report),
        })
      : [];
  return { inline, head: hasTag ? head : declared, variables, unconditional };
}

function isUnstyled({ node }: IndexedElement): boolean {
  return unstyled.has(node.tag) || (node.namespace !== 'html' && node.startTag === null);
}

/** Elements that the same selectors match, with the same custom properties around them, are styled alike. */
class AlikeStyles {
  readonly #within = new Map<Variables, readonly ByMatches<ReadStyle>[]>();

  among(inherited: Variables, hasTag: boolean, hasHints: boolean): ByMatches<ReadStyle> {
    let kinds = this.#within.get(inherited);
    if (kinds === undefined) this.#within.set(inherited, (kinds = Array.from({ length: 4 }, () => new ByMatches())));
    return kinds[(hasTag ? 2 : 0) + (hasHints ? 1 : 0)] as ByMatches<ReadStyle>;
  }
}

/** The page's own elements are worth a word; a `<tbody>` without a tag is everyday. */
function noteMissingTag({ node }: IndexedElement, { rule, selector }: Match, report: Report): void {
  if (node.tag !== 'html' && node.tag !== 'body') return;
  report(finding('inline-no-tag', rule.place, { selector: selector.text, tag: node.tag }));
}

/**
 * A rule's declaration may reach an element by several selectors; the strongest counts. One that depends on a state only
 * counts while the state lasts, so it never takes the place of a weaker one.
 */
function strongestPerDeclaration(declared: readonly Declared[]): readonly Declared[] {
  if (declared.every(({ match }) => match === null || match.rule.selectors.length === 1)) return declared;
  const strongest = new Map<Declared['declaration'], Declared>();
  for (const item of declared) if (!item.stateful) strongest.set(item.declaration, item);
  return declared.filter((item) => {
    const certain = strongest.get(item.declaration);
    return certain === undefined || certain === item || (item.stateful && compareCascade(item, certain) > 0);
  });
}

function staysInHead(declared: Declared): boolean {
  const { match } = declared;
  return (
    match !== null &&
    (declared.conditions.length > 0 ||
      declared.stateful ||
      (match.rule.sheet as Sheet).kept ||
      readsStyle(match.selector))
  );
}

function isUnconditional(rule: StyleRule): boolean {
  return (
    rule.conditions.length === 0 &&
    !(rule.sheet as Sheet).kept &&
    !rule.selectors.some((selector) => readsStyle(selector))
  );
}

/** Start tags that the parser made several elements from (misnested formatting): what goes into the tag reaches all of them. */
function sharedTags(index: ElementIndex): ReadonlySet<number> {
  const seen = new Set<number>();
  const shared = new Set<number>();
  for (const { node } of index.elements) {
    if (node.tagId < 0) continue;
    if (seen.has(node.tagId)) shared.add(node.tagId);
    seen.add(node.tagId);
  }
  return shared;
}

/** Whether a template tag stands in a text, be it as a sentinel or (in sheets of files of their own) as it is written. */
function tagFinder({ delimiters }: Doc): (text: string) => boolean {
  return (text) =>
    holdsTag(text) || (delimiters.some(({ open }) => text.includes(open)) && findTags(text, delimiters).length > 0);
}

/** Custom properties stay in the head while anything that stays reads them. */
function needsVariables(
  styled: readonly StyledElement[],
  rules: readonly StyleRule[],
  matched: ReadonlySet<Selector>,
): boolean {
  if (styled.some(({ inline }) => inline.some((entry) => entry.live !== null))) return true;
  const staying = rules.filter(
    (rule) =>
      rule.conditions.length > 0 || rule.selectors.some((selector) => selector.conditional || !matched.has(selector)),
  );
  return staying.some((rule) =>
    rule.declarations.some(({ property, value }) => property.startsWith('--') || /var\(/i.test(value)),
  );
}

const unsolvedCodes = {
  'no-tag': 'inline-inexact',
  'filled-in': 'inline-filled-in',
  'nested-deep': 'inline-nested-deep',
  reverted: 'inline-reverted',
} as const;

export function reportInexact(
  doc: Doc,
  { node, parent }: IndexedElement,
  cause: keyof typeof unsolvedCodes,
  report: Report,
): void {
  const span = node.startTag ?? parent?.node.startTag ?? spanAt(0, 0);
  report(finding(unsolvedCodes[cause], { source: doc.source, span }, { tag: node.tag }));
}
