import type { SourceText } from '../text/source-text.js';

/** A pair of delimiters, and how often it was found. */
export interface FoundDelimiters {
  readonly open: string;
  readonly close: string;
  readonly count: number;
}

/** A tag in an exported file. */
export interface FoundTag {
  readonly source: SourceText;
  readonly start: number;
  /** What stands between the delimiters. */
  readonly inner: string;
}

/** Longer than this no delimiter is. */
const LONGEST = 4;

/** Marks that stand before and behind words in ordinary text, and delimit nothing. */
const ordinary: ReadonlySet<string> = new Set([
  '(',
  ')',
  '"',
  "'",
  '“',
  '”',
  '‘',
  '’',
  '.',
  ',',
  ':',
  ';',
  '!',
  '?',
  '-',
  '–',
  '—',
  '/',
  '·',
  '•',
  '…',
]);

/**
 * Finds by what tags are delimited in exported files: the marks that stand again and again right before and right behind
 * short texts which are made of names.
 */
export function findDelimiters(sources: readonly SourceText[]): FoundDelimiters | null {
  const texts = sources.map(({ text }) => withoutMarkup(text));
  const opens = marksIn(texts, /([^\p{L}\p{N}\s]+)\s*[\p{L}_$]/gu, (run, length) => run.slice(0, length));
  const closes = marksIn(texts, /[\p{L}\p{N}_"')\]]\s*([^\p{L}\p{N}\s]+)/gu, (run, length) =>
    run.slice(run.length - length),
  );
  let best: (FoundDelimiters & { readonly score: number }) | null = null;
  for (const open of opens)
    for (const close of closes) {
      if (!mayPair(open, close)) continue;
      const found = countPairs(texts, open, close);
      if (found === null) continue;
      const length = Math.min(open.length, 3) + Math.min(close.length, 3);
      const score = found * length * (isMirrored(open, close) ? 1.5 : 1);
      if (best === null || score > best.score || (score === best.score && open.length > best.open.length))
        best = { open, close, count: found, score };
    }
  return best === null ? null : { open: best.open, close: best.close, count: best.count };
}

/** All tags that the delimiters mark, in the order of the files. */
export function tagsBetween(sources: readonly SourceText[], { open, close }: FoundDelimiters): FoundTag[] {
  return sources.flatMap((source) => {
    const text = withoutMarkup(source.text);
    const tags: FoundTag[] = [];
    for (let start = text.indexOf(open); start >= 0;) {
      const from = start + open.length;
      const end = text.indexOf(close, from);
      const inner = end < 0 ? '' : source.text.slice(from, end);
      const isTag = end >= 0 && inner.length <= 120 && !/[<>\n]/.test(inner) && inner.trim() !== '';
      if (isTag) tags.push({ source, start, inner });
      start = text.indexOf(open, isTag ? end + close.length : from);
    }
    return tags;
  });
}

/** A text of equal length without styles, scripts, comments and the markup itself; what attributes hold stays. */
function withoutMarkup(text: string): string {
  const blank = (piece: string): string => piece.replace(/[^\n]/g, ' ');
  return text
    .replace(/<(style|script)\b[\s\S]*?<\/\1\s*>/gi, blank)
    .replace(/<!--[\s\S]*?-->/g, blank)
    .replace(/<!doctype[^>]*>/gi, blank)
    .replace(/&(?:#\d+|#x[\da-f]+|[a-z]+\d*);/gi, blank)
    .replace(/(?<!<)<\/?[a-z][a-z\d]*(?:\s[^<>]*)?\/?>/gi, (tag) =>
      tag.replace(/^<\/?[a-z][a-z\d]*|\/?>$/gi, blank).replace(/\s[a-z][\w:-]*=["']|["']/gi, blank),
    )
    .replace(/\b[a-z]+:\/\/[\w.-]*/gi, blank);
}

/** The marks at the places that an expression finds, with what of them may be a delimiter; frequent ones only. */
function marksIn(texts: readonly string[], place: RegExp, part: (run: string, length: number) => string): string[] {
  const counts = new Map<string, number>();
  for (const text of texts)
    for (const [, run = ''] of text.matchAll(place))
      for (let length = 1; length <= Math.min(run.length, LONGEST); length += 1) {
        const mark = part(run, length);
        counts.set(mark, (counts.get(mark) ?? 0) + 1);
      }
  return [...counts]
    .filter(([mark, count]) => count >= 2 && !ordinary.has(mark))
    .sort((a, b) => b[1] * b[0].length - a[1] * a[0].length)
    .slice(0, 60)
    .map(([mark]) => mark);
}

function mayPair(open: string, close: string): boolean {
  if (open.length + close.length < 2) return false;
  if (open.length === 1 && close.length === 1) return open === close && /[%~|#*^$@]/.test(open);
  return true;
}

/** How many tags a pair marks; null where most of what opens does not close. */
function countPairs(texts: readonly string[], open: string, close: string): number | null {
  let opened = 0;
  let closed = 0;
  for (const text of texts)
    for (let at = text.indexOf(open); at >= 0;) {
      opened += 1;
      const from = at + open.length;
      const end = text.indexOf(close, from);
      const inner = end < 0 ? '' : text.slice(from, end);
      const isTag =
        end >= 0 && inner.length <= 120 && !/\n/.test(inner) && /^\s*[^\p{L}\s]{0,2}\s*[\p{L}_]/u.test(inner);
      if (isTag) closed += 1;
      at = text.indexOf(open, isTag ? end + close.length : from);
    }
  return closed >= 2 && closed >= 0.7 * opened ? closed : null;
}

const mirrored: Readonly<Record<string, string>> = { '{': '}', '[': ']', '(': ')', '<': '>' };

/** Whether a closing mark is the opening one as in a mirror, or the same. */
function isMirrored(open: string, close: string): boolean {
  const mirror = [...open]
    .reverse()
    .map((character) => mirrored[character] ?? character)
    .join('');
  return mirror === close || open === close;
}
