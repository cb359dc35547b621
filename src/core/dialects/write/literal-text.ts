import type { TagDelimiters } from '../../html/tags.js';
import { firstFrom, type Span } from '../../text/span.js';
import { patternOf, type Dialect } from '../dialect.js';
import { escapeRegExp, writePattern } from '../pattern.js';
import { withinQuotes } from './tag-texts.js';

/** A piece of a converted text: a tag of the target, or text. */
export interface OutputPiece {
  readonly kind: 'tag' | 'text';
  readonly text: string;
  /** Whether the source marked the text as text that only looks like a tag. */
  readonly isLiteral: boolean;
  /** The quote of the attribute that a place in it stands in; empty where it stands in none. */
  readonly quoteAt: (offset: number) => string;
}

/**
 * Puts a text together so that its dialect takes for tags what are tags and nothing else: text that looks like the beginning
 * of a tag is written as the dialect writes such text, also where it only does so together with the tag beside it.
 * @param looksLikeTag whether a text holds what any dialect would take for a whole tag
 * @returns the text of each piece; of texts that stand side by side the first has all
 */
export function joinedPieces(
  pieces: readonly OutputPiece[],
  dialect: Dialect,
  looksLikeTag: (text: string) => boolean,
): string[] {
  const protector = new Protector(dialect);
  const all = joinedTexts(
    pieces.map((piece): OutputPiece => {
      const isTag = dialect.verbatim && piece.kind === 'text' && piece.isLiteral && looksLikeTag(piece.text);
      return isTag ? { ...piece, kind: 'tag', text: protector.literal(piece.text, piece.quoteAt(0)) } : piece;
    }),
  );
  const texts = all.map(({ text }) => text);
  const following = filledAfter(all);
  let written = '';
  let before = -1;
  all.forEach((piece, index) => {
    if (piece.kind === 'text' && piece.text !== '') {
      const after = following[index] ?? -1;
      const tag = all[after]?.kind === 'tag' ? (texts[after] ?? '') : null;
      const own = protector.text(piece, { before: written, following: followingText(all, index), tag });
      texts[index] = own.text;
      if (own.tag !== null && after >= 0) texts[after] = own.tag;
      const apart = all[before]?.kind === 'tag' ? protector.behind(texts[before] ?? '', own.text) : null;
      if (apart !== null) [texts[before], texts[index]] = apart;
    }
    written = (written + (texts[index] ?? '')).slice(-LONGEST_DELIMITER);
    if (piece.text !== '') before = index;
  });
  return texts;
}

/** For each piece the number of the next that is not empty; −1 where none follows. */
function filledAfter(pieces: readonly OutputPiece[]): number[] {
  let next = -1;
  return pieces
    .map((piece, index) => ({ piece, index }))
    .reverse()
    .map(({ piece, index }) => {
      const after = next;
      if (piece.text !== '') next = index;
      return after;
    })
    .reverse();
}

/** What stands around a text. */
interface Surroundings {
  readonly before: string;
  readonly following: string;
  /** The tag that follows at once; null where text follows. */
  readonly tag: string | null;
}

/** Texts that stand side by side, as one: what looks like a tag may begin in one and end in the next. */
function joinedTexts(pieces: readonly OutputPiece[]): OutputPiece[] {
  const joined: OutputPiece[] = [];
  for (let from = 0; from < pieces.length;) {
    let to = from;
    while (to < pieces.length && pieces[to]?.kind === 'text') to += 1;
    const run = pieces.slice(from, to);
    const [first, ...others] = run;
    if (first === undefined) joined.push(...pieces.slice(from, from + 1));
    else
      joined.push(
        others.length === 0 ? first : oneText(first, run),
        ...others.map((piece) => ({ ...piece, text: '' })),
      );
    from = Math.max(to, from + 1);
  }
  return joined;
}

function oneText(first: OutputPiece, run: readonly OutputPiece[]): OutputPiece {
  const starts: Span[] = [];
  let end = 0;
  for (const { text } of run) {
    starts.push({ start: end, end: end + text.length });
    end += text.length;
  }
  const quoteAt = (offset: number): string => {
    const index = Math.max(0, firstFrom(starts, offset + 1) - 1);
    return run[index]?.quoteAt(offset - (starts[index]?.start ?? 0)) ?? '';
  };
  return { ...first, text: run.map(({ text }) => text).join(''), quoteAt };
}

/** What follows a piece, as far as it may belong to a delimiter. */
function followingText(pieces: readonly OutputPiece[], index: number): string {
  let text = '';
  for (let at = index + 1; at < pieces.length && text.length < LONGEST_DELIMITER; at += 1)
    text += pieces[at]?.text ?? '';
  return text.slice(0, LONGEST_DELIMITER);
}

/** No delimiter is longer than this. */
const LONGEST_DELIMITER = 8;

/** A text as it is written, and the tag behind it where that must be written otherwise. */
interface WrittenText {
  readonly text: string;
  readonly tag: string | null;
}

class Protector {
  readonly #marks: readonly string[];
  readonly #openings: RegExp | null;

  constructor(private readonly dialect: Dialect) {
    this.#marks = dialect.verbatim
      ? ['@@{', '@{']
      : [...dialect.delimiters.map(({ open }) => open), ...dialect.alsoLiteral];
    const canProtect = dialect.verbatim || dialect.escape !== null || patternOf(dialect, 'literal') !== undefined;
    // An escaping character takes the meaning from the shortest delimiter that stands behind it.
    const order = dialect.escape === null ? 1 : -1;
    const sources = this.#marks
      .filter((mark) => mark !== '@@{')
      .sort((a, b) => order * (b.length - a.length))
      .map(escapeRegExp);
    this.#openings = canProtect ? new RegExp(sources.join('|'), 'g') : null;
  }

  /** A text before what follows it; the tag behind it too, where that must be written otherwise. */
  text({ text, quoteAt }: OutputPiece, { before: preceding, following, tag }: Surroundings): WrittenText {
    if (this.#openings === null) return { text, tag: null };
    const inside = text.replace(this.#openings, (mark, offset: number) =>
      this.delimiter(mark, quoteAt(offset), preceding + text.slice(0, offset)),
    );
    // What follows the last delimiter may make another one together with what follows the text.
    const rest = text.slice(text.length - this.#unmatched(text));
    const tail = this.#tail(rest, following);
    const quote = quoteAt(text.length - tail.length);
    if (tail === '') return { text: this.escapedTail(inside, tag), tag: null };
    const before = inside.slice(0, inside.length - tail.length);
    if (tag === null) return { text: before + this.delimiter(tail, quote, preceding + before), tag: null };
    const apart = this.apart(tail, tag, quote);
    return apart === null
      ? { text: this.escapedTail(inside, tag), tag: null }
      : { text: before + apart.text, tag: apart.tag };
  }

  /** How many characters of a text stand behind its last delimiter. */
  #unmatched(text: string): number {
    const last = this.#openings === null ? undefined : [...text.matchAll(this.#openings)].at(-1);
    return last === undefined ? text.length : text.length - last.index - last[0].length;
  }

  /** The longest end of a text that is the beginning of a delimiter, together with what follows. */
  #tail(text: string, following: string): string {
    for (let length = Math.min(text.length, LONGEST_DELIMITER - 1); length > 0; length -= 1) {
      const tail = text.slice(text.length - length);
      const isOpening = this.#marks.some((mark) => mark.length > length && (tail + following).startsWith(mark));
      if (isOpening) return tail;
    }
    return '';
  }

  /** A delimiter that is text. */
  private delimiter(mark: string, quote: string, before: string): string {
    const { escape, verbatim } = this.dialect;
    if (verbatim) return `@${mark}`;
    if (escape === null) return this.literal(mark, quote);
    // Behind an escaping character that is text comes a tag that prints nothing: that one escapes the character.
    const comment = patternOf(this.dialect, 'comment');
    const isEscaped = before.endsWith(escape) && comment !== undefined;
    return isEscaped ? escape + writePattern(comment, { text: '' }) + escape + mark : escape + mark;
  }

  /** Text that means nothing but itself, by the pattern that the dialect has for it. */
  literal(text: string, quote: string): string {
    if (this.dialect.verbatim) {
      const isDelimiters = !text.includes('"') && !text.includes('\\');
      const written = isDelimiters ? text : text.replace(/["\\]/g, '\\$&');
      return withinQuotes(`@{+"${written}"}`, quote);
    }
    const pattern = patternOf(this.dialect, 'literal');
    return pattern === undefined ? text : withinQuotes(writePattern(pattern, { text }), quote);
  }

  /** The end of a text that would make another tag of the tag behind it. */
  private apart(tail: string, tag: string, quote: string): { text: string; tag: string | null } | null {
    if (this.dialect.verbatim) return { text: withinQuotes(`@{"${tail}"}`, quote), tag: null };
    if (patternOf(this.dialect, 'literal') !== undefined) return { text: this.literal(tail, quote), tag: null };
    const pair = this.pairOf(tag);
    // A blank, which the tag takes away again.
    return pair?.trim_open === undefined
      ? null
      : { text: `${tail} `, tag: pair.trim_open + tag.slice(pair.open.length) };
  }

  /** Before a tag an escaping character must itself be escaped. */
  private escapedTail(tail: string, tag: string | null): string {
    const { escape } = this.dialect;
    if (escape === null || tag === null || !tail.endsWith(escape) || this.pairOf(tag) === null) return tail;
    return tail + escape;
  }

  /** A tag and the text behind it, kept apart where together they would end the tag otherwise. */
  behind(tag: string, text: string): [string, string] | null {
    const pair = this.dialect.verbatim ? null : this.pairOf(tag);
    if (pair === null || pair.trim_close === undefined || !tag.endsWith(pair.close)) return null;
    const isLonger = this.dialect.delimiters.some(
      ({ close }) => close.length > pair.close.length && (pair.close + text).startsWith(close),
    );
    return isLonger ? [tag.slice(0, tag.length - pair.close.length) + pair.trim_close, ` ${text}`] : null;
  }

  private pairOf(tag: string): TagDelimiters | null {
    const fitting = this.dialect.delimiters.filter(({ open }) => tag.startsWith(open));
    return fitting.sort((a, b) => b.open.length - a.open.length)[0] ?? null;
  }
}
