/** Splits a value at white space (or another separator) that stands in no brackets and no string. */
export function splitValue(value: string, separator: ' ' | ',' | '/' = ' '): string[] {
  const parts: string[] = [];
  let depth = 0;
  let quote = '';
  let part = '';
  for (const character of value) {
    if (quote !== '') {
      if (character === quote) quote = '';
    } else if (character === '"' || character === "'") quote = character;
    else if (character === '(') depth += 1;
    else if (character === ')') depth -= 1;
    const separates =
      quote === '' && depth === 0 && (separator === ' ' ? /\s/.test(character) : character === separator);
    if (separates) {
      if (part !== '' || separator !== ' ') parts.push(part.trim());
      part = '';
    } else part += character;
  }
  if (part !== '' || (separator !== ' ' && parts.length > 0)) parts.push(part.trim());
  return parts;
}

/** A number with its unit, as written: `12px`, `1.5`, `50%`. The unit is lower case and empty for a plain number. */
export interface Quantity {
  readonly number: number;
  readonly unit: string;
}

/** Reads a number, a percentage or a dimension; null for anything else. */
export function readQuantity(value: string): Quantity | null {
  // Most values are words.
  if (/^[a-z#]/i.test(value)) return null;
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z]*|%)$/i.exec(value.trim());
  return match === null ? null : { number: Number(match[1]), unit: (match[2] ?? '').toLowerCase() };
}

/** The number of pixels of a `px` length or of a plain 0; null for anything else. */
export function pixelsOf(value: string): number | null {
  const quantity = readQuantity(value);
  return quantity === null ? null : pixelsIn(quantity);
}

/** The number of pixels of a quantity in `px` or a plain 0; null for any other. */
export function pixelsIn({ number, unit }: Quantity): number | null {
  return unit === 'px' || (unit === '' && number === 0) ? number : null;
}

/** CSS pixels of each absolute unit (CSS Values Level 4, 6.2). */
const absoluteUnits: ReadonlyMap<string, number> = new Map([
  ['px', 1],
  ['pt', 4 / 3],
  ['pc', 16],
  ['in', 96],
  ['cm', 96 / 2.54],
  ['mm', 96 / 25.4],
  ['q', 96 / 101.6],
]);

/** A length or a share in px, where shares are of `whole`; null for anything else, such as `auto`. */
export function pixelsWithin(value: string, whole: number): number | null {
  const quantity = readQuantity(value);
  if (quantity?.unit === '%') return (quantity.number * whole) / 100;
  return pixelsOf(value);
}

/** What relative lengths refer to. Sizes are in CSS pixels. */
export interface LengthContext {
  readonly fontSize: number;
  readonly rootFontSize: number;
  /** The width of the window; where it is not said, lengths that follow it stay as they are. */
  readonly viewportWidth?: number;
}

/**
 * Turns absolute and font-relative lengths into px (CSS Values 4, 6); percentages, keywords and what cannot be known
 * without a font or a viewport (`ex`, `vw`) are returned as they are.
 */
export function toPixels(value: string, context: LengthContext): string {
  const quantity = readQuantity(value);
  if (quantity === null) return value;
  const { number, unit } = quantity;
  if (unit === '') return number === 0 ? '0px' : value;
  const factor = pixelsPerUnit(unit, context);
  return factor === undefined ? value : formatPixels(number * factor);
}

function pixelsPerUnit(unit: string, { fontSize, rootFontSize, viewportWidth }: LengthContext): number | undefined {
  if (unit === 'em') return fontSize;
  if (unit === 'rem') return rootFontSize;
  if (/^[dsl]?v[wi]$/.test(unit) && viewportWidth !== undefined) return viewportWidth / 100;
  return absoluteUnits.get(unit);
}

/** `12px`, with at most four decimals and no trailing zeros. */
export function formatPixels(pixels: number): string {
  return `${formatNumber(pixels)}px`;
}

/** A number with at most `decimals` decimals and no trailing zeros. */
export function formatNumber(number: number, decimals = 4): string {
  const text = number.toFixed(decimals);
  const short = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return short === '-0' ? '0' : short;
}
