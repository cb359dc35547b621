import { decodeHTMLAttribute } from 'entities';
import { MappedText, type Piece } from '../text/mapped-text.js';
import { spanAt, type Span } from '../text/span.js';
import { sentinelFree } from './tags.js';
import { maskedValue, type Attribute, type Doc } from './tree.js';

/** A stretch of the value of an attribute, and the text that it stands for. */
export interface DecodedPiece {
  readonly text: string;
  /** Where it stands in the value as it is written. */
  readonly span: Span;
  /** Whether it stands there as it is: no character reference. */
  readonly isPlain: boolean;
}

/** A value as it is written, piece by piece: character references, and what stands between them. */
export function decodedPieces(written: string): DecodedPiece[] {
  const pieces = written.matchAll(/&(?:#\d+;?|#x[\da-f]+;?|[a-z][a-z\d]*(?:;|(?!=)))|[^&]+|&/gi);
  return [...pieces].map(({ 0: piece, index }) => {
    const text = piece.startsWith('&') ? decodeHTMLAttribute(piece) : piece;
    return { text, span: spanAt(index, piece.length), isPlain: text === piece };
  });
}

/** The value of an attribute, to be read by itself: what is found in it leads back to the document. */
export interface DecodedValue {
  readonly source: MappedText;
  /** The same with its template tags masked. */
  readonly masked: string;
  /** The template tags of the document by their numbers, where they stand in the value; those elsewhere stand outside of it. */
  readonly tags: readonly Span[];
}

/** The value of an attribute in which other characters stand than in the document: its references are resolved. */
export function decodedValue(doc: Doc, attribute: Attribute): DecodedValue {
  const { source, masked: whole } = doc;
  const inner = valueSpan(doc, attribute);
  const pieces: Piece[] = [];
  const masked: string[] = [];
  const starts: { readonly from: number; readonly at: number }[] = [];
  let at = 0;
  for (const { text, span, isPlain } of decodedPieces(whole.slice(inner.start, inner.end))) {
    const place = { start: inner.start + span.start, end: inner.start + span.end };
    starts.push({ from: place.start, at });
    at += text.length;
    masked.push(sentinelFree(text));
    pieces.push({
      text: isPlain ? source.slice(place) : text,
      origin: { source, span: place },
      exact: isPlain,
      uses: [],
    });
  }
  const expected = maskedValue(doc, attribute.value);
  // Where line ends or forbidden characters were replaced, all of it leads to the whole attribute.
  if (masked.join('') !== expected) {
    const all = { text: expected, origin: { source, span: attribute.span }, exact: false, uses: [] };
    return { source: new MappedText(source.name, [all]), masked: expected, tags: [] };
  }
  const moved = (offset: number): number => {
    const piece = starts.findLast(({ from }) => from <= offset);
    return piece === undefined ? 0 : piece.at + offset - piece.from;
  };
  const tags = doc.tags.map((tag): Span => {
    if (tag.end <= inner.start) return { start: -1, end: -1 };
    return tag.start >= inner.end ? { start: at + 1, end: at + 1 } : { start: moved(tag.start), end: moved(tag.end) };
  });
  return { source: new MappedText(source.name, pieces), masked: expected, tags };
}

/** Where the value of an attribute stands, without its quotes. */
export function valueSpan({ source, tags }: Pick<Doc, 'source' | 'tags'>, { span }: Pick<Attribute, 'span'>): Span {
  const raw = source.slice(span);
  const equals = raw.indexOf('=');
  const from = equals < 0 ? raw.length : equals + 1 + (/^\s*/.exec(raw.slice(equals + 1))?.[0].length ?? 0);
  const quoted = /["']/.test(raw[from] ?? '') && !tags.some((tag) => tag.start === span.start + from);
  return quoted ? { start: span.start + from + 1, end: span.end - 1 } : { start: span.start + from, end: span.end };
}
