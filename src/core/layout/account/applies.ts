import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { properties, sides, textProperties } from '../../css/values/properties.js';
import { sideEdges } from '../boxes/box-style.js';
import { hasOwnHeight } from '../boxes/boxes.js';
import { isVisibleNode } from '../boxes/element-kinds.js';
import { kindsOf } from './kinds.js';
import { endsOf } from './matrix.js';

/** An element in one state: what it and what is around it come to. */
export interface ShownElement {
  readonly element: IndexedElement;
  readonly style: ComputedStyle;
  readonly around: ComputedStyle | null;
  /** The style of any element in this state. */
  readonly styleOf: (element: IndexedElement) => ComputedStyle | null;
}

/**
 * Whether what an author says of a property does something: it applies to a box of this kind, what it needs is there, and it
 * comes to another value than without it.
 */
export function hasEffect(property: string, shown: ShownElement): boolean {
  const { style, around, element } = shown;
  const known = properties.get(property);
  const without = known?.inherited === true ? around?.get(property) : known?.initial;
  if (style.get(property) === without) return false;
  if (known?.inherited === true) return isInherited(property, shown);
  const ends = endsOf(property);
  if (ends !== null && !kindsOf(element, style, around).some((kind) => !/without|left out/.test(ends[kind])))
    return false;
  return needs.get(property)?.(shown) ?? true;
}

/** Whether a property is about boxes of the kinds that an element is. */
export function appliesTo(
  property: string,
  element: IndexedElement,
  style: ComputedStyle,
  around: ComputedStyle | null,
): boolean {
  const ends = endsOf(property);
  return ends === null || kindsOf(element, style, around).some((kind) => ends[kind] !== 'without effect');
}

type Need = (shown: ShownElement) => boolean;

const isFlex = (style: ComputedStyle): boolean => /flex$/.test(style.get('display'));

const isRow = (style: ComputedStyle | null): boolean =>
  style !== null && isFlex(style) && style.get('flex-direction').startsWith('row');

const isColumn = (style: ComputedStyle): boolean => isFlex(style) && style.get('flex-direction').startsWith('column');

/** What a property needs beside a box of its kind, by its definition. */
const needs: ReadonlyMap<string, Need> = new Map<string, Need>([
  ...sides.flatMap((side) =>
    ['color', 'style'].map(
      (what) =>
        [`border-${side}-${what}`, ({ style }: ShownElement) => style.get(`border-${side}-width`) !== '0px'] as const,
    ),
  ),
  ...['background-position', 'background-size', 'background-repeat'].map(
    (name) => [name, ({ style }: ShownElement) => style.get('background-image') !== 'none'] as const,
  ),
  // Without a size or an edge nothing is measured.
  ['box-sizing', ({ style }) => sized.some((name) => !/^(?:auto|none|0px)$/.test(style.get(name))) && hasEdges(style)],
  ['flex-basis', ({ around }) => isRow(around)],
  ['flex-shrink', () => false],
  ['flex-grow', ({ around }) => isRow(around) || (around !== null && hasOwnHeight(around))],
  ['flex-direction', (shown) => isFlex(shown.style) && shownChildren(shown).length > 1],
  ['align-items', (shown) => shownChildren(shown).length > 0],
  ['width', (shown) => takesWidth(shown)],
  ['justify-self', ({ around }) => around === null || !isFlex(around)],
  ['clear', ({ element, styleOf }) => floatsBefore(element, styleOf)],
  ['vertical-align', ({ style }) => /^(?:inline|table-cell)/.test(style.get('display'))],
  ['align-content', ({ style }) => !isFlex(style) || (hasOwnHeight(style) && style.get('flex-wrap') !== 'nowrap')],
  ['float', ({ around }) => around === null || !/flex|grid/.test(around.get('display'))],
  ...['top', 'right', 'bottom', 'left'].map(
    (name) => [name, ({ style }: ShownElement) => style.get('position') !== 'static'] as const,
  ),
  ...['margin-top', 'margin-right', 'margin-bottom', 'margin-left'].map(
    (name) => [name, (shown: ShownElement) => isFreeMargin(name, shown)] as const,
  ),
  ['flex-wrap', (shown) => isRow(shown.style) && shownChildren(shown).length > 1],
  ['column-gap', (shown) => !isColumn(shown.style) && shownChildren(shown).length > 1],
  ['row-gap', (shown) => stacks(shown.style) && shownChildren(shown).length > 1],
  ['justify-content', (shown) => leavesRoom(shown)],
]);

/** A basis of its own stands in for the width of an item of a row; a block is as wide as what it stands in without saying so. */
function takesWidth({ style, around }: ShownElement): boolean {
  if (isRow(around) && style.get('flex-basis') !== 'auto') return false;
  const isBlock = /^(?:block|flow-root|list-item)$/.test(style.get('display'));
  const isWhole =
    style.get('width') === '100%' && isBlock && !isRow(around) && !/grid/.test(around?.get('display') ?? '');
  const fills = style.get('box-sizing') === 'border-box' || sideEdges(style) === 0;
  return !(isWhole && fills && ['margin-left', 'margin-right'].every((side) => style.get(side) === '0px'));
}

/** An automatic margin takes what is left, which in a line and beside items that grow is nothing. */
function isFreeMargin(property: string, { element, style, around, styleOf }: ShownElement): boolean {
  if (style.get(property) !== 'auto') return true;
  if (/top|bottom/.test(property)) return /flex|grid/.test(around?.get('display') ?? '');
  if (style.get('display').startsWith('inline')) return false;
  const items = element.parent?.children.map(styleOf) ?? [];
  return !isRow(around) || !items.some((item) => Number(item?.get('flex-grow') ?? 0) > 0);
}

function floatsBefore(element: IndexedElement, styleOf: ShownElement['styleOf']): boolean {
  const siblings = element.parent?.children ?? [];
  return siblings.slice(0, siblings.indexOf(element)).some((other) => styleOf(other)?.get('float') !== 'none');
}

const sized = ['width', 'max-width', 'height', 'min-height', 'max-height'];

function hasEdges(style: ComputedStyle): boolean {
  const across = ['padding-top', 'padding-bottom', 'border-top-width', 'border-bottom-width'];
  return sideEdges(style) > 0 || across.some((property) => style.get(property) !== '0px');
}

function stacks(style: ComputedStyle): boolean {
  return isColumn(style) || /grid$/.test(style.get('display')) || style.get('flex-wrap') !== 'nowrap';
}

function shownChildren({ element, styleOf }: ShownElement): readonly ComputedStyle[] {
  return element.children
    .map(styleOf)
    .filter((style) => style !== null)
    .filter((style) => style.get('display') !== 'none');
}

function leavesRoom(shown: ShownElement): boolean {
  if (isColumn(shown.style)) return hasOwnHeight(shown.style);
  return shownChildren(shown).every((item) => Number(item.get('flex-grow')) === 0);
}

const textual: ReadonlySet<string> = new Set<string>(textProperties);

/** Whether something in an element that the property is about has its value from it. */
function isInherited(property: string, { element, style, styleOf }: ShownElement): boolean {
  const value = style.get(property);
  const isMeant = (candidate: IndexedElement, own: ComputedStyle): boolean => {
    if (textual.has(property))
      return candidate.node.children.some((node) => node.kind === 'text' && isVisibleNode(node));
    if (property.startsWith('list-style')) return own.get('display') === 'list-item';
    if (property === 'quotes') return candidate.node.tag === 'q' && own.get('content') !== 'normal';
    return /^(?:border-|caption-)/.test(property) && candidate.node.tag === 'table';
  };
  const has = (candidate: IndexedElement, own: ComputedStyle): boolean =>
    own.get('display') !== 'none' &&
    own.get(property) === value &&
    (isMeant(candidate, own) ||
      candidate.children.some((child) => {
        const inner = styleOf(child);
        return inner !== null && !inner.isAuthored(property) && has(child, inner);
      }));
  return has(element, style);
}
