/** A line of plain text, as it was laid out. */
export interface PlainLine {
  readonly text: string;
  /** True where the line was broken only because it was full, so that a reader may join it with the next. */
  readonly continues: boolean;
  /** How many quotes the line stands in; its text begins with so many `> `. */
  readonly quoteDepth: number;
}

/** Lines as a text file: it ends with one line end, and is empty for nothing. */
export function printLines(lines: readonly PlainLine[]): string {
  return lines.map(({ text }) => `${text}\n`).join('');
}

/**
 * Lines as `format=flowed` text for mail (RFC 3676, 4): a line that goes on in the next one ends with a space, and a
 * line that would be taken for something else begins with one.
 */
export function printFlowed(lines: readonly PlainLine[]): string {
  return lines
    .map((line, index) => {
      const next = lines[index + 1];
      const flows = line.continues && next !== undefined && next.quoteDepth === line.quoteDepth;
      return `${flowedText(line)}${flows ? ' ' : ''}\n`;
    })
    .join('');
}

function flowedText({ text, quoteDepth }: PlainLine): string {
  const own = text.slice(Math.min(text.length, 2 * quoteDepth));
  if (quoteDepth > 0) return `${'>'.repeat(quoteDepth)}${own === '' ? '' : ' '}${own}`;
  return /^(?: |>|From )/.test(own) ? ` ${own}` : own;
}
