import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { isVisibleNode } from '../boxes/element-kinds.js';

/**
 * The row that stands alone in the line of a block (`display: inline-flex`), as long as the line is no taller than the row:
 * the block is a column then that holds it at the side at which its text stands. Null for any other block.
 * @param styleOf the computed style of an element in the state
 */
export function rowAlone(
  element: IndexedElement,
  style: ComputedStyle,
  styleOf: (element: IndexedElement) => ComputedStyle | undefined,
): IndexedElement | null {
  if (!/^(?:block|list-item|flow-root|table-cell)$/.test(style.get('display')) || element.children.length !== 1)
    return null;
  if (/^(?:td|th|li|dd|dt)$/.test(element.node.tag)) return null;
  const [only] = element.children;
  const hasText = element.node.children.some((node) => node.kind === 'text' && isVisibleNode(node));
  const own = only === undefined ? undefined : styleOf(only);
  if (only === undefined || own === undefined || hasText || only.children.length === 0) return null;
  return own.get('display') === 'inline-flex' && fitsLine(only, own, style, styleOf) ? only : null;
}

/** Whether the line of a block is as high as the row in it: its own letters reach above and below the row nowhere. */
function fitsLine(
  row: IndexedElement,
  own: ComputedStyle,
  around: ComputedStyle,
  styleOf: (element: IndexedElement) => ComputedStyle | undefined,
): boolean {
  const size = (style: ComputedStyle): number => style.pixels('font-size') ?? 16;
  const isAlike = size(own) === size(around) && lineHeightPixels(own) === lineHeightPixels(around);
  const edges = ['top', 'bottom'].map(
    (side) => (own.pixels(`padding-${side}`) ?? 0) + (own.pixels(`border-${side}-width`) ?? 0),
  );
  const isPlain = row.children.every((item) => {
    const style = styleOf(item);
    return (
      style === undefined ||
      (item.node.tag !== 'img' && size(style) === size(own) && lineHeightPixels(style) === lineHeightPixels(own))
    );
  });
  const least = isPlain && isAlike ? 0 : LETTERS_BELOW * Math.max(size(around), size(own));
  return edges.every((edge) => edge >= least);
}

/** How far a line reaches beyond the baseline of what stands in it, in font sizes: an upper bound for usual line heights. */
const LETTERS_BELOW = 0.5;

/** The height of a line, in px; null where no style says. */
export function lineHeightPixels(style: ComputedStyle): number | null {
  const quantity = style.quantity('line-height');
  if (quantity === null) return null;
  return quantity.unit === '' ? quantity.number * (style.pixels('font-size') ?? 16) : quantity.number;
}

/** The style of a block around such a row: a column that puts it where the text of the block stands. */
export function asColumn(style: ComputedStyle): ComputedStyle {
  const align = style.take('text-align');
  const isRightToLeft = style.get('direction') === 'rtl';
  const side =
    align === 'center'
      ? 'center'
      : align === (isRightToLeft ? 'left' : 'right') || align === 'end'
        ? 'flex-end'
        : 'flex-start';
  return style.with(
    new Map([
      ['display', 'flex'],
      ['flex-direction', 'column'],
      ['align-items', side],
    ]),
  );
}
