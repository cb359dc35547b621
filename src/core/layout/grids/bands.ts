import type { Box } from '../boxes/boxes.js';

/** Where an item stands in a grid: its rows and its columns, from 0. */
export interface Placed {
  readonly item: Box;
  readonly row: number;
  /** How many rows it takes. */
  readonly rows: number;
  readonly column: number;
  readonly span: number;
}

/** What stands in one cell of a band: an item, or items below each other beside one that takes all rows of the band. */
export interface BandCell {
  readonly column: number;
  readonly span: number;
  readonly items: readonly [Placed, ...Placed[]];
}

/** Rows of a grid that items over several of them hold together: one row of a table. */
export interface Band {
  /** The first of its rows, and how many it has. */
  readonly row: number;
  readonly rows: number;
  /** From left to right. */
  readonly cells: readonly BandCell[];
}

/** The bands of a grid, from top to bottom. Most are one row. */
export function bandsOf(placed: readonly Placed[]): Band[] {
  const last = Math.max(-1, ...placed.map(({ row, rows }) => row + rows - 1));
  const bands: Band[] = [];
  for (let row = 0; row <= last;) {
    let end = row + 1;
    for (let grown = true; grown;) {
      const reach = Math.max(
        end,
        ...placed.filter((one) => one.row >= row && one.row < end).map((one) => one.row + one.rows),
      );
      grown = reach > end;
      end = reach;
    }
    const inBand = placed.filter((one) => one.row >= row && one.row < end);
    bands.push({ row, rows: end - row, cells: cellsOf(inBand) });
    row = end;
  }
  return bands;
}

/** Items by the column in which they begin. */
function cellsOf(inBand: readonly Placed[]): BandCell[] {
  const columns = [...new Set(inBand.map(({ column }) => column))].sort((a, b) => a - b);
  return columns.flatMap((column): BandCell[] => {
    const [first, ...others] = inBand.filter((one) => one.column === column).sort((a, b) => a.row - b.row);
    return first === undefined ? [] : [{ column, span: first.span, items: [first, ...others] }];
  });
}

/**
 * An item that no table of one row for each band can place; null where there is none. Beside what takes all rows of its band
 * there is one column of others: the rows of two would have to be equally high.
 */
export function misplaced(bands: readonly Band[]): Placed | null {
  for (const { row, rows, cells } of bands) {
    if (rows === 1) continue;
    const isWhole = (one: Placed): boolean => one.row === row && one.rows === rows;
    const beside = cells.filter(({ items }) => !items.every(isWhole));
    const odd = beside.flatMap(({ items, span }) => items.filter((one) => one.rows > 1 || one.span !== span));
    const [first] = odd.length > 0 ? odd : beside.length > 1 ? beside.flatMap(({ items }) => items) : [];
    if (first !== undefined) return spanningOf(cells) ?? first;
  }
  return null;
}

function spanningOf(cells: readonly BandCell[]): Placed | null {
  return cells.flatMap(({ items }) => items).find(({ rows }) => rows > 1) ?? null;
}

/** Items in the order in which a table has them: by bands, in these by columns, and in these from top to bottom. */
export function inTableOrder(placed: readonly Placed[]): Placed[] {
  return bandsOf(placed).flatMap(({ cells }) => cells.flatMap(({ items }) => items));
}
