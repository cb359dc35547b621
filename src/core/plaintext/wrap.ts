import { replaceSentinels } from '../html/tags.js';
import type { TextOptions } from './options.js';

/** What stands before a block's first line, and before its other lines. */
export interface Prefix {
  readonly first: string;
  readonly rest: string;
}

/** A space at which no line breaks; a noncharacter, so that no text holds it. It is written as a space. */
export const UNBREAKABLE_SPACE = '\uFDD2';

/**
 * Wraps a text at white space. A word that is too long (an address, a merge tag) is never broken.
 * @param text with merge tags as sentinels, so that the spaces inside them do not count
 * @param restore writes a tag by its number
 */
export function wrapText(
  text: string,
  prefix: Prefix,
  options: TextOptions,
  restore: (index: number) => string,
): string[] {
  const lines: string[] = [];
  for (const part of text.split('\n')) {
    const words = part
      .split(/[ \t\f\r]+/)
      .filter((word) => word !== '')
      .map((word) => replaceSentinels(word, restore).replaceAll(UNBREAKABLE_SPACE, ' '));
    lines.push(...fillLines(words, lines.length === 0 ? prefix.first : prefix.rest, prefix.rest, options));
  }
  return lines;
}

function fillLines(words: readonly string[], first: string, rest: string, options: TextOptions): string[] {
  const lines: string[] = [];
  let line = first;
  let empty = true;
  let used = options.measure(first);
  for (const word of words) {
    const size = options.measure(word);
    if (!empty && used + 1 + size > options.width) {
      lines.push(line);
      line = rest;
      used = options.measure(rest);
      empty = true;
    }
    line += empty ? word : ` ${word}`;
    used += size + (empty ? 0 : 1);
    empty = false;
  }
  lines.push(line);
  return lines.map((text) => text.trimEnd());
}
