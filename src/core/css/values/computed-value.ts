import { properties } from './properties.js';
import { formatPixels, pixelsIn, readQuantity, type Quantity } from './value.js';

/** What a property comes to for an element: the text of it, and what number it is, which is read once. */
export interface ComputedValue {
  readonly text: string;
  /** A number, a share or a length with its unit; null for keywords, lists and functions. */
  readonly quantity: Quantity | null;
  /** A length in px; null for all else. */
  readonly pixels: number | null;
  /** True for an alignment that an old attribute asks for: it holds for the blocks in an element, too, and ends at tables. */
  readonly alignsBlocks?: boolean;
}

/** The same few values stand on many elements; a bound keeps memory bounded. */
const MOST_KEPT = 20_000;
const known = new Map<string, ComputedValue>();

/** A computed value from its text, or from a length in px. */
export function computedValue(value: string | number): ComputedValue {
  const text = typeof value === 'number' ? formatPixels(value) : value;
  const before = known.get(text);
  if (before !== undefined) return before;
  const quantity = readQuantity(text);
  const computed = { text, quantity, pixels: quantity === null ? null : pixelsIn(quantity) };
  if (known.size > MOST_KEPT) known.clear();
  known.set(text, computed);
  return computed;
}

/** Computed values by property, from what each comes to. */
export function computedValues(values: Iterable<readonly [string, string | number]>): Map<string, ComputedValue> {
  return new Map(Array.from(values, ([property, value]) => [property, computedValue(value)]));
}

/** What each property comes to where nobody says anything of it. */
const initialValues: ReadonlyMap<string, ComputedValue> = computedValues(
  Array.from(properties, ([property, { initial }]) => [property, initial] as const),
);

const nothing = computedValue('');

/** The initial value of a property; the empty value for one that layouts do not know. */
export function initialValue(property: string): ComputedValue {
  return initialValues.get(property) ?? nothing;
}
