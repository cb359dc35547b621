import type { SourceText } from '../../text/source-text.js';

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
  const opens = marksIn(texts, opensName, (run, length) => run.slice(0, length));
  const closes = marksIn(texts, closesName, (run, length) => run.slice(run.length - length));
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
      const end = endWithin(text, close, from);
      const inner = end < 0 ? '' : source.text.slice(from, end);
      const isTag = end >= 0 && !/[<>\n]/.test(inner) && inner.trim() !== '';
      if (isTag) tags.push({ source, start, inner });
      start = text.indexOf(open, isTag ? end + close.length : from);
    }
    return tags;
  });
}

/** Longer than this no tag is. */
const LONGEST_TAG = 120;

/** Where a mark next stands, if that is near enough for the end of a tag; −1 else. */
function endWithin(text: string, close: string, from: number): number {
  const found = text.slice(from, from + LONGEST_TAG + close.length).indexOf(close);
  return found < 0 ? -1 : from + found;
}

/** A text of equal length without styles, scripts, comments and the markup itself; what attributes hold stays. */
function withoutMarkup(text: string): string {
  const blank = (piece: string): string => piece.replace(/[^\n]/g, ' ');
  const whole = ['style', 'script'].reduce(
    (rest, tag) => blanked(rest, new RegExp(`<${tag}\\b`, 'gi'), new RegExp(`</${tag}\\s*>`, 'gi'), blank),
    blanked(text, /<!--/g, /-->/g, blank),
  );
  return whole
    .replace(/<!doctype[^>]*>/gi, blank)
    .replace(/&(?:#\d+|#x[\da-f]+|[a-z]+\d*);/gi, blank)
    .replace(/(?<!<)<\/?[a-z][a-z\d]*(?:\s[^<>]*)?\/?>/gi, (tag) =>
      tag.replace(/^<\/?[a-z][a-z\d]*|\/?>$/gi, blank).replace(/\s[a-z][\w:-]*=["']|["']/gi, blank),
    )
    .replace(/\b[a-z]+:\/\/[\w.-]*/gi, blank);
}

/** Blanks what stands between an opening and a closing; where one is never closed, no other is looked for. */
function blanked(text: string, open: RegExp, close: RegExp, blank: (piece: string) => string): string {
  const pieces: string[] = [];
  let position = 0;
  for (let start = open.exec(text); start !== null; start = open.exec(text)) {
    close.lastIndex = open.lastIndex;
    if (close.exec(text) === null) break;
    pieces.push(text.slice(position, start.index), blank(text.slice(start.index, close.lastIndex)));
    position = close.lastIndex;
    open.lastIndex = position;
  }
  return pieces.join('') + text.slice(position);
}

/** Whether a name follows a run of marks, perhaps behind blanks. */
function opensName(text: string, _: number, end: number): boolean {
  const behind = /\s*/y;
  behind.lastIndex = end;
  behind.exec(text);
  return /^[\p{L}_$]/u.test(text.slice(behind.lastIndex, behind.lastIndex + 2));
}

/** Whether a name, or what ends an expression, stands before a run of marks, perhaps before blanks. */
function closesName(text: string, start: number): boolean {
  let at = start;
  while (at > 0 && /\s/.test(text.charAt(at - 1))) at -= 1;
  return /[\p{L}\p{N}_"')\]]$/u.test(text.slice(Math.max(0, at - 2), at));
}

/** The runs of marks beside names, with what of them may be a delimiter; frequent ones only. */
function marksIn(
  texts: readonly string[],
  isBesideName: (text: string, start: number, end: number) => boolean,
  part: (run: readonly string[], length: number) => readonly string[],
): string[] {
  const counts = new Map<string, number>();
  for (const text of texts)
    for (const { 0: run, index } of text.matchAll(/[^\p{L}\p{N}\s]+/gu)) {
      if (!isBesideName(text, index, index + run.length)) continue;
      const marks = [...(run.length > 200 ? run.slice(0, 100) + run.slice(-100) : run)];
      for (let length = 1; length <= Math.min(marks.length, LONGEST); length += 1) {
        const mark = part(marks, length).join('');
        counts.set(mark, (counts.get(mark) ?? 0) + 1);
      }
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
      const end = endWithin(text, close, from);
      const inner = end < 0 ? '' : text.slice(from, end);
      const isTag = end >= 0 && !/\n/.test(inner) && /^\s*[^\p{L}\s]{0,2}\s*[\p{L}_]/u.test(inner);
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
