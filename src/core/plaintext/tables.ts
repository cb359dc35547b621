import type { ShownStyle } from './shown-style.js';
import { splitAtSentinels } from '../html/tags.js';
import { attribute, elementsOf, pushChildren, type ElementNode, type TreeNode } from '../html/tree.js';
import { isAmount, type DataCell, type DataLine } from './data-table.js';
import { isShown } from './visible.js';

/** What the tables of a document are read with. */
export interface TableReader {
  readonly styleOf: (element: ElementNode) => ShownStyle | null;
  /** The text of a cell, on one line; `withLinks` tells whether the addresses of its links are noted. */
  readonly cellText: (cell: ElementNode, withLinks: boolean) => string;
}

/** A table of data, read. */
export interface DataTable {
  readonly caption: ElementNode | null;
  readonly lines: readonly DataLine[];
}

/** So wide may a cell be without a heading above it, and so many columns a table. */
const MOST_PLAIN_CELL = 40;
const MOST_PLAIN_COLUMNS = 6;

/**
 * Reads a table of data: one with header cells, one whose rows end with amounts, or a small grid of short texts. Null
 * for a table that is layout.
 */
export function readDataTable(table: ElementNode, reader: TableReader): DataTable | null {
  const inner = innerElements(table);
  if (inner === null) return null;
  const role = attribute(table, 'role')?.toLowerCase();
  const isLayout = role === 'presentation' || role === 'none';
  const hasHeaders = !isLayout && inner.some((element) => element.tag === 'th');
  const rows = shownRows(table, reader);
  if (!hasHeaders) {
    if (inner.some((element) => notInCells.has(element.tag))) return null;
    const tried = readLines(rows, reader, { withLinks: false });
    if (!holdsAmounts(tried) && (isLayout || !isPlainGrid(tried))) return null;
  }
  const caption = inner.find((element) => element.tag === 'caption' && isSeen(element, reader)) ?? null;
  return { caption, lines: readLines(rows, reader, { withLinks: true }) };
}

/** The elements in a table; null where one of them is a table itself. */
function innerElements(table: ElementNode): ElementNode[] | null {
  const inner: ElementNode[] = [];
  for (const element of elementsOf(table)) {
    if (element === table) continue;
    if (element.tag === 'table') return null;
    inner.push(element);
  }
  return inner;
}

/** What no cell of data holds, unless headers say that it is one. */
const notInCells: ReadonlySet<string> = new Set([
  'address',
  'article',
  'aside',
  'blockquote',
  'center',
  'dl',
  'figure',
  'footer',
  'form',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'header',
  'hr',
  'img',
  'main',
  'nav',
  'ol',
  'pre',
  'section',
  'ul',
]);

function isSeen(element: ElementNode, { styleOf }: TableReader): boolean {
  const style = styleOf(element);
  return style !== null && isShown(element, style);
}

/** The rows that are seen, and the template tags between them, in order. */
function shownRows(table: ElementNode, reader: TableReader): (ElementNode | string)[] {
  const lines: (ElementNode | string)[] = [];
  const stack: TreeNode[] = [];
  pushChildren(stack, table);
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    if (node.kind === 'text') {
      const tags = splitAtSentinels(node.value).length > 1 ? node.value.trim() : '';
      if (tags !== '') lines.push(tags);
    } else if (node.kind === 'element' && node.tag !== 'caption' && isSeen(node, reader)) {
      if (node.tag === 'tr') lines.push(node);
      else pushChildren(stack, node);
    }
  }
  return lines;
}

/** Puts cells into columns, as the HTML standard says (4.9.12): what spans rows keeps its columns in those below. */
function readLines(
  rows: readonly (ElementNode | string)[],
  reader: TableReader,
  { withLinks }: { readonly withLinks: boolean },
): DataLine[] {
  /** How many rows below each column is still taken. */
  const taken: number[] = [];
  return rows.map((row) => {
    if (typeof row === 'string') return row;
    const cells: DataCell[] = [];
    let column = 0;
    for (const element of cellsOf(row).filter((cell) => isSeen(cell, reader))) {
      while ((taken[column] ?? 0) > 0) column += 1;
      const span = spanOf(element, 'colspan', MOST_SPAN);
      const rowSpan = spanOf(element, 'rowspan', MOST_SPAN);
      cells.push({ ...readCell(element, reader), text: reader.cellText(element, withLinks), column, span });
      for (let index = column; index < column + span; index += 1) taken[index] = rowSpan;
      column += span;
    }
    for (let index = 0; index < taken.length; index += 1) taken[index] = Math.max(0, (taken[index] ?? 0) - 1);
    return cells;
  });
}

/** More columns or rows no cell of a mail takes. */
const MOST_SPAN = 50;

function spanOf(cell: ElementNode, name: string, most: number): number {
  const span = Number.parseInt(attribute(cell, name) ?? '1', 10);
  return Number.isFinite(span) ? Math.min(most, Math.max(1, span)) : 1;
}

function readCell(element: ElementNode, reader: TableReader): Pick<DataCell, 'atEnd' | 'isHeader'> {
  const align = reader.styleOf(element)?.get('text-align') ?? '';
  const atEnd = /^(?:right|end|-webkit-right)$/.test(align) || attribute(element, 'align')?.toLowerCase() === 'right';
  return { atEnd, isHeader: element.tag === 'th' };
}

function cellsOf(row: ElementNode): ElementNode[] {
  return row.children.filter(
    (child): child is ElementNode => child.kind === 'element' && (child.tag === 'td' || child.tag === 'th'),
  );
}

/** Rows of a receipt: each ends with an amount, behind what it is for. */
function holdsAmounts(lines: readonly DataLine[]): boolean {
  const rows = lines.filter((line) => typeof line !== 'string').map((row) => row.filter(({ text }) => text !== ''));
  const full = rows.filter((row) => row.length > 0);
  const amounts = full.filter((row) => row.length > 1 && isAmount(row[row.length - 1]?.text ?? ''));
  return amounts.length > 1 && amounts.length >= full.length - 1;
}

/** Short texts in columns, such as names and what they are. */
function isPlainGrid(lines: readonly DataLine[]): boolean {
  const rows = lines.filter((line) => typeof line !== 'string');
  const count = rows[0]?.length ?? 0;
  const isEven =
    rows.length > 1 && count > 1 && count <= MOST_PLAIN_COLUMNS && rows.every((row) => row.length === count);
  return isEven && rows.every((row) => row.every(({ text, span }) => span === 1 && text.length <= MOST_PLAIN_CELL));
}
