import { isConditionalComment } from './conditional-comment.js';
import { elementsOf, type Attribute, type Doc, type TreeNode } from './tree.js';
import type { Span } from '../text/span.js';

/** Where in the markup a template tag stands. */
export interface TagContext {
  readonly kind: 'text' | 'attribute' | 'unquoted' | 'between' | 'style' | 'comment';
  /** The quote around the value of the attribute; empty elsewhere. */
  readonly quote: string;
}

interface Range {
  readonly span: Span;
  readonly kind: 'tag' | 'style' | 'comment';
  readonly attributes: readonly Attribute[];
}

/** Tells for an offset of a document where in the markup it stands. */
export function tagContexts(doc: Doc): (offset: number) => TagContext {
  const ranges = rangesOf(doc).sort((a, b) => a.span.start - b.span.start);
  return (offset) => {
    const range = lastFrom(ranges, offset);
    if (range === undefined || offset >= range.span.end) return { kind: 'text', quote: '' };
    if (range.kind !== 'tag') return { kind: range.kind, quote: '' };
    const attribute = range.attributes.find(({ span }) => span.start <= offset && offset < span.end);
    if (attribute === undefined) return { kind: 'between', quote: '' };
    const written = doc.source.slice(attribute.span);
    const value = written.slice(written.indexOf('=') + 1).trimStart();
    const quote = /^["']/.exec(value)?.[0] ?? '';
    return { kind: quote === '' ? 'unquoted' : 'attribute', quote };
  };
}

/** The last range that begins at or before an offset. */
function lastFrom(ranges: readonly Range[], offset: number): Range | undefined {
  let low = 0;
  let high = ranges.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((ranges[middle]?.span.start ?? Infinity) <= offset) low = middle + 1;
    else high = middle;
  }
  return ranges[low - 1];
}

/** The start tags, style sheets and unconditional comments that hold a template tag. */
function rangesOf(doc: Doc): Range[] {
  // Only what holds a template tag, or the beginning of one, is ever asked for.
  const openings = [...doc.source.text.matchAll(/[@$]\{/g)].map(({ index }) => index);
  const starts = [...openings, ...doc.tags.map(({ start }) => start)].sort((a, b) => a - b);
  if (starts.length === 0) return [];
  const holdsTag = (span: Span | null): span is Span => {
    if (span === null) return false;
    let low = 0;
    let high = starts.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((starts[middle] ?? Infinity) < span.start) low = middle + 1;
      else high = middle;
    }
    return (starts[low] ?? Infinity) < span.end;
  };
  const ranges: Range[] = [];
  const leaves = (nodes: readonly TreeNode[]): void => {
    for (const node of nodes)
      if (node.kind === 'comment' && !isConditionalComment(node.value) && holdsTag(node.span))
        ranges.push({ span: node.span, kind: 'comment', attributes: [] });
  };
  leaves(doc.outside);
  for (const element of elementsOf(doc.root)) {
    leaves(element.children);
    if (holdsTag(element.startTag))
      ranges.push({ span: element.startTag, kind: 'tag', attributes: [...element.attributes.values()] });
    const start = element.startTag?.end ?? 0;
    const inner = { start, end: element.endTag?.start ?? start };
    if (element.tag === 'style' && holdsTag(inner)) ranges.push({ span: inner, kind: 'style', attributes: [] });
  }
  return ranges.sort((a, b) => a.span.start - b.span.start);
}
