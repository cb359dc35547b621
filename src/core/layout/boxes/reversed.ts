import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { Box, RowBox } from './boxes.js';

/**
 * A row whose items stand in the opposite order where they are stacked, by what they say of `order` there: the same as
 * `flex-direction: column-reverse` (CSS Flexible Box Layout 1, 5.1 and 5.4). Any other row stays as it is.
 */
export function withReversedStates(row: RowBox): RowBox {
  const turned = row.styles.map((_, state) => isTurned(row, state));
  if (!turned.includes(true)) return row;
  const styles = row.styles.map((style, state) =>
    turned[state] === true ? style.with(new Map([['flex-direction', 'column-reverse']])) : style,
  );
  const desktopOrder = (child: Box, style: ComputedStyle, state: number): ComputedStyle => {
    if (turned[state] !== true) return style;
    style.take('order');
    return style.with(new Map([['order', child.styles[0]?.get('order') ?? '0']]));
  };
  const children = row.children.map((child): Box => ({
    ...child,
    styles: child.styles.map((style, state) => desktopOrder(child, style, state)),
  }));
  return { ...row, styles, children };
}

/** Whether the items stand one below the other in a state, the last of the document first. */
function isTurned({ styles, children }: RowBox, state: number): boolean {
  const style = styles[state];
  if (style?.get('display') !== 'flex' || style.get('flex-direction') !== 'column') return false;
  const shown = children.filter((child) => child.styles[state]?.get('display') !== 'none');
  const orders = shown.map((child) => Number(child.styles[state]?.get('order') ?? 0));
  return shown.length > 1 && orders.every((order, at) => at === 0 || order < (orders[at - 1] ?? 0));
}
