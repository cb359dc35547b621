import type { CssNode } from '../syntax/css-tree.js';
import type { Matcher } from './element-index.js';
import type { SelectorSetting } from '../syntax/tagged-values.js';

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
  /** True within `:has()`. */
  readonly isInHas?: boolean;
  /** What is asked where a platform fills something in: the text as it stands, or what it may or must come to. */
  readonly reading?: Reading;
}

export type Reading = 'matches' | 'may' | 'must';

export const readingOf = (context: SelectorContext): Reading => context.reading ?? 'matches';

/** Within `:not()` what may match is what need not match. */
export const opposite = { matches: 'matches', may: 'must', must: 'may' } as const;

export const ID = 1 << 20;

export const CLASS = 1 << 10;

export const TYPE = 1;

export interface Part {
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

export class InvalidSelector extends Error {}

export function bestKey(keys: readonly SelectorKey[]): SelectorKey {
  const ranked = ['id', 'class', 'tag'].map((kind) => keys.find((key) => key.kind === kind));
  return ranked.find((key) => key !== undefined) ?? anyKey;
}

const anyKey: SelectorKey = { kind: 'any' };

export const always: Matcher = () => true;

export const never: Matcher = () => false;

export function allOf(matchers: readonly Matcher[]): Matcher {
  const [first, second, ...rest] = matchers;
  if (first === undefined) return always;
  if (second === undefined) return first;
  if (rest.length === 0) return (element) => first(element) && second(element);
  return (element) => matchers.every((matches) => matches(element));
}

export function part(matches: Matcher, specificity: number, more: Partial<Part> = {}): Part {
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

export function anyOf(selectors: readonly { readonly matches: Matcher }[]): Matcher {
  const [first, second] = selectors;
  if (first === undefined) return never;
  if (second === undefined) return first.matches;
  return (element) => selectors.some((selector) => selector.matches(element));
}

export const isRoot: Matcher = (element) => element.parent === null;

export type PseudoClassNode = Extract<CssNode, { type: 'PseudoClassSelector' }>;

export function soleKey(parts: readonly Part[]): SelectorKey {
  return parts.length === 1 ? (parts[0]?.key ?? anyKey) : anyKey;
}

export function rawText(children: readonly CssNode[]): string {
  return children
    .map((child) => {
      if ('value' in child && typeof child.value === 'string') return child.value;
      return 'name' in child && typeof child.name === 'string' ? child.name : '';
    })
    .join('');
}

export function selectorsIn(children: readonly CssNode[]): CssNode[] {
  const list = children[0];
  if (list === undefined) return [];
  if (list.type !== 'SelectorList') throw new InvalidSelector();
  return childrenOf(list);
}

export function childrenOf(node: CssNode): CssNode[] {
  return 'children' in node && Array.isArray(node.children) ? node.children : [];
}

/** Undoes CSS escapes in a name (CSS Syntax 4.3.7). */
export function decode(name: string): string {
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
