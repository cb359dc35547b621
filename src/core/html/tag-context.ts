import { isConditionalComment } from './conditional-comment.js';
import { elementsOf, type Attribute, type Doc, type TreeNode } from './tree.js';
import { firstIndex, type Span } from '../text/span.js';

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

/** Tells for the offset of a template tag, or of the beginning of one, where in the markup of a document it stands. */
export function tagContexts(doc: Doc): (offset: number) => TagContext {
  return contextsIn(doc, rangesOf(doc, tagHolder(doc)));
}

/** Tells for any offset of a document where in the markup it stands. */
export function markupContexts(doc: Doc): (offset: number) => TagContext {
  return contextsIn(
    doc,
    rangesOf(doc, () => true),
  );
}

function contextsIn(doc: Doc, ranges: readonly Range[]): (offset: number) => TagContext {
  return (offset) => {
    const range = ranges[firstIndex(ranges.length, (index) => (ranges[index]?.span.start ?? 0) > offset) - 1];
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

/** Whether a stretch of a document holds a template tag, or the beginning of one. */
function tagHolder(doc: Doc): (span: Span) => boolean {
  const openings = [...doc.source.text.matchAll(/[@$]\{/g)].map(({ index }) => index);
  const starts = [...openings, ...doc.tags.map(({ start }) => start)].sort((a, b) => a - b);
  return (span) => {
    const first = starts[firstIndex(starts.length, (index) => (starts[index] ?? 0) >= span.start)];
    return first !== undefined && first < span.end;
  };
}

/** The start tags, style sheets and unconditional comments that somebody may ask about, in their order. */
function rangesOf(doc: Doc, isAskedFor: (span: Span) => boolean): Range[] {
  const ranges: Range[] = [];
  const add = (span: Span | null, kind: Range['kind'], attributes: Iterable<Attribute> = []): void => {
    if (span !== null && isAskedFor(span)) ranges.push({ span, kind, attributes: [...attributes] });
  };
  const leaves = (nodes: readonly TreeNode[]): void => {
    for (const node of nodes)
      if (node.kind === 'comment' && !isConditionalComment(node.value)) add(node.span, 'comment');
  };
  leaves(doc.outside);
  for (const element of elementsOf(doc.root)) {
    leaves(element.children);
    add(element.startTag, 'tag', element.attributes.values());
    const start = element.startTag?.end ?? 0;
    if (element.tag === 'style') add({ start, end: element.endTag?.start ?? start }, 'style');
  }
  return ranges.sort((a, b) => a.span.start - b.span.start);
}
