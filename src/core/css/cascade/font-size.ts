import { isMath, mathPixels, readMath } from '../values/math.js';
import { readQuantity, toPixels, type LengthContext } from '../values/value.js';

/** The size of an element's font, and how it came to it. */
export interface FontSize {
  readonly pixels: number;
  /** The keyword that said it, here or above. */
  readonly keyword: string | null;
  /** Whether a length said it, here or above, that depends on no other font. */
  readonly isAbsolute: boolean;
  readonly isMonospace: boolean;
}

/** What a document begins with. */
export const initialFontSize: FontSize = { pixels: 16, keyword: 'medium', isAbsolute: false, isMonospace: false };

/** Font sizes by keyword (CSS Fonts Level 4, 2.5): with a medium of 16px, and of 13px, which browsers have for `monospace`. */
const keywords: ReadonlyMap<string, readonly [proportional: number, monospace: number]> = new Map([
  ['xx-small', [9, 9]],
  ['x-small', [10, 10]],
  ['small', [13, 12]],
  ['medium', [16, 13]],
  ['large', [18, 16]],
  ['x-large', [24, 20]],
  ['xx-large', [32, 26]],
  ['xxx-large', [48, 39]],
]);

/** By so much text in `monospace` is smaller than other text, where no length says how large it is. */
const MONOSPACE_SHARE = 13 / 16;

/**
 * The size of a font (CSS Fonts Level 4, 2.5). Where the family becomes `monospace`, that one name alone, or is it no longer,
 * and nothing but shares of other sizes say how large it is, browsers make it smaller, or larger again.
 * @param value null where it inherits
 */
export function computeFontSize(
  value: string | null,
  family: string,
  parent: FontSize,
  sizes: LengthContext,
): FontSize {
  const isMonospace = family.trim().toLowerCase() === 'monospace';
  const said = value === null ? parent : saidSize(value, parent, sizes);
  const byKeyword = said.keyword === null ? undefined : keywords.get(said.keyword);
  if (byKeyword !== undefined) return { ...said, pixels: byKeyword[isMonospace ? 1 : 0], isMonospace };
  if (said.isAbsolute || isMonospace === parent.isMonospace) return { ...said, isMonospace };
  const share = isMonospace ? MONOSPACE_SHARE : 1 / MONOSPACE_SHARE;
  return { ...said, pixels: said.pixels * share, isMonospace };
}

function saidSize(value: string, parent: FontSize, sizes: LengthContext): FontSize {
  if (keywords.has(value)) return { ...parent, keyword: value, isAbsolute: false };
  const { pixels } = parent;
  const relative = { ...parent, keyword: null };
  if (value === 'smaller') return { ...relative, pixels: pixels / 1.2 };
  if (value === 'larger') return { ...relative, pixels: pixels * 1.2 };
  // What is computed, and what counts from the root, browsers take for a length that says how large it is.
  const isAbsolute = parent.isAbsolute || isMath(value) || !/%|[\d.](?:em|ex|ch|ic|lh|cap)\b/.test(value);
  return { ...relative, isAbsolute, pixels: lengthOf(value, pixels, sizes) };
}

function lengthOf(value: string, parent: number, sizes: LengthContext): number {
  const quantity = readQuantity(value);
  if (quantity?.unit === '%') return (parent * quantity.number) / 100;
  const length = isMath(value) ? readMath(value, { ...sizes, fontSize: parent }) : null;
  if (length !== null) return mathPixels(length, parent);
  return readQuantity(toPixels(value, { ...sizes, fontSize: parent }))?.number ?? parent;
}
