import { splitAtSentinels } from '../html/tags.js';
import type { TextOptions } from './options.js';
import { wrapText, writtenText } from './wrap.js';

/** A cell of a table of data, its text on one line, with template tags as sentinels. */
export interface DataCell {
  readonly text: string;
  /** The first column that it stands in, and how many it takes. */
  readonly column: number;
  readonly span: number;
  /** True where it is set flush right. */
  readonly atEnd: boolean;
  readonly isHeader: boolean;
}

/** A row of cells, or template tags that stand between rows. */
export type DataLine = readonly DataCell[] | string;

/** What stands between columns. */
const GAP = '  ';

/** Columns of words are not made narrower than this. */
const LEAST_WIDTH = 14;

/**
 * Lays rows out in columns; columns of numbers end flush right. Where the rows are too wide, words wrap within their
 * columns; where even that does not do, each row becomes one text.
 */
export function alignTable(
  lines: readonly DataLine[],
  options: TextOptions,
  restore: (index: number) => string,
): string[] {
  const rows = lines.filter((line) => typeof line !== 'string');
  const layout = fitColumns(rows, options, restore);
  return lines.flatMap((line) => {
    if (typeof line === 'string') return [writtenText(line, restore)];
    return layout === null ? inOneText(line, options, restore) : inColumns(line, layout, options, restore);
  });
}

interface Columns {
  readonly widths: readonly number[];
  /** Which are set flush right. */
  readonly atEnd: readonly boolean[];
}

function fitColumns(
  rows: readonly (readonly DataCell[])[],
  options: TextOptions,
  restore: (index: number) => string,
): Columns | null {
  const cells = rows.flat();
  const count = cells.reduce((most, { column, span }) => Math.max(most, column + span), 0);
  const sizeOf = (cell: DataCell): number => options.measure(writtenText(cell.text, restore));
  const columns = Array.from({ length: count }, (): DataCell[] => []);
  for (const cell of cells) if (cell.span === 1) columns[cell.column]?.push(cell);
  const atEnd = columns.map(isSetAtEnd);
  const widths = columns.map((own) => own.reduce((widest, cell) => Math.max(widest, sizeOf(cell)), 0));
  for (const cell of cells.filter(({ span }) => span > 1)) {
    const spanned = widths.slice(cell.column, cell.column + cell.span);
    const missing = sizeOf(cell) - spanned.reduce((sum, width) => sum + width + GAP.length, -GAP.length);
    // What several columns hold goes to the first of words.
    const own = atEnd.indexOf(false, cell.column);
    const grows = own >= 0 && own < cell.column + cell.span ? own : cell.column;
    if (missing > 0) widths[grows] = (widths[grows] ?? 0) + missing;
  }
  return shrink(widths, atEnd, options.width) ? { widths, atEnd } : null;
}

/** A column of amounts, or one that its author has set flush right. */
function isSetAtEnd(cells: readonly DataCell[]): boolean {
  const body = cells.filter((cell) => !cell.isHeader && cell.text !== '');
  return body.length > 0 && body.every(({ text, atEnd }) => atEnd || isAmount(text));
}

/** Whether a text is a number, with a unit or a sign of currency. */
export function isAmount(text: string): boolean {
  return /^[-+−–(]?\s?(?:\p{Sc}|[A-Z]{3})?\s?[-−]?\d[\d.,’'\u00a0 \uFDD2]*\s?(?:\p{Sc}|[A-Z]{3}|%)?\)?$/u.test(text);
}

/** Takes width from the widest columns of words until all fits. False where it does not. */
function shrink(widths: number[], atEnd: readonly boolean[], most: number): boolean {
  const total = (): number => widths.reduce((sum, width) => sum + width + GAP.length, -GAP.length);
  while (total() > most) {
    const candidates = widths.flatMap((width, column) => (atEnd[column] === true ? [] : [{ width, column }]));
    const [widest, next] = candidates.sort((a, b) => b.width - a.width);
    if (widest === undefined || widest.width <= LEAST_WIDTH) return false;
    const floor = Math.max(LEAST_WIDTH, Math.min(widest.width - 1, next?.width ?? 0));
    widths[widest.column] = Math.max(floor, widest.width - (total() - most));
  }
  return true;
}

function inColumns(
  row: readonly DataCell[],
  { widths, atEnd }: Columns,
  options: TextOptions,
  restore: (index: number) => string,
): string[] {
  const columns = row.map((cell) => {
    const own = widths.slice(cell.column, cell.column + cell.span);
    const width = own.reduce((sum, size) => sum + size + GAP.length, -GAP.length);
    const texts = wrapText(cell.text, { first: '', rest: '' }, { ...options, width }, restore).map(({ text }) => text);
    return { ...cell, width, texts, flushRight: atEnd[cell.column + cell.span - 1] === true && cell.span === 1 };
  });
  const lines: string[] = [''];
  for (const { column, width, texts, flushRight } of columns) {
    const start = widths.slice(0, column).reduce((sum, size) => sum + size + GAP.length, 0);
    texts.forEach((content, index) => {
      if (content === '') return;
      // A cell begins where the one before it ends, so that the words stay in their order.
      if (index > 0) lines.push('');
      const before = lines[lines.length - 1] ?? '';
      const at = start + (flushRight ? Math.max(0, width - options.measure(content)) : 0);
      const gap = Math.max(before === '' ? 0 : 1, at - options.measure(before));
      lines[lines.length - 1] = `${before}${' '.repeat(gap)}${content}`;
    });
  }
  return lines;
}

/** A row whose tags are filled later is not wrapped: nobody knows where its lines would end. */
function inOneText(row: readonly DataCell[], options: TextOptions, restore: (index: number) => string): string[] {
  const text = row
    .map((cell) => cell.text)
    .filter((cell) => cell !== '')
    .join(' · ');
  if (splitAtSentinels(text).length > 1) return [writtenText(text, restore)];
  return wrapText(text, { first: '', rest: GAP }, options, restore).map((line) => line.text);
}
