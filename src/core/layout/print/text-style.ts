import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { properties, textProperties } from '../../css/values/properties.js';
import { formatNumber, formatPixels, pixelsOf } from '../../css/values/value.js';
import type { Style } from './output.js';

/** The text properties of an emitted element in one state, all of them, resolved. */
export type TextStyle = ReadonlyMap<string, string>;

/** Resolves what text looks like: line heights become px, so that no engine resolves them its own way. */
export function textStyleOf(style: ComputedStyle): TextStyle {
  return new Map(textProperties.map((property) => [property, resolved(property, style)]));
}

function resolved(property: string, style: ComputedStyle): string {
  const value = style.take(property);
  if (property === 'line-height') {
    const pixels = lineHeightOf(style);
    return pixels === null ? 'normal' : formatPixels(pixels);
  }
  if (property === 'text-align') return physicalAlign(value, style.take('direction'));
  return value;
}

/** The line height in px; null for `normal`, which depends on the font. */
export function lineHeightOf(style: ComputedStyle): number | null {
  const { quantity } = style.takeValue('line-height');
  if (quantity === null) return null;
  const size = style.takePixels('font-size') ?? 16;
  return quantity.unit === '' ? quantity.number * size : quantity.number;
}

/** `start` and `end` as sides. */
export function physicalAlign(value: string, direction: string): string {
  if (value === 'start') return direction === 'rtl' ? 'right' : 'left';
  if (value === 'end') return direction === 'rtl' ? 'left' : 'right';
  return value;
}

/** What a cell must state: the fonts and colours always, the rest where it is not what a browser begins with. */
export function fullText(text: TextStyle): Style {
  return new Map([...text].filter(([property, value]) => alwaysStated.has(property) || !isInitial(property, value)));
}

const alwaysStated = new Set(['font-family', 'font-size', 'line-height', 'color']);

function isInitial(property: string, value: string): boolean {
  if (property === 'text-align') return value === 'left';
  return value === properties.get(property)?.initial;
}

/** What browsers do to text in an element by its tag alone; `*` stands for a value that is not relied on. */
const impliedByTag: ReadonlyMap<string, readonly (readonly [string, string])[]> = new Map([
  ...['b', 'strong'].map((tag): [string, [string, string][]] => [tag, [['font-weight', '700']]]),
  ...['em', 'i', 'cite', 'dfn', 'var', 'address'].map((tag): [string, [string, string][]] => [
    tag,
    [['font-style', 'italic']],
  ]),
  ...['h1', 'h2', 'h3', 'h4', 'h5', 'h6'].map((tag): [string, [string, string][]] => [
    tag,
    [
      ['font-size', '*'],
      ['font-weight', '*'],
      ['line-height', '*'],
    ],
  ]),
  ...['small', 'big', 'sub', 'sup'].map((tag): [string, [string, string][]] => [tag, [['font-size', '*']]]),
  ...['code', 'kbd', 'samp', 'tt', 'pre'].map((tag): [string, [string, string][]] => [
    tag,
    [
      ['font-family', '*'],
      ['font-size', '*'],
    ],
  ]),
  [
    'th',
    [
      ['font-weight', '700'],
      ['text-align', 'center'],
    ],
  ],
  ['caption', [['text-align', 'center']]],
  ['a', [['color', '*']]],
]);

/**
 * What an element must state so that its text looks as wanted: what differs, in any state, from what it gets from the
 * emitted element around it and from its own tag.
 */
export function textDifference(tag: string, wanted: readonly TextStyle[], around: readonly TextStyle[]): Style[] {
  const implied = new Map(impliedByTag.get(tag) ?? []);
  const stated = textProperties.filter((property) =>
    wanted.some((text, state) => text.get(property) !== (implied.get(property) ?? around[state]?.get(property))),
  );
  return wanted.map((text) => new Map(stated.map((property) => [property, text.get(property) ?? ''])));
}

/** A text value as it is written: as short as can be. */
export function formatTextValue(property: string, value: string): string {
  if (property === 'font-family') return value.replace(/\s*,\s*/g, ',');
  if (property === 'font-weight') return value === '700' ? 'bold' : value === '400' ? 'normal' : value;
  if (property === 'font-size' || property === 'line-height') {
    const pixels = pixelsOf(value);
    return pixels === null ? value : pixels === 0 ? '0' : `${formatNumber(pixels, 2)}px`;
  }
  return value;
}
