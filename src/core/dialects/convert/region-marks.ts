import { parseHtml } from '../../html/parse.js';
import { attribute, elementsOf, type Doc, type ElementNode } from '../../html/tree.js';
import type { TagDelimiters } from '../../html/tags.js';
import type { Dialect, RegionPattern } from '../dialect.js';
import { patternReader, piecesOf } from '../pattern.js';
import { regionKinds, type RegionKind } from '../../html/regions.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';

/** A piece of finished HTML that a platform's users may edit, and how it is marked. */
export interface MarkedRegion {
  readonly name: string;
  readonly kind: RegionKind;
  readonly repeat: boolean;
  readonly choice: string | null;
  readonly label: string | null;
  /** The element that is the region: the one that has the mark, or that the marks are around. */
  readonly host: ElementNode | null;
  /** What marks it, to be taken out: an opening and a closing text, or attributes. */
  readonly marks: readonly Span[];
}

/**
 * Finds the regions of finished HTML.
 * @param delimiters of the merge tags in it
 */
export function findRegions(
  source: SourceText,
  dialect: Dialect,
  delimiters: readonly TagDelimiters[],
): MarkedRegion[] {
  const { doc } = parseHtml(source, delimiters);
  const elements = [...elementsOf(doc.root)];
  if (dialect.verbatim) return elements.flatMap((element) => neutralRegion(doc, element));
  return regionKinds.flatMap((kind) => {
    const pattern = dialect.regions[kind];
    if (pattern === undefined) return [];
    return 'attribute' in pattern
      ? elements.flatMap((element) => attributeRegion(doc, element, kind, pattern.attribute, dialect))
      : wrappedRegions(doc, elements, kind, pattern);
  });
}

function neutralRegion(doc: Doc, element: ElementNode): MarkedRegion[] {
  const name = attribute(element, 'region');
  if (name === null) return [];
  const kind = attribute(element, 'region-kind');
  const marks = [...element.attributes.values()].filter((own) => /^region(?:-|$)/.test(own.name));
  return [
    {
      name,
      kind: regionKinds.find((known) => known === kind) ?? usualKind(element),
      repeat: element.attributes.has('region-repeat'),
      choice: attribute(element, 'region-choice'),
      label: attribute(element, 'region-label'),
      host: element,
      marks: marks.map(({ span }) => withBlank(doc, span)),
    },
  ];
}

function usualKind(element: ElementNode): RegionKind {
  if (element.tag === 'img') return 'image';
  return element.tag === 'a' ? 'link' : 'rich';
}

/** An attribute with the blank before it. */
function withBlank(doc: Doc, span: Span): Span {
  const blank = /\s+$/.exec(doc.source.text.slice(0, span.start))?.[0].length ?? 0;
  return { start: span.start - blank, end: span.end };
}

function attributeRegion(
  doc: Doc,
  element: ElementNode,
  kind: RegionKind,
  pattern: string,
  dialect: Dialect,
): MarkedRegion[] {
  const own = [...element.attributes.values()];
  const reader = patternReader(pattern, { name: '[^"\']+' });
  for (const candidate of own) {
    const name = reader.read(doc.source.slice(candidate.span))?.get('name')?.text;
    if (name === undefined) continue;
    const repeat = dialect.regions['repeat'];
    const repeated =
      repeat !== undefined && 'attribute' in repeat
        ? own.find(({ span }) => doc.source.slice(span) === repeat.attribute)
        : undefined;
    const marks = [candidate, ...(repeated === undefined ? [] : [repeated])];
    return [
      {
        name,
        kind,
        repeat: repeated !== undefined,
        choice: null,
        label: null,
        host: element,
        marks: marks.map(({ span }) => withBlank(doc, span)),
      },
    ];
  }
  return [];
}

/** Regions between an opening and a closing text: the tags of an element of their own, or two comments. */
function wrappedRegions(
  doc: Doc,
  elements: readonly ElementNode[],
  kind: RegionKind,
  pattern: Extract<RegionPattern, { readonly open: string }>,
): MarkedRegion[] {
  const isElement = /^<[a-z]/i.test(pattern.open);
  const reader = patternReader(pattern.open, { name: '[^"\'\\s<>]+' });
  const pairs = isElement ? elementPairs(elements) : commentPairs(doc, pattern.close, piecesOf(pattern.open)[0]);
  return pairs.flatMap(({ open, close }) => {
    const name = reader.read(doc.source.slice(open))?.get('name')?.text;
    if (name === undefined) return [];
    const host = hostOf(doc, elements, open, close);
    return [{ name, kind, repeat: false, choice: null, label: null, host, marks: [open, close] }];
  });
}

interface MarkPair {
  readonly open: Span;
  readonly close: Span;
}

function elementPairs(elements: readonly ElementNode[]): MarkPair[] {
  return elements.flatMap(({ startTag, endTag }) =>
    startTag === null || endTag === null ? [] : [{ open: startTag, close: endTag }],
  );
}

/** The comments that open and close, the inner ones first; what is not closed is no region. */
function commentPairs(doc: Doc, close: string, first: ReturnType<typeof piecesOf>[number] | undefined): MarkPair[] {
  const beginning = first !== undefined && 'literal' in first ? first.literal.replace(/\s+/g, ' ').trim() : '<!--';
  const closing = patternReader(close, {});
  const open: Span[] = [];
  const pairs: MarkPair[] = [];
  for (const match of doc.source.text.matchAll(/<!--[\s\S]*?-->/g)) {
    const span = { start: match.index, end: match.index + match[0].length };
    if (closing.read(match[0]) !== null) {
      const opened = open.pop();
      if (opened !== undefined) pairs.push({ open: opened, close: span });
    } else if (match[0].replace(/\s+/g, ' ').startsWith(beginning.split(' ').slice(0, 2).join(' '))) open.push(span);
  }
  return pairs;
}

/** The element that marks are around: the cell that holds nothing else, or the only element between them. */
function hostOf(doc: Doc, elements: readonly ElementNode[], open: Span, close: Span): ElementNode | null {
  const { text } = doc.source;
  const isBlank = (start: number, end: number): boolean => text.slice(start, end).trim() === '';
  const cell = elements.find(
    ({ tag, startTag, endTag }) =>
      /^t[dh]$/.test(tag) &&
      startTag !== null &&
      endTag !== null &&
      startTag.end <= open.start &&
      close.end <= endTag.start &&
      isBlank(startTag.end, open.start) &&
      isBlank(close.end, endTag.start),
  );
  if (cell !== undefined) return cell;
  const only = elements.find(
    ({ span }) =>
      span !== null &&
      open.end <= span.start &&
      span.end <= close.start &&
      isBlank(open.end, span.start) &&
      isBlank(span.end, close.start),
  );
  return only ?? null;
}
