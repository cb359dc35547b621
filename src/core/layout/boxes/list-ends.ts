import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import { isVisibleNode } from './element-kinds.js';
import type { BoxReader } from './boxes.js';

/**
 * The margins of a list's first and last items, and of the first and last blocks in those: they collapse with the list's own
 * (CSS 2.2, 8.3.1), so they are taken from the items and counted outside.
 */
export function listEnds(element: IndexedElement, reader: BoxReader): { top: number[]; bottom: number[] } {
  const none = reader.styles(element).map(() => 0);
  if (!/^(?:ul|ol|menu|dl)$/.test(element.node.tag)) return { top: none, bottom: none };
  return { top: endMargins(element, 'top', reader), bottom: endMargins(element, 'bottom', reader) };
}

function endMargins(list: IndexedElement, side: 'top' | 'bottom', reader: BoxReader): number[] {
  const margins = reader.styles(list).map(() => 0);
  let open = reader.styles(list).map((style) => isOpen(style, side));
  for (let at = endChild(list, side, reader); at !== null && open.includes(true); at = endChild(at, side, reader)) {
    const styles = reader.styles(at);
    const taken = styles.map((style, state) => (open[state] === true ? (style.pixels(`margin-${side}`) ?? 0) : 0));
    taken.forEach((margin, state) => (margins[state] = Math.max(margins[state] ?? 0, margin)));
    if (taken.some((margin) => margin > 0))
      reader.restyle(
        at,
        styles.map((style, state) =>
          (taken[state] ?? 0) > 0 ? style.with(new Map([[`margin-${side}`, '0px']])) : style,
        ),
      );
    open = open.map((is, state) => is && isOpen(styles[state], side));
  }
  return margins;
}

function isOpen(style: ComputedStyle | undefined, side: 'top' | 'bottom'): boolean {
  return (
    style !== undefined &&
    style.get(`padding-${side}`) === '0px' &&
    style.get(`border-${side}-width`) === '0px' &&
    style.get('overflow') === 'visible' &&
    (side === 'top' || style.get('height') === 'auto')
  );
}

/** The first or last child of an element, where that is a block and nothing but white space stands before or behind it. */
function endChild({ node }: IndexedElement, side: 'top' | 'bottom', reader: BoxReader): IndexedElement | null {
  const shown = node.children.filter((child) => {
    const element = reader.lookup(child);
    return (
      child.kind !== 'comment' && isVisibleNode(child) && (element === null || reader.shownDisplay(element) !== null)
    );
  });
  const end = side === 'top' ? shown[0] : shown.at(-1);
  const element = end === undefined ? null : reader.lookup(end);
  const display = element === null ? null : reader.shownDisplay(element);
  const hides = element !== null && reader.styles(element).some((style) => style.get('display') === 'none');
  return element !== null && !hides && /^(?:block|list-item)$/.test(display ?? '') && element.node.tag !== 'img'
    ? element
    : null;
}
