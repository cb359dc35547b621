import { inStates, type BoxInState } from './box-in-state.js';
import type { Box, RowBox } from './boxes.js';

/**
 * A row whose items stand in the opposite order where they are stacked, by what they say of `order` there: the same as
 * `flex-direction: column-reverse` (CSS Flexible Box Layout 1, 5.1 and 5.4). Any other row stays as it is.
 */
export function withReversedStates(row: RowBox): RowBox {
  const turned = inStates(row).map(isTurned);
  if (!turned.includes(true)) return row;
  const styles = row.styles.map((style, state) =>
    turned[state] === true ? style.with(new Map([['flex-direction', 'column-reverse']])) : style,
  );
  const children = row.children.map((child): Box => {
    const order = new Map([['order', child.styles[0]?.get('order') ?? '0']]);
    return {
      ...child,
      styles: child.styles.map((style, state) => {
        if (turned[state] !== true) return style;
        style.take('order');
        return style.with(order);
      }),
    };
  });
  return { ...row, styles, children };
}

/** Whether the items stand one below the other in a state, the last of the document first. */
function isTurned({ style, children }: BoxInState<RowBox>): boolean {
  if (style.get('display') !== 'flex' || style.get('flex-direction') !== 'column') return false;
  const shown = children.filter((child) => !child.isHidden);
  const orders = shown.map((child) => Number(child.style.get('order')));
  return shown.length > 1 && orders.every((order, at) => at === 0 || order < (orders[at - 1] ?? 0));
}
