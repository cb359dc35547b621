import { SourceText } from './source-text.js';
import { firstIndex, type Span, spanAt } from './span.js';

/** A place in a source; findings use the same shape. */
export interface Origin {
  readonly source: SourceText;
  readonly span: Span;
}

/** A run of text that was put together from elsewhere. */
export interface Piece {
  readonly text: string;
  readonly origin: Origin;
  /** True where the text is a copy of its origin, so that offsets in it mean offsets there. */
  readonly exact: boolean;
  /** Where the origin was made use of: the places of the parts it came through, the outermost first. */
  readonly uses: readonly Origin[];
}

/** Where something in a mapped text comes from. */
export interface ResolvedOrigin {
  readonly origin: Origin;
  readonly uses: readonly Origin[];
}

/** A text that was put together from pieces of other texts, and knows for each offset where it came from. */
export class MappedText extends SourceText {
  readonly #starts: readonly number[];
  readonly #pieces: readonly Piece[];

  constructor(name: string, pieces: readonly Piece[]) {
    const kept = pieces.filter(({ text }) => text !== '');
    super(name, kept.map(({ text }) => text).join(''));
    const starts: number[] = [];
    let offset = 0;
    for (const { text } of kept) {
      starts.push(offset);
      offset += text.length;
    }
    this.#starts = starts;
    this.#pieces = kept;
  }

  /** What it was put together from, in order; none is empty. */
  get pieces(): readonly Piece[] {
    return this.#pieces;
  }

  /** Where a span comes from; null where the text is empty. Origins that are mapped themselves are followed to the end. */
  resolve(span: Span): ResolvedOrigin | null {
    const index = this.pieceAt(span.start);
    const piece = this.#pieces[index];
    if (piece === undefined) return null;
    const own: Origin = { source: piece.origin.source, span: this.spanInOrigin(span, index, piece) };
    const further = resolveOrigin(own);
    return { origin: further.origin, uses: [...further.uses, ...piece.uses] };
  }

  private spanInOrigin(span: Span, index: number, piece: Piece): Span {
    if (!piece.exact) return piece.origin.span;
    const base = piece.origin.span.start - (this.#starts[index] ?? 0);
    const start = base + span.start;
    const lastIndex = this.pieceAt(Math.max(span.start, span.end - 1));
    const last = this.#pieces[lastIndex];
    if (last === piece) return { start, end: base + span.end };
    // Of what was copied so much as the span takes; of what was made all that it was made of.
    const inLast = last?.exact === true ? span.end - (this.#starts[lastIndex] ?? 0) : Infinity;
    const ofLast = last?.origin.source === piece.origin.source ? last.origin.span : spanAt(0, 0);
    const end = Math.min(ofLast.end, ofLast.start + inLast);
    return { start, end: end > start ? end : piece.origin.span.end };
  }

  private pieceAt(offset: number): number {
    const starts = this.#starts;
    return Math.max(0, firstIndex(starts.length, (index) => (starts[index] ?? 0) > offset) - 1);
  }
}

/** Where a place comes from: itself, unless its source is a mapped text. */
export function resolveOrigin(origin: Origin): ResolvedOrigin {
  const resolved = origin.source instanceof MappedText ? origin.source.resolve(origin.span) : null;
  return resolved ?? { origin, uses: [] };
}
