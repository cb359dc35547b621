import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { fillsFrame, isPainted, type Box } from '../boxes/boxes.js';
import { phrasingTags } from '../boxes/element-kinds.js';
import type { Room } from '../content/room.js';
import type { OutElement, OutNode } from '../print/output.js';
import { sharesHeight } from './column.js';
import { modeIn, type RowPlan } from './row-plan.js';
import { estimatedWidth } from './text-width.js';

/**
 * What fills the height of a column refers to that of its cell, which is as tall as its row: browsers know it where the cell
 * has a height of its own, however small.
 */
export function withHeldHeight(cell: OutElement, item: Box, plan: Pick<RowPlan, 'modes'>): OutElement {
  return inStates(item).some(fillsItsHeight) ? heldCell(cell, plan) : cell;
}

function heldCell(cell: OutElement, plan: Pick<RowPlan, 'modes'>): OutElement {
  const styles = cell.styles.map((own, state) => {
    if (own.has('height') && own.get('height') !== '1px') return own;
    return new Map([...own, ['height', plan.modes[state] === 'side-by-side' ? '1px' : 'auto'] as const]);
  });
  return { ...cell, styles };
}

function fillsItsHeight(item: BoxInState): boolean {
  const { itself } = item;
  if (itself.kind === 'row') return modeIn(item) === 'stacked' && sharesHeight(item);
  return fillsFrame(itself);
}

/** The styles of a phrase with paint that fills an item; null for any other item. */
function paintedPhrase(item: Box): readonly ComputedStyle[] | null {
  const phrase = item.kind === 'text' ? (item.phrase ?? null) : null;
  return phrase !== null && isPainted({ styles: phrase }) ? phrase : null;
}

/**
 * Whether links, or other phrases with paint, that are items of a row may differ in height, so that a browser stretches the
 * lower ones (CSS Flexible Box Layout 1, 8.3).
 * @param widthOf how wide the item of a number is on the narrowest window of a state, in px
 */
export function stretchesPhrases(
  { items, modes }: Pick<RowPlan, 'items' | 'modes'>,
  room: Room,
  widthOf: (item: number, state: number) => number,
): boolean {
  if (!items.some((item) => paintedPhrase(item) !== null)) return false;
  return modes.some((mode, state) => {
    if (mode !== 'side-by-side') return false;
    const shown = items.flatMap((item, index) => {
      const own = inState(item, state);
      return own.isHidden ? [] : [{ own, width: widthOf(index, state) }];
    });
    const heights = new Set(shown.map(({ own }) => oneLineHeight(own)));
    const mayBreak = shown.some(({ own, width }) => estimatedWidth(own, room) > width + 0.5);
    return shown.length > 1 && (mayBreak || heights.size > 1 || heights.has(null));
  });
}

/** What decides how high an item is whose text stands in one line; null for an item that holds more than a phrase. */
function oneLineHeight(item: BoxInState): string | null {
  const phrase = paintedPhrase(item.itself);
  if (phrase === null) return null;
  const own = item.of({ styles: phrase });
  const edges = [item, own].flatMap((box) => [box.edge('top'), box.edge('bottom')]);
  return [...edges, own.style.get('font-size'), own.style.get('line-height')].join(' ');
}

/** A cell whose phrase is as high as the row beside others, as what the row says of its items wants. */
export function withTallPhrase(cell: OutElement, item: Box, plan: Pick<RowPlan, 'modes'>): OutElement {
  if (paintedPhrase(item) === null) return cell;
  const children = cell.children.map((node) => tall(node, plan));
  return heldCell({ ...cell, children }, plan);
}

function tall(node: OutNode, { modes }: Pick<RowPlan, 'modes'>): OutNode {
  if (node.kind !== 'element' || !phrasingTags.has(node.tag)) return node;
  const inLine = node.styles.some((own) => own.get('display') === 'inline-block');
  const styles = node.styles.map((own, state) => {
    if (own.has('height')) return own;
    const isBeside = modes[state] === 'side-by-side';
    const result = new Map([...own, ['box-sizing', 'border-box'] as const]);
    result.set('height', isBeside ? '100%' : 'auto');
    return inLine ? result.set('vertical-align', isBeside ? 'top' : 'baseline') : result;
  });
  return { ...node, styles };
}
