import { cssDetail } from '../findings/wording/css.js';
import { selectorSetting } from '../css/syntax/tagged-values.js';
import {
  compareCascade,
  declaredBy,
  declaredInAttribute,
  isCertain,
  RuleIndex,
  type Declared,
  type Match,
} from '../css/cascade/cascade.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/selectors/element-index.js';
import { invalidMedia } from '../css/cascade/media-validity.js';
import { collectRules, type Condition, type StyleRule } from '../css/cascade/rules.js';
import type { Selector } from '../css/selectors/selector.js';
import type { Declaration } from '../css/syntax/style-sheet.js';
import { judgeValue } from '../css/values/validity.js';
import { finding, type Report } from '../findings/finding.js';
import { checkTags } from '../html/tag-check.js';
import { withoutFiller } from '../html/mask.js';
import { findTags, holdsTag } from '../html/tags.js';
import { writtenValue, type Doc } from '../html/tree.js';
import { applyEdits, type Edit } from '../text/apply-edits.js';
import {
  composeStyle,
  outermostVariables,
  variablesOf,
  type CompositionContext,
  type InlineEntry,
  type Variables,
} from './element-styles.js';
import { headEdits } from './head.js';
import { hasPresentationalHints, legacyAttributesFor } from './legacy-attributes.js';
import { planImportance, type Plan, type StyledElement } from './plan.js';
import { restateContenders } from './restate.js';
import type { Sheet } from '../css/cascade/sheets.js';
import { attributeEdits, declarationsText, writtenEntries, type NewAttribute } from './style-attribute.js';

/** A document to inline. */
export interface InlineInput {
  readonly doc: Doc;
  /** Its style sheets, in cascade order (see `readSheets`). */
  readonly sheets: readonly Sheet[];
  /** True to leave in the head what was inlined, too. */
  readonly keepHead: boolean;
}

/** A style attribute longer than this is worth a word, in characters. */
const LONG_STYLE = 2048;

/** Some webmail cuts HTML off at about this many bytes. */
const CLIPPING_SIZE = 100 * 1024;

/** Whether finished HTML is longer than some webmail shows. */
export function isClipped(html: string): boolean {
  return html.length > CLIPPING_SIZE;
}

/**
 * Moves what style sheets say into style attributes. In a browser the result computes to the same styles at every width,
 * scheme and state; without its style elements, to what the unconditional rules come to. Everything that has no part in
 * this stays byte for byte.
 */
export function inlineStyles(input: InlineInput, report: Report): string {
  const { doc, sheets } = input;
  const rules = collectRules(sheets, selectorSetting(doc), report);
  const index = indexElements(doc);
  const written = tagWriter(doc, sheets);
  const reading = readElements(index, rules, input.keepHead, written, report);
  const plan = planImportance(reading.styled, isFixed);
  const names = usedNames(index, rules);
  const restatement = restateContenders(plan.restated, (name) => !names.has(name), written);
  reportUnsolved(plan, doc, report);
  const readAttributes = attributesReadBy(rules, reading);
  const edits = [
    ...reading.styled.flatMap((element) =>
      elementEdits(element, { doc, plan, classes: restatement.classes, readAttributes }, report),
    ),
    ...headEdits({
      doc,
      sheets,
      rules,
      isInlined: (rule, selector) => reading.isInlined(rule, selector),
      isSpent: reading.isSpent,
      isDone: reading.isDone,
      important: plan.important,
      added: restatement.rules,
      keepHead: input.keepHead,
    }),
  ];
  return finish(doc, edits, report);
}

/** Puts template tags into a text in the place of the sentinels and fillers that stand for them. */
function tagWriter(doc: Doc, sheets: readonly Sheet[]): (text: string) => string {
  const inFiles = sheets.filter(({ source }) => source !== doc.source).map(({ source }) => source.text);
  const texts = [
    ...doc.tags.map((tag) => doc.source.slice(tag)),
    ...inFiles.flatMap((text) => findTags(text, doc.delimiters).map(({ start, end }) => text.slice(start, end))),
  ];
  return (text) => withoutFiller(writtenValue(doc, text), texts);
}

function finish(doc: Doc, edits: readonly Edit[], report: Report): string {
  const { text, rejected } = applyEdits(doc.source.text, edits);
  if (rejected.length > 0) throw new Error(`Inlining made ${rejected.length} edits that overlap.`);
  checkTags(doc, text, report);
  if (isClipped(text))
    report(
      finding(
        'html-clipped',
        { source: doc.source, span: { start: 0, end: 0 } },
        { size: `${Math.round(text.length / 1024)} KB` },
      ),
    );
  return text;
}

/** Sheets that the author wants left alone cannot be changed; rules in layers change their rank when they become important. */
function isFixed(declared: Declared): boolean {
  const rule = declared.match?.rule;
  return rule !== undefined && ((rule.sheet as Sheet).kept || rule.layer !== null);
}

interface Reading {
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

function readElements(
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
  const alike = new StyleCache();
  const unconditional = new Map<StyledElement['head'], readonly Declared[]>();
  const first = index.elements.map((element): StyledElement => {
    const inherited = variables[element.parent?.order ?? -1] ?? outermost;
    const matches = matching[element.order] ?? [];
    const hasTag = element.node.tagId >= 0 && !shared.has(element.node.tagId);
    const key =
      element.node.attributes.has('style') || isUnstyled(element)
        ? null
        : alike.key(matches, inherited, { hasTag, hasHints: hasPresentationalHints(element.node) });
    const known = key === null ? undefined : alike.get(key);
    const own = known ?? readStyle(index, element, { matches, open, inherited, ofLines, hasTag }, context, report);
    if (key !== null && known === undefined) alike.set(key, own);
    variables.push(own.variables);
    if (isUnstyled(element)) return { element, hasTag: true, inline: [], head: [], remaining: nothing };
    for (const { match } of own.unconditional) {
      if (match === null) continue;
      if (!hasTag && !pinned.has(match.selector)) noteMissingTag(element, match, report);
      (hasTag ? matched : pinned).add(match.selector);
    }
    if (hasTag) unconditional.set(own.head, own.unconditional);
    return { element, hasTag, inline: own.inline, head: own.head, remaining: nothing };
  });
  const styled = withRemaining(first, unconditional, (selector) => keepHead || pinned.has(selector));
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
  for (const { node } of index.elements)
    for (const match of (node.attributes.get('style')?.value ?? '').matchAll(/--[^\s:;]+/g)) names.add(match[0]);
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
    return { ...element, ...found };
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
  const head = strongestPerDeclaration(declared.filter(staysInHead));
  const unconditional = strongestPerDeclaration(declared.filter((item) => !staysInHead(item)));
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
class StyleCache {
  readonly #styles = new Map<string, ReadStyle>();
  readonly #ids = new Map<object, number>();

  key(matches: readonly Match[], inherited: Variables, has: { hasTag: boolean; hasHints: boolean }): string {
    const ids = matches.map(({ selector, proximity }) => `${this.id(selector)}@${proximity}`);
    return `${has.hasTag ? 'tag' : ''} ${has.hasHints ? 'hints' : ''} ${this.id(inherited)} ${ids.join(' ')}`;
  }

  get(key: string): ReadStyle | undefined {
    return this.#styles.get(key);
  }

  set(key: string, style: ReadStyle): void {
    this.#styles.set(key, style);
  }

  private id(object: object): number {
    const known = this.#ids.get(object);
    if (known !== undefined) return known;
    this.#ids.set(object, this.#ids.size);
    return this.#ids.size - 1;
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
function strongestPerDeclaration(declared: readonly Declared[]): Declared[] {
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

/** A selector that reads the style attribute cannot stay true once styles move there. */
function readsStyle(selector: Selector): boolean {
  return selector.texts().some((text) => /\[\s*style\b/i.test(text));
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

/** Values that no browser takes, and selectors that read what moves. */
function checkSheets(
  rules: readonly StyleRule[],
  context: Pick<CompositionContext, 'quirks' | 'holdsTag'>,
  report: Report,
): void {
  const seen = new Set<Declared['declaration']>();
  checkConditions(rules, report);
  for (const rule of rules) {
    for (const declaration of rule.declarations) {
      if (seen.has(declaration)) continue;
      seen.add(declaration);
      const { property, value, place } = declaration;
      if (
        context.quirks ||
        /var\(/i.test(value) ||
        context.holdsTag(value) ||
        context.holdsTag(property) ||
        judgeValue(property, value, false) !== 'invalid'
      )
        continue;
      report(finding('css-ignored', place, { detail: cssDetail.noValueOf(value, property) }));
    }
    for (const selector of rule.selectors)
      if (readsStyle(selector)) report(finding('css-reads-style', rule.place, { selector: selector.text }));
  }
}

function reportOpen(
  rules: readonly StyleRule[],
  open: ReadonlySet<Selector>,
  written: (text: string) => string,
  report: Report,
): void {
  for (const { selectors, place } of rules)
    for (const selector of selectors)
      if (open.has(selector)) report(finding('css-undecided', place, { selector: written(selector.text) }));
}

/** Media queries that never hold; their rules stay in the head. */
function checkConditions(rules: readonly StyleRule[], report: Report): void {
  const seen = new Set<Condition['place']>();
  for (const { kind, text, place } of rules.flatMap(({ conditions }) => conditions)) {
    if (kind !== 'media' || seen.has(place)) continue;
    seen.add(place);
    const invalid = invalidMedia(text);
    if (invalid === null) continue;
    const hint = invalid.nearest === null ? '' : `; did you mean "${invalid.nearest}"?`;
    report(finding('css-ignored', place, { detail: cssDetail.queryNeverHolds(text, invalid.detail, hint) }));
  }
}

function usedNames(index: ElementIndex, rules: readonly StyleRule[]): ReadonlySet<string> {
  const names = new Set<string>();
  for (const element of index.elements) for (const name of element.classes) names.add(name);
  for (const rule of rules)
    for (const selector of rule.selectors)
      for (const match of selector
        .texts()
        .join(' ')
        .matchAll(/\.([\w-]+)/g))
        names.add(match[1] ?? '');
  return names;
}

/** The names of attributes that selectors read which stay in the head. */
function attributesReadBy(rules: readonly StyleRule[], reading: Reading): ReadonlySet<string> {
  const names = new Set<string>();
  for (const rule of rules) {
    for (const selector of rule.selectors) {
      if (reading.isInlined(rule, selector)) continue;
      for (const match of selector
        .texts()
        .join(' ')
        .matchAll(/\[\s*([\w-]+)/g))
        names.add((match[1] ?? '').toLowerCase());
    }
  }
  return names;
}

/** What is decided for all elements. */
interface ElementWork {
  readonly doc: Doc;
  readonly plan: Plan;
  /** The classes that elements get, for rules that are made for them. */
  readonly classes: ReadonlyMap<StyledElement, string>;
  /** Attributes that selectors ask for: they must not appear where they were not. */
  readonly readAttributes: ReadonlySet<string>;
}

function elementEdits(
  styled: StyledElement,
  { doc, plan, classes, readAttributes }: ElementWork,
  report: Report,
): Edit[] {
  const { element, inline, hasTag } = styled;
  const className = classes.get(styled) ?? null;
  if (!hasTag) return [];
  const marked: ReadonlySet<InlineEntry> = plan.marked.get(styled) ?? new Set();
  const isNew = (entry: InlineEntry): boolean =>
    entry.declared.match !== null || /var\(/i.test(entry.declared.declaration.value);
  const changes = inline.some(isNew);
  const attributes: NewAttribute[] = [];
  if (className !== null)
    attributes.push({
      name: 'class',
      value: [element.node.attributes.get('class')?.value ?? '', className].join(' ').trim(),
    });
  if (changes || marked.size > 0) {
    const entries = writtenEntries(inline, marked);
    const text = writtenValue(doc, declarationsText(entries));
    if (text.length > LONG_STYLE && element.node.startTag !== null)
      report(finding('style-long', { source: doc.source, span: element.node.startTag }, { size: String(text.length) }));
    attributes.push(...legacyAttributesFor(element.node, entries, (name) => readAttributes.has(name)), {
      name: 'style',
      value: text,
    });
  }
  return attributes.length === 0
    ? []
    : attributeEdits(
        doc,
        element.node,
        attributes.map(({ name, value }) => ({ name, value: writtenValue(doc, value) })),
      );
}

const unsolvedCodes = {
  'no-tag': 'inline-inexact',
  'filled-in': 'inline-filled-in',
  'nested-deep': 'inline-nested-deep',
  reverted: 'inline-reverted',
} as const;

function reportUnsolved(plan: Plan, doc: Doc, report: Report): void {
  for (const { element, cause } of plan.unsolved) reportInexact(doc, element.element, cause, report);
}

function reportInexact(
  doc: Doc,
  { node, parent }: IndexedElement,
  cause: keyof typeof unsolvedCodes,
  report: Report,
): void {
  const span = node.startTag ?? parent?.node.startTag ?? { start: 0, end: 0 };
  report(finding(unsolvedCodes[cause], { source: doc.source, span }, { tag: node.tag }));
}
