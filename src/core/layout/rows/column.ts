import { pixelsOf } from '../../css/values/value.js';
import { fourValues } from '../boxes/box-style.js';
import { isHidden, lengthIn, styleIn, type Box, type RowBox } from '../boxes/boxes.js';
import { forStates, hideWithBox, type Emitted, type Room } from '../content/room.js';
import { element, layoutTable, style, tableRow, type OutElement } from '../print/output.js';
import { gapIn } from './row-widths.js';

/**
 * Emits a flex container that is a column in every state: blocks with gaps between them, whose margins do not collapse
 * (CSS Flexible Box Layout 1, 4.2). Each block is a row of one table; the space above it is padding.
 */
export function emitColumnFlow(box: RowBox, room: Room): Emitted {
  const items = box.children;
  const reversed = styleIn(box, 0).get('flex-direction') === 'column-reverse';
  const ordered = reversed ? [...items].reverse() : items;
  const rows = ordered.map((item) => emitBlock(item, ordered, box, room));
  const width = forStates(room, () => style([['width', '100%']]));
  return { nodes: rows.length === 0 ? [] : [layoutTable(width, rows, { width: '100%' })], lines: null };
}

function emitBlock(item: Box, items: readonly Box[], box: RowBox, room: Room): OutElement {
  const padding = forStates(room, (state) => spaceAround(item, items, box, state));
  const alignments = forStates(room, (state) => horizontalAlignment(box, item, state));
  const shrinks = alignments.some((alignment) => alignment !== 'stretch');
  if (!shrinks && !item.styles.some((own) => own.get('background-color') !== 'transparent')) {
    const extra = padding.map(([top, right, bottom, left]) => ({ top, right, bottom, left }));
    return hideWithBox(tableRow([room.make.cell(item, room, { extra, isFlexItem: true })]), item, room);
  }
  const inner = room.make.table(item, room, { isFlexItem: true, shrink: shrinks ? alignments : null });
  const cell = element(
    'td',
    {},
    padding.map((values) => style([['padding', fourValues(values)]])),
    inner,
  );
  return hideWithBox(tableRow([cell]), item, room);
}

/** What `align-items` does to a block of a column: it fills the width, or shrinks to its content at one side. */
export function horizontalAlignment(box: Box, item: Box, state: number): 'stretch' | 'left' | 'center' | 'right' {
  const own = styleIn(item, state).get('align-self');
  const value = own === 'auto' ? styleIn(box, state).get('align-items') : own;
  const rightToLeft = styleIn(box, state).get('direction') === 'rtl';
  if (value === 'center') return 'center';
  if (/^(?:flex-)?start$|^baseline$/.test(value)) return rightToLeft ? 'right' : 'left';
  if (/^(?:flex-)?end$/.test(value)) return rightToLeft ? 'left' : 'right';
  return 'stretch';
}

/** Margins of the item, and the gap above it. */
function spaceAround(
  item: Box,
  items: readonly Box[],
  box: RowBox,
  state: number,
): readonly [number, number, number, number] {
  const isFlex = styleIn(box, state).get('display') === 'flex';
  const isFirst = items.find((candidate) => !isHidden(candidate, state)) === item;
  const gap = isFlex && !isFirst ? gapIn(box, state, 'row-gap') : 0;
  const margin = (side: string): number => pixelsOf(styleIn(item, state).get(`margin-${side}`)) ?? 0;
  const [right, left] = [lengthIn(item, state, 'margin-right'), lengthIn(item, state, 'margin-left')];
  return [gap + margin('top'), right, margin('bottom'), left];
}
