import { firstIndex, type Span } from './span.js';

/** A position as a person counts it: both numbers start at 1, columns count Unicode characters. */
export interface LineColumn {
  readonly line: number;
  readonly column: number;
}

/**
 * The one owner of a text that came from a file (or from standard input).
 * Everything else carries offsets into it; lines and columns are computed only for showing.
 * A line ends with LF, CRLF or CR.
 */
export class SourceText {
  #lineStarts: readonly number[] | null = null;
  /** The last place that was asked for: on a long line the next is counted from there. */
  #last = { line: -1, offset: 0, column: 1 };

  /**
   * @param name what a finding calls the text: a path as the user wrote it, or `<stdin>`
   * @param text the decoded text, without a byte order mark
   */
  constructor(
    readonly name: string,
    readonly text: string,
  ) {}

  get whole(): Span {
    return { start: 0, end: this.text.length };
  }

  /** The characters of a span. */
  slice(span: Span): string {
    return this.text.slice(span.start, span.end);
  }

  /** Where an offset stands. An offset past the end is taken as the end. */
  lineColumn(offset: number): LineColumn {
    const starts = this.lineStarts();
    const bounded = Math.min(Math.max(offset, 0), this.text.length);
    const line = lastIndexAtMost(starts, bounded);
    const start = starts[line] ?? 0;
    const isOnward = this.#last.line === line && this.#last.offset <= bounded;
    const from = isOnward ? this.#last : { offset: start, column: 1 };
    const column = from.column + charactersIn(this.text, from.offset, bounded);
    this.#last = { line, offset: bounded, column };
    return { line: line + 1, column };
  }

  /** The text of a line (counted from 1), without its line end; empty for a line that is not there. */
  lineText(line: number): string {
    const starts = this.lineStarts();
    const start = starts[line - 1];
    if (start === undefined) return '';
    return this.text.slice(start, starts[line] ?? this.text.length).replace(/[\r\n]+$/, '');
  }

  /**
   * What stands before and behind an offset on its line, without the line end.
   * @param most at most so many UTF-16 units of each: lines of finished HTML are long
   */
  aroundOnLine(offset: number, most: number): { readonly before: string; readonly behind: string } {
    const starts = this.lineStarts();
    const line = lastIndexAtMost(starts, offset);
    const [start, end] = [starts[line] ?? 0, starts[line + 1] ?? this.text.length];
    const before = this.text.slice(Math.max(start, offset - most), offset);
    const behind = this.text.slice(offset, Math.min(end, offset + most));
    return { before: before.replace(/[\r\n]+$/, ''), behind: behind.replace(/[\r\n]+$/, '') };
  }

  private lineStarts(): readonly number[] {
    this.#lineStarts ??= lineStartsOf(this.text);
    return this.#lineStarts;
  }
}

/** How many Unicode characters begin in a stretch. */
function charactersIn(text: string, start: number, end: number): number {
  let count = 0;
  for (let index = start; index < end; index += 1) {
    const isPair = (text.codePointAt(index) ?? 0) > 0xffff && index + 1 < end;
    if (isPair) index += 1;
    count += 1;
  }
  return count;
}

/** Where the lines of a text begin. */
export function lineStartsOf(text: string): number[] {
  const starts = [0];
  for (const match of text.matchAll(/\r\n|\n|\r/g)) starts.push(match.index + match[0].length);
  return starts;
}

function lastIndexAtMost(sorted: readonly number[], value: number): number {
  return Math.max(0, firstIndex(sorted.length, (index) => (sorted[index] ?? 0) > value) - 1);
}
