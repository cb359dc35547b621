import { fourValues } from '../boxes/box-style.js';
import { hasOwnWidth, isPainted, type Box, type RowBox } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import { blockGaps, laysOutItems } from '../boxes/margins.js';
import { forStates, hideWithBox, type Emitted, type Room } from '../content/room.js';
import { element, layoutTable, style, tableRow, type OutElement } from '../print/output.js';
import { percentage } from './cell-widths.js';

/**
 * Emits a flex container that is a column in every state: blocks with gaps between them, whose margins do not collapse
 * (CSS Flexible Box Layout 1, 4.2). Each block is a row of one table; the space above it is padding.
 */
export function emitColumnFlow(box: RowBox, room: Room): Emitted {
  const items = box.children;
  const reversed = box.styles[0]?.take('flex-direction') === 'column-reverse';
  const ordered = reversed ? [...items].reverse() : items;
  const shares = inStates(box).map((own) => (sharesHeight(own) ? heightShares(own, ordered) : []));
  const rows = ordered.flatMap((item, index) => [...spaceRow(shares, index), emitBlock(item, ordered, box, room)]);
  if (rows.length > 0) rows.push(...spaceRow(shares, ordered.length));
  const width = forStates(room, () => style([['width', '100%']]));
  return { nodes: rows.length === 0 ? [] : [layoutTable(width, rows, { width: '100%' })], lines: null };
}

/** Where `justify-content` puts all of a column that is shorter than its box. */
export function justifiedEnd(justify: string): 'top' | 'middle' | 'bottom' {
  if (justify === 'center') return 'middle';
  return /^(?:flex-)?end$/.test(justify) ? 'bottom' : 'top';
}

/** Whether a column shares out the height that its blocks leave, between them or by automatic margins. */
export function sharesHeight(box: BoxInState): boolean {
  if (box.style.take('display') !== 'flex') return false;
  const { children } = box;
  const isBetween = /^space-/.test(box.style.take('justify-content'));
  return children.length > 0 && (isBetween || children.some(hasAutoHeight));
}

function hasAutoHeight(item: BoxInState): boolean {
  return ['margin-top', 'margin-bottom'].some((side) => item.style.take(side) === 'auto');
}

/** The shares of the height left: before each block and behind the last one (CSS Flexible Box Layout 1, 8.1 and 8.2). */
function heightShares(box: BoxInState<RowBox>, ordered: readonly Box[]): number[] {
  const items = ordered.map((item) => box.of(item));
  const weights = [...items.map(() => 0), 0];
  const shown = items.flatMap((item, index) => (item.isHidden ? [] : [index]));
  const add = (index: number, weight: number): number => (weights[index] = (weights[index] ?? 0) + weight);
  const after = (index: number): number => shown[shown.indexOf(index) + 1] ?? items.length;
  if (items.some(hasAutoHeight))
    for (const index of shown) {
      const own = items[index]?.style;
      if (own?.take('margin-top') === 'auto') add(index, 1);
      if (own?.take('margin-bottom') === 'auto') add(after(index), 1);
    }
  else {
    const justify = box.style.take('justify-content');
    const [ends, middle] = justify === 'space-around' ? [1, 2] : justify === 'space-evenly' ? [1, 1] : [0, 1];
    shown.forEach((index, place) => add(index, place === 0 ? ends : middle));
    add(items.length, ends);
  }
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return weights.map((weight) => (total === 0 ? 0 : weight / total));
}

/** A row that takes a share of the height left, where there is one in any state. */
function spaceRow(shares: readonly (readonly number[])[], index: number): OutElement[] {
  const own = shares.map((state) => state[index] ?? 0);
  if (own.every((share) => share === 0)) return [];
  const cell = own.map((share) =>
    style([
      ['height', share === 0 ? '0' : percentage(share)],
      ['padding', '0'],
      ['font-size', '0'],
      ['line-height', '0'],
    ]),
  );
  return [tableRow([element('td', {}, cell, [])])];
}

function emitBlock(item: Box, items: readonly Box[], box: RowBox, room: Room): OutElement {
  const padding = inStates(item).map((own) => spaceAround(own, items, box));
  const alignments = inStates(item).map((own) => horizontalAlignment(box, own));
  const shrinks = alignments.some((alignment) => alignment !== 'stretch');
  if (!shrinks && !isPainted(item) && !item.styles.some(hasOwnWidth)) {
    const extra = padding.map(([top, right, bottom, left]) => ({ top, right, bottom, left }));
    return hideWithBox(tableRow([room.make.cell(item, room, { extra, isFlexItem: true })]), item);
  }
  const inner = room.make.table(item, room, { isFlexItem: true, shrink: shrinks ? alignments : null });
  const cell = element(
    'td',
    {},
    padding.map((values) => style([['padding', fourValues(values)]])),
    inner,
  );
  return hideWithBox(tableRow([cell]), item);
}

/** What automatic margins, else `align-items`, do to a block of a column: it fills the width, or shrinks to its content at one side. */
function horizontalAlignment(box: Box, item: BoxInState): 'stretch' | 'left' | 'center' | 'right' {
  const column = item.of(box).style;
  // In a plain block automatic margins place what says how wide it is, and nothing shrinks.
  if (column.take('display') !== 'flex' && !hasOwnWidth(item.style)) return 'stretch';
  const [left, right] = ['margin-left', 'margin-right'].map((side) => item.style.take(side) === 'auto');
  if (left === true || right === true) return left !== true ? 'left' : right === true ? 'center' : 'right';
  if (column.take('display') !== 'flex') return 'stretch';
  const own = item.style.take('align-self');
  const value = own === 'auto' ? column.take('align-items') : own;
  const rightToLeft = column.take('direction') === 'rtl';
  if (value === 'center') return 'center';
  if (/^(?:flex-)?start$|^baseline$/.test(value)) return rightToLeft ? 'right' : 'left';
  if (/^(?:flex-)?end$/.test(value)) return rightToLeft ? 'left' : 'right';
  return 'stretch';
}

/** Margins of the item, and the gap above it; in a state in which the container is a plain block, margins that collapse. */
function spaceAround(item: BoxInState, items: readonly Box[], box: RowBox): readonly [number, number, number, number] {
  const column = item.of(box);
  const margin = (side: string): number => item.takeLength(`margin-${side}`);
  if (!laysOutItems(column))
    return [Math.max(0, blockGaps(column).get(item.itself) ?? 0), margin('right'), 0, margin('left')];
  const isFirst = items.find((candidate) => !item.of(candidate).isHidden) === item.itself;
  const gap = isFirst ? 0 : column.takeLength('row-gap');
  return [gap + margin('top'), margin('right'), margin('bottom'), margin('left')];
}
