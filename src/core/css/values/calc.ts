import { formatNumber, readQuantity } from './value.js';

/**
 * Reduces `calc()` where all terms are of one unit (CSS Values Level 4, 10.10): `calc(10px + 2*3px)` is `16px`.
 * What mixes units, or holds another function, stays as it is.
 */
export function reduceCalc(value: string): string {
  if (!/calc\(/i.test(value)) return value;
  return value.replace(/(?<![\w-])calc\(([^()]*(?:\([^()]*\)[^()]*)*)\)/gi, (whole, inner: string) => {
    const terms = new Terms(inner);
    const result = sum(terms);
    return result === null || !terms.done ? whole : `${formatNumber(result.number, 6)}${result.unit}`;
  });
}

interface Term {
  readonly number: number;
  readonly unit: string;
}

class Terms {
  readonly #tokens: readonly string[];
  #index = 0;

  constructor(text: string) {
    this.#tokens =
      text.match(
        /(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?(?:[a-z]+|%)?|\s[+-]\s|[-+]?(?:\d+\.?\d*|\.\d+)(?:[a-z]+|%)?|[*/()]|\S/gi,
      ) ?? [];
  }

  peek(): string {
    return (this.#tokens[this.#index] ?? '').trim();
  }

  take(): string {
    const token = this.peek();
    this.#index += 1;
    return token;
  }

  get done(): boolean {
    return this.#index >= this.#tokens.length;
  }
}

function sum(terms: Terms): Term | null {
  let left = product(terms);
  while (left !== null && (terms.peek() === '+' || terms.peek() === '-')) {
    const sign = terms.take() === '+' ? 1 : -1;
    const right = product(terms);
    if (right === null || right.unit !== left.unit) return null;
    left = { number: left.number + sign * right.number, unit: left.unit };
  }
  return left;
}

function product(terms: Terms): Term | null {
  let left = operand(terms);
  while (left !== null && (terms.peek() === '*' || terms.peek() === '/')) {
    const operator = terms.take();
    const right = operand(terms);
    if (right === null) return null;
    if (operator === '/') {
      if (right.unit !== '' || right.number === 0) return null;
      left = { number: left.number / right.number, unit: left.unit };
    } else if (left.unit !== '' && right.unit !== '') return null;
    else left = { number: left.number * right.number, unit: left.unit || right.unit };
  }
  return left;
}

function operand(terms: Terms): Term | null {
  const token = terms.take();
  if (token === '(') {
    const inner = sum(terms);
    return terms.take() === ')' ? inner : null;
  }
  const quantity = readQuantity(token);
  return quantity === null ? null : { number: quantity.number, unit: quantity.unit };
}
