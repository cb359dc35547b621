import { conversionNote } from '../../findings/wording/conversions.js';
import { parseHtml } from '../../html/parse.js';
import { attribute, elementsOf, firstElement, textContent, type Doc, type ElementNode } from '../../html/tree.js';
import type { SourceText } from '../../text/source-text.js';
import { type Span, spanAt } from '../../text/span.js';
import type { Dialect, FooterTexts } from '../dialect.js';
import { pathsIn } from '../../expressions/expression.js';
import { systemValues, type MergeTag } from '../model.js';
import type { SourceEdit } from './source-edit.js';

/** What a conversion does with the footer: leave it where it stands, put another in its place, add what is missing, take it out. */
export const footerModes = ['keep', 'replace', 'add', 'strip'] as const;

export type FooterMode = (typeof footerModes)[number];

/** What is to be done with a footer. */
export interface FooterRequest {
  readonly mode: FooterMode;
  readonly from: Dialect;
  readonly to: Dialect;
  /** The tags of the text. */
  readonly tags: readonly MergeTag[];
  /** Writes the new footer in the target's dialect, where one is needed. */
  readonly footer: (kind: keyof FooterTexts) => string;
}

/** The system values that make a footer the legal one. */
const legal: readonly string[] = ['link.unsubscribe', 'sender.postal_address'];

/** A footer with everything of a footer that a dialect can say, in the neutral notation. */
export function usualFooter(dialect: Dialect): FooterTexts {
  if (dialect.footer !== null) return dialect.footer;
  const can = (name: string): boolean => dialect.verbatim || dialect.systemFields || dialect.system[name] !== undefined;
  const sender = ['sender.company', 'sender.postal_address'].filter(can).map((name) => `@{${name}}`);
  const links = [
    ['link.unsubscribe', 'Unsubscribe'],
    ['link.preferences', 'Choose what you get'],
    ['link.browser', 'Read in a browser'],
  ].filter(([name = '']) => can(name));
  const anchors = links.map(
    ([name = '', words = '']) => `<a href="@{${name}}" style="color:#555555;text-decoration:underline">${words}</a>`,
  );
  const style = 'padding:24px 16px;text-align:center;font:13px/1.5 Arial,sans-serif;color:#555555';
  const lines = [sender.join(', '), anchors.join(' · ')].filter((line) => line !== '');
  return {
    html: `<div style="${style}">${lines.join('<br>')}</div>`,
    text: ['--', sender.join(', '), ...links.map(([name = '', words = '']) => `${words}: @{${name}}`)]
      .filter((line) => line !== '')
      .join('\n'),
  };
}

/** Whether a text is an HTML document or a piece of one, and no plain text. */
export function isHtml(text: string): boolean {
  return /<(?:!doctype|html|body|head|table|tr|td|div|p|a|img|span|h[1-6]|ul|br)\b[^<>]*>/i.test(text);
}

/** The changes that a footer's treatment asks for; the source platform's own badge is taken out in any case. */
export function footerEdits(source: SourceText, request: FooterRequest): SourceEdit[] {
  return isHtml(source.text) ? new HtmlFooter(source, request).edits() : textEdits(source, request);
}

/** The neutral names of the system values that a tag prints. */
function systemIn(tag: MergeTag): string[] {
  if (tag.kind !== 'output') return [];
  return pathsIn(tag.value)
    .map(({ segments }) => segments.join('.'))
    .filter((name) => systemValues.has(name));
}

function legalTags({ tags }: FooterRequest): MergeTag[] {
  return tags.filter((tag) => systemIn(tag).some((name) => legal.includes(name)));
}

/** The system values that the target asks for and the text does not have. */
export function missingSystemValues(tags: readonly MergeTag[], to: Dialect): string[] {
  const used = new Set(tags.flatMap(systemIn));
  return to.required.filter((name) => !used.has(name));
}

const blockTags: ReadonlySet<string> = new Set(['tr', 'p', 'div', 'table', 'footer', 'section', 'center', 'li', 'ul']);

class HtmlFooter {
  readonly #doc: Doc;
  readonly #body: ElementNode;

  constructor(
    private readonly source: SourceText,
    private readonly request: FooterRequest,
  ) {
    this.#doc = parseHtml(source, request.from.delimiters).doc;
    this.#body = firstElement(this.#doc.root, 'body') ?? this.#doc.root;
  }

  edits(): SourceEdit[] {
    const badges = this.badges();
    const { mode, tags, to, footer } = this.request;
    const message = conversionNote.badge;
    const removed = badges.map((span): SourceEdit => ({
      span,
      text: '',
      entry: { kind: 'block', verdict: 'removed', message },
    }));
    if (mode === 'keep') return removed;
    const isInBadge = (span: Span): boolean =>
      badges.some((badge) => badge.start <= span.start && span.end <= badge.end);
    const blocks = mode === 'add' ? [] : this.legalBlocks().filter(({ span }) => span !== null && !isInBadge(span));
    const outer = removed.filter(({ span }) => !blocks.some((block) => holds(block, span)));
    if (mode === 'strip') return [...outer, ...blocks.map((block) => this.stripped(block))];
    const [first, ...others] = blocks;
    if (first !== undefined)
      return [...outer, this.replaced(first, footer('html')), ...others.map((block) => this.stripped(block))];
    const isNeeded = mode === 'replace' || missingSystemValues(tags, to).length > 0;
    return isNeeded ? [...outer, this.added(footer('html'))] : outer;
  }

  private stripped(block: ElementNode): SourceEdit {
    const span = block.span ?? spanAt(0, 0);
    return { span, text: '', entry: { kind: 'block', verdict: 'removed', message: conversionNote.footer } };
  }

  private replaced(block: ElementNode, html: string): SourceEdit {
    const columns = block.children.filter((child) => child.kind === 'element' && /^t[dh]$/.test(child.tag)).length;
    const span = block.span ?? spanAt(0, 0);
    const cell = columns > 1 ? `<td colspan="${columns}">` : '<td>';
    const text = block.tag === 'tr' ? `<tr>${cell}${html}</td></tr>` : block.tag === 'li' ? `<li>${html}</li>` : html;
    return { span, text, entry: { kind: 'block', verdict: 'rewritten', message: conversionNote.footerReplaced } };
  }

  private added(html: string): SourceEdit {
    const end = this.#body.endTag?.start ?? this.source.text.length;
    const entry = { kind: 'block', verdict: 'rewritten', message: conversionNote.footerAdded } as const;
    return { span: { start: end, end }, text: `${html}\n`, entry };
  }

  /** The blocks that hold the source's legal tags: one, or where that would be most of the message, one for each. */
  private legalBlocks(): ElementNode[] {
    const spans = legalTags(this.request).map(({ place }) => place.span);
    if (spans.length === 0) return [];
    const common = this.blockAround({
      start: Math.min(...spans.map(({ start }) => start)),
      end: Math.max(...spans.map(({ end }) => end)),
    });
    if (common !== null && !this.isMostOfAll(common)) return [common];
    const each = spans.flatMap((span) => {
      const block = this.blockAround(span);
      return block === null || this.isMostOfAll(block) ? [] : [block];
    });
    return [...new Set(each)].filter((block) => !each.some((other) => other !== block && holds(other, block.span)));
  }

  /** The smallest row or block around a span. */
  private blockAround(span: Span): ElementNode | null {
    let best: ElementNode | null = null;
    for (const element of elementsOf(this.#body))
      if (blockTags.has(element.tag) && holds(element, span)) best = element;
    return best;
  }

  /** Whether a block holds so much that it cannot be a footer. */
  private isMostOfAll(block: ElementNode): boolean {
    const length = (element: ElementNode): number => textContent(element).replace(/\s+/g, ' ').length;
    const own = length(block);
    return own > 600 && own > 0.6 * length(this.#body);
  }

  /** The blocks that hold nothing but the source platform's badge. */
  private badges(): Span[] {
    const { ownMarks } = this.request.from;
    const marked = [...elementsOf(this.#body)].filter((element) => ownMarks.some((mark) => isMarked(element, mark)));
    const blocks = [...new Set(marked.map((element) => this.wholeBlock(element)))];
    return blocks.flatMap(({ span }, index) => {
      const isWithin = blocks.some((other, at) => at !== index && holds(other, span));
      return span === null || isWithin ? [] : [span];
    });
  }

  /** An element, or what is around it and holds nothing else. */
  private wholeBlock(element: ElementNode): ElementNode {
    let block = element;
    while (block.parent !== null && block.parent !== this.#body && block.parent.span !== null && isAlone(block))
      block = block.parent;
    return block;
  }
}

function isAlone(element: ElementNode): boolean {
  return (element.parent?.children ?? []).every(
    (child) => child === element || child.kind === 'comment' || (child.kind === 'text' && child.value.trim() === ''),
  );
}

function isMarked(element: ElementNode, mark: { readonly class: string } | { readonly link_host: string }): boolean {
  if ('class' in mark) return (attribute(element, 'class') ?? '').split(/\s+/).includes(mark.class);
  const host = /^[a-z]+:\/\/([^/?#]+)/i.exec((attribute(element, 'href') ?? '').trim())?.[1];
  return element.tag === 'a' && host?.toLowerCase() === mark.link_host.toLowerCase();
}

function holds(element: ElementNode, span: Span | null): boolean {
  const own = element.span;
  return own !== null && span !== null && own.start <= span.start && span.end <= own.end;
}

/** In plain text the footer is the paragraphs that hold the legal tags, with a line of dashes before them. */
function textEdits(source: SourceText, request: FooterRequest): SourceEdit[] {
  const { mode, tags, to, footer } = request;
  const badges = paragraphsOf(source.text).filter((span) =>
    request.from.ownMarks.some((mark) => 'link_host' in mark && source.slice(span).includes(`://${mark.link_host}`)),
  );
  const message = conversionNote.badge;
  const removed = badges.map((span): SourceEdit => ({
    span,
    text: '',
    entry: { kind: 'block', verdict: 'removed', message },
  }));
  if (mode === 'keep') return removed;
  const legalPlaces = legalTags(request).map(({ place }) => place.span);
  const paragraphs = paragraphsOf(source.text).filter((paragraph) =>
    legalPlaces.some((span) => paragraph.start <= span.start && span.end <= paragraph.end),
  );
  const [first] = mode === 'add' ? [] : paragraphs;
  const last = paragraphs[paragraphs.length - 1];
  const end = source.text.trimEnd().length;
  if (first !== undefined && last !== undefined) {
    const entry =
      mode === 'strip'
        ? ({ kind: 'block', verdict: 'removed', message: conversionNote.footer } as const)
        : ({ kind: 'block', verdict: 'rewritten', message: conversionNote.footerReplaced } as const);
    const span = { start: first.start, end: last.end };
    const outside = removed.filter((edit) => edit.span.end <= span.start || edit.span.start >= span.end);
    return [...outside, { span, text: mode === 'strip' ? '' : footer('text'), entry }];
  }
  const isNeeded = mode === 'replace' || (mode === 'add' && missingSystemValues(tags, to).length > 0);
  if (!isNeeded) return removed;
  const entry = { kind: 'block', verdict: 'rewritten', message: conversionNote.footerAdded } as const;
  return [...removed, { span: { start: end, end }, text: `\n\n${footer('text')}`, entry }];
}

function paragraphsOf(text: string): Span[] {
  return [...text.matchAll(/[^\n\r](?:[^\n\r]|\r?\n(?!\s*\r?\n))*/g)].map(({ index, 0: paragraph }) => ({
    start: index,
    end: index + paragraph.trimEnd().length,
  }));
}
