import type { TagDelimiters } from '../../html/tags.js';
import type { Dialect } from '../dialect.js';
import { escapeRegExp } from '../pattern.js';
import { MARKUP_SOURCE, standsInAddress } from './repair.js';
import type { ScannedTag } from './scan-tags.js';

/** How the characters of delimiters that mean something in HTML are written there. */
const references: Readonly<Record<string, string>> = {
  '<': '&lt;',
  '>': '&gt;',
  '&': '&amp;',
  '"': '&quot;',
  "'": '&#39;',
};

/**
 * Adds what may have been tags before an editor of HTML worked on them: with markup between the characters of their
 * delimiters, with delimiters written as HTML, or percent-encoded in an address. Braces that are written as character
 * references are how an author prints braces, and are left alone.
 */
export function withDamagedTags(text: string, found: readonly ScannedTag[], dialect: Dialect): ScannedTag[] {
  const patterns = patternsOf(dialect);
  const damaged: ScannedTag[] = [];
  let position = 0;
  for (const [index, start] of [...found.map(({ span }) => span.start), text.length].entries()) {
    damaged.push(...damagedIn(text, position, start, patterns));
    position = found[index]?.span.end ?? text.length;
  }
  return damaged.length === 0 ? [...found] : [...found, ...damaged].sort((a, b) => a.span.start - b.span.start);
}

const compiled = new WeakMap<Dialect, readonly DamagedPattern[]>();

function patternsOf(dialect: Dialect): readonly DamagedPattern[] {
  const known = compiled.get(dialect);
  if (known !== undefined) return known;
  const patterns = dialect.delimiters.filter(({ content }) => content !== 'none').flatMap(damagedPatterns);
  compiled.set(dialect, patterns);
  return patterns;
}

interface DamagedPattern {
  /** Of each group, one is in every match: to look for them is nothing beside what the expression takes to be compiled. */
  readonly needs: readonly (readonly string[])[];
  readonly expression: RegExp;
  readonly isAddress: boolean;
}

function damagedPatterns({ open, close }: TagDelimiters): DamagedPattern[] {
  const content = (excluded: string): string => `[^${excluded}]{1,200}?`;
  const joined = (mark: string, write: (character: string) => string, between: string): string =>
    [...mark.trim()].map(write).join(between);
  const plain = (character: string): string => escapeRegExp(character);
  const percent = (character: string): string => {
    const code = character.charCodeAt(0).toString(16).padStart(2, '0');
    return `(?:%${code}|${escapeRegExp(character)})`;
  };
  const reference = (character: string): string => escapeRegExp(references[character] ?? character);
  const markup = `(?:${MARKUP_SOURCE})*`;
  const make = (source: string, needs: readonly (readonly string[])[]): DamagedPattern => ({
    needs: needs.map((group) => group.map((part) => part.toLowerCase())),
    expression: new RegExp(source, 'giu'),
    isAddress: false,
  });
  // Whole, or with markup behind what begins it.
  const split = (mark: string): string[] => [
    mark,
    ...[...mark].slice(1).map((_, index) => `${mark.slice(0, index + 1)}<`),
  ];
  const characters = [...open.trim(), ...close.trim()];
  const percentEncoded = `${joined(open, percent, '')}${content('<>"\'')}${joined(close, percent, '')}`;
  const withMarkup = `${joined(open, plain, markup)}${content('{}')}${joined(close, plain, markup)}`;
  const asHtml = `${joined(open, reference, '')}${content('<>')}${joined(close, reference, '')}`;
  return [
    { ...make(percentEncoded, [['%']]), isAddress: true },
    ...(open.trim().length > 1 || close.length > 1
      ? [make(withMarkup, [split(open.trim()), split(close.trim())])]
      : []),
    ...(characters.some((character) => Object.hasOwn(references, character))
      ? [
          make(
            asHtml,
            characters.map((character) => [references[character] ?? character]),
          ),
        ]
      : []),
  ];
}

function damagedIn(text: string, from: number, to: number, patterns: readonly DamagedPattern[]): ScannedTag[] {
  const gap = text.slice(from, to);
  if (!/[%<&\u00A0\u202F]/.test(gap)) return [];
  const found: ScannedTag[] = [];
  const folded = gap.toLowerCase();
  for (const { needs, expression, isAddress } of patterns) {
    if (!needs.every((group) => group.some((part) => folded.includes(part)))) continue;
    for (const match of gap.matchAll(expression)) {
      const span = { start: from + match.index, end: from + match.index + match[0].length };
      const isTaken = found.some((other) => other.span.start < span.end && span.start < other.span.end);
      if (isTaken || (isAddress && !standsInAddress(text, span.start))) continue;
      found.push({ kind: 'damaged', span, tagSpan: span, text: match[0] });
    }
  }
  return found;
}
