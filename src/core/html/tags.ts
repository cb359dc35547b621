import type { Span } from '../text/span.js';
import { escapeRegExp } from '../text/escape-reg-exp.js';

/**
 * While HTML is parsed, template tags (`@{…}`, `~~…~~`) are hidden from the parser: it sees filler of equal length,
 * so that offsets hold and a quote inside a tag breaks no attribute. In the values of the tree a tag stands as a
 * sentinel: a noncharacter (never allowed in HTML), the tag's number, and another noncharacter.
 */
const SENTINEL_OPEN = '\uFDD0';
const SENTINEL_CLOSE = '\uFDD1';
const SENTINEL = /\uFDD0(\d+)\uFDD1/g;

/** How a template language delimits its tags. */
export interface TagDelimiters {
  readonly open: string;
  readonly close: string;
  /** True when the closing delimiter does not count inside quotes within the tag. */
  readonly quotes: boolean;
  /** What may stand inside: anything, one name, or nothing. */
  readonly content: 'any' | 'name' | 'none';
  /** How the tag begins, and ends, where it takes away the white space before and behind it. */
  readonly trim_open?: string | undefined;
  readonly trim_close?: string | undefined;
}

/** The neutral notation's delimiters. */
export const neutralDelimiters: TagDelimiters = { open: '@{', close: '}', quotes: true, content: 'any' };

/** The delimiters of build values. One may stand within a merge tag. */
export const buildDelimiters: TagDelimiters = { open: '${', close: '}', quotes: true, content: 'any' };

/** The delimiters of the notations that messages, parts and frames are written in. */
export const sourceDelimiters: readonly TagDelimiters[] = [neutralDelimiters, buildDelimiters];

/** Notations in which the doubled first character of the opening delimiter prints the delimiter itself. */
const doubling: ReadonlySet<string> = new Set([neutralDelimiters.open, buildDelimiters.open]);

/** A sentinel for the tag with this number. */
export function sentinel(index: number): string {
  return `${SENTINEL_OPEN}${index}${SENTINEL_CLOSE}`;
}

/** Whether a template tag stands in a text, as a sentinel. */
export function holdsTag(text: string): boolean {
  return text.includes(SENTINEL_OPEN);
}

/** Whether a text is nothing but template tags and white space, at least one tag. */
export function isTagAlone(text: string): boolean {
  return holdsTag(text) && replaceSentinels(text, () => '').trim() === '';
}

/** Text without sentinels: noncharacters in data are no tags. */
export function sentinelFree(text: string): string {
  return text.replace(/[\uFDD0\uFDD1]/g, '\uFFFD');
}

/** Replaces each sentinel by what `write` makes of its number. */
export function replaceSentinels(text: string, write: (index: number) => string): string {
  return text.includes(SENTINEL_OPEN) ? text.replace(SENTINEL, (_, digits: string) => write(Number(digits))) : text;
}

/** The text between sentinels, and the sentinels' numbers, in order. */
export function splitAtSentinels(text: string): (string | number)[] {
  return text.split(SENTINEL).map((piece, index) => (index % 2 === 0 ? piece : Number(piece)));
}

/**
 * Finds template tags in a text. A tag that does not close is not taken: its delimiter is left to the reader.
 * Tags do not nest, but for a build value in a merge tag. `@@{` and `$${`, which print the delimiters, are tags of their own.
 */
export function findTags(text: string, delimiters: readonly TagDelimiters[]): Span[] {
  const spans: Span[] = [];
  if (delimiters.length === 0) return spans;
  const opening = new RegExp(
    [...delimiters]
      .sort((a, b) => b.open.length - a.open.length)
      .map((pair) => escapeRegExp(pair.open))
      .join('|'),
    'g',
  );
  for (let match = opening.exec(text); match !== null; match = opening.exec(text)) {
    const pair = delimiters.find((candidate) => candidate.open === match?.[0]);
    if (pair === undefined) continue;
    const span = tagAt(text, match.index, pair);
    if (span === null) continue;
    spans.push(span);
    opening.lastIndex = span.end;
  }
  return spans;
}

function tagAt(text: string, start: number, pair: TagDelimiters): Span | null {
  if (doubling.has(pair.open) && text[start - 1] === pair.open[0]) return { start: start - 1, end: start + 2 };
  const end = closingOffset(text, start + pair.open.length, pair);
  if (end === null) return null;
  const inner = text.slice(start + pair.open.length, end - pair.close.length);
  const fits = pair.content === 'any' || (pair.content === 'none' ? inner === '' : /^[\w.-]+$/.test(inner));
  return fits ? { start, end } : null;
}

/** What is longer is no tag: a delimiter that stands alone must not make the whole rest be searched. */
const LONGEST_TAG = 4000;

/** Where the tag ends that opens before `from`; null where it does not close. */
export function closingOffset(text: string, from: number, pair: TagDelimiters): number | null {
  const isNeutral = pair.open === neutralDelimiters.open;
  // In a comment a quote is a quote.
  const isComment = isNeutral && /^\s*#/.test(text.slice(from, from + 20));
  if (!pair.quotes || isComment) {
    const close = text.slice(from, from + LONGEST_TAG).indexOf(pair.close);
    return close < 0 ? null : from + close + pair.close.length;
  }
  let quote = '';
  const limit = Math.min(text.length, from + LONGEST_TAG);
  for (let index = from; index < limit; index += 1) {
    const character = text[index] ?? '';
    if (quote !== '') {
      if (character === '\\') index += 1;
      else if (character === quote) quote = '';
    } else if (isNeutral && text.startsWith(buildDelimiters.open, index)) {
      const end = closingOffset(text, index + buildDelimiters.open.length, buildDelimiters);
      index = (end ?? index + 1) - 1;
    } else if (text.startsWith(pair.close, index)) return index + pair.close.length;
    else if (character === '"' || character === "'") quote = character;
    else if (character === '\n' && text[index + 1] === '\n') return null;
  }
  return null;
}
