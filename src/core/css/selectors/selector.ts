import type { CssNode } from '../syntax/css-tree.js';
import type { IndexedElement, Matcher } from './element-index.js';
import { compileAttribute } from './attribute-selector.js';
import { compileDir, compileLang } from './language-selector.js';
import { pseudoElements, statePseudoClasses } from './vocabulary.js';
import { holdsFiller, mayBeName } from '../syntax/tagged-values.js';
import { placeAmong, typeOf, typePlaces, type PlaceTable } from './sibling-places.js';
import {
  type SelectorContext,
  type Selector,
  childrenOf,
  InvalidSelector,
  type Reading,
  type Part,
  readingOf,
  part,
  always,
  allOf,
  bestKey,
  decode,
  CLASS,
  never,
  TYPE,
  ID,
  anyOf,
  isRoot,
  type PseudoClassNode,
  rawText,
  opposite,
  selectorsIn,
  soleKey,
} from './part.js';
import { combinedMatcher, remembered } from './combinators.js';
import { parseForgiving } from './forgiving.js';
import { isNth, stepAndOffset } from './nth.js';
import { flatten, readyForGrammar, withoutInserted } from './nesting.js';
import { staticPseudoClasses, asFilledIn, siblingsOf } from './static-pseudo-class.js';

/**
 * Compiles a selector list. Null where any selector in it is invalid, since that voids the whole rule.
 */
export function compileSelectorList(text: string, context: SelectorContext): Selector[] | null {
  const ready = readyForGrammar(text, context);
  const tree = parseForgiving(ready);
  if (tree === null || tree.type !== 'SelectorList') return null;
  try {
    const inserted = (offset: number): number =>
      ready === text ? 0 : offset - withoutInserted(ready.slice(0, offset)).length;
    return childrenOf(tree).map((node) => compileComplex(node, ready, inserted, context));
  } catch (error) {
    if (error instanceof InvalidSelector) return null;
    throw error;
  }
}

function compileComplex(
  node: CssNode,
  text: string,
  inserted: (offset: number) => number,
  context: SelectorContext,
): Selector {
  const compiled = compileSelector(childrenOf(node), context);
  const { matches, specificity, conditional, pseudoElement, key, anchored } = compiled;
  const read = (reading: Reading): Matcher =>
    context.isFilledIn ? compileSelector(childrenOf(node), { ...context, reading }).matches : matches;
  const location = (node as { loc?: { start: { offset: number }; end: { offset: number } } }).loc;
  const start = location?.start.offset ?? 0;
  const end = location?.end.offset ?? text.length;
  const written = text.slice(start, end);
  return {
    matches,
    specificity,
    conditional,
    pseudoElement,
    key,
    anchored,
    may: read('may'),
    must: read('must'),
    text: withoutInserted(written).trim(),
    flat: flatten(written, context),
    texts: () => [withoutInserted(written), ...(context.nesting?.[0]?.texts() ?? []), ...textsOf(context.nesting)],
    start: start - inserted(start),
    end: end - inserted(end),
  };
}

function textsOf(selectors: readonly Selector[] | null): readonly string[] {
  return selectors?.map(({ text }) => text) ?? [];
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

function compileCompound(nodes: readonly CssNode[], context: SelectorContext): Part {
  // A type stands before all else; only `&` may stand before it (CSS Nesting 1, 3).
  const first = nodes.findIndex(({ type }) => type !== 'NestingSelector');
  if (nodes.some(({ type }, at) => type === 'TypeSelector' && at > first)) throw new InvalidSelector();
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

function scopeMatcher(context: SelectorContext): Matcher {
  return context.scopeRoot ?? isRoot;
}

function pseudoElementPart(name: string): Part {
  const known = pseudoElements.has(name) || name.startsWith('-webkit-') || name.startsWith('-moz-');
  if (!known) throw new InvalidSelector();
  return part(always, TYPE, { conditional: true, pseudoElement: `::${name}` });
}

function compilePseudoClass(node: PseudoClassNode, context: SelectorContext): Part {
  const name = node.name.toLowerCase();
  const children = node.children === null ? null : [...node.children];
  if (children === null) return compilePlainPseudoClass(name, context);
  switch (name) {
    case '-webkit-any':
      return compileLogical('is', children, context);
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
    // Nothing of a message stands in a shadow tree.
    case 'host':
    case 'host-context':
      return part(never, CLASS);
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

function compileLogical(name: 'is' | 'where' | 'not', children: readonly CssNode[], context: SelectorContext): Part {
  const reading = name === 'not' ? opposite[readingOf(context)] : readingOf(context);
  const inner = { ...context, reading, relativeToNesting: false, takesCombinator: false };
  const selectors = selectorsIn(children);
  if (name === 'not' && selectors.length === 0) throw new InvalidSelector();
  const parts = selectors.flatMap((selector) => {
    try {
      return [compileSelector(childrenOf(selector), inner)];
    } catch (error) {
      // :is() and :where() forgive (Selectors 4, 4.2): an invalid selector in them matches nothing.
      if (error instanceof InvalidSelector && name !== 'not') return [];
      throw error;
    }
  });
  const able = parts.filter((candidate) => candidate.pseudoElement === null);
  if (name === 'not' && able.length < parts.length) throw new InvalidSelector();
  const specificity = name === 'where' ? 0 : Math.max(0, ...able.map((candidate) => candidate.specificity));
  const conditional = able.some((candidate) => candidate.conditional);
  const usesNesting = able.some((candidate) => candidate.usesNesting);
  const anchored = able.some((candidate) => candidate.anchored);
  const any = anyOf(able);
  if (name !== 'not') return part(any, specificity, { conditional, usesNesting, anchored, key: soleKey(able) });
  const decided = anyOf(able.filter((candidate) => !candidate.conditional));
  return part((element) => !decided(element), specificity, { conditional, usesNesting, anchored });
}

function compileHas(children: readonly CssNode[], context: SelectorContext): Part {
  // Selectors Level 4, 4.5: it does not nest, and asks for elements alone.
  if (context.isInHas === true) throw new InvalidSelector();
  const inner = { ...context, relativeToNesting: false, takesCombinator: false, isInHas: true };
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
      part: compileCompound(nodes, inner),
    }));
    let chain = isAnchor;
    compounds.forEach(({ combinator, part: right }, index) => {
      chain = combine(chain, index === 0 ? lead : combinator, right, context);
    });
    if (chain.pseudoElement !== null) throw new InvalidSelector();
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
