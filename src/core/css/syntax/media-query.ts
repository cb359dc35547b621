import { type Span, spanAt } from '../../text/span.js';
import { tokenizeCss, tokenType, type CssToken } from './css-tree.js';

/** How a media feature compares to a value. */
export type Comparison = '<' | '<=' | '>' | '>=' | '=';

/** What a feature is compared to: `width <= 600px`. */
export interface Bound {
  readonly comparison: Comparison;
  readonly value: string;
}

/** A condition on media features. Spans are those of the text that it was read from, in parentheses where it stands in some. */
export type MediaCondition =
  | { readonly kind: 'and' | 'or'; readonly terms: readonly MediaCondition[]; readonly span: Span }
  | { readonly kind: 'not'; readonly term: MediaCondition; readonly span: Span }
  /** `(color)`, `(max-width: 600px)`. */
  | { readonly kind: 'feature'; readonly name: string; readonly value: string | null; readonly span: Span }
  /** `(width <= 600px)`, `(400px < width <= 600px)`. */
  | { readonly kind: 'range'; readonly name: string; readonly bounds: readonly Bound[]; readonly span: Span }
  /** What stands in parentheses and is no condition that there is. */
  | { readonly kind: 'unknown'; readonly span: Span };

/** A query of a media query list. */
export interface MediaQuery {
  readonly modifier: 'not' | 'only' | null;
  /** In lower case; null where only features are asked for. */
  readonly type: string | null;
  readonly condition: MediaCondition | null;
}

/** What stands in more parentheses than this is taken for none: nobody writes so. */
const DEEPEST = 50;

/** Words that are no media type (Media Queries Level 4, 3). */
const reserved: ReadonlySet<string> = new Set(['only', 'not', 'and', 'or', 'layer']);

/**
 * Reads a media query list by the grammar of Media Queries Level 4, 3.
 * @returns null in place of each query that does not fit it: such a query never holds
 */
export function readMediaQueries(text: string): (MediaQuery | null)[] {
  const tokens = tokenizeCss(text, 0).filter(({ type }) => type !== tokenType.comment);
  const queries: CssToken[][] = [[]];
  let depth = 0;
  for (const token of tokens) {
    if (isOpening(token)) depth += 1;
    if (isClosing(token)) depth -= 1;
    if (token.type === tokenType.comma && depth === 0) queries.push([]);
    else queries.at(-1)?.push(token);
  }
  const isEmpty = tokens.every(({ type }) => type === tokenType.whiteSpace);
  return isEmpty ? [] : queries.map((query) => new QueryReader(text, query).query());
}

function isOpening({ type }: CssToken): boolean {
  return (
    type === tokenType.openRound ||
    type === tokenType.function ||
    type === tokenType.openSquare ||
    type === tokenType.openCurly
  );
}

function isClosing({ type }: CssToken): boolean {
  return type === tokenType.closeRound || type === tokenType.closeSquare || type === tokenType.closeCurly;
}

class QueryReader {
  #next = 0;

  constructor(
    private readonly text: string,
    private readonly tokens: readonly CssToken[],
    private readonly depth = 0,
  ) {}

  query(): MediaQuery | null {
    return this.whole(() => this.typed()) ?? this.whole(() => this.untyped());
  }

  /** What all of the tokens are read as; null where something is left. */
  private whole<T>(read: () => T | null): T | null {
    this.#next = 0;
    const found = read();
    this.skipSpace();
    return this.#next < this.tokens.length ? null : found;
  }

  /** `only screen and (max-width: 600px)`; what may be joined by `or` stands in parentheses there. */
  private typed(): MediaQuery | null {
    const modifier = (['not', 'only'] as const).find((word) => this.takes(word));
    const type = this.takeWord();
    if (type === null || reserved.has(type)) return null;
    if (!this.takes('and')) return { modifier: modifier ?? null, type, condition: null };
    const condition = this.condition();
    return condition === null || condition.kind === 'or' ? null : { modifier: modifier ?? null, type, condition };
  }

  private untyped(): MediaQuery | null {
    const condition = this.condition();
    return condition === null ? null : { modifier: null, type: null, condition };
  }

  private condition(): MediaCondition | null {
    this.skipSpace();
    const start = this.peek()?.start ?? 0;
    if (this.takes('not')) {
      const term = this.term();
      return term === null ? null : { kind: 'not', term, span: { start, end: term.span.end } };
    }
    const first = this.term();
    if (first === null) return null;
    const terms = [first];
    const joint = (['and', 'or'] as const).find((word) => this.takes(word));
    if (joint === undefined) return first;
    do {
      const next = this.term();
      if (next === null) return null;
      terms.push(next);
    } while (this.takes(joint));
    return { kind: joint, terms, span: { start, end: terms.at(-1)?.span.end ?? start } };
  }

  /** What stands in parentheses. */
  private term(): MediaCondition | null {
    this.skipSpace();
    const opening = this.peek();
    const isFunction = opening?.type === tokenType.function;
    if (opening === undefined || (opening.type !== tokenType.openRound && !isFunction)) return null;
    const from = this.#next;
    const to = this.closing(from);
    if (to === null) return null;
    const span = { start: opening.start, end: this.tokens[to]?.end ?? opening.end };
    const inner = this.tokens.slice(from + 1, to);
    this.#next = to + 1;
    const isRead = !isFunction && this.depth < DEEPEST;
    const read = isRead ? (this.feature(inner) ?? new QueryReader(this.text, inner, this.depth + 1).alone()) : null;
    return read === null ? { kind: 'unknown', span } : { ...read, span };
  }

  /** A condition, if all of the tokens are one. */
  alone(): MediaCondition | null {
    return this.whole(() => this.condition());
  }

  private feature(tokens: readonly CssToken[]): MediaCondition | null {
    const signs = comparisonsIn(tokens, this.text);
    const span = spanAt(0, 0);
    const colon = tokens.findIndex(({ type }) => type === tokenType.colon);
    const name = this.wordIn(colon < 0 ? tokens : tokens.slice(0, colon));
    if (colon >= 0) {
      const value = this.textOf(tokens.slice(colon + 1));
      return name === null || value === '' ? null : { kind: 'feature', name, value, span };
    }
    if (signs.length === 0) return name === null ? null : { kind: 'feature', name, value: null, span };
    const range = this.range(tokens, signs);
    return range === null ? null : { kind: 'range', ...range, span };
  }

  /** Media Queries Level 4, 2.4.3. */
  private range(
    tokens: readonly CssToken[],
    signs: readonly Sign[],
  ): { readonly name: string; readonly bounds: readonly Bound[] } | null {
    const [first, second, third] = signs;
    if (first === undefined || third !== undefined) return null;
    const left = tokens.slice(0, first.from);
    const middle = tokens.slice(first.to, second?.from);
    if (second === undefined) {
      const name = this.wordIn(left);
      if (name !== null) return this.compared(name, [{ comparison: first.comparison, value: this.textOf(middle) }]);
    }
    const name = this.wordIn(middle);
    if (name === null) return null;
    const lower: Bound = { comparison: mirrored(first.comparison), value: this.textOf(left) };
    if (second === undefined) return this.compared(name, [lower]);
    // Both signs point the same way.
    if (first.comparison[0] !== second.comparison[0] || first.comparison === '=') return null;
    const upper: Bound = { comparison: second.comparison, value: this.textOf(tokens.slice(second.to)) };
    return this.compared(name, [lower, upper]);
  }

  private compared(
    name: string,
    bounds: readonly Bound[],
  ): { readonly name: string; readonly bounds: readonly Bound[] } | null {
    return /^(?:min|max)-/i.test(name) || bounds.some(({ value }) => value === '') ? null : { name, bounds };
  }

  /** Where the parenthesis closes that some token opens; null where it stays open, which only the end of a text may leave. */
  private closing(from: number): number | null {
    let depth = 0;
    for (let at = from; at < this.tokens.length; at += 1) {
      const token = this.tokens[at];
      if (token === undefined) break;
      if (isOpening(token)) depth += 1;
      if (isClosing(token)) depth -= 1;
      if (depth === 0) return token.type === tokenType.closeRound ? at : null;
    }
    return null;
  }

  /** The word that some tokens are, as it is written; null where they are anything else. */
  private wordIn(tokens: readonly CssToken[]): string | null {
    const [word, ...others] = tokens.filter(({ type }) => type !== tokenType.whiteSpace);
    if (word?.type !== tokenType.ident || others.length > 0) return null;
    return this.text.slice(word.start, word.end);
  }

  private textOf(tokens: readonly CssToken[]): string {
    return tokens
      .map(({ start, end }) => this.text.slice(start, end))
      .join('')
      .trim();
  }

  private takes(word: string): boolean {
    const from = this.#next;
    if (this.takeWord() === word) return true;
    this.#next = from;
    return false;
  }

  private takeWord(): string | null {
    this.skipSpace();
    const token = this.peek();
    if (token?.type !== tokenType.ident) return null;
    this.#next += 1;
    return this.text.slice(token.start, token.end).toLowerCase();
  }

  private peek(): CssToken | undefined {
    return this.tokens[this.#next];
  }

  private skipSpace(): void {
    while (this.peek()?.type === tokenType.whiteSpace) this.#next += 1;
  }
}

/** A sign of comparison among tokens: where it begins and ends. */
interface Sign {
  readonly comparison: Comparison;
  readonly from: number;
  readonly to: number;
}

function comparisonsIn(tokens: readonly CssToken[], text: string): Sign[] {
  const delimiter = (at: number): string => {
    const token = tokens[at];
    return token?.type === tokenType.delim ? text.slice(token.start, token.end) : '';
  };
  const signs: Sign[] = [];
  let depth = 0;
  for (const [at, token] of tokens.entries()) {
    if (isOpening(token)) depth += 1;
    if (isClosing(token)) depth -= 1;
    const sign = depth === 0 && signs.at(-1)?.to !== at + 1 ? delimiter(at) : '';
    if (sign === '=') signs.push({ comparison: '=', from: at, to: at + 1 });
    if (sign !== '<' && sign !== '>') continue;
    const isWithEqual = delimiter(at + 1) === '=';
    signs.push({ comparison: isWithEqual ? `${sign}=` : sign, from: at, to: at + (isWithEqual ? 2 : 1) });
  }
  return signs;
}

function mirrored(comparison: Comparison): Comparison {
  const mirror = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '=': '=' } as const;
  return mirror[comparison];
}
