import { splitAtSentinels } from '../html/tags.js';
import type { TagRole } from '../dialects/tag-role.js';
import type { PlainLine } from './lines.js';
import type { TextOptions } from './options.js';
import { InlineText, unbreakable, type BlockEnd, type TextSink } from './text-sink.js';
import { wrapText, writtenText, type Prefix } from './wrap.js';

/** An indentation that holds. */
interface Indentation extends Prefix {
  readonly isQuote: boolean;
}

const TAB_WIDTH = 8;

/** Lists and quotes within one another are indented so far; what is deeper would leave no room for words. */
const DEEPEST = 16;

/** So many columns a value takes, for what has to be drawn before it is known. */
const USUAL_VALUE = 8;

/** Collects text into wrapped blocks. Between blocks stands at most one empty line. */
export class TextWriter implements TextSink {
  readonly #lines: PlainLine[] = [];
  readonly #indentations: Indentation[] = [];
  /** How many of them have had their first line. */
  #drawn = 0;
  readonly #inline = new InlineText();
  /** How many indentations the empty line before the next block stands in; null where none was asked for. */
  #gap: number | null = null;
  /** True behind a line of tags that opens a block: what the block holds follows at once. */
  #isOpening = false;
  /** True where the last block was text that something may be added to. */
  #takesMore = false;

  constructor(
    private readonly options: TextOptions,
    private readonly restore: (index: number) => string,
  ) {}

  readonly text = (text: string): void => this.#inline.add(text);

  readonly preserved = (text: string): void => {
    let column = 0;
    const spaced = text.replace(/[^\t]+|\t/g, (part) => {
      const shown = part === '\t' ? ' '.repeat(TAB_WIDTH - (column % TAB_WIDTH)) : part;
      column += part === '\t' ? shown.length : this.options.measure(shown);
      return shown;
    });
    this.#inline.push(unbreakable(spaced));
  };

  readonly append = (text: string): void => {
    if (this.#inline.extend(text)) return;
    const last = this.#lines[this.#lines.length - 1];
    const longer = last === undefined ? '' : `${last.text}${writtenText(text, this.restore)}`;
    if (last !== undefined && this.#takesMore && this.options.measure(longer) <= this.options.width)
      this.#lines[this.#lines.length - 1] = { ...last, text: longer };
    else this.#inline.push(text.replace(/^\uFDD2/, ''));
  };

  readonly lineBreak = (): void => this.#inline.push('\n');

  readonly endBlock = (end: BlockEnd = { underline: null }): void => {
    // A stack of line breaks is one empty line.
    const text = this.#inline.take().replace(/\n{3,}/g, '\n\n');
    if (text === '') return;
    const { first, rest, flows, quoteDepth } = this.takePrefix();
    const lines = wrapText(text, { first, rest }, this.options, this.restore).map((line): PlainLine => ({
      text: line.text,
      continues: line.continues && flows,
      quoteDepth,
    }));
    if (end.underline !== null) {
      const width = this.shownWidth(text, { first, rest }) - this.options.measure(rest);
      lines.push({ text: `${rest}${end.underline.repeat(Math.max(1, width))}`, continues: false, quoteDepth });
    }
    const roles = this.rolesOf(text);
    if (roles !== null && roles[0] !== 'open') this.#gap = null;
    this.push(lines);
    this.#isOpening = roles !== null && roles[roles.length - 1] !== 'close';
    this.#takesMore = roles === null && end.underline === null;
  };

  readonly block = (lines: readonly string[]): void => {
    this.endBlock();
    const { first, rest, quoteDepth } = this.takePrefix();
    this.push(
      lines.map((line, index) => ({
        text: `${index === 0 ? first : rest}${line}`.trimEnd(),
        continues: false,
        quoteDepth,
      })),
    );
    this.#takesMore = false;
  };

  readonly space = (): void => {
    this.#gap = Math.min(this.#gap ?? Infinity, this.#indentations.length);
  };

  readonly indent = ({ first, rest, isQuote = false }: Prefix & { readonly isQuote?: boolean }): void => {
    this.#indentations.push({ first, rest, isQuote });
  };

  readonly outdent = (): void => {
    this.#indentations.pop();
    this.#drawn = Math.min(this.#drawn, this.#indentations.length);
  };

  /** The whole text. */
  result(): PlainLine[] {
    this.endBlock();
    return this.#lines;
  }

  /** How wide a text shows: its tags are filled later, with values of which nobody knows how long they are. */
  private shownWidth(text: string, prefix: Prefix): number {
    const value = (index: number): string =>
      this.options.tagRole(this.restore(index)) === null ? 'x'.repeat(USUAL_VALUE) : '';
    const lines = wrapText(text, prefix, this.options, value);
    return lines.reduce((widest, line) => Math.max(widest, this.options.measure(line.text)), 0);
  }

  /** The roles of the tags of a block that is made of nothing else; null for any other block. */
  private rolesOf(text: string): TagRole[] | null {
    const roles: TagRole[] = [];
    for (const piece of splitAtSentinels(text)) {
      const role = typeof piece === 'number' ? this.options.tagRole(this.restore(piece)) : null;
      if (role !== null) roles.push(role);
      else if (typeof piece === 'number' || piece.trim() !== '') return null;
    }
    return roles.length === 0 ? null : roles;
  }

  /** A list's mark stands before its first line only. */
  private takePrefix(): Prefix & { readonly flows: boolean; readonly quoteDepth: number } {
    const shown = this.#indentations.slice(0, DEEPEST);
    // Deeper, only the mark of the item itself is drawn.
    const own = this.#indentations.length > DEEPEST ? this.#indentations.slice(-1) : [];
    const first = [...shown, ...own].map((indentation) => indentation.first).join('');
    const rest = [...shown, ...own].map((indentation) => indentation.rest).join('');
    for (; this.#drawn < this.#indentations.length; this.#drawn += 1) {
      const indentation = this.#indentations[this.#drawn];
      if (indentation !== undefined) this.#indentations[this.#drawn] = { ...indentation, first: indentation.rest };
    }
    const quoteDepth = quoteDepthOf(shown);
    // Lines that hang under a mark would not come back to it once a reader has joined them.
    return { first, rest, flows: quoteDepth === this.#indentations.length, quoteDepth };
  }

  private push(lines: readonly PlainLine[]): void {
    if (this.#gap !== null && this.#lines.length > 0 && !this.#isOpening) {
      const around = this.#indentations.slice(0, Math.min(this.#gap, DEEPEST));
      const rest = around.map((indentation) => indentation.rest).join('');
      this.#lines.push({ text: rest.trimEnd(), continues: false, quoteDepth: quoteDepthOf(around) });
    }
    this.#gap = null;
    this.#isOpening = false;
    for (const line of lines) this.#lines.push(line);
  }
}

/** In how many quotes something stands, before it stands in anything else. */
function quoteDepthOf(indentations: readonly Indentation[]): number {
  const other = indentations.findIndex(({ isQuote }) => !isQuote);
  return other < 0 ? indentations.length : other;
}
