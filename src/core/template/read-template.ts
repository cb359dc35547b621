import { adviceForName, finding, type Place, type Report } from '../finding.js';
import { parseHtml } from '../html/parse.js';
import { checkStructure } from '../html/structure.js';
import { buildDelimiters, findTags, neutralDelimiters, splitAtSentinels } from '../html/tags.js';
import { attribute, elementsOf, firstElement, type Attribute, type Doc, type ElementNode } from '../html/tree.js';
import { parseExpressionInHtml, type Expression } from '../merge/expression.js';
import { nearestName } from '../nearest.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import {
  media,
  type AttributePiece,
  type Branch,
  type Medium,
  type MergeNode,
  type PassedValue,
  type Template,
  type TemplateNode,
  type ValueNode,
} from './nodes.js';
import { regionAttributes } from './regions.js';
import { tagContexts, type TagContext } from '../html/tag-context.js';

/** Templates nested deeper than this are refused. */
const DEEPEST = 100;

/** Parses a source file, with the content of its `<template>`s in the tree, and reports where it is not well formed. */
export function parseTemplate(source: SourceText, report: Report): { readonly doc: Doc; readonly isSound: boolean } {
  const { doc, errors } = parseHtml(source, [neutralDelimiters, buildDelimiters], true);
  const problems = checkStructure(doc, errors);
  for (const item of problems) report(item);
  // Markup that is not closed moves everything behind it: what is said of that is no help.
  const isSound = !problems.some(({ code }) => code === 'unclosed-tag' || code === 'stray-end-tag');
  return { doc, isSound };
}

/** What of a document is read as a template. */
export interface TemplateRange {
  readonly span: Span;
  /** The element of a part that stands for the whole, where there is one. */
  readonly root: ElementNode | null;
  /** Whether the document is a page with a head. */
  readonly isPage: boolean;
}

/** Reads a parsed source file, or a piece of it, as a template. */
export function readTemplate(doc: Doc, range: TemplateRange, report: Report): Template {
  return new TemplateReader(doc, range, report).read();
}

/** Something in the source that is no plain text. */
interface Marker {
  readonly span: Span;
  /** Decides between markers of the same span: the lower stands outside. */
  readonly rank: number;
  readonly node: (reader: Cursor) => TemplateNode | null;
}

/** Reads on within a marker. */
interface Cursor {
  readonly inside: (span: Span) => TemplateNode[];
}

class TemplateReader {
  readonly #contexts: (offset: number) => TagContext;
  readonly #uses: { tag: string; place: Place }[] = [];
  readonly #slots: string[] = [];
  readonly #elseTemplates = new Map<number, { branch: (cursor: Cursor) => Branch; span: Span }>();
  #depth = 0;
  #hasMedia = false;
  #markers: readonly Marker[] = [];
  #next = 0;

  constructor(
    private readonly doc: Doc,
    private readonly range: TemplateRange,
    private readonly report: Report,
  ) {
    this.#contexts = tagContexts(doc);
  }

  read(): Template {
    const { span } = this.range;
    this.#markers = [...this.elementMarkers(), ...this.tagMarkers(), ...this.pageMarkers()]
      .filter((marker) => marker.span.start >= span.start && marker.span.end <= span.end)
      .sort((a, b) => a.span.start - b.span.start || b.span.end - a.span.end || a.rank - b.rank);
    const nodes = this.inside(span);
    this.reportUnclosedTags();
    return { source: this.doc.source, nodes, uses: this.#uses, slots: this.#slots, hasMedia: this.#hasMedia };
  }

  /** The nodes of a span; markers that begin before it are passed over. */
  private inside(span: Span): TemplateNode[] {
    const nodes: TemplateNode[] = [];
    const cursor: Cursor = { inside: (inner) => this.inside(inner) };
    let position = span.start;
    this.#depth += 1;
    if (this.#depth > DEEPEST) this.refuseDepth(span);
    for (;;) {
      const marker = this.#markers[this.#next];
      if (marker === undefined || !this.beginsIn(marker.span, span)) break;
      this.#next += 1;
      if (marker.span.start < position) continue;
      if (marker.span.start > position) nodes.push({ kind: 'text', span: { start: position, end: marker.span.start } });
      position = marker.span.end;
      const node = this.#depth > DEEPEST ? null : marker.node(cursor);
      this.passBy(marker.span.end);
      const other = this.#elseTemplates.get(marker.span.start);
      if (other !== undefined) this.attachElse(nodes, other, cursor);
      else if (node !== null) nodes.push(node);
    }
    if (position < span.end) nodes.push({ kind: 'text', span: { start: position, end: span.end } });
    this.#depth -= 1;
    return nodes;
  }

  /** An insertion at the very end of a span stands behind it, unless nothing does. */
  private beginsIn(marker: Span, span: Span): boolean {
    return marker.start < span.end || (this.#depth === 1 && marker.start === span.end && marker.end === span.end);
  }

  /** What lies within a marker and was not read there (tags in its own attributes) is done with. */
  private passBy(end: number): void {
    while ((this.#markers[this.#next]?.span.start ?? Infinity) < end) this.#next += 1;
  }

  private refuseDepth(span: Span): void {
    if (this.#depth === DEEPEST + 1)
      this.report(
        finding('markup-broken', this.at(span), { detail: `templates and parts are nested more than ${DEEPEST} deep` }),
      );
  }

  private attachElse(
    nodes: TemplateNode[],
    other: { branch: (cursor: Cursor) => Branch; span: Span },
    cursor: Cursor,
  ): void {
    const branch = other.branch(cursor);
    let index = nodes.length - 1;
    while (index >= 0 && this.isSpace(nodes[index])) index -= 1;
    const before = nodes[index];
    if (before?.kind === 'choice' && before.branches[before.branches.length - 1]?.condition !== null) {
      nodes.splice(index, nodes.length - index, { kind: 'choice', branches: [...before.branches, branch] });
    } else if (before?.kind === 'each' && before.otherwise === null && branch.condition === null) {
      nodes.splice(index, nodes.length - index, { ...before, otherwise: branch.body });
    } else this.report(finding('template-else-stray', this.at(other.span)));
  }

  private isSpace(node: TemplateNode | undefined): boolean {
    if (node?.kind !== 'text') return false;
    return (
      this.doc.source
        .slice(node.span)
        .replace(/<!--[\s\S]*?-->/g, '')
        .trim() === ''
    );
  }

  private elementMarkers(): Marker[] {
    const markers: Marker[] = [];
    for (const element of elementsOf(this.doc.root)) {
      const { span, startTag } = element;
      if (span === null || startTag === null || element.namespace !== 'html') continue;
      if (span.start < this.range.span.start || span.end > this.range.span.end) continue;
      const slotted = this.slottedMarker(element, span);
      if (slotted !== null) markers.push(...slotted);
      if (element === this.range.root && !isPartTag(element.tag))
        markers.push(this.insertion('root-attributes', startTag.start + 1 + element.tag.length));
      markers.push(...this.regionMarkers(element));
      if (element.tag === 'template') markers.push(this.templateMarker(element, span));
      else if (element.tag === 'slot') markers.push(this.slotMarker(element, span));
      else if (isPartTag(element.tag)) markers.push(this.partMarker(element, span));
    }
    return markers;
  }

  private insertion(kind: 'root-attributes' | 'head-end', offset: number): Marker {
    const span = spanAt(offset, 0);
    return { span, rank: 0, node: () => ({ kind, span }) };
  }

  /** An element that fills a named slot of the part it is a child of. */
  private slottedMarker(element: ElementNode, span: Span): Marker[] | null {
    const slot = element.attributes.get('slot');
    if (slot === undefined) return null;
    if (element.parent === null || !isPartTag(element.parent.tag)) {
      this.report(finding('slot-stray', this.at(slot.span), { name: slot.value }));
      return null;
    }
    return [
      { span, rank: 0, node: (cursor) => ({ kind: 'slotted', name: slot.value, body: cursor.inside(span), span }) },
      { span: { start: slot.span.start, end: slot.span.end }, rank: 1, node: () => null },
    ];
  }

  private regionMarkers(element: ElementNode): Marker[] {
    const region = element.attributes.get('region');
    // A name that holds a build value is the author's own business.
    if (region === undefined || splitAtSentinels(region.value).length > 1 || isPartTag(element.tag)) return [];
    const span = this.valueSpan(region);
    return span.end > span.start ? [{ span, rank: 2, node: () => ({ kind: 'region-name', span }) }] : [];
  }

  private templateMarker(element: ElementNode, span: Span): Marker {
    const has = (name: string): boolean => element.attributes.has(name);
    const allowed = has('else') ? ['else', 'if'] : has('each') ? ['each'] : has('if') ? ['if'] : ['for'];
    const stray = [...element.attributes.values()].find(({ name }) => !allowed.includes(name));
    if (stray !== undefined || element.attributes.size === 0) this.reportTemplate(element, stray);
    const content = contentSpan(element);
    if (has('else')) {
      this.#elseTemplates.set(span.start, {
        span: element.startTag ?? span,
        branch: (cursor) => ({
          condition: has('if') ? this.attributeExpression(element, 'if') : null,
          body: cursor.inside(content),
        }),
      });
      return { span, rank: 1, node: () => null };
    }
    return { span, rank: 1, node: (cursor) => this.templateNode(element, content, span, cursor) };
  }

  private templateNode(element: ElementNode, content: Span, span: Span, cursor: Cursor): TemplateNode | null {
    if (element.attributes.has('each')) {
      const loop = this.loopOf(element);
      const body = cursor.inside(content);
      return loop === null ? null : { kind: 'each', ...loop, body, otherwise: null, span };
    }
    if (element.attributes.has('if')) {
      const condition = this.attributeExpression(element, 'if');
      const body = cursor.inside(content);
      return { kind: 'choice', branches: [{ condition: condition ?? NEVER, body }] };
    }
    const medium = this.mediumOf(element);
    if (medium === 'html' || medium === 'text') this.#hasMedia = true;
    const body = cursor.inside(content);
    return medium === null ? null : { kind: 'only', medium, body, span };
  }

  private mediumOf(element: ElementNode): Medium | null {
    const written = element.attributes.get('for');
    if (written === undefined) return null;
    const medium = media.find((known) => known === written.value.trim().toLowerCase());
    if (medium === undefined) {
      const advice = adviceForName(nearestName(written.value, media), media, '');
      this.report(finding('template-for-unknown', this.at(written.span), { name: written.value, advice }));
    }
    return medium ?? null;
  }

  private reportTemplate(element: ElementNode, stray: Attribute | undefined): void {
    const place = this.at(stray?.span ?? element.startTag ?? spanAt(0, 0));
    const known = ['each', 'if', 'else', 'for'];
    const nearest = stray === undefined ? null : nearestName(stray.name, known);
    const advice = nearest === null ? '' : `Did you mean "${nearest}"?`;
    this.report(
      finding('template-unknown', place, { found: stray === undefined ? 'nothing' : `"${stray.name}"`, advice }),
    );
  }

  private loopOf(element: ElementNode): { item: string; list: Expression } | null {
    const span = this.valueSpan(element.attributes.get('each'));
    const match = /^\s*([A-Za-z_]\w*)\s+of\s+/.exec(this.doc.source.slice(span));
    if (match === null) {
      this.report(finding('build-syntax', this.at(span), { detail: 'a loop is written each="item of list"' }));
      return null;
    }
    const list = this.expression({ start: span.start + match[0].length, end: span.end });
    return list === null ? null : { item: match[1] ?? '', list };
  }

  private attributeExpression(element: ElementNode, name: string): Expression | null {
    return this.expression(this.valueSpan(element.attributes.get(name)));
  }

  private slotMarker(element: ElementNode, span: Span): Marker {
    const name = attribute(element, 'name') ?? '';
    this.#slots.push(name);
    return {
      span,
      rank: 1,
      node: (cursor) => ({ kind: 'slot', name, body: cursor.inside(contentSpan(element)), span }),
    };
  }

  private partMarker(element: ElementNode, span: Span): Marker {
    const { tag } = element;
    const place = this.at(element.startTag ?? span);
    this.#uses.push({ tag, place });
    const attributes = [...element.attributes.values()].filter(({ name }) => name !== 'slot');
    const values = attributes.filter(({ name }) => !regionAttributes.has(name)).map((item) => this.passedValue(item));
    return {
      span,
      rank: 1,
      node: (cursor) => {
        const forRoot = attributes
          .filter(({ name }) => regionAttributes.has(name))
          .flatMap((item) => this.passedOn(item));
        const slots = new Map<string, TemplateNode[]>();
        const fill = (name: string, node: TemplateNode): unknown => slots.set(name, [...(slots.get(name) ?? []), node]);
        for (const node of cursor.inside(contentSpan(element)))
          if (node.kind === 'slotted') fill(node.name, node);
          else fill('', node);
        const isRoot = element === this.range.root;
        return { kind: 'part', tag, values, regionAttributes: forRoot, slots, isRoot, span: place.span };
      },
    };
  }

  /** An attribute that goes on to the part's root element, with a space before it. */
  private passedOn({ name, span }: Attribute): TemplateNode[] {
    const value = this.valueSpan(this.doc.source.slice(span).includes('=') ? { name, value: '', span } : undefined);
    const before = { start: span.start - 1, end: value.start };
    const after = { start: value.end, end: span.end };
    const isPlain = name === 'region' && value.end > value.start && !this.doc.source.slice(value).includes('${');
    return isPlain
      ? [
          { kind: 'text', span: before },
          { kind: 'region-name', span: value },
          { kind: 'text', span: after },
        ]
      : [{ kind: 'text', span: { start: span.start - 1, end: span.end } }];
  }

  private passedValue({ name, value, span }: Attribute): PassedValue {
    const pieces = splitAtSentinels(value).flatMap((piece): AttributePiece[] => {
      if (typeof piece === 'string') return piece === '' ? [] : [piece];
      const tag = this.doc.tags[piece] ?? spanAt(0, 0);
      const node = this.tagNode(tag, false);
      return [node === null ? { kind: 'tag', span: tag } : node.kind === 'literal' ? '${' : node];
    });
    return { name, pieces, hasValue: this.doc.source.slice(span).includes('='), span };
  }

  private tagMarkers(): Marker[] {
    return this.doc.tags.flatMap((span): Marker[] => {
      const context = this.#contexts(span.start);
      const isBuild = this.doc.source.text[span.start] === '$';
      if (context.kind === 'comment' || (!isBuild && context.kind === 'style')) return [];
      if (isBuild && (context.kind === 'style' || context.kind === 'between')) {
        const where = context.kind === 'style' ? 'in a style sheet' : 'between attributes';
        const advice =
          context.kind === 'style'
            ? 'Set a custom property where the value is known, style="--accent: ${…}", and use var(--accent) here.'
            : 'Put it into the value of an attribute, in quotes.';
        return [{ span, rank: 3, node: () => this.refused(span, where, advice) }];
      }
      const node = (): TemplateNode | null => this.tagNode(span, context.kind === 'unquoted');
      return [{ span, rank: 3, node: () => node() ?? { kind: 'text', span } }];
    });
  }

  /** An opening delimiter that no tag begins with would be sent to readers as it stands. */
  private reportUnclosedTags(): void {
    const { source, tags } = this.doc;
    const { start, end } = this.range.span;
    let next = 0;
    for (const match of source.slice(this.range.span).matchAll(/[@$]\{/g)) {
      const offset = start + match.index;
      while ((tags[next]?.end ?? end) <= offset && next < tags.length) next += 1;
      const { kind } = this.#contexts(offset);
      if ((tags[next]?.start ?? Infinity) <= offset || kind === 'style' || kind === 'comment') continue;
      this.report(
        finding('tag-unclosed', this.at(spanAt(offset, 2)), { tag: match[0], literal: match[0].charAt(0) + match[0] }),
      );
    }
  }

  private refused(span: Span, where: string, advice: string): null {
    this.report(finding('build-value-place', this.at(span), { where, advice }));
    return null;
  }

  /** A build value, or a merge tag that holds some; null for a plain merge tag. */
  private tagNode(span: Span, unquoted: boolean): ValueNode | MergeNode | { kind: 'literal'; span: Span } | null {
    const written = this.doc.source.slice(span);
    if (written === '$${') return { kind: 'literal', span };
    if (written.startsWith('${')) return this.value(span, unquoted);
    const inner = findTags(written, [buildDelimiters]);
    if (inner.length === 0 || written === '@@{') return null;
    const pieces: MergeNode['pieces'][number][] = [];
    let position = span.start;
    for (const found of inner) {
      const at = { start: span.start + found.start, end: span.start + found.end };
      pieces.push({ start: position, end: at.start });
      const before = written.slice(0, found.start).replace(/\\./g, '');
      const quoted = (before.match(/"/g)?.length ?? 0) % 2 === 1 || (before.match(/'/g)?.length ?? 0) % 2 === 1;
      pieces.push({ ...this.value(at, false), quoted });
      position = at.end;
    }
    return { kind: 'merge', pieces: [...pieces, { start: position, end: span.end }], span };
  }

  private value(span: Span, unquoted: boolean): ValueNode {
    return readValue(this.doc.source, span, unquoted, this.report);
  }

  private expression(span: Span): Expression | null {
    return readExpression(this.doc.source, span, this.report);
  }

  private pageMarkers(): Marker[] {
    if (!this.range.isPage) return [];
    const { root, doctype } = this.doc;
    const head = firstElement(root, 'head');
    const body = firstElement(root, 'body');
    const offset =
      head?.endTag?.start ??
      body?.startTag?.start ??
      head?.startTag?.end ??
      root.startTag?.end ??
      doctype?.span.end ??
      this.range.span.start;
    const title = firstElement(root, 'title');
    const span = title?.span ?? null;
    const own: Marker[] =
      span === null ? [] : [{ span, rank: 0, node: ({ inside }) => ({ kind: 'title', body: inside(span), span }) }];
    return [...own, this.insertion('head-end', offset)];
  }

  /** The value of an attribute in the source, without quotes. */
  private valueSpan(item: Pick<Attribute, 'span' | 'name' | 'value'> | undefined): Span {
    if (item === undefined) return spanAt(0, 0);
    const written = this.doc.source.slice(item.span);
    const equals = written.indexOf('=');
    if (equals < 0) return spanAt(item.span.end, 0);
    const from = equals + 1 + (/^\s*/.exec(written.slice(equals + 1))?.[0].length ?? 0);
    const quoted = /["']/.test(written[from] ?? '');
    return quoted
      ? { start: item.span.start + from + 1, end: item.span.end - 1 }
      : { start: item.span.start + from, end: item.span.end };
  }

  private at(span: Span): Place {
    return { source: this.doc.source, span };
  }
}

/** Stands for a condition that cannot be read. */
const NEVER: Expression = { kind: 'flag', value: false, span: { start: 0, end: 0 } };

/** Names of parts are those of custom elements: they hold a hyphen (HTML standard, "valid custom element name"). */
export function isPartTag(tag: string): boolean {
  return tag.includes('-');
}

function contentSpan(element: ElementNode): Span {
  const start = element.startTag?.end ?? 0;
  return { start, end: element.endTag?.start ?? start };
}

/** Reads a line of text with build values, such as the name of an edition or a parameter of links. */
export function readLine(source: SourceText, span: Span, report: Report): Template {
  const nodes: TemplateNode[] = [];
  let position = span.start;
  for (const tag of findTags(source.slice(span), [buildDelimiters])) {
    const at = { start: span.start + tag.start, end: span.start + tag.end };
    if (at.start > position) nodes.push({ kind: 'text', span: { start: position, end: at.start } });
    nodes.push(source.slice(at) === '$${' ? { kind: 'literal', span: at } : readValue(source, at, false, report));
    position = at.end;
  }
  if (position < span.end) nodes.push({ kind: 'text', span: { start: position, end: span.end } });
  return { source, nodes, uses: [], slots: [], hasMedia: false };
}

/** Reads `${…}` or `${+…}`. */
function readValue(source: SourceText, span: Span, unquoted: boolean, report: Report): ValueNode {
  const inner = source.slice({ start: span.start + 2, end: span.end - 1 });
  const raw = /^\s*\+/.exec(inner)?.[0].length ?? 0;
  const expression = readExpression(source, { start: span.start + 2 + raw, end: span.end - 1 }, report);
  return { kind: 'value', expression, raw: raw > 0, unquoted, span };
}

function readExpression(source: SourceText, span: Span, report: Report): Expression | null {
  const outsideQuotes = source
    .slice(span)
    .replace(/"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*'/g, (text) => ' '.repeat(text.length));
  const tag = outsideQuotes.indexOf(neutralDelimiters.open);
  if (tag >= 0) {
    report(finding('merge-in-build', { source, span: spanAt(span.start + tag, 2) }));
    return null;
  }
  const { expression, error } = parseExpressionInHtml(source, span);
  if (error !== null) report(finding('build-syntax', { source, span: error.span }, { detail: error.detail }));
  return expression;
}
