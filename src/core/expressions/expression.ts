import { decodeHTML } from 'entities';
import type { SourceText } from '../text/source-text.js';
import type { Span } from '../text/span.js';

/** A parsed expression; every node knows its span in the source. */
export type Expression =
  | {
      readonly kind: 'path';
      readonly segments: readonly string[];
      readonly span: Span;
      /** Set where the way it is asked after shows that it is a list. */
      readonly isList?: true;
    }
  | { readonly kind: 'text'; readonly value: string; readonly span: Span }
  | { readonly kind: 'number'; readonly written: string; readonly span: Span }
  | { readonly kind: 'flag'; readonly value: boolean; readonly span: Span }
  | { readonly kind: 'fallback'; readonly value: Expression; readonly otherwise: Expression; readonly span: Span }
  | {
      readonly kind: 'filter';
      readonly value: Expression;
      readonly name: string;
      readonly parameter: Expression | null;
      /** What a filter takes besides (what `replace` puts in). */
      readonly second?: Expression;
      readonly span: Span;
    }
  | {
      readonly kind: 'conditional';
      readonly condition: Expression;
      readonly yes: Expression;
      readonly no: Expression;
      readonly span: Span;
    }
  | {
      readonly kind: 'comparison';
      readonly operator: ComparisonOperator;
      readonly left: Expression;
      readonly right: Expression;
      readonly span: Span;
    }
  | {
      readonly kind: 'arithmetic';
      readonly operator: ArithmeticOperator;
      readonly left: Expression;
      readonly right: Expression;
      readonly span: Span;
    }
  | { readonly kind: 'and' | 'or'; readonly left: Expression; readonly right: Expression; readonly span: Span }
  | { readonly kind: 'not' | 'exists'; readonly value: Expression; readonly span: Span };

export type ComparisonOperator = '==' | '!=' | '<' | '<=' | '>' | '>=';

export type ArithmeticOperator = '+' | '-' | '*' | '/';

/** What went wrong, and where. */
export interface ExpressionError {
  readonly detail: string;
  readonly span: Span;
}

export type ExpressionResult =
  | { readonly expression: Expression; readonly error: null }
  | { readonly expression: null; readonly error: ExpressionError };

type TokenKind = 'name' | 'text' | 'number' | 'sign' | 'end' | 'broken';

interface Token {
  readonly kind: TokenKind;
  readonly text: string;
  readonly span: Span;
}

/** Parentheses and chains deeper than this are refused, so that no input exhausts the stack. */
const DEEPEST = 100;

/**
 * Parses an expression of the notation that merge tags and build values share.
 * From loose to tight: `? :`, `or`, `and`, `not` and `given`, comparison, `+ -`, `* /`, `??`, `| filter`.
 * @param offset where the text begins in its source, so that spans point there
 */
export function parseExpression(text: string, offset: number): ExpressionResult {
  return parse(text, (index) => offset + index);
}

/**
 * Parses an expression as it is written in HTML, where characters may stand as references (`&quot;`, `&lt;`).
 * @param span of the expression in its source
 */
export function parseExpressionInHtml(source: SourceText, span: Span): ExpressionResult {
  const written = source.slice(span);
  if (!written.includes('&')) return parseExpression(written, span.start);
  const offsets: number[] = [];
  let text = '';
  for (const match of written.matchAll(/&(?:#\d+|#x[\da-f]+|[a-z]+);|[\s\S]/gi)) {
    const decoded = match[0].length > 1 ? decodeHTML(match[0]) : match[0];
    for (let index = 0; index < decoded.length; index += 1) offsets.push(span.start + match.index);
    text += decoded;
  }
  return parse(text, (index) => offsets[index] ?? span.end);
}

/** @param offsetAt where a character of the text stands in its source */
function parse(text: string, offsetAt: (index: number) => number): ExpressionResult {
  const parser = new Parser(tokenize(text, offsetAt));
  try {
    const expression = parser.whole();
    return { expression, error: null };
  } catch (error) {
    if (error instanceof Unreadable) return { expression: null, error: { detail: error.message, span: error.span } };
    throw error;
  }
}

class Unreadable extends Error {
  constructor(
    detail: string,
    readonly span: Span,
  ) {
    super(detail);
  }
}

const tokenPattern =
  /\s*(?:([A-Za-z_][\w-]*)|("(?:[^"\\]|\\[\s\S])*"|'(?:[^'\\]|\\[\s\S])*')|(-?\d+(?:\.\d+)?)|(\?\?|==|!=|<=|>=|[<>?:|().,*/+#-]))/y;

function tokenize(text: string, offsetAt: (index: number) => number): Token[] {
  const tokens: Token[] = [];
  let index = 0;
  for (;;) {
    tokenPattern.lastIndex = index;
    const match = tokenPattern.exec(text);
    if (match === null) break;
    const [, name, string, number, sign] = match;
    const written = name ?? string ?? number ?? sign ?? '';
    const end = tokenPattern.lastIndex;
    const kind: TokenKind =
      name !== undefined ? 'name' : string !== undefined ? 'text' : number !== undefined ? 'number' : 'sign';
    tokens.push({ kind, text: written, span: spanOf(end - written.length, end, offsetAt) });
    index = end;
  }
  const rest = index + (/^\s*/.exec(text.slice(index))?.[0].length ?? 0);
  const last = spanOf(rest, Math.min(text.length, rest + 1), offsetAt);
  tokens.push({ kind: rest < text.length ? 'broken' : 'end', text: text.slice(rest, rest + 1), span: last });
  return tokens;
}

function spanOf(start: number, end: number, offsetAt: (index: number) => number): Span {
  return { start: offsetAt(start), end: offsetAt(end) };
}

class Parser {
  #index = 0;
  #depth = 0;

  constructor(private readonly tokens: Token[]) {}

  whole(): Expression {
    const expression = this.choice();
    const rest = this.peek();
    if (rest.kind !== 'end') throw new Unreadable(`${describe(rest)} is not expected here`, rest.span);
    return expression;
  }

  private choice(): Expression {
    this.#depth += 1;
    if (this.#depth > DEEPEST) throw new Unreadable('it is nested too deep', this.peek().span);
    const condition = this.either();
    let result = condition;
    if (this.takes('?')) {
      const yes = this.choice();
      this.expect(':');
      const no = this.choice();
      result = { kind: 'conditional', condition, yes, no, span: around(condition, no) };
    }
    this.#depth -= 1;
    return result;
  }

  private either(): Expression {
    let left = this.both();
    while (this.takesWord('or')) {
      const right = this.both();
      left = { kind: 'or', left, right, span: around(left, right) };
    }
    return left;
  }

  private both(): Expression {
    let left = this.negation();
    while (this.takesWord('and')) {
      const right = this.negation();
      left = { kind: 'and', left, right, span: around(left, right) };
    }
    return left;
  }

  private negation(): Expression {
    const start = this.peek().span.start;
    const prefixes: ('not' | 'exists')[] = [];
    for (;;) {
      if (this.takesWord('not')) prefixes.push('not');
      else if (this.peekWord('given') && this.startsOperand(1)) {
        this.#index += 1;
        prefixes.push('exists');
      } else break;
    }
    const operand = this.comparison();
    return prefixes.reduceRight<Expression>(
      (value, kind) => ({ kind, value, span: { start, end: value.span.end } }),
      operand,
    );
  }

  private comparison(): Expression {
    const left = this.sum();
    const sign = this.peek();
    if (sign.kind !== 'sign' || !/^(?:==|!=|<=?|>=?)$/.test(sign.text)) return left;
    this.#index += 1;
    const right = this.sum();
    return { kind: 'comparison', operator: sign.text as ComparisonOperator, left, right, span: around(left, right) };
  }

  private sum(): Expression {
    return this.chain(['+', '-'], () => this.chain(['*', '/'], () => this.fallback()));
  }

  private chain(operators: readonly ArithmeticOperator[], operand: () => Expression): Expression {
    let left = operand();
    for (;;) {
      const operator = operators.find((candidate) => this.takes(candidate) || this.takesSign(candidate));
      if (operator === undefined) return left;
      const right = operand();
      left = { kind: 'arithmetic', operator, left, right, span: around(left, right) };
    }
  }

  private fallback(): Expression {
    let value = this.filtered();
    while (this.takes('??')) {
      const otherwise = this.filtered();
      value = { kind: 'fallback', value, otherwise, span: around(value, otherwise) };
    }
    return value;
  }

  private filtered(): Expression {
    let value = this.operand();
    while (this.takes('|')) {
      const name = this.expectName('the name of a filter');
      const parameter = this.parameter();
      const second = parameter === null ? null : this.parameter();
      const end = (second ?? parameter)?.span.end ?? name.span.end;
      value = {
        kind: 'filter',
        value,
        name: name.text,
        parameter,
        ...(second === null ? {} : { second }),
        span: { start: value.span.start, end },
      };
    }
    return value;
  }

  private parameter(): Expression | null {
    const { kind } = this.peek();
    return kind === 'text' || kind === 'number' ? this.operand() : null;
  }

  private operand(): Expression {
    const token = this.peek();
    this.#index += 1;
    if (token.kind === 'text') return { kind: 'text', value: unquote(token.text), span: token.span };
    if (token.kind === 'number') return { kind: 'number', written: token.text, span: token.span };
    if (token.kind === 'name') return this.path(token);
    if (token.kind === 'sign' && token.text === '(') {
      const inner = this.choice();
      this.expect(')');
      return inner;
    }
    this.#index -= 1;
    throw new Unreadable(
      token.kind === 'end' ? 'something is missing at its end' : `${describe(token)} is not expected here`,
      token.span,
    );
  }

  private path(first: Token): Expression {
    if (first.text === 'true' || first.text === 'false')
      return { kind: 'flag', value: first.text === 'true', span: first.span };
    const segments = [first.text];
    let end = first.span.end;
    while (this.takes('.')) {
      // What a loop knows of an item: `loan.#index`.
      const mark = this.takes('#') ? '#' : '';
      const name = this.peek();
      if (name.kind !== 'name' && name.kind !== 'number')
        throw new Unreadable('a name is missing after the dot', name.span);
      this.#index += 1;
      segments.push(mark + name.text);
      end = name.span.end;
    }
    return { kind: 'path', segments, span: { start: first.span.start, end } };
  }

  private startsOperand(ahead: number): boolean {
    const token = this.tokens[this.#index + ahead];
    return token !== undefined && (token.kind === 'name' || token.kind === 'text' || token.text === '(');
  }

  private takes(sign: string): boolean {
    const token = this.peek();
    if (token.kind !== 'sign' || token.text !== sign) return false;
    this.#index += 1;
    return true;
  }

  /** The minus of a number that stands behind an operand: `count -1` subtracts. */
  private takesSign(sign: string): boolean {
    const token = this.peek();
    if (sign !== '-' || token.kind !== 'number' || !token.text.startsWith(sign)) return false;
    this.tokens[this.#index] = { ...token, text: token.text.slice(sign.length) };
    return true;
  }

  private peekWord(word: string): boolean {
    const token = this.peek();
    return token.kind === 'name' && token.text === word;
  }

  private takesWord(word: string): boolean {
    if (!this.peekWord(word)) return false;
    this.#index += 1;
    return true;
  }

  private expect(sign: string): void {
    const token = this.peek();
    if (!this.takes(sign)) throw new Unreadable(`"${sign}" is missing here`, token.span);
  }

  private expectName(what: string): Token {
    const token = this.peek();
    if (token.kind !== 'name') throw new Unreadable(`${what} is missing here`, token.span);
    this.#index += 1;
    return token;
  }

  private peek(): Token {
    const token = this.tokens[this.#index] ?? this.tokens[this.tokens.length - 1];
    if (token === undefined) throw new Error('The expression has no tokens.');
    return token;
  }
}

function around(first: Expression, last: Expression): Span {
  return { start: first.span.start, end: last.span.end };
}

function describe(token: Token): string {
  if (token.kind === 'end') return 'the end';
  if (token.kind === 'broken' && /["'“”‘’]/.test(token.text)) return `the quote ${token.text} without its partner`;
  return token.kind === 'text' ? `the text ${token.text}` : `"${token.text}"`;
}

function unquote(text: string): string {
  return text.slice(1, -1).replace(/\\([\s\S])/g, '$1');
}

export type PathExpression = Extract<Expression, { kind: 'path' }>;

/** The expressions that an expression is made of, in order. */
export function partsOf(expression: Expression): readonly Expression[] {
  switch (expression.kind) {
    case 'path':
    case 'text':
    case 'number':
    case 'flag':
      return [];
    case 'fallback':
      return [expression.value, expression.otherwise];
    case 'filter':
      return [expression.value, expression.parameter, expression.second].flatMap((part) => part ?? []);
    case 'not':
    case 'exists':
      return [expression.value];
    case 'conditional':
      return [expression.condition, expression.yes, expression.no];
    case 'comparison':
    case 'arithmetic':
    case 'and':
    case 'or':
      return [expression.left, expression.right];
  }
}

/** All paths that an expression reads. */
export function pathsIn(expression: Expression): PathExpression[] {
  return expression.kind === 'path' ? [expression] : partsOf(expression).flatMap(pathsIn);
}
