import { replaceSentinels, splitAtSentinels, sentinel } from '../html/tags.js';
import type { TextOptions } from './options.js';

/** What stands before a block's first line, and before its other lines. */
export interface Prefix {
  readonly first: string;
  readonly rest: string;
}

/** A space at which no line breaks; a noncharacter, so that no text holds it. It is written as a space. */
export const UNBREAKABLE_SPACE = '\uFDD2';

/** A line of a wrapped text. */
export interface WrappedLine {
  readonly text: string;
  /** True where the next line goes on with the same sentence. */
  readonly continues: boolean;
}

/** What stays together on a line, and whether a space stands before it where it does not begin one. */
interface Piece {
  readonly text: string;
  readonly spaced: boolean;
}

/**
 * Wraps a text at white space, and between words of scripts that have none. A word that is too long (an address, a
 * template tag) is never broken.
 * @param text with template tags as sentinels, so that the spaces inside them do not count
 * @param restore writes a tag by its number
 */
export function wrapText(
  text: string,
  prefix: Prefix,
  options: TextOptions,
  restore: (index: number) => string,
): WrappedLine[] {
  const lines: WrappedLine[] = [];
  for (const part of text.split('\n')) {
    const pieces = part
      .split(/[ \t\f\r]+/)
      .filter((word) => word !== '')
      .flatMap((word) => piecesOf(word, options, restore));
    const first = lines.length === 0 ? prefix.first : prefix.rest;
    for (const line of fillLines(pieces, first, prefix.rest, options)) lines.push(line);
  }
  return lines;
}

/** A text as it is written: tags by their numbers, unbreakable spaces as spaces. */
export function writtenText(text: string, restore: (index: number) => string): string {
  return replaceSentinels(text, restore).replaceAll(UNBREAKABLE_SPACE, ' ');
}

/** Scripts that put no spaces between words. */
const unspacedScript =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}]/u;

function piecesOf(word: string, options: TextOptions, restore: (index: number) => string): Piece[] {
  const written = writtenText(word, restore);
  if (unspacedScript.test(word)) {
    return unspacedWords(word).map((part, index) => ({ text: writtenText(part, restore), spaced: index === 0 }));
  }
  if (options.measure(written) <= options.width || !word.includes(UNBREAKABLE_SPACE))
    return [{ text: written, spaced: true }];
  // Spaces that keep words together give way where the words would fill more than a line.
  return word
    .split(UNBREAKABLE_SPACE)
    .map((part) => ({ text: writtenText(part, restore), spaced: true }))
    .filter(({ text }) => text !== '');
}

/** Some text, up to a mark of punctuation: what finds words takes a time that grows with the square of what it is given. */
const PASSAGE = /[^]{1,400}(?<=\p{P})|[^]{1,400}/gu;

/** What finds words, made when a text without spaces comes: that reads the tables of all scripts. */
let segmenter: Intl.Segmenter | null = null;

/** The words of a text without spaces; addresses and tags count as one, and punctuation stays with its word. */
function unspacedWords(text: string): string[] {
  // Each word is a list of its segments, which are put together once.
  const words: string[][] = [];
  for (const piece of splitAtSentinels(text)) {
    if (typeof piece === 'number') {
      words.push([sentinel(piece)]);
      continue;
    }
    for (const [index, part] of piece.split(/([a-z][a-z\d+.-]{0,20}:\/\/[\x21-\x7e]+)/i).entries()) {
      if (index % 2 === 1) words.push([part]);
      else for (const segment of segmentsOf(part)) addSegment(words, segment);
    }
  }
  return words.map((segments) => segments.join(''));
}

function segmentsOf(text: string): string[] {
  const words = (segmenter ??= new Intl.Segmenter('und', { granularity: 'word' }));
  return (text.match(PASSAGE) ?? []).flatMap((passage) => Array.from(words.segment(passage), ({ segment }) => segment));
}

/** Closing punctuation never begins a line, opening punctuation never ends one. */
function addSegment(words: string[][], segment: string): void {
  const last = words[words.length - 1];
  const before = last?.[last.length - 1] ?? '';
  const joins = /^[\p{Pe}\p{Pf}\p{Po}\p{M}\u30fc\u3005\uFDD2]/u.test(segment) || /[\p{Ps}\p{Pi}\uFDD2]$/u.test(before);
  if (joins && last !== undefined) last.push(segment);
  else words.push([segment]);
}

function fillLines(pieces: readonly Piece[], first: string, rest: string, options: TextOptions): WrappedLine[] {
  const lines: WrappedLine[] = [];
  let line = first;
  let empty = true;
  let used = options.measure(first);
  for (const { text, spaced } of pieces) {
    const size = options.measure(text);
    const gap = spaced && !empty ? 1 : 0;
    if (!empty && used + gap + size > options.width) {
      // Only at a space may a reader join the lines again.
      lines.push({ text: line.trimEnd(), continues: spaced });
      line = rest;
      used = options.measure(rest);
      empty = true;
    }
    line += empty || gap === 0 ? text : ` ${text}`;
    used += size + (empty ? 0 : gap);
    empty = false;
  }
  return [...lines, { text: line.trimEnd(), continues: false }];
}
