import type { TextOptions } from './options.js';

const GAP = '  ';

/** Lays rows out in columns; columns of numbers end flush right. Rows that would be too wide become one line a cell. */
export function alignTable(rows: readonly (readonly string[])[], options: TextOptions): string[] {
  const count = Math.max(0, ...rows.map((row) => row.length));
  const widths = Array.from({ length: count }, (_, column) =>
    Math.max(0, ...rows.map((row) => options.measure(row[column] ?? ''))),
  );
  const total = widths.reduce((sum, width) => sum + width, 0) + GAP.length * Math.max(0, count - 1);
  if (total > options.width) return rows.map((row) => row.filter((cell) => cell !== '').join(' · '));
  const numeric = widths.map((_, column) =>
    rows.slice(1).every((row) => /^[^\p{L}]*\d[^\p{L}]*$/u.test(row[column] ?? '') || (row[column] ?? '') === ''),
  );
  return rows.map((row) =>
    widths
      .map((width, column) => pad(row[column] ?? '', width, numeric[column] === true, options))
      .join(GAP)
      .trimEnd(),
  );
}

function pad(text: string, width: number, atEnd: boolean, options: TextOptions): string {
  const fill = ' '.repeat(width - options.measure(text));
  return atEnd ? fill + text : text + fill;
}
