import { templateAdvice } from '../findings/wording/templates.js';
import { adviceForName, finding, type Place, type Report } from '../findings/finding.js';
import { splitAtSentinels } from '../html/tags.js';
import { attribute, elementsOf, firstElement, type Attribute, type Doc, type ElementNode } from '../html/tree.js';
import type { Expression } from '../expressions/expression.js';
import { nearestName } from '../text/nearest.js';
import type { SourceText } from '../text/source-text.js';
import { spanAt, type Span } from '../text/span.js';
import {
  media,
  type AttributePiece,
  type Branch,
  type Medium,
  type PassedValue,
  type Template,
  type TemplateNode,
} from './nodes.js';
import { isNothing } from './part-use.js';
import { readExpression, readTag, valueSpan } from './read-values.js';
import { regionAttributes } from '../html/regions.js';
import { tagContexts, type TagContext } from '../html/tag-context.js';

/** Templates nested deeper than this are refused. */
const DEEPEST = 100;

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
    return { source: this.doc.source, nodes, uses: this.#uses, slots: this.#slots };
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
      this.report(finding('markup-broken', this.at(span), { detail: templateAdvice.nestedDeep(DEEPEST) }));
  }

  private attachElse(
    nodes: TemplateNode[],
    other: { branch: (cursor: Cursor) => Branch; span: Span },
    cursor: Cursor,
  ): void {
    const branch = other.branch(cursor);
    let index = nodes.length - 1;
    while (index >= 0 && isNothingAt(nodes, index, this.doc.source)) index -= 1;
    const before = nodes[index];
    if (before?.kind === 'conditional' && before.branches[before.branches.length - 1]?.condition !== null) {
      nodes.splice(index, nodes.length - index, { kind: 'conditional', branches: [...before.branches, branch] });
    } else if (before?.kind === 'each' && before.otherwise === null && branch.condition === null) {
      nodes.splice(index, nodes.length - index, { ...before, otherwise: branch.body });
    } else this.report(finding('template-else-stray', this.at(other.span)));
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
    const span = valueSpan(this.doc.source, region);
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
      return { kind: 'conditional', branches: [{ condition: condition ?? NEVER, body }] };
    }
    const medium = this.mediumOf(element);
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
    const span = valueSpan(this.doc.source, element.attributes.get('each'));
    const match = /^\s*([A-Za-z_]\w*)\s+of\s+/.exec(this.doc.source.slice(span));
    if (match === null) {
      this.report(finding('build-syntax', this.at(span), { detail: templateAdvice.loopAttribute }));
      return null;
    }
    const list = readExpression(this.doc.source, { start: span.start + match[0].length, end: span.end }, this.report);
    return list === null ? null : { item: match[1] ?? '', list };
  }

  private attributeExpression(element: ElementNode, name: string): Expression | null {
    return readExpression(this.doc.source, valueSpan(this.doc.source, element.attributes.get(name)), this.report);
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

  /** An attribute that goes on to the part's root element, with the white space before it. */
  private passedOn({ name, span }: Attribute): TemplateNode[] {
    const whole = { start: span.start - 1, end: span.end };
    const tags = this.doc.tags.filter((tag) => tag.start >= span.start && tag.end <= span.end);
    const value = valueSpan(this.doc.source, { span });
    if (name === 'region' && tags.length === 0 && value.end > value.start)
      return [
        { kind: 'text', span: { start: whole.start, end: value.start } },
        { kind: 'region-name', span: value },
        { kind: 'text', span: { start: value.end, end: whole.end } },
      ];
    const nodes: TemplateNode[] = [];
    let position = whole.start;
    for (const tag of tags) {
      nodes.push({ kind: 'text', span: { start: position, end: tag.start } });
      nodes.push(readTag(this.doc.source, tag, 'elsewhere', this.report) ?? { kind: 'text', span: tag });
      position = tag.end;
    }
    return [...nodes, { kind: 'text', span: { start: position, end: whole.end } }];
  }

  private passedValue({ name, value, span }: Attribute): PassedValue {
    const pieces = splitAtSentinels(value).flatMap((piece): AttributePiece[] => {
      if (typeof piece === 'string') return piece === '' ? [] : [piece];
      const tag = this.doc.tags[piece] ?? spanAt(0, 0);
      const node = readTag(this.doc.source, tag, 'elsewhere', this.report);
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
            : templateAdvice.intoAttribute;
        return [{ span, rank: 3, node: () => this.refused(span, where, advice) }];
      }
      const at = context.kind === 'unquoted' ? 'unquoted attribute' : 'elsewhere';
      const node = (): TemplateNode | null => readTag(this.doc.source, span, at, this.report);
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

  private at(span: Span): Place {
    return { source: this.doc.source, span };
  }
}

function isNothingAt(nodes: readonly TemplateNode[], index: number, source: SourceText): boolean {
  const node = nodes[index];
  return node !== undefined && isNothing(node, source);
}

/** Stands for a condition that cannot be read. */
const NEVER: Expression = { kind: 'flag', value: false, span: spanAt(0, 0) };

/** Names of parts are those of custom elements: they hold a hyphen (HTML standard, "valid custom element name"). */
export function isPartTag(tag: string): boolean {
  return tag.includes('-');
}

function contentSpan(element: ElementNode): Span {
  const start = element.startTag?.end ?? 0;
  return { start, end: element.endTag?.start ?? start };
}
