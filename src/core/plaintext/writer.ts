import type { TextOptions } from './options.js';
import { wrapText, type Prefix } from './wrap.js';

/** How a block is closed off. */
export interface BlockEnd {
  /** The character of the line under a heading; null for none. */
  readonly underline: string | null;
}

const noEnd: BlockEnd = { underline: null };

/**
 * Collects text into wrapped blocks. Inline text is gathered until a block boundary; between blocks stands at most one
 * empty line.
 */
export class TextWriter {
  readonly #lines: string[] = [];
  readonly #prefixes: Prefix[] = [];
  #inline = '';
  #gap = false;

  constructor(
    private readonly options: TextOptions,
    private readonly restore: (index: number) => string,
  ) {}

  /** Adds inline text; runs of white space count as one space. */
  text(text: string): void {
    const collapsed = text.replace(/[ \t\n\f\r]+/g, ' ');
    this.#inline += /(?:^|[ \n])$/.test(this.#inline) ? collapsed.replace(/^ /, '') : collapsed;
  }

  /** Ends the line within a block. */
  lineBreak(): void {
    this.#inline = `${this.#inline.trimEnd()}\n`;
  }

  /** Whether inline text is waiting. */
  hasInline(): boolean {
    return this.#inline.trim() !== '';
  }

  /** Ends the current block, if there is one. */
  endBlock(end: BlockEnd = noEnd): void {
    const text = this.#inline.trim();
    this.#inline = '';
    if (text === '') return;
    const lines = wrapText(text, this.takePrefix(), this.options, this.restore);
    if (end.underline !== null)
      lines.push(end.underline.repeat(Math.max(...lines.map((line) => this.options.measure(line)))));
    this.push(lines);
  }

  /** Adds lines that are laid out already. */
  block(lines: readonly string[]): void {
    this.endBlock();
    const prefix = this.takePrefix();
    this.push(lines.map((line, index) => `${index === 0 ? prefix.first : prefix.rest}${line}`.trimEnd()));
  }

  /** Asks for an empty line before the next block. */
  space(): void {
    this.#gap = true;
  }

  /** Sets what stands before the lines of the blocks to come, inside what stands there already. */
  indent(prefix: Prefix): void {
    this.#prefixes.push(prefix);
  }

  /** Ends the innermost indentation. */
  outdent(): void {
    this.#prefixes.pop();
  }

  /** The whole text, ending with one line end; empty for nothing. */
  result(): string {
    this.endBlock();
    return this.#lines.length === 0 ? '' : `${this.#lines.join('\n')}\n`;
  }

  /** A list's bullet stands before its first line only. */
  private takePrefix(): Prefix {
    const first = this.#prefixes.map((prefix) => prefix.first).join('');
    const rest = this.#prefixes.map((prefix) => prefix.rest).join('');
    this.#prefixes.forEach((prefix, index) => {
      this.#prefixes[index] = { first: prefix.rest, rest: prefix.rest };
    });
    return { first, rest };
  }

  private push(lines: readonly string[]): void {
    if (this.#gap && this.#lines.length > 0)
      this.#lines.push(
        this.#prefixes
          .map((prefix) => prefix.rest)
          .join('')
          .trimEnd(),
      );
    this.#gap = false;
    this.#lines.push(...lines);
  }
}
