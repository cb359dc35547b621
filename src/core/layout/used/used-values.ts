import type { ComputedStyle, NewValues } from '../../css/cascade/computed-style.js';
import type { ElementIndex, IndexedElement } from '../../css/selectors/element-index.js';
import {
  isMath,
  mathPixels,
  pixelsWithinMath,
  plainLengths,
  readMath,
  type MathLength,
} from '../../css/values/math.js';
import { sides } from '../../css/values/properties.js';
import { sideEdges } from '../boxes/box-style.js';
import { withGutters } from './gutters.js';
import { asColumn, rowAlone } from './inline-rows.js';
import { rowInLine } from './rows-in-lines.js';
import type { TreeNode } from '../../html/tree.js';
import type { UsedState } from './intrinsic.js';

/**
 * Resolves what percentages and math functions of a state come to where the width that they refer to is known
 * (CSS Values and Units 4, 10; CSS 2.2, 8 and 10). A width that is a whole minus px becomes margins, and the lesser of a
 * whole and px a `max-width`: both hold at any width of the window. What cannot be known stays as it is.
 * @param viewportWidth the width of the window that stands for the state, in px
 */
export function usedStyles(index: ElementIndex, styles: readonly ComputedStyle[], viewportWidth: number): UsedState {
  const { elements, of } = index;
  const used: ComputedStyle[] = [];
  // What an element offers its content, in px; null where that is not known before its row is laid out.
  const widths: (number | null)[] = [];
  const alone = new Set<IndexedElement>();
  const items = new Map<IndexedElement, NewValues>();
  const around = {
    styleOf: ({ order }: IndexedElement): ComputedStyle | undefined => styles[order],
    lookup: (node: TreeNode): IndexedElement | undefined => (node.kind === 'element' ? of.get(node) : undefined),
  };
  for (const element of elements) {
    const own = styles[element.order];
    if (own === undefined) continue;
    const parent = element.parent;
    // Shares of an item of a grid are of its area, and those of a cell of the table: neither is known here.
    const isInArea = parent !== null && /grid|table/.test(used[parent.order]?.get('display') ?? '');
    const available = parent === null ? viewportWidth : isInArea ? null : (widths[parent.order] ?? null);
    const isInRow = parent !== null && isRowOrGrid(used[parent.order]);
    const height = parent === null ? null : (used[parent.order]?.pixels('height') ?? null);
    // An item that is stretched has a height for what is in it, which is not known here.
    const isStretched = /flex|grid|table/.test(used[parent?.parent?.order ?? -1]?.get('display') ?? '');
    const sized = withUsedHeights(withUsedLengths(own, available, isInRow), height, isStretched);
    const row = rowAlone(element, sized, ({ order }) => styles[order]);
    if (row !== null) alone.add(row);
    const inLine = row === null && !alone.has(element) ? rowInLine(element, sized, around) : null;
    for (const [item, changes] of inLine?.items ?? []) items.set(item, changes);
    const changes = alone.has(element) ? new Map([['display', 'flex']]) : (inLine?.own ?? items.get(element) ?? null);
    const resolved = row !== null ? asColumn(sized) : changes === null ? sized : sized.with(changes);
    used.push(resolved);
    widths.push(contentWidth(element, resolved, available, isInRow));
  }
  return { styles: withGutters(index, used), widths };
}

/** Heights in percent are of a height that the container says, else they are none (CSS 2.2, 10.5). */
function withUsedHeights(style: ComputedStyle, around: number | null, isStretched: boolean): ComputedStyle {
  const changes = new Map<string, string | number>();
  for (const property of ['height', 'min-height']) {
    const share = style.quantity(property);
    if (share?.unit === '%' && (around !== null || !isStretched))
      changes.set(property, around === null ? 'auto' : (share.number * around) / 100);
  }
  return changes.size === 0 ? style : style.with(changes);
}

function isRowOrGrid(style: ComputedStyle | undefined): boolean {
  const display = style?.get('display') ?? '';
  return (
    /grid|table/.test(display) || (/flex/.test(display) && style?.get('flex-direction').startsWith('row') === true)
  );
}

const spaces = sides.flatMap((side) => [`padding-${side}`, `margin-${side}`]);
const gaps = ['column-gap', 'row-gap'];

function withUsedLengths(style: ComputedStyle, available: number | null, isInRow: boolean): ComputedStyle {
  const changes = new Map<string, string | number>();
  const isRelative = (value: string): boolean => value.includes('%') || isMath(value);
  for (const property of spaces) {
    const value = style.get(property);
    const pixels = isRelative(value) && available !== null ? pixelsWithinMath(value, available) : null;
    if (pixels !== null) changes.set(property, pixels);
  }
  for (const property of ['width', 'max-width', 'min-width', 'flex-basis']) {
    const value = style.get(property);
    if (!isMath(value)) continue;
    const length = readMath(value, plainLengths);
    if (length === null) continue;
    const isSaid = property === 'width' && !isInRow && sayByMargins(length, style, changes);
    if (isSaid || sayByBound(length, property, style, changes)) continue;
    if (property === 'width' && !isInRow && isBoundedShare(style)) continue;
    if (available !== null) changes.set(property, Math.max(0, mathPixels(length, available)));
  }
  for (const property of gaps) {
    const value = style.get(property);
    if (!isRelative(value)) continue;
    // A gap refers to the content of its own container: to nothing across, where no style says its height.
    const isAcross = property === 'row-gap' && value.includes('%');
    const isFlex = style.get('display').endsWith('flex');
    const width = available === null ? null : boxWidth(style, available);
    const whole = isAcross ? (style.pixels('height') ?? (isFlex ? 0 : null)) : width;
    const pixels = whole === null ? null : pixelsWithinMath(value, whole);
    if (pixels !== null) changes.set(property, pixels);
  }
  return changes.size === 0 ? style : style.with(changes);
}

/** `calc(100% - 40px)` of a block: what is missing from the whole stands at its side, or at both where it is centred. */
function sayByMargins(length: MathLength, style: ComputedStyle, changes: Map<string, string | number>): boolean {
  if (length.kind !== 'sum' || length.percent !== 100 || length.pixels > 0) return false;
  const outer = style.get('box-sizing') === 'border-box' ? 0 : sideEdges(style);
  const missing = -length.pixels - outer;
  const margins = ['margin-left', 'margin-right'].map((side) => style.get(side));
  if (missing < 0 || style.get('max-width') !== 'none' || !/^block|^flow|^list/.test(style.get('display')))
    return false;
  const free = margins.filter((margin) => margin === 'auto').length;
  const [left, right] = [style.pixels('margin-left') ?? 0, style.pixels('margin-right') ?? 0];
  const rest = missing - left - right;
  if (rest < 0) return false;
  if (free === 2) {
    changes.set('margin-left', missing / 2);
    changes.set('margin-right', missing / 2);
  } else if (margins[0] === 'auto') changes.set('margin-left', left + rest);
  else changes.set('margin-right', right + rest);
  changes.set('width', 'auto');
  return true;
}

/** `calc(100% - 40px)` of a block that a width in px bounds: a table says it as the author does. */
export function isBoundedShare(style: ComputedStyle): boolean {
  const length = readMath(style.get('width').trim(), plainLengths);
  const isBlock = /^block|^flow|^list/.test(style.get('display'));
  return isBlock && length?.kind === 'sum' && length.percent === 100 && style.pixels('max-width') !== null;
}

/** `min(100%, 400px)` of a block without edges of its own is a bound. */
function sayByBound(
  length: MathLength,
  property: string,
  style: ComputedStyle,
  changes: Map<string, string | number>,
): boolean {
  if (length.kind !== 'least' || length.of.length !== 2 || !/^(?:max-)?width$/.test(property)) return false;
  const sums = length.of.flatMap((one) => (one.kind === 'sum' ? [one] : []));
  const whole = sums.find(({ percent, pixels }) => percent === 100 && pixels === 0);
  const bound = sums.find(({ percent }) => percent === 0);
  const plain = style.get('box-sizing') === 'border-box' || sideEdges(style) === 0;
  if (whole === undefined || bound === undefined || !plain) return false;
  if (property === 'width') {
    if (style.get('max-width') !== 'none') return false;
    changes.set('width', '100%');
  }
  changes.set('max-width', bound.pixels);
  return true;
}

/** The width of a block's content in a container, where it is a block in the flow. */
function boxWidth(style: ComputedStyle, around: number): number {
  const frame = sideEdges(style);
  const margins = ['margin-left', 'margin-right'].reduce((sum, side) => sum + (style.pixels(side) ?? 0), 0);
  const isBorderBox = style.get('box-sizing') === 'border-box';
  const inner = (value: string): number | null => {
    const pixels = pixelsWithinMath(value, around);
    return pixels === null ? null : isBorderBox ? pixels - frame : pixels;
  };
  const width = inner(style.get('width')) ?? around - margins - frame;
  return Math.max(0, Math.min(width, inner(style.get('max-width')) ?? Infinity));
}

function contentWidth(
  element: IndexedElement,
  style: ComputedStyle,
  around: number | null,
  isInRow: boolean,
): number | null {
  const display = style.get('display');
  if (element.node.tag === 'html') return around;
  if (/^inline$|^contents$/.test(display)) return around;
  const isPixels = style.quantity('width')?.unit === 'px';
  if (isInRow || /table|inline/.test(display)) return isPixels ? boxWidth(style, around ?? 0) : null;
  return around === null && !isPixels ? null : boxWidth(style, around ?? 0);
}
