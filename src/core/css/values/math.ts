import { formatNumber, pixelsWithin, readQuantity, toPixels, type LengthContext } from './value.js';

/**
 * What a math function comes to (CSS Values and Units 4, 10): px and a share of what percentages refer to, or the least or
 * greatest of several of those.
 */
export type MathLength =
  | { readonly kind: 'sum'; readonly pixels: number; readonly percent: number }
  | { readonly kind: 'least' | 'greatest'; readonly of: readonly MathLength[] };

/** A number without a unit, or a length. */
type Operand = { readonly kind: 'number'; readonly number: number } | MathLength;

const mathFunction = /^(calc|min|max|clamp)\(/i;

/** Whether a value is one math function. */
export function isMath(value: string): boolean {
  return mathFunction.test(value);
}

/** Reads a math function or a plain length; null for what is neither, or cannot be known (`ch`, `vh`). */
export function readMath(value: string, context: LengthContext): MathLength | null {
  const reader = new MathReader(value, context);
  const read = reader.operand();
  return read === null || read.kind === 'number' || !reader.isDone() ? null : read;
}

/** A math function as a number without a unit; null for anything else. */
export function mathNumber(value: string, context: LengthContext): number | null {
  const reader = new MathReader(value, context);
  const read = reader.operand();
  return read?.kind === 'number' && reader.isDone() ? read.number : null;
}

/** The length in px where percentages are of `whole`. */
export function mathPixels(length: MathLength, whole: number): number {
  if (length.kind === 'sum') return length.pixels + (length.percent * whole) / 100;
  const values = length.of.map((one) => mathPixels(one, whole));
  return length.kind === 'least' ? Math.min(...values) : Math.max(...values);
}

/** Computed lengths are px and percentages: nothing in them refers to a font any more. */
export const plainLengths: LengthContext = { fontSize: 16, rootFontSize: 16 };

/** A computed length, a share of `whole` or a math function of both, in px; null for anything else, such as `auto`. */
export function pixelsWithinMath(value: string, whole: number): number | null {
  const text = value.trim();
  const length = isMath(text) ? readMath(text, plainLengths) : null;
  return length === null ? pixelsWithin(text, whole) : mathPixels(length, whole);
}

/** A computed length or share, with so many px added; what is neither, such as `auto`, stays as it is. */
export function withPixels(value: string, added: number): string {
  const length = readMath(value.trim(), plainLengths);
  return length?.kind === 'sum' ? printMath({ ...length, pixels: length.pixels + added }) : value;
}

/** How much of the whole is in a computed length, in percent. */
export function shareIn(value: string): number {
  const length = readMath(value.trim(), plainLengths);
  return length?.kind === 'sum' ? length.percent : 0;
}

/** A length as short as it can be said: `12px`, `50%`, `calc(50% - 12px)`, `min(100%, 400px)`. */
export function printMath(length: MathLength): string {
  if (length.kind !== 'sum')
    return `${length.kind === 'least' ? 'min' : 'max'}(${length.of.map(printMath).join(', ')})`;
  const { pixels, percent } = length;
  if (percent === 0) return `${formatNumber(pixels)}px`;
  if (pixels === 0) return `${formatNumber(percent, 6)}%`;
  return `calc(${formatNumber(percent, 6)}% ${pixels < 0 ? '-' : '+'} ${formatNumber(Math.abs(pixels))}px)`;
}

const tokens = /\s+|[-+]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?(?:[a-z]+|%)?|[a-z-]+\(|[()*/,+-]|./giy;

/** Reads an expression by its grammar: sums of products of values (CSS Values and Units 4, 10.1). */
class MathReader {
  readonly #tokens: readonly string[];
  #next = 0;

  constructor(
    text: string,
    private readonly context: LengthContext,
  ) {
    this.#tokens = text.trim().match(tokens) ?? [];
  }

  isDone(): boolean {
    this.skipSpace();
    return this.#next >= this.#tokens.length;
  }

  /** A value, a function or a sum in parentheses. */
  operand(): Operand | null {
    this.skipSpace();
    const token = this.take();
    if (token === '(' || /^calc\($/i.test(token)) return this.closed(this.sum());
    if (/^(?:min|max|clamp)\($/i.test(token)) return this.choice(token.slice(0, -1).toLowerCase());
    const quantity = readQuantity(token);
    if (quantity === null) return null;
    if (quantity.unit === '') return { kind: 'number', number: quantity.number };
    if (quantity.unit === '%') return { kind: 'sum', pixels: 0, percent: quantity.number };
    const pixels = readQuantity(toPixels(token, this.context));
    return pixels?.unit === 'px' ? { kind: 'sum', pixels: pixels.number, percent: 0 } : null;
  }

  private closed(read: Operand | null): Operand | null {
    this.skipSpace();
    return this.take() === ')' ? read : null;
  }

  private sum(): Operand | null {
    let left = this.product();
    for (;;) {
      this.skipSpace();
      const sign = /^[-+]/.exec(this.peek())?.[0];
      if (left === null || sign === undefined) return left;
      // A sign that is glued to its number ("1px -2px") is no operator.
      if (this.peek() !== sign) return null;
      this.take();
      const right = this.product();
      left = right === null ? null : added(left, scaled(right, sign === '+' ? 1 : -1));
    }
  }

  private product(): Operand | null {
    let left = this.operand();
    for (;;) {
      this.skipSpace();
      const operator = this.peek();
      if (left === null || (operator !== '*' && operator !== '/')) return left;
      this.take();
      const right = this.operand();
      if (right === null) return null;
      if (operator === '/')
        left = right.kind === 'number' && right.number !== 0 ? scaled(left, 1 / right.number) : null;
      else if (right.kind === 'number') left = scaled(left, right.number);
      else left = left.kind === 'number' ? scaled(right, left.number) : null;
    }
  }

  private choice(name: string): Operand | null {
    const values: Operand[] = [];
    for (;;) {
      const value = this.sum();
      if (value === null) return null;
      values.push(value);
      this.skipSpace();
      const token = this.take();
      if (token === ')') break;
      if (token !== ',') return null;
    }
    if (name !== 'clamp') return chosen(name === 'min' ? 'least' : 'greatest', values);
    const [least, wanted, most] = values;
    if (least === undefined || wanted === undefined || most === undefined || values.length !== 3) return null;
    const bounded = chosen('least', [wanted, most]);
    return bounded === null ? null : chosen('greatest', [least, bounded]);
  }

  private skipSpace(): void {
    while (/^\s/.test(this.peek())) this.#next += 1;
  }

  private peek(): string {
    return this.#tokens[this.#next] ?? '';
  }

  private take(): string {
    const token = this.peek();
    this.#next += 1;
    return token;
  }
}

function added(left: Operand, right: Operand): Operand | null {
  if (left.kind === 'number' && right.kind === 'number') return { kind: 'number', number: left.number + right.number };
  if (left.kind === 'sum' && right.kind === 'sum')
    return { kind: 'sum', pixels: left.pixels + right.pixels, percent: left.percent + right.percent };
  // A length that is added to the least of several is added to each of them.
  const [choice, other] = left.kind === 'least' || left.kind === 'greatest' ? [left, right] : [right, left];
  if (choice.kind !== 'least' && choice.kind !== 'greatest') return null;
  const parts = choice.of.map((one) => added(one, other));
  return parts.some((one) => one === null) ? null : chosen(choice.kind, parts as Operand[]);
}

function scaled(value: Operand, factor: number): Operand {
  if (value.kind === 'number') return { kind: 'number', number: value.number * factor };
  if (value.kind === 'sum') return { kind: 'sum', pixels: value.pixels * factor, percent: value.percent * factor };
  const kind = factor < 0 ? (value.kind === 'least' ? 'greatest' : 'least') : value.kind;
  return { kind, of: value.of.map((one) => scaled(one, factor) as MathLength) };
}

/** The least or greatest of values; one value where it is known which. */
function chosen(kind: 'least' | 'greatest', values: readonly Operand[]): Operand | null {
  const pick = kind === 'least' ? Math.min : Math.max;
  const numbers = values.flatMap((value) => (value.kind === 'number' ? [value.number] : []));
  if (numbers.length > 0) return numbers.length === values.length ? { kind: 'number', number: pick(...numbers) } : null;
  const flat = values.flatMap((value): MathLength[] =>
    value.kind === 'number' ? [] : value.kind === kind ? [...value.of] : [value],
  );
  // Lengths that differ by px alone are compared now.
  const byPercent = new Map<number, number>();
  const rest: MathLength[] = [];
  for (const value of flat) {
    if (value.kind !== 'sum') rest.push(value);
    else byPercent.set(value.percent, pick(byPercent.get(value.percent) ?? value.pixels, value.pixels));
  }
  const sums = [...byPercent].map(([percent, pixels]): MathLength => ({ kind: 'sum', pixels, percent }));
  const [only, ...others] = [...rest, ...sums];
  return only !== undefined && others.length === 0 ? only : { kind, of: [...rest, ...sums] };
}
