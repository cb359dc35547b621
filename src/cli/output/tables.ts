import { textWidth } from '../../core/text/text-width.js';
import type { Io } from '../io/io.js';

/** Prints rows as columns to the talk stream; what begins with a digit or a sign stands to the right. */
export function printTable(rows: readonly (readonly string[])[], io: Io): void {
  const columns = Math.max(...rows.map((row) => row.length));
  const widths = Array.from({ length: columns }, (_, at) => Math.max(...rows.map((row) => textWidth(row[at] ?? ''))));
  for (const row of rows) {
    const cells = widths.map((width, at) => padded(row[at] ?? '', width, at));
    io.err(`${cells.join('  ').trimEnd()}\n`);
  }
}

function padded(cell: string, width: number, column: number): string {
  const filler = ' '.repeat(Math.max(0, width - textWidth(cell)));
  return column > 0 && /^[\d−+–=]/.test(cell) ? filler + cell : cell + filler;
}
