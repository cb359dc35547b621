import { decodeHTML, decodeHTMLAttribute } from 'entities';
import { defaultTreeAdapter, parse, type DefaultTreeAdapterTypes, type ParserError, type Token } from 'parse5';
import type { SourceText } from '../text/source-text.js';
import { firstFrom, type Span, spanAt } from '../text/span.js';
import { valueSpan } from './decoded-value.js';
import { maskTags } from './mask.js';
import { findTags, sentinel, sentinelFree, type TagDelimiters } from './tags.js';
import type { Attribute, Doc, ElementNode, Namespace, TreeNode } from './tree.js';

type ParserElement = DefaultTreeAdapterTypes.Element;
type ParserNode = DefaultTreeAdapterTypes.ChildNode;

/** A complaint of the HTML parser, with the standard's code for it. */
export interface ParseError {
  readonly code: string;
  readonly span: Span;
}

/** A document and what the parser had to repair. */
export interface ParsedDoc {
  readonly doc: Doc;
  readonly errors: readonly ParseError[];
}

const namespaces: ReadonlyMap<string, Namespace> = new Map([
  ['http://www.w3.org/2000/svg', 'svg'],
  ['http://www.w3.org/1998/Math/MathML', 'math'],
]);

/**
 * Parses HTML as the standard says (so as a browser does), from any input: there is no failure.
 * The only file that knows the borrowed parser; its offsets are half-open spans like ours.
 * @param delimiters of the template tags to hide from the parser
 * @param templates whether the content of `<template>` counts as its children, or is a tree of its own as to a browser
 */
export function parseHtml(
  source: SourceText,
  delimiters: readonly TagDelimiters[],
  templates: 'within' | 'apart' = 'apart',
): ParsedDoc {
  const tags = findTags(source.text, delimiters);
  const errors: ParseError[] = [];
  const masked = maskTags(source.text, tags);
  const document = parse(masked, {
    treeAdapter,
    sourceCodeLocationInfo: true,
    scriptingEnabled: false,
    onParseError: (error: ParserError) =>
      errors.push({ code: error.code, span: { start: error.startOffset, end: error.endOffset } }),
  });
  return { doc: { ...convertDocument(source, tags, document, templates === 'within'), masked, delimiters }, errors };
}

/** What is kept of the place of a node; one that has room for its end from the first need not grow when that comes. */
interface NodePlace {
  readonly startOffset: number;
  endOffset: number;
  readonly startTag: Token.LocationWithAttributes | null;
  endTag: Token.Location | null;
}

/** The parser's own adapter copies all that it knows of an element's place when that ends; offsets are what is asked for. */
const treeAdapter: typeof defaultTreeAdapter = {
  ...defaultTreeAdapter,
  setNodeSourceCodeLocation: (node, location) => {
    const { startOffset = 0, endOffset = 0 } = location ?? {};
    const startTag = location && 'startTag' in location ? (location.startTag ?? null) : null;
    const place: NodePlace | null = location && { startOffset, endOffset, startTag, endTag: null };
    node.sourceCodeLocation = place as Token.ElementLocation | null;
  },
  updateNodeSourceCodeLocation: (node, end) => {
    const location = placeOf(node);
    if (location === null) return;
    if (end.endOffset !== undefined) location.endOffset = end.endOffset;
    if ('endTag' in end && end.endTag !== undefined) location.endTag = end.endTag;
  },
};

function placeOf(node: { readonly sourceCodeLocation?: Token.Location | null }): NodePlace | null {
  return (node.sourceCodeLocation ?? null) as NodePlace | null;
}

/** Elements that the parser makes several of where they are misnested (HTML standard, "formatting"). */
const formatting: ReadonlySet<string> = new Set('a b big code em font i nobr s small strike strong tt u'.split(' '));

interface MutableElement {
  kind: 'element';
  tag: string;
  namespace: Namespace;
  attributes: ReadonlyMap<string, Attribute>;
  parent: ElementNode | null;
  children: TreeNode[];
  span: Span | null;
  startTag: Span | null;
  endTag: Span | null;
  tagId: number;
}

function convertDocument(
  source: SourceText,
  tags: readonly Span[],
  document: DefaultTreeAdapterTypes.Document,
  templates: boolean,
): Omit<Doc, 'masked' | 'delimiters'> {
  const converter = new Converter(source, tags, templates);
  const outside: TreeNode[] = [];
  let root: ElementNode | null = null;
  let doctype: { span: Span } | null = null;
  for (const node of document.childNodes) {
    if (defaultTreeAdapter.isDocumentTypeNode(node))
      doctype = { span: spanOf(node.sourceCodeLocation) ?? spanAt(0, 0) };
    else if (defaultTreeAdapter.isElementNode(node)) root = converter.convert(node);
    else outside.push(...converter.convertLeaf(node, null));
  }
  if (root === null) throw new Error('The HTML parser returned a document without a root element.');
  return { source, root, outside, doctype, quirks: String(document.mode) === 'quirks', tags };
}

class Converter {
  /** The parser copies an element's attribute list by reference when it splits misnested formatting. */
  readonly #tagIds = new Map<readonly Token.Attribute[], number>();
  readonly #startTags = new Map<number, NodePlace>();

  constructor(
    readonly source: SourceText,
    readonly tags: readonly Span[],
    private readonly templates: boolean,
  ) {}

  convert(root: ParserElement): ElementNode {
    const top = this.element(root, null);
    const stack: { from: ParserElement; to: MutableElement }[] = [{ from: root, to: top }];
    for (let pair = stack.pop(); pair !== undefined; pair = stack.pop()) {
      for (const child of this.childrenOf(pair.from)) {
        if (defaultTreeAdapter.isElementNode(child)) {
          const element = this.element(child, pair.to);
          pair.to.children.push(element);
          stack.push({ from: child, to: element });
        } else pair.to.children.push(...this.convertLeaf(child, pair.to));
      }
    }
    return top;
  }

  private childrenOf(element: ParserElement): readonly ParserNode[] {
    const isTemplate = this.templates && element.tagName === 'template' && 'content' in element;
    return isTemplate ? (element as DefaultTreeAdapterTypes.Template).content.childNodes : element.childNodes;
  }

  convertLeaf(node: ParserNode, parent: ElementNode | null): TreeNode[] {
    const span = spanOf(node.sourceCodeLocation);
    if (defaultTreeAdapter.isTextNode(node))
      return [{ kind: 'text', value: this.value(node.value, span, decodeHTML), parent, span }];
    if (defaultTreeAdapter.isCommentNode(node))
      return [{ kind: 'comment', value: this.comment(node.data, span), parent, span }];
    return [];
  }

  private element(node: ParserElement, parent: ElementNode | null): MutableElement {
    const isFormatting = formatting.has(node.tagName);
    const known = isFormatting ? this.#tagIds.get(node.attrs) : undefined;
    const own = placeOf(node);
    const tagId = known ?? (own?.startTag ? own.startOffset : -1);
    if (isFormatting && own?.startTag) {
      this.#tagIds.set(node.attrs, tagId);
      this.#startTags.set(tagId, own);
    }
    const location = own ?? this.#startTags.get(tagId) ?? null;
    return {
      kind: 'element',
      tag: node.tagName,
      namespace: namespaces.get(node.namespaceURI) ?? 'html',
      attributes: this.attributes(node, location),
      parent,
      children: [],
      span: spanOf(own),
      startTag: spanOf(location?.startTag),
      endTag: spanOf(own?.endTag),
      tagId,
    };
  }

  private attributes(node: ParserElement, location: NodePlace | null): ReadonlyMap<string, Attribute> {
    const attributes = new Map<string, Attribute>();
    const spans = location?.startTag?.attrs;
    for (const { name, value, prefix } of node.attrs) {
      const written = prefix ? `${prefix}:${name}` : name;
      const span = spanOf(spans?.[written]) ?? spanAt(0, 0);
      attributes.set(written, { name: written, value: this.attributeValue(value, span), span });
    }
    return attributes;
  }

  private attributeValue(value: string, span: Span): string {
    if (!this.holdsTag(span)) return sentinelFree(value);
    const inner = valueSpan(this, { span });
    return this.value(value, inner, decodeHTMLAttribute);
  }

  private value(parsed: string, span: Span | null, decode: (text: string) => string): string {
    if (span === null || !this.holdsTag(span)) return sentinelFree(parsed);
    const pieces: string[] = [];
    let position = span.start;
    for (let index = firstFrom(this.tags, span.start); index < this.tags.length; index += 1) {
      const tag = this.tags[index];
      if (tag === undefined || tag.end > span.end) break;
      pieces.push(decode(this.source.text.slice(position, tag.start)), sentinel(index));
      position = tag.end;
    }
    pieces.push(decode(this.source.text.slice(position, span.end)));
    return pieces.join('').replace(/\r\n?/g, '\n');
  }

  /** Nothing is decoded in a comment, but template tags stand in it as everywhere. */
  private comment(parsed: string, span: Span | null): string {
    if (span === null || !this.holdsTag(span) || !this.source.text.startsWith('<!--', span.start)) return parsed;
    const end = span.start + 4 + parsed.length;
    const tags = this.tags.flatMap((tag, index) => (tag.start >= span.start && tag.end <= end ? [{ tag, index }] : []));
    let position = span.start + 4;
    const pieces = tags.flatMap(({ tag, index }) => {
      const before = this.source.text.slice(position, tag.start);
      position = tag.end;
      return [before, sentinel(index)];
    });
    return [...pieces, this.source.text.slice(position, end)].join('');
  }

  private holdsTag(span: Span): boolean {
    const tag = this.tags[firstFrom(this.tags, span.start)];
    return tag !== undefined && tag.end <= span.end;
  }
}

function spanOf(location: { startOffset: number; endOffset: number } | null | undefined): Span | null {
  return location ? { start: location.startOffset, end: location.endOffset } : null;
}
