import type { Span } from '../text/span.js';
import { findTags, sourceDelimiters } from './tags.js';
import { StylePlace } from './style-place.js';

type State = 'text' | 'tag' | 'value-start' | 'unquoted' | '"' | "'" | 'comment' | 'style';

/**
 * Hides template tags from an HTML parser: each is replaced by filler of equal length that suits its place.
 * Between markup and between attributes the filler is white space, so that a tag between table rows is not moved out of
 * the table and a tag between attributes does not become one; the same between the rules and declarations of a style sheet.
 * Elsewhere (attribute values, tag names, CSS values and selectors) it is letters, the same for the same tag, so that
 * `[href="{{url}}"]` matches what it should.
 */
export function maskTags(text: string, tags: readonly Span[]): string {
  if (tags.length === 0) return text;
  const pieces: string[] = [];
  const place = new MarkupPlace();
  let position = 0;
  for (const tag of tags) {
    const before = text.slice(position, tag.start);
    const written = text.slice(tag.start, tag.end);
    place.advance(before);
    const isLetters = place.takesLetters(before, text.slice(tag.end, tag.end + LOOK_AHEAD));
    pieces.push(before, isLetters ? filler(written) : written.replace(/[^\r\n]/g, ' '));
    position = tag.end;
  }
  pieces.push(text.slice(position));
  return pieces.join('');
}

/** The text of a message, a part or a frame with its template tags hidden. */
export function maskedSource(text: string): string {
  return maskTags(text, findTags(text, sourceDelimiters));
}

/** How much of what follows a tag decides what it is. */
const LOOK_AHEAD = 40;

/** The private use characters that letters are taken from: no author's text has them, and each is one code unit. */
const FIRST_LETTER = 0xe000;
const LETTERS = 6400;

/** Letters for a tag, as many as it has code units and the same for the same tag. */
export function filler(tag: string): string {
  const number = hashOf(tag);
  const low = String.fromCharCode(FIRST_LETTER + (number % LETTERS));
  const high = String.fromCharCode(FIRST_LETTER + (Math.floor(number / LETTERS) % LETTERS));
  return low + high.repeat(tag.length - 1);
}

/** FNV-1a, 32 bits. */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let index = 0; index < text.length; index += 1) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
  return hash >>> 0;
}

/** Hides the template tags of a style sheet, as `maskTags` does for one within a document. */
export function maskStyleTags(text: string, tags: readonly Span[]): string {
  const place = new StylePlace();
  const pieces: string[] = [];
  let position = 0;
  for (const tag of tags) {
    const before = text.slice(position, tag.start);
    const written = text.slice(tag.start, tag.end);
    place.advance(before);
    const isLetters = place.holdsValue(text.slice(tag.end, tag.end + LOOK_AHEAD));
    pieces.push(before, isLetters ? filler(written) : written.replace(/[^\r\n]/g, ' '));
    position = tag.end;
  }
  return pieces.join('') + text.slice(position);
}

/** Text in which each filler is the tag that it stands for. */
export function withoutFiller(text: string, tags: readonly string[]): string {
  if (text.search(FILLER) < 0) return text;
  const known = new Map(tags.map((tag) => [filler(tag), tag]));
  const lengths = [...new Set(tags.map((tag) => tag.length))].sort((a, b) => b - a);
  return text.replace(FILLER, (run) => {
    let written = '';
    for (let at = 0; at < run.length;) {
      const length = lengths.find((candidate) => known.has(run.slice(at, at + candidate))) ?? 1;
      written += known.get(run.slice(at, at + length)) ?? run[at];
      at += length;
    }
    return written;
  });
}

/** Filler, one tag or several side by side. */
export const FILLER = /[\ue000-\uf8ff]+/g;

/** Follows markup, piece by piece. */
class MarkupPlace {
  #state: State = 'text';
  /** The name of the start tag that is being read, or of the last one; a part of it while it is not over. */
  #tag = '';
  #style = new StylePlace();

  advance(piece: string): void {
    let index = 0;
    while (index < piece.length) index = this.next(piece, index);
  }

  /** Whether a template tag here is masked by letters; it then counts as read. */
  takesLetters(before: string, following: string): boolean {
    switch (this.#state) {
      case 'text':
      case 'comment':
        return false;
      case 'tag':
        return /[^\s"'/]$/.test(before);
      case 'style':
        return this.#style.holdsValue(following);
      case 'value-start':
        this.#state = 'unquoted';
        return true;
      default:
        return true;
    }
  }

  /** Follows the HTML tokenizer loosely. */
  private next(piece: string, index: number): number {
    const character = piece[index] ?? '';
    switch (this.#state) {
      case 'text':
        return this.nextInText(piece, index);
      case 'comment':
        return this.until(piece, index, '-->', 'text');
      case 'style':
        return this.nextInStyle(piece, index);
      case '"':
      case "'":
        return this.until(piece, index, this.#state, 'tag');
      case 'unquoted':
        if (character === '>') this.endTag();
        else if (/\s/.test(character)) this.#state = 'tag';
        return index + 1;
      case 'value-start':
        if (character === '"' || character === "'") this.#state = character;
        else if (character === '>') this.endTag();
        else if (!/\s/.test(character)) this.#state = 'unquoted';
        return index + 1;
      case 'tag':
        if (character === '=') this.#state = 'value-start';
        else if (character === '>') this.endTag();
        return index + 1;
    }
  }

  private endTag(): void {
    const isStyle = this.#tag === 'style';
    this.#state = isStyle ? 'style' : 'text';
    if (isStyle) this.#style = new StylePlace();
  }

  private nextInText(piece: string, index: number): number {
    const open = piece.indexOf('<', index);
    if (open < 0) return piece.length;
    if (piece.startsWith('<!--', open)) {
      this.#state = 'comment';
      return open + '<!--'.length;
    }
    const name = TAG_NAME.exec(piece.slice(open + 1, open + LOOK_AHEAD))?.[0];
    if (name === undefined) return open + 1;
    this.#tag = name.toLowerCase();
    this.#state = 'tag';
    return open + 1 + name.length;
  }

  private nextInStyle(piece: string, index: number): number {
    const end = piece.slice(index).search(/<\/style\b/i);
    this.#style.advance(end < 0 ? piece.slice(index) : piece.slice(index, index + end));
    if (end < 0) return piece.length;
    this.#state = 'tag';
    this.#tag = '/style';
    return index + end + '</style'.length;
  }

  private until(piece: string, index: number, end: string, after: State): number {
    const found = piece.indexOf(end, index);
    if (found < 0) return piece.length;
    this.#state = after;
    return found + end.length;
  }
}

const TAG_NAME = /^(?:[a-z][^\s/>]*|[/!?])/i;
