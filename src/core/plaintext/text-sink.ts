import { UNBREAKABLE_SPACE, type Prefix } from './wrap.js';

/** How a block is closed off. */
export interface BlockEnd {
  /** The character of the line under a heading; null for none. */
  readonly underline: string | null;
}

/** What the walk through a document writes to. Inline text is gathered until a block ends. */
export interface TextSink {
  /** Adds inline text; runs of white space count as one space. */
  readonly text: (text: string) => void;
  /** Adds inline text whose white space stays. */
  readonly preserved: (text: string) => void;
  /** Adds something that belongs to the words before it, also where their block has ended. */
  readonly append: (text: string) => void;
  /** Ends the line within a block. */
  readonly lineBreak: () => void;
  /** Ends the current block, if there is one. */
  readonly endBlock: (end?: BlockEnd) => void;
  /** Adds lines that are laid out already. */
  readonly block: (lines: readonly string[]) => void;
  /** Asks for an empty line before the next block. */
  readonly space: () => void;
  /** Sets what stands before the lines of the blocks to come, inside what stands there already. */
  readonly indent: (prefix: Prefix & { readonly isQuote?: boolean }) => void;
  /** Ends the innermost indentation. */
  readonly outdent: () => void;
}

/** Gathers inline text: white space collapses, as CSS Text Level 3, 4.1.1 says. */
export class InlineText {
  #pieces: string[] = [];
  #endsOpen = true;

  /** Adds text; white space at the beginning of a line, or after other white space, is dropped. */
  add(text: string): void {
    const collapsed = text.replace(/[ \t\n\f\r]+/g, ' ');
    this.push(this.#endsOpen ? collapsed.replace(/^[ \uFDD2]+/, '') : collapsed);
  }

  /** Adds text as it stands. */
  push(text: string): void {
    if (text === '') return;
    this.#pieces.push(text);
    this.#endsOpen = /[ \n\uFDD2]/.test(text.slice(-1));
  }

  /** Adds text to the words before it, right behind them; false where there are none. */
  extend(text: string): boolean {
    let last = this.#pieces.pop();
    while (last !== undefined && withoutEnd(last) === '') last = this.#pieces.pop();
    if (last === undefined) {
      this.#endsOpen = true;
      return false;
    }
    this.#pieces.push(withoutEnd(last));
    this.push(text);
    return true;
  }

  /** The text, whose lines have no white space at their ends; nothing is left. */
  take(): string {
    const lines = this.#pieces.join('').split('\n').map(withoutEnd);
    // Spaces that stay may begin a text, such as the first line of a listing.
    const text = withoutEnd(
      lines.map((line, index) => (index === 0 ? line : line.replace(/^ +/, ''))).join('\n'),
    ).trimStart();
    this.#pieces = [];
    this.#endsOpen = true;
    return text;
  }
}

/** The text of a cell: all on one line. */
export class CellText implements TextSink {
  readonly #inline = new InlineText();
  readonly #blocks: string[] = [];
  #prefix = '';

  readonly text = (text: string): void => this.#inline.add(text);
  readonly preserved = (text: string): void => this.#inline.add(text);
  readonly append = (text: string): void => this.#inline.push(text);
  readonly lineBreak = (): void => this.#inline.add(' ');
  readonly space = (): void => undefined;
  readonly outdent = (): void => undefined;
  readonly indent = ({ first }: Prefix): void => {
    this.#prefix = first;
  };
  readonly endBlock = (): void => {
    const text = this.#inline.take();
    if (text !== '') this.#blocks.push(`${this.#prefix}${text}`);
    this.#prefix = '';
  };
  readonly block = (lines: readonly string[]): void => {
    this.endBlock();
    for (const line of lines) this.#blocks.push(line);
  };

  /** All of it; tags stand in it as sentinels. */
  result(): string {
    this.endBlock();
    return this.#blocks.join(' ');
  }
}

/** Text without white space at its end, whatever that is. (An expression would look for it again at each blank.) */
function withoutEnd(text: string): string {
  let end = text.length;
  while (end > 0 && /[\s\uFDD2]/.test(text.charAt(end - 1))) end -= 1;
  return text.slice(0, end);
}

/** Text whose white space stays: its spaces neither collapse nor break. */
export function unbreakable(text: string): string {
  return text.replaceAll(' ', UNBREAKABLE_SPACE);
}
