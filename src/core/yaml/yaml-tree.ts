import { isAlias, isMap, isScalar, isSeq, parseDocument, type Node } from 'yaml';
import type { Span } from '../text/span.js';

/** YAML as it is written, with the places of its keys and values. */
export type YamlNode =
  | { readonly kind: 'map'; readonly entries: readonly YamlEntry[]; readonly span: Span }
  | { readonly kind: 'list'; readonly items: readonly YamlNode[]; readonly span: Span }
  | { readonly kind: 'scalar'; readonly value: YamlScalar; readonly span: Span };

/** A single value; dates and the like as they are written. */
export type YamlScalar = string | number | boolean | null;

/** A key with its value, null where none is written. */
export interface YamlEntry {
  readonly key: string;
  readonly keySpan: Span;
  readonly value: YamlNode | null;
}

/** Deeper than this nothing is looked at. */
const DEEPEST = 40;

/** YAML (and JSON) as a tree, as far as it can be read: what is wrong in one place keeps nothing from being read in another. */
export function yamlTree(text: string): YamlNode | null {
  try {
    return treeOf(parseDocument(text, { prettyErrors: false }).contents);
  } catch {
    // Nested deeper than the parser goes.
    return null;
  }
}

/** What the parser made of YAML, as a tree; null where nothing is written. */
export function treeOf(node: unknown, depth = 0): YamlNode | null {
  if (depth > DEEPEST || node === null || node === undefined) return null;
  const span = spanOf(node as Node);
  if (span === null) return null;
  if (isMap(node)) {
    const entries = node.items.flatMap(({ key, value }): YamlEntry[] => {
      const keySpan = isScalar(key) ? spanOf(key) : null;
      if (keySpan === null || !isScalar(key)) return [];
      return [{ key: String(key.value), keySpan, value: treeOf(value, depth + 1) }];
    });
    return { kind: 'map', entries, span };
  }
  if (isSeq(node)) return { kind: 'list', items: node.items.flatMap((item) => treeOf(item, depth + 1) ?? []), span };
  if (isScalar(node)) return { kind: 'scalar', value: scalarOf(node.value), span };
  return isAlias(node) ? { kind: 'scalar', value: null, span } : null;
}

function scalarOf(value: unknown): YamlScalar {
  if (value === null || value === undefined) return null;
  return typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean'
    ? value
    : JSON.stringify(value);
}

function spanOf({ range }: Node): Span | null {
  return range ? { start: range[0], end: range[1] } : null;
}

/** The entry at a path of keys; null where there is none. */
export function entryAt(tree: YamlNode | null, path: readonly string[]): YamlEntry | null {
  let node = tree;
  let found: YamlEntry | null = null;
  for (const key of path) {
    found = node?.kind === 'map' ? (node.entries.find((entry) => entry.key === key) ?? null) : null;
    if (found === null) return null;
    node = found.value;
  }
  return found;
}

/** The entries of a group of keys; none where a node is no group. */
export function entriesOf(node: YamlNode | null | undefined): readonly YamlEntry[] {
  return node?.kind === 'map' ? node.entries : [];
}

/** The texts of a node: of a list those of its items, of one text that. */
export function textsOf(node: YamlNode | null | undefined): readonly { readonly text: string; readonly span: Span }[] {
  if (node?.kind === 'list') return node.items.flatMap(textsOf);
  return node?.kind === 'scalar' && typeof node.value === 'string' ? [{ text: node.value, span: node.span }] : [];
}
