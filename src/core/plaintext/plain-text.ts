import type { ShownStyle } from './shown-style.js';
import type { ElementIndex, IndexedElement } from '../css/selectors/element-index.js';
import { attribute, pushChildren, type Doc, type ElementNode, type TreeNode } from '../html/tree.js';
import { alignTable } from './data-table.js';
import { printLines, type PlainLine } from './lines.js';
import { LinkNotes, saysAddress, shownLink } from './links.js';
import { listMarker } from './list-markers.js';
import type { TextOptions } from './options.js';
import { shownDocument, type ShownDocument } from './shown-document.js';
import { readDataTable, type DataTable } from './tables.js';
import { CellText, type TextSink } from './text-sink.js';
import { isBlock, isReadable, isShown, isWideSpace } from './visible.js';
import { cased, withPlainSpaces, withoutFiller } from './visible-text.js';
import { UNBREAKABLE_SPACE } from './wrap.js';
import { TextWriter } from './writer.js';

/**
 * The plain-text version of an HTML document: what a reader sees, in order, with the addresses of its links.
 * Hidden text (the preheader too) is left out. Template tags are kept whole. `data-text` on an element says what stands
 * in place of what it holds.
 */
export function plainText(doc: Doc, options: TextOptions): string {
  return printLines(plainLines(shownDocument(doc), options));
}

/** The lines of the plain-text version, to be printed either way. */
export function plainLines({ index, styles, restore }: ShownDocument, options: TextOptions): PlainLine[] {
  const shared: Shared = { index, styles, notes: new LinkNotes(), options, restore };
  const writer = new TextWriter(options, restore);
  new Walk(shared, writer, null).nodes([index.doc.root]);
  writer.endBlock();
  const notes = shared.notes.lines(restore);
  if (notes.length > 0) {
    writer.space();
    writer.block(notes);
  }
  return writer.result();
}

/** What the walk through a document and those through its cells share. */
interface Shared {
  readonly index: ElementIndex;
  readonly styles: readonly ShownStyle[];
  readonly notes: LinkNotes;
  readonly options: TextOptions;
  readonly restore: (index: number) => string;
}

/** A list that is open: how its items are marked, and the number of the next one. */
interface OpenList {
  readonly isNumbered: boolean;
  next: number;
  readonly step: 1 | -1;
}

/** A step of the walk: a node to enter, or what to do when an element is left. */
type Step = TreeNode | (() => void);

class Walk {
  readonly #lists: OpenList[] = [];

  /** @param cell how links of a cell are written, where it is one that is walked through; null for the document */
  constructor(
    private readonly shared: Shared,
    private readonly sink: TextSink,
    private readonly cell: { readonly withLinks: boolean } | null,
  ) {}

  /** Walks with a stack of its own: depth belongs to the input. */
  nodes(nodes: readonly TreeNode[]): void {
    const stack: Step[] = [...nodes].reverse();
    for (let step = stack.pop(); step !== undefined; step = stack.pop()) {
      if (typeof step === 'function') step();
      else if (step.kind === 'text') this.text(step.value, step.parent);
      else if (step.kind === 'element') {
        const inner = this.enter(step);
        for (let index = inner.length - 1; index >= 0; index -= 1) stack.push(inner[index] as Step);
      }
    }
  }

  private text(value: string, parent: ElementNode | null): void {
    const style = this.styleOf(parent);
    if (style === null || !(isReadable(style) || isWideSpace(value, style))) return;
    const visible = withoutFiller(cased(value, style.get('text-transform')));
    const space = style.get('white-space');
    if (!/^(?:pre|break-spaces)/.test(space)) {
      this.sink.text(withPlainSpaces(visible));
      return;
    }
    visible.split(/\r?\n/).forEach((line, index) => {
      if (index > 0) this.sink.lineBreak();
      if (space === 'pre-line') this.sink.text(line);
      else this.sink.preserved(line.replace(/\u00a0/g, ' '));
    });
  }

  private enter(element: ElementNode): Step[] {
    const style = this.styleOf(element);
    if (element.tag === 'area') return this.area(element);
    if (element.tag === 'input') return this.button(element, style);
    if (style === null || !isShown(element, style)) return [];
    const said = attribute(element, 'data-text');
    if (said !== null) return this.said(element, style, said);
    switch (element.tag) {
      case 'br':
        this.sink.lineBreak();
        return [];
      case 'wbr':
        return [];
      case 'img':
        this.picture(element, style);
        return [];
      case 'hr':
        this.rule();
        return [];
      case 'a':
        return this.link(element, style, [...element.children]);
      case 'ul':
      case 'ol':
      case 'menu':
        return this.list(element);
      case 'li':
        return this.listItem(element, style);
      case 'dd':
        return this.indented({ first: '  ', rest: '  ' }, element.children);
      case 'blockquote':
        return this.quote(element);
      case 'table':
        return this.table(element);
      case 'option':
        return this.block(element, [...element.children]);
      default:
        return isBlock(style) ? this.block(element, [...element.children]) : [...element.children];
    }
  }

  /** What an author has others read in place of an element's content. */
  private said(element: ElementNode, style: ShownStyle, text: string): Step[] {
    const lines = text.split('\n').map((line) => line.trim());
    const write = (): void =>
      lines.forEach((line, index) => {
        if (index > 0) this.sink.lineBreak();
        this.sink.text(line);
      });
    if (text.trim() === '') return [];
    if (element.tag === 'a') return this.link(element, style, [write], text);
    if (element.tag === 'li') return this.listItem(element, style, [write]);
    if (element.tag === 'blockquote') return this.quote(element, [write]);
    return isBlock(style) && element.tag !== 'br' ? this.block(element, [write]) : [write];
  }

  private block(element: ElementNode, content: readonly Step[]): Step[] {
    this.sink.endBlock();
    const heading = /^h([1-6])$/.exec(element.tag);
    const spaced = heading !== null || spacedBlocks.has(element.tag) || isLayoutCell(element);
    if (spaced) this.sink.space();
    const underline = heading === null ? null : heading[1] === '1' ? '=' : '-';
    return [
      ...content,
      () => {
        this.sink.endBlock({ underline });
        if (spaced) this.sink.space();
      },
    ];
  }

  private picture(element: ElementNode, style: ShownStyle): void {
    const alt = (attribute(element, 'alt') ?? '').trim();
    if (alt === '' || style.get('visibility') !== 'visible') return;
    const isOwnBlock = style.get('display') === 'block';
    if (isOwnBlock) this.sink.endBlock();
    this.sink.text(withPlainSpaces(alt));
    const linked = element.parent?.tag === 'a';
    if (isOwnBlock && !linked) this.sink.endBlock();
  }

  private rule(): void {
    this.sink.endBlock();
    if (this.cell !== null) return;
    this.sink.space();
    this.sink.block(['-'.repeat(Math.min(40, this.shared.options.width))]);
    this.sink.space();
  }

  /** A form's button says its value. */
  private button(element: ElementNode, style: ShownStyle | null): Step[] {
    const type = (attribute(element, 'type') ?? '').toLowerCase();
    const text = type === 'image' ? attribute(element, 'alt') : attribute(element, 'value');
    const isSeen = style !== null && style.get('display') !== 'none';
    if (isSeen && /^(?:submit|button|reset|image)$/.test(type) && text !== null) this.sink.text(` ${text} `);
    return [];
  }

  /** A place of a picture that leads elsewhere. */
  private area(element: ElementNode): Step[] {
    const address = this.shownAddress(element);
    const label = (attribute(element, 'alt') ?? '').trim();
    if (address === null) return [];
    this.sink.endBlock();
    this.sink.text(label);
    this.addAddress(label, address);
    this.sink.endBlock();
    return [];
  }

  /** @param label what is read as the link, where that is not what it holds */
  private link(element: ElementNode, style: ShownStyle, content: readonly Step[], label?: string): Step[] {
    const address = this.shownAddress(element);
    const isButton = isBlock(style) || style.get('display') === 'inline-block';
    if (isBlock(style)) this.sink.endBlock();
    return [
      ...content,
      () => {
        if (address !== null) this.endLink(element, label ?? this.labelOf(element), address, isButton);
        if (isBlock(style)) this.sink.endBlock();
      },
    ];
  }

  private endLink(element: ElementNode, label: string, address: string, isButton: boolean): void {
    if (saysAddress(label, address)) return;
    if (isButton && this.cell === null && label !== '' && isOnlyContent(element)) {
      // A button: its address stands on a line of its own below it.
      this.sink.lineBreak();
      this.sink.text(address);
      this.sink.space();
    } else this.addAddress(label, address);
  }

  /** What a reader sees of a link. */
  private labelOf(element: ElementNode): string {
    const pieces: string[] = [];
    const stack: TreeNode[] = [];
    pushChildren(stack, element);
    for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
      const style = this.styleOf(node.kind === 'element' ? node : node.parent);
      if (node.kind === 'text' && style !== null && isReadable(style))
        pieces.push(cased(node.value, style.get('text-transform')));
      if (node.kind !== 'element' || style === null || !isShown(node, style)) continue;
      if (node.tag === 'img') pieces.push(attribute(node, 'alt') ?? '');
      pushChildren(stack, node);
    }
    return withoutFiller(pieces.join('')).trim();
  }

  private addAddress(label: string, address: string): void {
    // A link that says nothing is read as its address.
    if (label === '') this.sink.text(` ${address} `);
    else if (this.shared.options.links === 'beside') this.sink.append(` (${address})`);
    else this.sink.append(`${UNBREAKABLE_SPACE}[${this.shared.notes.number(address)}]`);
  }

  private shownAddress(element: ElementNode): string | null {
    const isAsked = this.shared.options.links !== 'none' && this.cell?.withLinks !== false;
    return isAsked ? shownLink(attribute(element, 'href')) : null;
  }

  private list(element: ElementNode): Step[] {
    this.sink.endBlock();
    const nested = this.#lists.length > 0;
    if (!nested) this.sink.space();
    const isReversed = element.attributes.has('reversed');
    const items = element.children.filter((child) => child.kind === 'element' && child.tag === 'li').length;
    const start = Number.parseInt(attribute(element, 'start') ?? '', 10);
    const first = Number.isFinite(start) ? start : isReversed ? items : 1;
    this.#lists.push({ isNumbered: element.tag === 'ol', next: first, step: isReversed ? -1 : 1 });
    return [
      ...element.children,
      () => {
        this.sink.endBlock();
        this.#lists.pop();
        if (!nested) this.sink.space();
      },
    ];
  }

  private listItem(element: ElementNode, style: ShownStyle, content: readonly Step[] = element.children): Step[] {
    const list = this.#lists[this.#lists.length - 1];
    const value = Number.parseInt(attribute(element, 'value') ?? '', 10);
    const number = Number.isFinite(value) ? value : (list?.next ?? 1);
    if (list !== undefined) list.next = number + list.step;
    const marker = listMarker(markerStyle(element, style), list?.isNumbered === true ? number : null);
    const first = marker === '' ? '' : `${marker} `;
    return this.indented({ first, rest: ' '.repeat(first.length) }, content);
  }

  private indented(
    prefix: { readonly first: string; readonly rest: string; readonly isQuote?: boolean },
    content: readonly Step[],
  ): Step[] {
    this.sink.endBlock();
    this.sink.indent(prefix);
    return [
      ...content,
      () => {
        this.sink.endBlock();
        this.sink.outdent();
      },
    ];
  }

  private quote(element: ElementNode, content: readonly Step[] = element.children): Step[] {
    this.sink.endBlock();
    this.sink.space();
    const inner = this.indented({ first: '> ', rest: '> ', isQuote: true }, content);
    return [...inner, () => this.sink.space()];
  }

  /** A table of data is aligned; the cells of any other are blocks. */
  private table(element: ElementNode): Step[] {
    this.sink.endBlock();
    const data =
      this.cell === null
        ? readDataTable(element, {
            styleOf: (cell) => this.styleOf(cell),
            cellText: (cell, withLinks) => this.cellText(cell, withLinks),
          })
        : null;
    if (data === null) return this.block(element, [...element.children]);
    this.sink.space();
    const write = (): void => this.dataTable(data);
    return data.caption === null ? [write] : [data.caption, write];
  }

  private dataTable({ lines }: DataTable): void {
    this.sink.endBlock();
    this.sink.block(alignTable(lines, this.shared.options, this.shared.restore));
    this.sink.space();
  }

  private cellText(cell: ElementNode, withLinks: boolean): string {
    const sink = new CellText();
    new Walk(this.shared, sink, { withLinks }).nodes(cell.children);
    return sink.result();
  }

  private styleOf(element: ElementNode | null): ShownStyle | null {
    const { index, styles } = this.shared;
    const indexed: IndexedElement | undefined = element === null ? undefined : index.of.get(element);
    return indexed === undefined ? null : (styles[indexed.order] ?? null);
  }
}

/** Blocks that stand apart from those around them. */
const spacedBlocks: ReadonlySet<string> = new Set(['p', 'dl', 'pre', 'figure', 'address', 'caption']);

/** Cells of tables that are marked as layout stand apart. */
function isLayoutCell(element: ElementNode): boolean {
  if (element.tag !== 'td') return false;
  let table = element.parent;
  while (table !== null && table.tag !== 'table') table = table.parent;
  return table !== null && attribute(table, 'role') === 'presentation';
}

/** The style of an item's mark; `type` is how old documents say it (HTML standard, 15.3.8). */
function markerStyle(item: ElementNode, style: ShownStyle): string {
  const type = attribute(item, 'type') ?? (item.parent === null ? null : attribute(item.parent, 'type'));
  const byType = new Map([
    ['a', 'lower-alpha'],
    ['A', 'upper-alpha'],
    ['i', 'lower-roman'],
    ['I', 'upper-roman'],
  ]).get(type ?? '');
  const own = style.get('list-style-type');
  return byType !== undefined && own === 'decimal' ? byType : own;
}

function isOnlyContent(element: ElementNode): boolean {
  const siblings = element.parent?.children ?? [];
  return siblings.every(
    (node) => node === element || node.kind === 'comment' || (node.kind === 'text' && node.value.trim() === ''),
  );
}
