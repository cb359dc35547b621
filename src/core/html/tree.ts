import type { SourceText } from '../text/source-text.js';
import { firstFrom, type Span, spanAt } from '../text/span.js';
import { replaceSentinels, type TagDelimiters } from './tags.js';

export type Namespace = 'html' | 'svg' | 'math';

export interface Attribute {
  readonly name: string;
  /** The decoded value; template tags stand in it as sentinels (see tags.ts). */
  readonly value: string;
  /** The whole attribute in the source: name, equals sign, quotes and value. */
  readonly span: Span;
}

export interface ElementNode {
  readonly kind: 'element';
  /** Lower case for HTML elements. */
  readonly tag: string;
  readonly namespace: Namespace;
  readonly attributes: ReadonlyMap<string, Attribute>;
  readonly parent: ElementNode | null;
  readonly children: readonly TreeNode[];
  /** From the start tag to the end tag; null for an element that the parser added without a tag. */
  readonly span: Span | null;
  readonly startTag: Span | null;
  readonly endTag: Span | null;
  /**
   * Elements that the parser made from one and the same start tag (misnested formatting) share this number;
   * it is -1 for elements without a tag.
   */
  readonly tagId: number;
}

export interface TextNode {
  readonly kind: 'text';
  /** The decoded text; template tags stand in it as sentinels. */
  readonly value: string;
  readonly parent: ElementNode | null;
  readonly span: Span | null;
}

export interface CommentNode {
  readonly kind: 'comment';
  /** What stands between `<!--` and `-->`; template tags stand in it as sentinels. */
  readonly value: string;
  readonly parent: ElementNode | null;
  readonly span: Span | null;
}

export type TreeNode = ElementNode | TextNode | CommentNode;

/** A parsed document: its source, its tree as the HTML standard builds it, and its template tags. */
export interface Doc {
  readonly source: SourceText;
  /** The source's text with its template tags masked at equal length; what is parsed. */
  readonly masked: string;
  /** The `<html>` element; the parser adds it where the source has none. */
  readonly root: ElementNode;
  /** Comments and the like that stand outside the root, in order. */
  readonly outside: readonly TreeNode[];
  readonly doctype: { readonly span: Span } | null;
  /** Quirks mode changes how selectors match (HTML standard, "no-quirks"). */
  readonly quirks: boolean;
  /** The spans of the template tags, in order; a sentinel in a value holds an index into this list. */
  readonly tags: readonly Span[];
  /** By what they were found. */
  readonly delimiters: readonly TagDelimiters[];
}

/** The value of an attribute, or null where the element does not have it. */
export function attribute(element: ElementNode, name: string): string | null {
  return element.attributes.get(name)?.value ?? null;
}

/** All elements below (and with) `root`, in document order. Uses no recursion: depth belongs to the input. */
export function* elementsOf(root: ElementNode): Generator<ElementNode> {
  const stack: TreeNode[] = [root];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind !== 'element') continue;
    yield node;
    for (let index = node.children.length - 1; index >= 0; index -= 1) {
      const child = node.children[index];
      if (child !== undefined && child.kind === 'element') stack.push(child);
    }
  }
}

/** What stands between the tags of an element, as far as it is written; null for one without a start tag. */
export function contentSpan({ startTag, endTag, span }: ElementNode): Span | null {
  return startTag && { start: startTag.end, end: endTag?.start ?? span?.end ?? startTag.end };
}

/** The first element with this tag, in document order. */
export function firstElement(root: ElementNode, tag: string): ElementNode | null {
  for (const element of elementsOf(root)) if (element.tag === tag) return element;
  return null;
}

/** The text inside an element, without markup, in document order. */
export function textContent(element: ElementNode): string {
  const pieces: string[] = [];
  const stack: TreeNode[] = [element];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'text') pieces.push(node.value);
    if (node.kind === 'element') pushChildren(stack, node);
  }
  return pieces.join('');
}

/** Puts the children of an element on a stack, so that the first comes off first; there may be any number of them. */
export function pushChildren(stack: TreeNode[], { children }: ElementNode): void {
  for (let index = children.length - 1; index >= 0; index -= 1) stack.push(children[index] as TreeNode);
}

/** The template tags that stand in a stretch of the source, as numbers of `doc.tags`. */
export function tagsWithin(doc: Doc, span: Span): number[] {
  const found: number[] = [];
  for (let index = firstFrom(doc.tags, span.start); index < doc.tags.length; index += 1) {
    if ((doc.tags[index]?.end ?? Infinity) > span.end) break;
    found.push(index);
  }
  return found;
}

/** A value of the tree as the masked text has it: in place of each tag there is the filler for it. */
export function maskedValue(doc: Doc, value: string): string {
  return replaceSentinels(value, (index) => doc.masked.slice(doc.tags[index]?.start ?? 0, doc.tags[index]?.end ?? 0));
}

/** A value of the tree with its template tags as they are written. */
export function writtenValue(doc: Doc, value: string): string {
  return replaceSentinels(value, (index) => doc.source.slice(doc.tags[index] ?? spanAt(0, 0)));
}
