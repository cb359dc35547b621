import type { Declared } from './cascade.js';
import { computeFontSize, initialFontSize } from './font-size.js';
import { memoryOf, type ComputedElement, type ComputedFrom } from './computed-memory.js';
import { ComputedStyle, TakenValues } from './computed-style.js';
import type { ElementIndex, IndexedElement } from '../selectors/element-index.js';
import { computedValue, computedValues, initialValue, type ComputedValue } from '../values/computed-value.js';
import { properties, sides } from '../values/properties.js';
import { physicalNames } from '../values/logical.js';
import { expandShorthand, type Longhand } from '../values/shorthands.js';
import { isMath, mathNumber, mathPixels, printMath, readMath } from '../values/math.js';
import { formatNumber, formatPixels, readQuantity, splitValue, toPixels, type LengthContext } from '../values/value.js';
import { judgeForCascade, judgeValue } from '../values/validity.js';
import { readColor, withPlainColors, type ColorContext } from '../values/mixed-color.js';
import {
  declaredVariables,
  Inherited,
  resolveOwnVariables,
  substituteVariables,
  type VariableValues,
} from '../values/variables.js';

/** Begins a template tag in a value of the tree (see html/tags.ts). */
const SENTINEL_MARK = '\uFDD0';

/** What each element's declarations come to under one set of conditions. */
export interface ComputedStyles {
  /** By the order number of the element. */
  readonly styles: readonly ComputedStyle[];
  /** Uses of custom properties that have no value. */
  readonly unresolved: readonly Declared[];
}

/** Where styles are shown. */
export interface Environment {
  /** The width of the window in px, for lengths that follow it. */
  readonly viewportWidth?: number;
  /** The colour scheme that the reader prefers. */
  readonly scheme?: ColorContext['scheme'];
}

/**
 * Computes the styles of all elements (CSS Cascading Level 5, 4.4), parents first.
 * @param declared for each element what applies to it, weakest first
 */
export function computeStyles(
  index: ElementIndex,
  declared: (element: IndexedElement) => readonly Declared[],
  { viewportWidth, scheme = 'light' }: Environment = {},
): ComputedStyles {
  const memory = memoryOf(index);
  const results: ComputedElement[] = [];
  const styles: ComputedStyle[] = [];
  const takenAbove: TakenValues[] = [];
  const unresolved: Declared[] = [];
  let rootFontSize = 16;
  for (const element of index.elements) {
    const above = element.parent?.order ?? -1;
    const parent = results[above] ?? null;
    const from = { declared: declared(element), parent, rootFontSize, viewportWidth, scheme };
    const computed = memory.recall(element.order, from, () => computeElement(from));
    if (element.parent === null) rootFontSize = computed.font.pixels;
    const taken = new TakenValues(takenAbove[above] ?? null, computed.authored);
    results.push(computed);
    takenAbove.push(taken);
    styles.push(new ComputedStyle(computed.own, computed.inherited, computed.authored, taken));
    unresolved.push(...computed.unresolved);
  }
  return { styles, unresolved };
}

const noValues: ReadonlyMap<string, ComputedValue> = new Map();

function computeElement({ declared, parent, ...from }: ComputedFrom): ComputedElement {
  const { viewportWidth, scheme } = from;
  const inheritedAbove = parent?.inherited ?? noValues;
  const variables = ownVariables(declared, parent?.variables ?? noVariables);
  const valuesAbove = (property: string): string =>
    (parent?.own.get(property) ?? inheritedAbove.get(property) ?? initialValue(property)).text;
  const { specified, authored, unresolved } = specifiedValues(declared, variables, valuesAbove);
  const above = parent?.font ?? initialFontSize;
  const window = viewportWidth === undefined ? {} : { viewportWidth };
  const family = specified.get('font-family') ?? valuesAbove('font-family');
  const font = computeFontSize(specified.get('font-size') ?? null, family, above, {
    fontSize: above.pixels,
    rootFontSize: from.rootFontSize,
    ...window,
  });
  const fontSize = font.pixels;
  const rootFontSize = parent === null ? fontSize : from.rootFontSize;
  const absolutes = absolute(specified, { fontSize, rootFontSize, ...window }, valuesAbove('font-weight'));
  settleColors(absolutes, (property) => inheritedAbove.get(property)?.text, scheme);
  if (specified.has('font-size') || fontSize !== above.pixels) absolutes.set('font-size', formatPixels(fontSize));
  if (/flex|grid/.test(valuesAbove('display'))) absolutes.set('display', blockified(absolutes.get('display')));
  const followsWindow = [...specified.values()].some((value) => windowUnit.test(value));
  const own = computedValues(absolutes);
  settleAlignment(own, inheritedAbove.get('text-align'));
  const inherited = inheritedFrom(inheritedAbove, own);
  return { own, inherited, variables, authored, unresolved, font, followsWindow };
}

/**
 * What `align` and `center` do: they align the text of an element and the blocks in it that are narrower, but not what stands in
 * tables in it (HTML standard, 15.3.3; browsers say `-webkit-center`).
 */
function settleAlignment(own: Map<string, ComputedValue>, above: ComputedValue | undefined): void {
  const align = own.get('text-align');
  const legacy = /^-webkit-(left|center|right)$/.exec(align?.text ?? '')?.[1];
  if (legacy !== undefined) own.set('text-align', { ...computedValue(legacy), alignsBlocks: true });
  // What is said around a cell of a heading holds for it as well (HTML standard, 15.3.8).
  if (align?.text === '-internal-center') {
    if ((above?.text ?? 'start') === 'start') own.set('text-align', computedValue('center'));
    else own.delete('text-align');
  }
  if (above?.alignsBlocks !== true) return;
  const display = own.get('display')?.text ?? 'inline';
  if (display === 'table' && align === undefined) own.set('text-align', initialValue('text-align'));
  const isNarrow = display === 'table' || ['width', 'max-width'].some((name) => /\d/.test(own.get(name)?.text ?? ''));
  const isFree = ['margin-left', 'margin-right'].every((side) => (own.get(side)?.text ?? '0px') === '0px');
  if (!isNarrow || !isFree || !/^(?:block|table|flex|grid|flow-root|list-item)$/.test(display)) return;
  if (above.text !== 'left') own.set('margin-left', computedValue('auto'));
  if (above.text === 'center') own.set('margin-right', computedValue('auto'));
}

/** A length that follows the window (CSS Values 4, 6.1.2), wherever it stands in a value. */
const windowUnit = /\d[sld]?v(?:w|h|i|b|min|max)\b/i;

/** What an item of a flex or grid container displays as (CSS Display 3, 2.7). */
function blockified(display = 'inline'): string {
  if (/^inline(?:-block)?$/.test(display)) return 'block';
  return display.replace(/^inline-/, '');
}

const noVariables = new Inherited<string>(null, new Map());

function ownVariables(sorted: readonly Declared[], above: Inherited<string>): Inherited<string> {
  const custom = sorted
    .map(({ declaration }) => declaration)
    .filter(({ property }) => property.startsWith('--') && !properties.has(property));
  return resolveOwnVariables(above, declaredVariables(custom));
}

interface Specified {
  readonly specified: Map<string, string>;
  readonly authored: ReadonlyMap<string, Declared>;
  readonly unresolved: readonly Declared[];
}

/** The value of a property of the parent; at the root the initial one. */
type ValuesAbove = (property: string) => string;

function specifiedValues(sorted: readonly Declared[], variables: VariableValues, above: ValuesAbove): Specified {
  const unresolved: Declared[] = [];
  const specified = new Map<string, string>();
  const authored = new Map<string, Declared>();
  const fromBrowser = new Map<string, string>();
  const direction = directionOf(sorted, above);
  for (const item of strongest(sorted)) {
    const { property } = item.declaration;
    let { value } = item.declaration;
    if (value.includes('var(')) {
      const substituted = substituteVariables(value, variables);
      if (substituted === null) unresolved.push(item);
      value = substituted ?? 'unset';
    }
    // The browser's own are valid.
    if (item.origin !== 'browser' && judgeValue(property, value, value.includes(SENTINEL_MARK)) === 'invalid') continue;
    for (const [longhand, part] of physicalLonghands(property, value, direction)) {
      if (!properties.has(longhand)) continue;
      setSpecified(specified, longhand, part, above, fromBrowser);
      if (item.origin === 'browser') fromBrowser.set(longhand, part);
      else authored.set(longhand, item);
    }
  }
  return { specified, authored, unresolved };
}

/** Of many declarations of one property the last few: what is valid among them hides all before. */
const MOST_ALIKE = 8;

/**
 * Leaves out what a stronger declaration of the same property hides for certain, so that hundreds of conditions on a
 * property do not cost as many evaluations in each state.
 */
function strongest(sorted: readonly Declared[]): readonly Declared[] {
  if (sorted.length <= MOST_ALIKE) return sorted;
  const hiding = new Set<string>();
  const kept: Declared[] = [];
  for (let index = sorted.length - 1; index >= 0; index -= 1) {
    const item = sorted[index];
    if (item === undefined) break;
    const { property, value } = item.declaration;
    if (item.origin !== 'browser' && hiding.has(property)) continue;
    kept.push(item);
    if (!property.startsWith('--') && isPlain(property, value)) hiding.add(property);
  }
  return kept.reverse();
}

/** A value that every browser takes, and that does not ask what is below it. */
function isPlain(property: string, value: string): boolean {
  return !value.includes('var(') && !/^revert/i.test(value) && judgeForCascade(property, value) === 'valid';
}

/** The writing direction has to be known before flow-relative properties can be. */
function directionOf(sorted: readonly Declared[], above: ValuesAbove): string {
  const last = sorted.findLast(({ declaration }) =>
    /^(?:ltr|rtl|initial|inherit|unset)$/i.test(declaration.property === 'direction' ? declaration.value : ''),
  );
  const value = last?.declaration.value.toLowerCase() ?? 'inherit';
  return value === 'rtl' || value === 'ltr' ? value : value === 'initial' ? 'ltr' : above('direction');
}

function physicalLonghands(property: string, value: string, direction: string): readonly Longhand[] {
  const names = physicalNames(property, direction);
  if (/^overflow(?:-[xy])?$/.test(property)) return overflowLonghand(value);
  if (names === null) return expandShorthand(property, value);
  const parts = names.length === 2 && !property.startsWith('border') ? splitValue(value) : [value];
  return names.flatMap((name, index) => expandShorthand(name, parts[index] ?? parts[0] ?? value));
}

/** What overflows in one direction is cut off, or scrolls, in both (CSS Overflow 3, 3.1). */
function overflowLonghand(value: string): readonly Longhand[] {
  const parts = splitValue(value);
  const strongest = ['scroll', 'auto', 'hidden', 'clip'].find((keyword) => parts.includes(keyword));
  return [['overflow', strongest ?? parts[0] ?? value]];
}

function setSpecified(
  specified: Map<string, string>,
  longhand: string,
  value: string,
  above: ValuesAbove,
  fromBrowser: ReadonlyMap<string, string>,
): void {
  const property = properties.get(longhand);
  const keyword = value.toLowerCase();
  const initial = property?.initial ?? '';
  if (keyword === 'inherit') specified.set(longhand, above(longhand));
  else if (keyword === 'initial') specified.set(longhand, initial);
  else if (keyword === 'revert' || keyword === 'revert-layer') restore(specified, longhand, fromBrowser.get(longhand));
  else if (keyword === 'unset') restore(specified, longhand, property?.inherited === true ? undefined : initial);
  else specified.set(longhand, normalized(longhand, value));
}

function restore(specified: Map<string, string>, longhand: string, value: string | undefined): void {
  if (value === undefined) specified.delete(longhand);
  else specified.set(longhand, value);
}

const freeForm = new Set([
  'font-family',
  'background-image',
  'list-style-image',
  'animation',
  'content',
  'quotes',
  'counter-reset',
  'counter-increment',
  'counter-set',
]);

function normalized(longhand: string, value: string): string {
  return freeForm.has(longhand) ? value : value.toLowerCase();
}

const borderLines = sides.map((side) => [`border-${side}-style`, `border-${side}-width`] as const);

/** Computed values; a line that is not drawn has no width (CSS Backgrounds 3, 3.3). */
function absolute(
  specified: ReadonlyMap<string, string>,
  sizes: LengthContext,
  weightAbove: string,
): Map<string, string> {
  const own = new Map<string, string>();
  for (const [property, value] of specified) own.set(property, absoluteValue(property, value, sizes, weightAbove));
  for (const [style, width] of borderLines) {
    const line = own.get(style) ?? 'none';
    if (line !== 'none' && line !== 'hidden') own.set(width, own.get(width) ?? '3px');
    else if (own.has(width)) own.set(width, '0px');
  }
  return own;
}

function absoluteValue(property: string, value: string, sizes: LengthContext, weightAbove: string): string {
  switch (property) {
    case 'line-height':
      return computedLineHeight(value, sizes);
    case 'font-weight':
      return computedWeight(value, weightAbove);
    case 'font-family':
    case 'background-image':
    case 'animation':
    case 'flex-grow':
    case 'flex-shrink':
    case 'order':
    case 'content':
    case 'quotes':
      return value;
    case 'opacity':
      return computedOpacity(value);
    case 'grid-template-columns':
      return value.replace(lengthToken, (length) => toPixels(length, sizes));
    default:
      return /^border-\w+-width$/.test(property) ? borderWidth(value, sizes) : lengthsToPixels(value, sizes);
  }
}

const colorful = /^(?:color|background-color|background-image|border-\w+-color|box-shadow|text-shadow)$/;

/** Brings colours to notations that every engine reads; text of a dark scheme is white unless it says otherwise. */
function settleColors(
  own: Map<string, string>,
  inherited: (property: string) => string | undefined,
  preferred: 'light' | 'dark',
): void {
  const asked = own.get('color-scheme') ?? inherited('color-scheme') ?? 'normal';
  const scheme = /\bdark\b/.test(asked) && (preferred === 'dark' || !/\blight\b/.test(asked)) ? 'dark' : 'light';
  if (scheme === 'dark' && !own.has('color') && inherited('color') === undefined) own.set('color', '#ffffff');
  const inheritedColor = inherited('color') ?? '#000000';
  const contextOf = (current: string): ColorContext => ({ current: readColor(current), scheme });
  const color = own.get('color');
  if (color !== undefined && color.includes('(')) own.set('color', withPlainColors(color, contextOf(inheritedColor)));
  for (const [property, value] of own)
    if (property !== 'color' && value.includes('(') && colorful.test(property))
      own.set(property, withPlainColors(value, contextOf(own.get('color') ?? inheritedColor)));
}

/** A length wherever it stands in a value, within functions too. */
const lengthToken = /(?<![\w.#-])(?:\d+\.?\d*|\.\d+)[a-z]+\b/gi;

function computedOpacity(value: string): string {
  const quantity = readQuantity(value);
  if (quantity === null) return value;
  const number = quantity.unit === '%' ? quantity.number / 100 : quantity.number;
  return formatNumber(Math.min(1, Math.max(0, number)));
}

function borderWidth(value: string, sizes: LengthContext): string {
  const byKeyword = { thin: '1px', medium: '3px', thick: '5px' }[value];
  return byKeyword ?? lengthsToPixels(value, sizes);
}

function lengthsToPixels(value: string, sizes: LengthContext): string {
  if (!/\d/.test(value)) return value;
  if (!value.includes('('))
    return value
      .split(' ')
      .map((part) => toPixels(part, sizes))
      .join(' ');
  return splitValue(value)
    .map((part) => {
      const length = isMath(part) ? readMath(part, sizes) : null;
      return length === null ? toPixels(part, sizes) : printMath(length);
    })
    .join(' ');
}

/** A number stays a number, as it inherits as one (CSS Inline Layout 3, 4.3). */
function computedLineHeight(value: string, sizes: LengthContext): string {
  const number = isMath(value) ? mathNumber(value, sizes) : null;
  if (number !== null) return formatNumber(number);
  const length = isMath(value) ? readMath(value, sizes) : null;
  if (length !== null) return formatPixels(mathPixels(length, sizes.fontSize));
  const quantity = readQuantity(value);
  if (quantity === null || quantity.unit === '') return value;
  if (quantity.unit === '%') return formatPixels((quantity.number * sizes.fontSize) / 100);
  return toPixels(value, sizes);
}

function computedWeight(value: string, parent: string): string {
  const weight = Number(parent);
  if (value === 'normal') return '400';
  if (value === 'bold') return '700';
  if (value === 'bolder') return weight < 350 ? '400' : weight < 550 ? '700' : '900';
  if (value === 'lighter') return weight < 550 ? '100' : weight < 750 ? '400' : '700';
  return value;
}

function inheritedFrom(
  parent: ReadonlyMap<string, ComputedValue>,
  own: ReadonlyMap<string, ComputedValue>,
): ReadonlyMap<string, ComputedValue> {
  let inherited: Map<string, ComputedValue> | null = null;
  for (const [property, value] of own)
    if (properties.get(property)?.inherited === true) (inherited ??= new Map(parent)).set(property, value);
  return inherited ?? parent;
}
