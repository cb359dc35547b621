import type { TagDelimiters } from '../html/tags.js';

/** The names that holes have; other words in braces are literal text, and so are these behind a backslash. */
const HOLE =
  '(?<!\\\\)\\{(field|text|condition|list|item|name|left|right|format|value|values|first|second|otherwise|yes|no|inner|path|open|close)\\}';

/** What fills the holes of a pattern. */
export type Holes = Readonly<Record<string, string>>;

/** A piece of a pattern: literal text, or a hole. */
export type PatternPiece = { readonly literal: string } | { readonly hole: string };

/** The pieces of a pattern, in order; empty literals are left out. */
export function piecesOf(pattern: string): readonly PatternPiece[] {
  const known = pieces.get(pattern);
  if (known !== undefined) return known;
  const made = pattern
    .split(new RegExp(HOLE))
    .map((piece, index): PatternPiece =>
      index % 2 === 0 ? { literal: piece.replaceAll('\\{', '{') } : { hole: piece },
    )
    .filter((piece) => 'hole' in piece || piece.literal !== '');
  pieces.set(pattern, made);
  return made;
}

/** The pieces of patterns that have come up: there are as many as dialect files have. */
const pieces = new Map<string, readonly PatternPiece[]>();

/** Writes a pattern: its text, with its `{holes}` filled. */
export function writePattern(pattern: string, holes: Holes): string {
  return piecesOf(pattern)
    .map((piece) => {
      if ('literal' in piece) return piece.literal;
      return Object.hasOwn(holes, piece.hole) ? (holes[piece.hole] ?? '') : `{${piece.hole}}`;
    })
    .join('');
}

/** Text as a pattern that has no holes. */
export function asPattern(text: string): string {
  return text.replace(new RegExp(HOLE, 'g'), '\\$&');
}

/** A piece that a hole was filled with, and where it stands in the text. */
export interface Filling {
  readonly text: string;
  readonly start: number;
}

/** Reads texts that a pattern writes. */
export interface PatternReader {
  /** The fillings of the holes by their names; null where the text is none that the pattern writes. */
  readonly read: (text: string) => ReadonlyMap<string, Filling> | null;
}

/**
 * Makes the reader of a pattern. White space is flexible, and quotes may be either kind.
 * A hole that comes up twice holds the same text each time.
 * @param holes a regular expression for what a hole may hold, by its name; others hold anything
 * @param delimiters of tags, within which white space is free beside the delimiters
 */
export function patternReader(pattern: string, holes: Holes, delimiters: readonly TagDelimiters[] = []): PatternReader {
  const seen = new Set<string>();
  const source = piecesOf(pattern)
    .map((piece) => {
      if ('literal' in piece) return literalSource(piece.literal, delimiters);
      const { hole } = piece;
      if (seen.has(hole)) return `\\s*\\k<${hole}>\\s*`;
      seen.add(hole);
      return `\\s*(?<${hole}>${Object.hasOwn(holes, hole) ? holes[hole] : '[\\s\\S]+?'})\\s*`;
    })
    .join('');
  const expression = new RegExp(`^\\s*${source}\\s*$`, 'du');
  return {
    read: (text) => {
      const squeezed = squeeze(text);
      const groups = expression.exec(squeezed.text)?.indices?.groups;
      if (groups === undefined) return expression.test(squeezed.text) ? new Map() : null;
      return new Map(
        Object.entries(groups).map(([name, span]) => {
          const [start, end] = (span ?? [0, 0]).map(squeezed.offset) as [number, number];
          return [name, { text: text.slice(start, end), start }];
        }),
      );
    },
  };
}

/** A text whose runs of white space are one character each, and where its offsets lie in the text that it was made from. */
interface Squeezed {
  readonly text: string;
  readonly offset: (at: number) => number;
}

/** In an expression with several free stretches of white space each may take a part of a run: of long runs, too many ways to share. */
function squeeze(text: string): Squeezed {
  if (!/\s\s/.test(text)) return { text, offset: (at) => at };
  const offsets: number[] = [];
  let squeezed = '';
  for (let index = 0; index < text.length; index += 1) {
    const isRepeated = index > 0 && /\s/.test(text.charAt(index)) && /\s/.test(text.charAt(index - 1));
    if (isRepeated) continue;
    offsets.push(index);
    squeezed += text.charAt(index);
  }
  offsets.push(text.length);
  return { text: squeezed, offset: (at) => offsets[at] ?? text.length };
}

/**
 * The regular expression of literal text: blanks between words are needed, all others are free; a quote may be of either
 * kind; and beside a delimiter, and beside a sign that follows it, white space is free.
 */
export function literalSource(text: string, delimiters: readonly TagDelimiters[] = []): string {
  const flexible = text
    .split(/(\s+|["'])/)
    .map((piece) => {
      if (/^\s+$/.test(piece)) return '\\s+';
      return piece === '"' || piece === "'" ? '["\']' : escapeRegExp(piece);
    })
    .join('')
    .replace(/(?<![\w\\])\\s\+|\\s\+(?!\w|$)/g, '\\s*');
  const spaced = flexible.replace(/([#/^&])(?=\w)/g, '$1\\s*');
  return delimiters.reduce((source, { open, close, trim_open: trimOpen, trim_close: trimClose }) => {
    const opening = escapeRegExp(open);
    const closing = escapeRegExp(close);
    const anyOf = (mark: string, trimmed: string | undefined): string =>
      trimmed === undefined ? mark : `(?:${escapeRegExp(trimmed)}|${mark})`;
    // What a longer delimiter took is left alone: it no longer stands there as it was.
    const from = source.startsWith(opening) ? `${anyOf(opening, trimOpen)}\\s*${source.slice(opening.length)}` : source;
    return from.endsWith(closing)
      ? `${from.slice(0, from.length - closing.length)}\\s*${anyOf(closing, trimClose)}`
      : from;
  }, spaced);
}

export function escapeRegExp(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
}
