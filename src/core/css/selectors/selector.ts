import { parseSelectorList, type CssNode } from '../syntax/css-tree.js';
import type { IndexedElement, Matcher } from './element-index.js';
import { compileAttribute } from './attribute-selector.js';
import { compileDir, compileLang } from './language-selector.js';
import { pseudoElements, statePseudoClasses } from './vocabulary.js';
import { isTagAlone } from '../../html/tags.js';
import { holdsFiller, mayBeName, type SelectorSetting } from '../syntax/tagged-values.js';
import { isLast, placeAmong, typeOf, typePlaces, type PlaceTable } from './sibling-places.js';

/** One complex selector, compiled. */
export interface Selector {
  readonly text: string;
  /** The selector with what it is nested in written out; null where that would become too long. */
  readonly flat: () => string | null;
  /** The text of the selector and of all that it is nested in. */
  readonly texts: () => readonly string[];
  /** Offsets into the list it was read from. */
  readonly start: number;
  readonly end: number;
  /** Ids, classes and types packed into one number (Selectors Level 4, 17), comparable as numbers. */
  readonly specificity: number;
  /** True where a state pseudo-class or a pseudo-element takes part: a static document does not decide it. */
  readonly conditional: boolean;
  /** Lower case, with its colons; null where the selector is about elements. */
  readonly pseudoElement: string | null;
  /** What the rightmost compound asks for at least; rules are indexed by it. */
  readonly key: SelectorKey;
  /** Template tags taken as text. */
  readonly matches: Matcher;
  /** Whether an element may match, whatever a platform fills in. */
  readonly may: Matcher;
  /** Whether an element matches for certain, whatever a platform fills in. */
  readonly must: Matcher;
  /** True where the answer depends on the scope that is being tried. */
  readonly anchored: boolean;
}

export type SelectorKey = { readonly kind: 'id' | 'class' | 'tag'; readonly name: string } | { readonly kind: 'any' };

/** What surrounds a selector list: the rule it is nested in, the document's mode, the scope. */
export interface SelectorContext extends SelectorSetting {
  /** The selectors that `&` stands for; null at the top level, where `&` is `:scope`. */
  readonly nesting: readonly Selector[] | null;
  /** True in a nested rule or a scope: a selector without `&` or `:scope` stands below it (CSS Nesting 1, 3.1). */
  readonly relativeToNesting: boolean;
  /** True where a selector may begin with a combinator. */
  readonly takesCombinator: boolean;
  /** What `:scope` means; null means the root element. */
  readonly scopeRoot: Matcher | null;
  /** What is asked where a platform fills something in: the text as it stands, or what it may or must come to. */
  readonly reading?: Reading;
}

type Reading = 'matches' | 'may' | 'must';

const readingOf = (context: SelectorContext): Reading => context.reading ?? 'matches';

/** Within `:not()` what may match is what need not match. */
const opposite = { matches: 'matches', may: 'must', must: 'may' } as const;

const ID = 1 << 20;
const CLASS = 1 << 10;
const TYPE = 1;

interface Part {
  readonly matches: Matcher;
  readonly specificity: number;
  readonly conditional: boolean;
  readonly pseudoElement: string | null;
  readonly key: SelectorKey;
  readonly usesNesting: boolean;
  /** True where the answer depends on what `:scope` or `:has()` stand at just now, so that it must not be remembered. */
  readonly anchored: boolean;
  readonly complex: boolean;
}

class InvalidSelector extends Error {}

/**
 * Compiles a selector list. Null where any selector in it is invalid, since that voids the whole rule.
 */
export function compileSelectorList(text: string, context: SelectorContext): Selector[] | null {
  const ready = readyForGrammar(text, context);
  const tree = parseSelectorList(ready);
  if (tree === null || tree.type !== 'SelectorList') return null;
  try {
    const inserted = (offset: number): number =>
      ready.slice(0, offset).length - removeInserted(ready.slice(0, offset)).length;
    return childrenOf(tree).map((node) => compileComplex(node, ready, inserted, context));
  } catch (error) {
    if (error instanceof InvalidSelector) return null;
    throw error;
  }
}

/** Marks an `&` that is put before a leading combinator; white space that no author writes. */
const INSERTED = '&\u000c';

/** The borrowed grammar takes a leading combinator only inside `:has()`; `&` put before it says the same. */
function readyForGrammar(text: string, context: SelectorContext): string {
  if (!context.takesCombinator) return text;
  return text.replace(/(^|,)(\s*)(?=[>+~])/g, `$1$2${INSERTED}`);
}

function removeInserted(text: string): string {
  return text.replaceAll(INSERTED, '');
}

function compileComplex(
  node: CssNode,
  text: string,
  inserted: (offset: number) => number,
  context: SelectorContext,
): Selector {
  const compiled = compileSelector(childrenOf(node), context);
  const read = (reading: Reading): Matcher =>
    context.isFilledIn ? compileSelector(childrenOf(node), { ...context, reading }).matches : compiled.matches;
  const location = (node as { loc?: { start: { offset: number }; end: { offset: number } } }).loc;
  const start = location?.start.offset ?? 0;
  const end = location?.end.offset ?? text.length;
  const written = text.slice(start, end);
  return {
    ...compiled,
    may: read('may'),
    must: read('must'),
    text: removeInserted(written).trim(),
    flat: once(() => flatten(written.replace('\u000c', ''), context)),
    texts: () => [removeInserted(written), ...(context.nesting?.[0]?.texts() ?? []), ...textsOf(context.nesting)],
    start: start - inserted(start),
    end: end - inserted(end),
  };
}

function textsOf(selectors: readonly Selector[] | null): readonly string[] {
  return selectors?.map(({ text }) => text) ?? [];
}

/** Each level of nesting may double what stands for `&`. */
const LONGEST_FLAT = 20_000;

/** Writes out what `&` stands for, so that the selector says the same outside of the rule. */
function flatten(written: string, context: SelectorContext): string | null {
  if (context.nesting === null) return written;
  const parents = context.nesting.map((selector) => selector.flat());
  if (parents.includes(null)) return null;
  const around = `:is(${parents.join(',')})`;
  const hasNesting = written.match(NESTING)?.some((found) => found === '&') === true;
  const full = hasNesting || !context.relativeToNesting ? written : `& ${written}`;
  const flat = full.replace(NESTING, (found) => (found === '&' ? around : found));
  return flat.length > LONGEST_FLAT ? null : flat;
}

/** `&`, and the strings and escapes in which it is no selector. */
const NESTING = /"(?:[^"\\]|\\[\s\S])*"|'(?:[^'\\]|\\[\s\S])*'|\\[\s\S]|&/g;

function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | null = null;
  return () => (made ??= { value: make() }).value;
}

function compileSelector(nodes: readonly CssNode[], context: SelectorContext): Part {
  const compounds = splitCompounds(nodes).map(({ combinator, nodes: compound }) => {
    if (compound.length === 0) throw new InvalidSelector();
    return { combinator, right: compileCompound(compound, context) };
  });
  const isRelative = context.relativeToNesting && !compounds.some(({ right }) => right.usesNesting);
  let left: Part | null = isRelative ? nestingPart(context) : null;
  for (const { combinator, right } of compounds)
    left = left === null ? right : combine(left, combinator || ' ', right, context);
  if (left === null) throw new InvalidSelector();
  return left;
}

function splitCompounds(nodes: readonly CssNode[]): { combinator: string; nodes: CssNode[] }[] {
  const compounds: { combinator: string; nodes: CssNode[] }[] = [{ combinator: '', nodes: [] }];
  for (const node of nodes) {
    if (node.type === 'Combinator') compounds.push({ combinator: node.name, nodes: [] });
    else compounds[compounds.length - 1]?.nodes.push(node);
  }
  return compounds;
}

function combine(left: Part, combinator: string, right: Part, context: SelectorContext): Part {
  if (left.pseudoElement !== null) throw new InvalidSelector();
  return {
    matches: combinedMatcher(
      left.complex && !left.anchored ? remembered(left.matches) : left.matches,
      combinator,
      right.matches,
      left.anchored,
      context,
    ),
    specificity: left.specificity + right.specificity,
    conditional: left.conditional || right.conditional,
    pseudoElement: right.pseudoElement,
    key: right.key,
    usesNesting: left.usesNesting || right.usesNesting,
    anchored: left.anchored || right.anchored,
    complex: true,
  };
}

/** Asks once for each element: chains of descendants would otherwise climb the same ancestors again for each link. */
function remembered(matches: Matcher): Matcher {
  const answers = new WeakMap<IndexedElement, boolean>();
  return (element) => {
    const known = answers.get(element);
    if (known !== undefined) return known;
    const answer = matches(element);
    answers.set(element, answer);
    return answer;
  };
}

function combinedMatcher(
  left: Matcher,
  combinator: string,
  right: Matcher,
  isAnchored: boolean,
  context: SelectorContext,
): Matcher {
  const isOpen = (element: IndexedElement): boolean =>
    readingOf(context) !== 'matches' && hasOpenSiblings(element, context);
  switch (combinator) {
    case ' ': {
      const isInside = ancestorMatcher(left, !isAnchored);
      return (element) => right(element) && isInside(element);
    }
    case '>':
      return (element) => right(element) && element.parent !== null && left(element.parent);
    case '+':
      return (element) =>
        right(element) &&
        (isOpen(element)
          ? context.reading === 'may' && siblingsOf(element).some(left)
          : element.previous !== null && left(element.previous));
    case '~':
      return (element) =>
        right(element) &&
        (isOpen(element) ? context.reading === 'may' && siblingsOf(element).some(left) : somePrevious(element, left));
    default:
      throw new InvalidSelector();
  }
}

/** How far ancestors are climbed for each element anew; few messages are deeper. */
const NEAR = 64;

/**
 * Whether some ancestor matches. Where elements are nested very deep, the answer for those far up is kept, so that a chain of
 * them is not climbed again from each.
 * @param isLasting whether an element always matches or never does
 */
function ancestorMatcher(matches: Matcher, isLasting: boolean): Matcher {
  const answers = new WeakMap<IndexedElement, boolean>();
  const inOrAround = (from: IndexedElement): boolean => {
    const climbed: IndexedElement[] = [];
    let answer = false;
    for (let at: IndexedElement | null = from; at !== null && !answer; at = at.parent) {
      const known = answers.get(at);
      answer = known ?? matches(at);
      climbed.push(at);
      if (known !== undefined) break;
    }
    for (const element of climbed) answers.set(element, answer);
    return answer;
  };
  return (element) => {
    let at = element.parent;
    for (let steps = 0; at !== null && (steps < NEAR || !isLasting); steps += 1, at = at.parent)
      if (matches(at)) return true;
    return at !== null && inOrAround(at);
  };
}

function somePrevious(element: IndexedElement, matches: Matcher): boolean {
  for (let at = element.previous; at !== null; at = at.previous) if (matches(at)) return true;
  return false;
}

function compileCompound(nodes: readonly CssNode[], context: SelectorContext): Part {
  const parts = nodes.map((node) => compileSimple(node, context));
  const matchers = parts.map((part) => part.matches).filter((matches) => matches !== always);
  const pseudoElement = parts
    .map((part) => part.pseudoElement)
    .filter((name) => name !== null)
    .join('');
  return {
    matches: allOf(matchers),
    specificity: parts.reduce((sum, part) => sum + part.specificity, 0),
    conditional: parts.some((part) => part.conditional),
    pseudoElement: pseudoElement === '' ? null : pseudoElement,
    key: bestKey(parts.map((part) => part.key)),
    usesNesting: parts.some((part) => part.usesNesting),
    anchored: parts.some((part) => part.anchored),
    complex: false,
  };
}

function bestKey(keys: readonly SelectorKey[]): SelectorKey {
  const ranked = ['id', 'class', 'tag'].map((kind) => keys.find((key) => key.kind === kind));
  return ranked.find((key) => key !== undefined) ?? anyKey;
}

const anyKey: SelectorKey = { kind: 'any' };
const always: Matcher = () => true;
const never: Matcher = () => false;

function allOf(matchers: readonly Matcher[]): Matcher {
  const [first, second, ...rest] = matchers;
  if (first === undefined) return always;
  if (second === undefined) return first;
  if (rest.length === 0) return (element) => first(element) && second(element);
  return (element) => matchers.every((matches) => matches(element));
}

function part(matches: Matcher, specificity: number, more: Partial<Part> = {}): Part {
  return {
    matches,
    specificity,
    conditional: false,
    pseudoElement: null,
    key: anyKey,
    usesNesting: false,
    anchored: false,
    complex: false,
    ...more,
  };
}

function compileSimple(node: CssNode, context: SelectorContext): Part {
  switch (node.type) {
    case 'TypeSelector':
      return compileType(decode(node.name), context);
    case 'ClassSelector':
      return compileClass(decode(node.name), context);
    case 'IdSelector':
      return compileId(decode(node.name), context);
    case 'AttributeSelector':
      return part(compileAttribute(node, context, readingOf(context) === 'may'), CLASS);
    case 'NestingSelector':
      return nestingPart(context);
    case 'PseudoClassSelector':
      return compilePseudoClass(node, context);
    case 'PseudoElementSelector':
      return pseudoElementPart(node.name.toLowerCase());
    default:
      throw new InvalidSelector();
  }
}

function compileType(name: string, context: SelectorContext): Part {
  const bar = name.indexOf('|');
  const local = name.slice(bar + 1);
  if (bar > 0 && name.slice(0, bar) !== '*') throw new InvalidSelector();
  if (bar === 0) return part(never, local === '*' ? 0 : TYPE);
  if (local === '*') return part(always, 0);
  // A selector that a platform fills in may be any.
  if (holdsFiller(local)) return part(readingOf(context) === 'may' ? always : never, TYPE);
  const lower = local.toLowerCase();
  const matches: Matcher = ({ node }) => (node.namespace === 'html' ? node.tag === lower : node.tag === local);
  return part(matches, TYPE, { key: { kind: 'tag', name: lower } });
}

function compileClass(name: string, context: SelectorContext): Part {
  const wanted = context.quirks ? name.toLowerCase() : name;
  const key = { kind: 'class', name: wanted } as const;
  const lists = (context.tagged.get('class') ?? []).map((list) => (context.quirks ? list.toLowerCase() : list));
  const isOpen = (masked: string): boolean => masked !== wanted && mayBeName(masked, wanted);
  if (!lists.some((list) => list.split(/\s+/).some(isOpen)))
    return part((element) => element.classes.has(wanted), CLASS, { key });
  const isMay = readingOf(context) === 'may';
  return part(({ classes }) => classes.has(wanted) || (isMay && [...classes].some(isOpen)), CLASS);
}

function compileId(name: string, context: SelectorContext): Part {
  const wanted = context.quirks ? name.toLowerCase() : name;
  const key = { kind: 'id', name: wanted } as const;
  const isOpen = (masked: string): boolean => masked !== wanted && mayBeName(masked, wanted);
  if (!(context.tagged.get('id') ?? []).some(isOpen)) return part((element) => element.id === wanted, ID, { key });
  const isMay = readingOf(context) === 'may';
  return part(({ id }) => id === wanted || (isMay && id !== null && isOpen(id)), ID);
}

/** `&` is `:is(the parent rule's selectors)`; at the top level, `:scope`. */
function nestingPart(context: SelectorContext): Part {
  if (context.nesting === null)
    return part(scopeMatcher(context), context.scopeRoot === null ? CLASS : 0, {
      usesNesting: true,
      anchored: context.scopeRoot !== null,
    });
  const able = context.nesting.filter((selector) => selector.pseudoElement === null);
  const anchored = context.scopeRoot !== null || able.some((selector) => selector.anchored);
  // Each level asks all selectors of the one above: without memory, that doubles with each.
  const any = anyOf(able.map((selector) => ({ matches: selector[readingOf(context)] })));
  const matches = anchored || able.length < 2 ? any : remembered(any);
  return part(matches, Math.max(0, ...context.nesting.map((selector) => selector.specificity)), {
    conditional: able.some((selector) => selector.conditional),
    usesNesting: true,
    anchored,
  });
}

function anyOf(selectors: readonly { readonly matches: Matcher }[]): Matcher {
  const [first, second] = selectors;
  if (first === undefined) return never;
  if (second === undefined) return first.matches;
  return (element) => selectors.some((selector) => selector.matches(element));
}

function scopeMatcher(context: SelectorContext): Matcher {
  return context.scopeRoot ?? isRoot;
}

const isRoot: Matcher = (element) => element.parent === null;

function pseudoElementPart(name: string): Part {
  const known = pseudoElements.has(name) || name.startsWith('-webkit-') || name.startsWith('-moz-');
  if (!known) throw new InvalidSelector();
  return part(always, TYPE, { conditional: true, pseudoElement: `::${name}` });
}

type PseudoClassNode = Extract<CssNode, { type: 'PseudoClassSelector' }>;

function compilePseudoClass(node: PseudoClassNode, context: SelectorContext): Part {
  const name = node.name.toLowerCase();
  const children = node.children === null ? null : [...node.children];
  if (children === null) return compilePlainPseudoClass(name, context);
  switch (name) {
    case 'is':
    case 'where':
    case 'not':
      return compileLogical(name, children, context);
    case 'has':
      return compileHas(children, context);
    case 'nth-child':
    case 'nth-last-child':
    case 'nth-of-type':
    case 'nth-last-of-type':
      return compileNth(name, children[0], context);
    case 'lang':
      return part(compileLang(rawText(children)), CLASS);
    case 'dir':
      return part(compileDir(rawText(children)), CLASS);
    default:
      if (statePseudoClasses.has(name)) return part(always, CLASS, { conditional: true });
      throw new InvalidSelector();
  }
}

function compilePlainPseudoClass(name: string, context: SelectorContext): Part {
  if (['before', 'after', 'first-line', 'first-letter'].includes(name)) return pseudoElementPart(name);
  const matches = staticPseudoClasses.get(name);
  if (name === 'scope')
    return part(scopeMatcher(context), CLASS, { usesNesting: true, anchored: context.scopeRoot !== null });
  if (matches !== undefined) return part(asFilledIn(matches, name, context), CLASS);
  if (statePseudoClasses.has(name)) return part(always, CLASS, { conditional: true });
  throw new InvalidSelector();
}

/** Pseudo-classes about what a document alone has are as sure as it; those that count depend on what blocks repeat or leave out. */
function asFilledIn(matches: Matcher, name: string, context: SelectorContext): Matcher {
  const reading = readingOf(context);
  if (reading === 'matches' || !/(?:child|of-type|empty)$/.test(name)) return matches;
  return (element) => {
    const isOpen = name === 'empty' ? isFilledIn(element) : hasOpenSiblings(element, context);
    return isOpen ? reading === 'may' : matches(element);
  };
}

/** Whether template tags between an element and its siblings may add or take away elements. */
function hasOpenSiblings({ parent }: IndexedElement, { openParents }: SelectorContext): boolean {
  return parent !== null && openParents.has(parent.node);
}

/** Whether nothing but template tags stands in an element. */
function isFilledIn({ node: { children } }: IndexedElement): boolean {
  const holds = children.filter((child) => child.kind !== 'comment');
  return holds.length > 0 && holds.every((child) => child.kind === 'text' && isTagAlone(child.value));
}

function siblingsOf(element: IndexedElement): readonly IndexedElement[] {
  return element.parent?.children ?? [element];
}

const isLink: Matcher = ({ node }) => (node.tag === 'a' || node.tag === 'area') && node.attributes.has('href');

/** Pseudo-classes that the document alone decides. `:link` is among them: a mail opens with its links unvisited. */
const staticPseudoClasses: ReadonlyMap<string, Matcher> = new Map<string, Matcher>([
  ['root', isRoot],
  ['empty', (element) => isEmpty(element)],
  ['first-child', (element) => element.position === 0],
  ['last-child', (element) => element.position === siblingsOf(element).length - 1],
  ['only-child', (element) => siblingsOf(element).length === 1],
  ['first-of-type', (element) => placeAmong(element, typePlaces, typeOf).index === 0],
  ['last-of-type', (element) => isLast(placeAmong(element, typePlaces, typeOf))],
  ['only-of-type', (element) => placeAmong(element, typePlaces, typeOf).count === 1],
  ['link', isLink],
  ['any-link', isLink],
  ['defined', always],
]);

function isEmpty(element: IndexedElement): boolean {
  return element.node.children.every(
    (child) => child.kind === 'comment' || (child.kind === 'text' && child.value === ''),
  );
}

function compileLogical(name: 'is' | 'where' | 'not', children: readonly CssNode[], context: SelectorContext): Part {
  const reading = name === 'not' ? opposite[readingOf(context)] : readingOf(context);
  const inner = { ...context, reading, relativeToNesting: false, takesCombinator: false };
  const parts = selectorsIn(children).flatMap((selector) => {
    try {
      return [compileSelector(childrenOf(selector), inner)];
    } catch (error) {
      // :is() and :where() forgive (Selectors 4, 4.2): an invalid selector in them matches nothing.
      if (error instanceof InvalidSelector && name !== 'not') return [];
      throw error;
    }
  });
  const able = parts.filter((candidate) => candidate.pseudoElement === null);
  const specificity = name === 'where' ? 0 : Math.max(0, ...able.map((candidate) => candidate.specificity));
  const conditional = able.some((candidate) => candidate.conditional);
  const usesNesting = able.some((candidate) => candidate.usesNesting);
  const anchored = able.some((candidate) => candidate.anchored);
  const any = anyOf(able);
  if (name !== 'not') return part(any, specificity, { conditional, usesNesting, anchored, key: soleKey(able) });
  const decided = anyOf(able.filter((candidate) => !candidate.conditional));
  return part((element) => !decided(element), specificity, { conditional, usesNesting, anchored });
}

function soleKey(parts: readonly Part[]): SelectorKey {
  return parts.length === 1 ? (parts[0]?.key ?? anyKey) : anyKey;
}

function compileHas(children: readonly CssNode[], context: SelectorContext): Part {
  const relatives = selectorsIn(children).map((selector) => {
    const nodes = childrenOf(selector);
    const lead = nodes[0]?.type === 'Combinator' ? nodes[0].name : ' ';
    const rest = nodes[0]?.type === 'Combinator' ? nodes.slice(1) : nodes;
    return { lead, rest };
  });
  const compiled = relatives.map(({ lead, rest }) => {
    const anchor: { element: IndexedElement | null } = { element: null };
    const isAnchor: Part = part((element) => element === anchor.element, 0, { anchored: true });
    const compounds = splitCompounds(rest).map(({ combinator, nodes }) => ({
      combinator,
      part: compileCompound(nodes, { ...context, relativeToNesting: false, takesCombinator: false }),
    }));
    let chain = isAnchor;
    compounds.forEach(({ combinator, part: right }, index) => {
      chain = combine(chain, index === 0 ? lead : combinator, right, context);
    });
    return { anchor, chain, sibling: lead === '+' || lead === '~' };
  });
  const matches: Matcher = (element) => compiled.some((relative) => hasRelative(element, relative));
  return part(matches, Math.max(0, ...compiled.map(({ chain }) => chain.specificity)), {
    conditional: compiled.some(({ chain }) => chain.conditional),
    usesNesting: compiled.some(({ chain }) => chain.usesNesting),
    anchored: context.scopeRoot !== null,
  });
}

interface Relative {
  readonly anchor: { element: IndexedElement | null };
  readonly chain: Part;
  readonly sibling: boolean;
}

function hasRelative(element: IndexedElement, { anchor, chain, sibling }: Relative): boolean {
  const outer = anchor.element;
  anchor.element = element;
  const stack: IndexedElement[] = sibling ? siblingsOf(element).slice(element.position + 1) : [...element.children];
  let found = false;
  for (let candidate = stack.pop(); candidate !== undefined && !found; candidate = stack.pop()) {
    found = chain.matches(candidate);
    stack.push(...candidate.children);
  }
  anchor.element = outer;
  return found;
}

type NthNode = Extract<CssNode, { type: 'Nth' }>;

function compileNth(name: string, node: CssNode | undefined, context: SelectorContext): Part {
  if (node?.type !== 'Nth') throw new InvalidSelector();
  const { step, offset } = stepAndOffset(node);
  const filter =
    node.selector === null
      ? null
      : selectorsIn([node.selector]).map((selector) =>
          compileSelector(childrenOf(selector), { ...context, relativeToNesting: false, takesCombinator: false }),
        );
  const among = filter === null ? null : anyOf(filter);
  const ownPlaces: PlaceTable = new WeakMap();
  const ofType = name.endsWith('of-type');
  const fromEnd = name.includes('last');
  const matches: Matcher = (element) => {
    if (among !== null && !among(element)) return false;
    if (among === null && !ofType) {
      const position = fromEnd ? siblingsOf(element).length - element.position : element.position + 1;
      return isNth(position, step, offset);
    }
    const { index, count } = ofType
      ? placeAmong(element, typePlaces, typeOf)
      : placeAmong(element, ownPlaces, (other) => (among?.(other) === true ? 'counted' : 'other'));
    return isNth(fromEnd ? count - index : index + 1, step, offset);
  };
  const specificity = CLASS + (filter === null ? 0 : Math.max(0, ...filter.map((selector) => selector.specificity)));
  return part(asFilledIn(matches, name, context), specificity, {
    conditional: filter?.some((selector) => selector.conditional) ?? false,
  });
}

function stepAndOffset(node: NthNode): { step: number; offset: number } {
  if (node.nth.type === 'Identifier') return { step: 2, offset: node.nth.name.toLowerCase() === 'odd' ? 1 : 0 };
  const { a, b } = node.nth;
  const step = a === null || a === undefined ? 0 : a === '-' ? -1 : a === '+' || a === '' ? 1 : Number(a);
  return { step, offset: Number(b ?? 0) };
}

function isNth(position: number, step: number, offset: number): boolean {
  if (step === 0) return position === offset;
  const count = (position - offset) / step;
  return Number.isInteger(count) && count >= 0;
}

function rawText(children: readonly CssNode[]): string {
  return children
    .map((child) => {
      if ('value' in child && typeof child.value === 'string') return child.value;
      return 'name' in child && typeof child.name === 'string' ? child.name : '';
    })
    .join('');
}

function selectorsIn(children: readonly CssNode[]): CssNode[] {
  const list = children[0];
  if (list === undefined) return [];
  if (list.type !== 'SelectorList') throw new InvalidSelector();
  return childrenOf(list);
}

function childrenOf(node: CssNode): CssNode[] {
  return 'children' in node && Array.isArray(node.children) ? node.children : [];
}

/** Undoes CSS escapes in a name (CSS Syntax 4.3.7). */
function decode(name: string): string {
  if (!name.includes('\\')) return name;
  return name.replace(
    /\\(?:([0-9a-f]{1,6})(?:\r\n|[ \t\n\f\r])?|([\s\S]))/gi,
    (_, hex: string | undefined, character: string | undefined) => {
      if (hex === undefined) return character ?? '';
      const code = parseInt(hex, 16);
      return code === 0 || code > 0x10ffff || (code >= 0xd800 && code < 0xe000) ? '\ufffd' : String.fromCodePoint(code);
    },
  );
}
