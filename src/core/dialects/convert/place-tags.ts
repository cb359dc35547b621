import { parseHtml } from '../../html/parse.js';
import { markupContexts } from '../../html/tag-context.js';
import type { SourceText } from '../../text/source-text.js';
import type { Span } from '../../text/span.js';
import type { Dialect } from '../dialect.js';
import type { ReadTag } from '../read/tag-reading.js';
import { joinedPieces, type OutputPiece } from '../write/literal-text.js';
import type { TagContext, TagTexts } from '../write/tag-texts.js';
import type { SourceEdit } from './source-edit.js';

/** A piece of a converted text. */
export interface ConvertedPiece {
  readonly text: string;
  /** The place in the source of what it was made of; null for text that stays. */
  readonly from: Span | null;
}

/** A text with its tags in another dialect. */
export interface PlacedTags {
  /** What stands for each tag that was read. */
  readonly written: readonly string[];
  readonly pieces: readonly ConvertedPiece[];
}

/** Between which dialects, and what else changes. */
interface PlacingSetting {
  readonly from: Dialect;
  readonly to: Dialect;
  readonly others: readonly Dialect[];
  readonly edits?: readonly SourceEdit[];
}

/** Puts written tags, and the other changes, into a text. */
export function placeTags(
  source: SourceText,
  read: readonly ReadTag[],
  texts: TagTexts,
  setting: PlacingSetting,
): PlacedTags {
  const placing = new Placing(source, read, texts, setting);
  const changes = [
    ...read.map(({ tag }, index) => ({ at: tag.place.span, edit: null, index })),
    ...(setting.edits ?? []).map((edit, index) => ({ at: edit.span, edit, index })),
  ].sort((a, b) => a.at.start - b.at.start || a.at.end - b.at.end || a.index - b.index);
  for (const { edit, index } of changes)
    if (edit === null) placing.placeTag(index);
    else placing.placeEdit(edit);
  return placing.done();
}

class Placing {
  readonly #pieces: OutputPiece[] = [];
  readonly #origins: (Span | null)[] = [];
  /** The numbers of the pieces that stand for tags. */
  readonly #places: number[] = [];
  readonly #contextAt: ReturnType<typeof markupContexts>;
  /** How far the source has been taken over. */
  #position = 0;
  /** The number of the tag that follows. */
  #next = 0;

  constructor(
    private readonly source: SourceText,
    private readonly read: readonly ReadTag[],
    private readonly texts: TagTexts,
    private readonly setting: PlacingSetting,
  ) {
    this.#contextAt = markupContexts(parseHtml(source, setting.from.delimiters).doc);
  }

  placeTag(index: number): void {
    this.#next = index + 1;
    const { tag, markup } = this.read[index] ?? { tag: null, markup: '' };
    if (tag === null) return;
    const { span } = tag.place;
    const { quote } = this.#contextAt(span.start);
    this.upTo(span.start, index);
    this.#places[index] = this.#pieces.length;
    const context: TagContext = quote === '"' ? 'attribute' : quote === "'" ? 'single-quoted attribute' : 'text';
    const isPrinted = tag.kind === 'output' && tag.value.kind === 'text' && !this.setting.to.verbatim;
    const isText = tag.kind === 'literal' || isPrinted;
    const text = tag.kind === 'literal' ? tag.text : this.texts.write(index, context);
    // A text becomes part of the text around it.
    this.push({ kind: isText ? 'text' : 'tag', text, isLiteral: true, quoteAt: () => quote }, isText ? null : span);
    this.push({ kind: 'text', text: markup, isLiteral: false, quoteAt: () => '' }, null);
    this.#position = span.end;
  }

  /** A change within what another has replaced is none. */
  placeEdit({ span, text }: SourceEdit): void {
    if (span.start < this.#position) return;
    this.upTo(span.start, this.#next);
    if (!this.isRemovedBefore(this.#next)) this.push({ kind: 'tag', text, isLiteral: false, quoteAt: () => '' }, span);
    this.#position = span.end;
  }

  done(): PlacedTags {
    const { from, to, others } = this.setting;
    this.upTo(this.source.text.length, null);
    const dialects = [...others, from].filter(({ verbatim }) => !verbatim);
    const looksLikeTag = (text: string): boolean =>
      dialects.some((dialect) => dialect.delimiters.some(({ open }) => text.includes(open.trim()) && open.length > 1));
    const pieces = this.#pieces;
    const joined = from.name === to.name ? pieces.map(({ text }) => text) : joinedPieces(pieces, to, looksLikeTag);
    // A text that a tag printed is part of the text around it now.
    const written = this.read.map((_, index) => {
      const place = this.#places[index] ?? -1;
      return pieces[place]?.kind === 'text' ? pieces[place].text : (joined[place] ?? '');
    });
    const converted = joined.map((text, index): ConvertedPiece => ({ text, from: this.#origins[index] ?? null }));
    return { written, pieces: converted.filter(({ text }) => text !== '') };
  }

  /** Takes the source over up to a place, but for what stands before a tag in a block that is lost. */
  private upTo(end: number, next: number | null): void {
    const start = this.#position;
    const isRemoved = next !== null && this.isRemovedBefore(next);
    const text = isRemoved ? '' : this.source.text.slice(start, end);
    const quoteAt = (offset: number): string => this.#contextAt(start + offset).quote;
    this.push({ kind: 'text', text, isLiteral: false, quoteAt }, null);
  }

  private isRemovedBefore(next: number): boolean {
    return this.texts.removed.some(({ from, to }) => next > from && next <= to);
  }

  private push(piece: OutputPiece, origin: Span | null): void {
    this.#pieces.push(piece);
    this.#origins.push(origin);
  }
}
