import { appliesAtWidth, declarationsOf } from '../css/document-cascade.js';
import { computeStyles, type ComputedStyle } from '../css/computed.js';
import { indexElements, type ElementIndex, type IndexedElement } from '../css/element-index.js';
import { collectRules, type SheetSource } from '../css/rules.js';
import { parseStyleSheet } from '../css/syntax.js';
import { pixelsOf } from '../css/value.js';
import { sentinel, splitAtSentinels } from '../html/tags.js';
import { attribute, elementsOf, type Doc, type ElementNode, type TreeNode } from '../html/tree.js';
import { alignTable } from './data-table.js';
import { LinkNotes, sameAddress } from './links.js';
import type { TextOptions } from './options.js';
import { UNBREAKABLE_SPACE } from './wrap.js';
import { TextWriter } from './writer.js';

/** The viewport that decides what is shown: a wide one. */
const VIEWPORT = 1000;

/**
 * The plain-text version of an HTML document: what a reader sees, in order, with the addresses of its links.
 * Hidden text (the preheader too) is left out. Template tags are kept whole.
 */
export function plainText(doc: Doc, options: TextOptions): string {
  const index = indexElements(doc);
  const styles = shownStyles(doc, index);
  const restore = (number: number): string => doc.source.slice(doc.tags[number] ?? { start: 0, end: 0 });
  return new PlainText(doc, index, styles, options, restore).whole();
}

function shownStyles(doc: Doc, index: ElementIndex): readonly ComputedStyle[] {
  const ignore = (): void => undefined;
  const rules = collectRules(styleElements(doc), doc.quirks, ignore);
  const declared = declarationsOf(index, rules, ignore);
  return computeStyles(index, (element) =>
    (declared[element.order] ?? []).filter((item) => appliesAtWidth(item, VIEWPORT)),
  ).styles;
}

function styleElements(doc: Doc): SheetSource[] {
  return [...elementsOf(doc.root)].flatMap((element): SheetSource[] => {
    if (element.tag !== 'style' || element.startTag === null) return [];
    const span = {
      start: element.startTag.end,
      end: element.endTag?.start ?? element.span?.end ?? element.startTag.end,
    };
    const media = attribute(element, 'media');
    const place = { source: doc.source, span };
    const conditions = media === null ? [] : [{ kind: 'media', text: media, place }];
    const items = parseStyleSheet(doc.source, doc.masked, span, () => undefined);
    return [{ source: doc.source, text: doc.masked, items, conditions }];
  });
}

/** A step of the walk: a node to enter, or what to do when an element is left. */
type Step = TreeNode | (() => void);

class PlainText {
  readonly #writer: TextWriter;
  readonly #notes = new LinkNotes();
  readonly #listCounters: number[] = [];

  constructor(
    private readonly doc: Doc,
    private readonly index: ElementIndex,
    private readonly styles: readonly ComputedStyle[],
    private readonly options: TextOptions,
    private readonly restore: (index: number) => string,
  ) {
    this.#writer = new TextWriter(options, restore);
  }

  whole(): string {
    this.walk([this.doc.root]);
    this.#writer.endBlock();
    const notes = this.#notes.lines(this.restore);
    if (notes.length > 0) {
      this.#writer.space();
      this.#writer.block(notes);
    }
    return this.#writer.result();
  }

  /** Walks with a stack of its own: depth belongs to the input. */
  private walk(nodes: readonly TreeNode[]): void {
    const stack: Step[] = [...nodes].reverse();
    for (let step = stack.pop(); step !== undefined; step = stack.pop()) {
      if (typeof step === 'function') step();
      else if (step.kind === 'text') this.text(step.value, step.parent);
      else if (step.kind === 'element') stack.push(...this.enter(step).reverse());
    }
  }

  private text(value: string, parent: ElementNode | null): void {
    const style = this.styleOf(parent);
    if (style === null || !(isReadable(style) || isWideSpace(value, style))) return;
    const cased = style.get('text-transform') === 'uppercase' ? upperCase(value) : value;
    const visible = cased.replace(/[\u00ad\u200b\u200c\u200d\u2060\ufeff\u034f]/g, '').replace(/\u00a0/g, ' ');
    if (!style.get('white-space').startsWith('pre')) {
      this.#writer.text(visible);
      return;
    }
    visible.split(/\r?\n/).forEach((line, index) => {
      if (index > 0) this.#writer.lineBreak();
      this.#writer.text(line);
    });
  }

  private enter(element: ElementNode): Step[] {
    const style = this.styleOf(element);
    if (style === null || style.get('display') === 'none' || isInvisible(element, style)) return [];
    switch (element.tag) {
      case 'br':
        this.#writer.lineBreak();
        return [];
      case 'img':
        this.picture(element);
        return [];
      case 'hr':
        this.rule();
        return [];
      case 'a':
        return this.link(element, style);
      case 'ul':
      case 'ol':
      case 'menu':
        return this.list(element);
      case 'li':
        return this.listItem(element);
      case 'blockquote':
        return this.quote(element);
      case 'table':
        return this.table(element);
      default:
        return isBlock(style) ? this.block(element) : [...element.children];
    }
  }

  private block(element: ElementNode): Step[] {
    this.#writer.endBlock();
    const heading = /^h([1-6])$/.exec(element.tag);
    const spaced = heading !== null || /^(?:p|dl|pre|figure|address)$/.test(element.tag) || isLayoutCell(element);
    if (spaced) this.#writer.space();
    const underline = heading === null ? null : heading[1] === '1' ? '=' : '-';
    return [
      ...element.children,
      () => {
        this.#writer.endBlock({ underline });
        if (spaced) this.#writer.space();
      },
    ];
  }

  private picture(element: ElementNode): void {
    const alt = (attribute(element, 'alt') ?? '').trim();
    if (alt === '') return;
    const block = this.styleOf(element)?.get('display') === 'block';
    if (block) this.#writer.endBlock();
    this.#writer.text(alt);
    const linked = element.parent?.tag === 'a';
    if (block && !linked) this.#writer.endBlock();
  }

  private rule(): void {
    this.#writer.endBlock();
    this.#writer.space();
    this.#writer.block(['-'.repeat(Math.min(40, this.options.width))]);
    this.#writer.space();
  }

  private link(element: ElementNode, style: ComputedStyle): Step[] {
    const address = (attribute(element, 'href') ?? '').trim();
    const block = isBlock(style) || style.get('display') === 'inline-block';
    if (isBlock(style)) this.#writer.endBlock();
    const written = address === '' || address.startsWith('#') || this.options.links === 'none' ? null : address;
    return [...element.children, () => this.endLink(element, written, block, style)];
  }

  private endLink(element: ElementNode, address: string | null, block: boolean, style: ComputedStyle): void {
    const label = labelOf(element);
    if (address !== null && !sameAddress(label, address)) {
      const alone = block && isOnlyContent(element);
      if (alone) {
        // A button: its address stands on a line of its own below it.
        this.#writer.lineBreak();
        this.#writer.text(address);
      } else if (this.options.links === 'beside') this.#writer.text(` (${address})`);
      else this.#writer.text(`${UNBREAKABLE_SPACE}[${this.#notes.number(address)}]`);
      if (alone) this.#writer.space();
    }
    if (isBlock(style)) this.#writer.endBlock();
  }

  private list(element: ElementNode): Step[] {
    this.#writer.endBlock();
    const nested = this.#listCounters.length > 0;
    if (!nested) this.#writer.space();
    const start = Number(attribute(element, 'start') ?? '1');
    this.#listCounters.push(element.tag === 'ol' ? (Number.isFinite(start) ? start : 1) : 0);
    return [
      ...element.children,
      () => {
        this.#writer.endBlock();
        this.#listCounters.pop();
        if (!nested) this.#writer.space();
      },
    ];
  }

  private listItem(element: ElementNode): Step[] {
    this.#writer.endBlock();
    const level = this.#listCounters.length - 1;
    const count = this.#listCounters[level] ?? 0;
    if (count > 0) this.#listCounters[level] = count + 1;
    const bullet = count > 0 ? `${count}. ` : '* ';
    this.#writer.indent({ first: bullet, rest: ' '.repeat(bullet.length) });
    return [
      ...element.children,
      () => {
        this.#writer.endBlock();
        this.#writer.outdent();
      },
    ];
  }

  private quote(element: ElementNode): Step[] {
    this.#writer.endBlock();
    this.#writer.space();
    this.#writer.indent({ first: '> ', rest: '> ' });
    return [
      ...element.children,
      () => {
        this.#writer.endBlock();
        this.#writer.outdent();
        this.#writer.space();
      },
    ];
  }

  /** A table with header cells holds data: its columns are aligned. Any other is layout: its cells are blocks. */
  private table(element: ElementNode): Step[] {
    this.#writer.endBlock();
    if (!holdsData(element)) return this.block(element);
    const lines = linesOf(element).map((line) =>
      typeof line === 'string' ? this.tagsIn(line) : cellsOf(line).map((cell) => this.cellText(cell)),
    );
    const aligned = alignTable(
      lines.filter((line) => typeof line !== 'string'),
      this.options,
    );
    let next = 0;
    this.#writer.space();
    // Blocks of merge tags between rows stay between them, on lines of their own.
    this.#writer.block(lines.map((line) => (typeof line === 'string' ? line : (aligned[next++] ?? ''))));
    this.#writer.space();
    return [];
  }

  private tagsIn(text: string): string {
    return splitAtSentinels(text)
      .map((piece) => (typeof piece === 'number' ? this.restore(piece) : piece.trim()))
      .join('');
  }

  private cellText(cell: ElementNode): string {
    const inner = new PlainText(
      this.doc,
      this.index,
      this.styles,
      { ...this.options, width: Infinity, links: 'none' },
      this.restore,
    );
    inner.walk(cell.children);
    return inner.#writer
      .result()
      .trim()
      .replace(/\s*\n\s*/g, ' ');
  }

  private styleOf(element: ElementNode | null): ComputedStyle | null {
    const indexed: IndexedElement | undefined = element === null ? undefined : this.index.of.get(element);
    return indexed === undefined ? null : (this.styles[indexed.order] ?? null);
  }
}

/** Cells of tables that are marked as layout stand apart. */
function isLayoutCell(element: ElementNode): boolean {
  if (element.tag !== 'td') return false;
  let table = element.parent;
  while (table !== null && table.tag !== 'table') table = table.parent;
  return table !== null && attribute(table, 'role') === 'presentation';
}

function upperCase(value: string): string {
  return splitAtSentinels(value)
    .map((piece) => (typeof piece === 'number' ? sentinel(piece) : piece.toUpperCase()))
    .join('');
}

function isBlock(style: ComputedStyle): boolean {
  return !/^(?:inline|inline-block|inline-flex|inline-table|contents)$/.test(style.get('display'));
}

/** A space without a font size still parts words where `word-spacing` gives it a width. */
function isWideSpace(text: string, style: ComputedStyle): boolean {
  return text.trim() === '' && (pixelsOf(style.get('word-spacing')) ?? 0) > 0;
}

function isReadable(style: ComputedStyle): boolean {
  return pixelsOf(style.get('font-size')) !== 0 && style.get('visibility') === 'visible';
}

/** Boxes folded to nothing, as preheaders are. */
function isInvisible(element: ElementNode, style: ComputedStyle): boolean {
  if (/(?:^|;)\s*mso-hide\s*:\s*all/i.test(attribute(element, 'style') ?? '') && style.get('display') === 'none')
    return true;
  const folded =
    pixelsOf(style.get('max-height')) === 0 ||
    pixelsOf(style.get('height')) === 0 ||
    pixelsOf(style.get('max-width')) === 0;
  return folded && style.get('overflow') === 'hidden';
}

function labelOf(element: ElementNode): string {
  const pieces: string[] = [];
  const stack: TreeNode[] = [...element.children].reverse();
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'text') pieces.push(node.value);
    else if (node.kind === 'element') stack.push(...[...node.children].reverse());
  }
  return pieces.join('').trim();
}

function isOnlyContent(element: ElementNode): boolean {
  const siblings = element.parent?.children ?? [];
  return siblings.every(
    (node) => node === element || node.kind === 'comment' || (node.kind === 'text' && node.value.trim() === ''),
  );
}

function holdsData(table: ElementNode): boolean {
  const role = attribute(table, 'role')?.toLowerCase();
  if (role === 'presentation' || role === 'none') return false;
  const inner = [...elementsOf(table)].slice(1);
  return inner.some((element) => element.tag === 'th') && !inner.some((element) => element.tag === 'table');
}

/** The rows of a table, and the template tags that stand between them, in order. */
function linesOf(table: ElementNode): (ElementNode | string)[] {
  const lines: (ElementNode | string)[] = [];
  const stack: TreeNode[] = [table];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'element' && node.tag === 'tr') lines.push(node);
    else if (node.kind === 'element') stack.push(...[...node.children].reverse());
    else if (node.kind === 'text' && splitAtSentinels(node.value).length > 1) lines.push(node.value.trim());
  }
  return lines;
}

function cellsOf(row: ElementNode): ElementNode[] {
  return row.children.filter(
    (child): child is ElementNode => child.kind === 'element' && (child.tag === 'td' || child.tag === 'th'),
  );
}
