import { closingOffset, type TagDelimiters } from '../../html/tags.js';
import type { Span } from '../../text/span.js';
import { spellingsOf, type Dialect, type TagConstruct } from '../dialect.js';
import { escapeRegExp, literalSource, piecesOf } from '../pattern.js';

/** What stands between the texts of a dialect: a tag, a comment, or text that only looks like a tag. */
export interface ScannedTag {
  readonly kind: 'tag' | 'comment' | 'literal' | 'unclosed' | 'damaged';
  /** Where it stands, with the white space that it takes away. */
  readonly span: Span;
  /** Where the tag itself stands. */
  readonly tagSpan: Span;
  /** Of a tag its text, with the usual delimiters; of a comment its text; of a literal what it prints. */
  readonly text: string;
}

/**
 * Finds a dialect's tags in a text, with all ways to mark what is no tag: comments, stretches of literal text, an escaping
 * character, delimiters that the text itself changes. White space that a tag takes away belongs to the tag.
 */
export function scanTags(text: string, dialect: Dialect): ScannedTag[] {
  if (dialect.delimiters.length === 0) return [];
  return new Scanner(text, dialect).all();
}

/** A stretch of text between two marks, in which tags do not count. */
interface Stretch {
  readonly kind: 'comment' | 'literal';
  readonly open: RegExp;
  readonly close: RegExp;
}

/** What a dialect's tags and stretches begin with. */
interface Marks {
  readonly stretches: readonly Stretch[];
  readonly opening: RegExp;
}

const marks = new WeakMap<Dialect, Marks>();

/** Made once for each dialect: each of many unknown tags is read by itself. */
function marksOf(dialect: Dialect): Marks {
  const known = marks.get(dialect);
  if (known !== undefined) return known;
  const stretches = [...stretchesOf(dialect, 'comment', 'comment'), ...stretchesOf(dialect, 'verbatim', 'literal')];
  const made = { stretches, opening: openingOf(dialect.delimiters, stretches) };
  marks.set(dialect, made);
  return made;
}

class Scanner {
  readonly #found: ScannedTag[] = [];
  readonly #stretches: readonly Stretch[];
  #delimiters: readonly TagDelimiters[];
  #opening: RegExp;
  #at = 0;

  constructor(
    private readonly text: string,
    private readonly dialect: Dialect,
  ) {
    const { stretches, opening } = marksOf(dialect);
    this.#stretches = stretches;
    this.#delimiters = dialect.delimiters;
    this.#opening = opening;
  }

  all(): ScannedTag[] {
    for (;;) {
      this.#opening.lastIndex = this.#at;
      const match = this.#opening.exec(this.text);
      if (match === null) return this.#found;
      const { index } = match;
      this.#at = this.escaped(index) ?? this.stretch(index) ?? this.delimited(index) ?? index + 1;
    }
  }

  /** A comment or literal stretch at a place, and where it ends. */
  private stretch(start: number): number | null {
    for (const { kind, open, close } of this.#stretches) {
      open.lastIndex = start;
      if (!open.test(this.text)) continue;
      const from = open.lastIndex;
      close.lastIndex = from;
      const end = close.exec(this.text);
      if (end === null) continue;
      const inner = this.text.slice(from, end.index);
      const stop = close.lastIndex;
      this.add(kind, { start, end: stop }, kind === 'comment' ? inner.trim() : inner);
      return stop;
    }
    return null;
  }

  private delimited(start: number): number | null {
    const [found] = [...this.#delimiters, ...this.changedDelimiters()]
      .flatMap((pair) => [pair.trim_open ?? pair.open, pair.open].map((opened) => ({ pair, opened })))
      .filter(({ opened }) => this.text.startsWith(opened, start))
      .sort((a, b) => b.opened.length - a.opened.length);
    if (found === undefined) return null;
    const { pair, opened } = found;
    if (!this.#delimiters.includes(pair)) {
      this.add('literal', { start, end: start + opened.length }, opened);
      return start + opened.length;
    }
    const end = closing(this.text, start + opened.length, pair);
    if (end === null) {
      if (pair.content === 'any' && /^\s*[\p{L}#/^&@"]/u.test(this.text.slice(start + opened.length)))
        this.add('unclosed', { start, end: start + opened.length }, opened);
      return null;
    }
    const inner = this.text.slice(start + opened.length, end - pair.close.length);
    if (pair.content !== 'any' && !(pair.content === 'none' ? inner === '' : /^[\w.-]+$/.test(inner))) return null;
    const text = this.usual(start, end, pair);
    if (this.changesDelimiters(text)) this.add('literal', { start, end }, '');
    else this.add('tag', { start, end }, text);
    return end;
  }

  /** The usual delimiters, where the text has changed them: there they are text. */
  private changedDelimiters(): readonly TagDelimiters[] {
    return this.#delimiters === this.dialect.delimiters ? [] : this.dialect.delimiters;
  }

  /** The text of a tag with the delimiters that patterns have, where the text has changed them. */
  private usual(start: number, end: number, pair: TagDelimiters): string {
    const written = this.text.slice(start, end);
    if (this.#delimiters === this.dialect.delimiters) return written;
    const inner = written.slice(pair.open.length, written.length - pair.close.length);
    const own = this.dialect.delimiters[this.dialect.delimiters.length - 1] ?? pair;
    return `${own.open}${inner}${own.close}`;
  }

  /** Takes new delimiters, where the tag says so. */
  private changesDelimiters(tag: string): boolean {
    for (const { pattern } of spellingsOf(this.dialect, 'delimiters')) {
      const source = piecesOf(pattern)
        .map((piece) => ('literal' in piece ? literalSource(piece.literal) : `\\s*(?<${piece.hole}>[^\\s=]+)\\s*`))
        .join('');
      const groups = new RegExp(`^${source}$`, 'u').exec(tag)?.groups;
      const { open, close } = groups ?? {};
      if (open === undefined || close === undefined) continue;
      const usual = this.dialect.delimiters.some((pair) => pair.open === open && pair.close === close);
      this.#delimiters = usual ? this.dialect.delimiters : [{ open, close, quotes: false, content: 'any' }];
      this.#opening = openingOf([...this.#delimiters, ...this.changedDelimiters()], usual ? this.#stretches : []);
      return true;
    }
    return false;
  }

  /** An escaped delimiter is text; an escaping character that is itself escaped stands for itself. */
  private escaped(start: number): number | null {
    const { escape } = this.dialect;
    if (escape === null) return null;
    const fitting = this.#delimiters.map(({ open }) => open).filter((open) => this.text.startsWith(open, start));
    const [opened = ''] = fitting.sort((a, b) => a.length - b.length);
    let count = 0;
    while (this.text[start - count - 1] === escape) count += 1;
    if (count === 0) return null;
    if (count > 1) {
      this.add('literal', { start: start - escape.length, end: start }, '');
      return null;
    }
    this.add('literal', { start: start - escape.length, end: start + opened.length }, opened);
    return start + opened.length;
  }

  private add(kind: ScannedTag['kind'], tagSpan: Span, text: string): void {
    const written = this.text.slice(tagSpan.start, tagSpan.end);
    const trims = (key: 'trim_open' | 'trim_close', fits: (mark: string) => boolean): boolean =>
      kind !== 'unclosed' && this.#delimiters.some((pair) => pair[key] !== undefined && fits(pair[key] ?? ''));
    const from = this.#found[this.#found.length - 1]?.span.end ?? 0;
    const before = trims('trim_open', (mark) => written.startsWith(mark))
      ? (/\s*$/.exec(this.text.slice(from, tagSpan.start))?.[0].length ?? 0)
      : 0;
    const after = trims('trim_close', (mark) => written.endsWith(mark))
      ? (/^\s*/.exec(this.text.slice(tagSpan.end))?.[0].length ?? 0)
      : 0;
    const span = { start: tagSpan.start - before, end: tagSpan.end + after };
    this.#found.push({ kind, span, tagSpan, text: kind === 'tag' ? untrimmed(text, this.dialect.delimiters) : text });
  }
}

/** A tag's end; where an unpaired quote hides it, the end without regard to quotes. */
function closing(text: string, from: number, pair: TagDelimiters): number | null {
  const { trim_close: trimmed } = pair;
  // Where the trimmed end ends as the plain one does, the plain one is found at the same place.
  const pairs = trimmed === undefined || trimmed.endsWith(pair.close) ? [pair] : [pair, { ...pair, close: trimmed }];
  for (const quotes of pair.quotes ? [true, false] : [false]) {
    const ends = pairs.flatMap((one) => closingOffset(text, from, { ...one, quotes }) ?? []);
    if (ends.length > 0) return Math.min(...ends);
  }
  return null;
}

/** A tag without the marks by which it takes away white space. */
function untrimmed(tag: string, delimiters: readonly TagDelimiters[]): string {
  let text = tag;
  for (const { open, close, trim_open: trimOpen, trim_close: trimClose } of delimiters) {
    if (trimOpen !== undefined && text.startsWith(trimOpen)) text = open + text.slice(trimOpen.length);
    if (trimClose !== undefined && text.endsWith(trimClose))
      text = text.slice(0, text.length - trimClose.length) + close;
  }
  return text;
}

function openingOf(delimiters: readonly TagDelimiters[], stretches: readonly Stretch[]): RegExp {
  const opens = delimiters.flatMap(({ open, trim_open: trimmed }) =>
    trimmed === undefined ? [open] : [open, trimmed],
  );
  const sources = opens.sort((a, b) => b.length - a.length).map(escapeRegExp);
  return new RegExp([...stretches.map(({ open }) => open.source), ...sources].join('|'), 'gu');
}

function stretchesOf(dialect: Dialect, construct: TagConstruct, kind: Stretch['kind']): Stretch[] {
  const patterns = spellingsOf(dialect, construct).map(({ pattern }) => pattern);
  return patterns
    .sort((a, b) => b.length - a.length)
    .flatMap((pattern): Stretch[] => {
      const [before, hole, after] = piecesOf(pattern);
      if (before === undefined || !('literal' in before) || hole === undefined || !('hole' in hole)) return [];
      if (after === undefined || !('literal' in after)) return [];
      const source = (text: string): string => literalSource(text.trim(), dialect.delimiters);
      return [{ kind, open: new RegExp(source(before.literal), 'yu'), close: new RegExp(source(after.literal), 'gu') }];
    });
}
