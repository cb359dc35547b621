import { laysOutItems } from '../boxes/margins.js';
import { hasOwnWidth, fillsFrame, isPainted, type Box, type GridBox } from '../boxes/boxes.js';
import { inStates, type BoxInState } from '../boxes/box-in-state.js';
import type { Room } from '../content/room.js';
import type { OutNode } from '../print/output.js';
import { cellAlignment } from '../rows/row-plan.js';
import type { Flow, GridState } from './grid-state.js';
import { tracksWidth } from './tracks.js';

/** A grid, in each state, and how each shows the cells of the desktop. */
export interface GridPlan {
  readonly box: GridBox;
  readonly states: readonly GridState[];
  readonly flows: readonly Flow[];
  /** Whether links and other phrases with paint are as high as their row. */
  readonly stretchesPhrases: boolean;
}

/** What a grid offers an item in it. */
export function itemRoom(item: Box, { states }: Pick<GridPlan, 'states'>, room: Room): Room {
  return {
    ...room,
    text: null,
    widthAt: (viewport, state) => {
      const width = room.widthAt(viewport, state);
      const placed = states[state]?.placed.find((candidate) => candidate.item === item);
      const { tracks = [], columnGap = 0 } = states[state] ?? {};
      if (placed === undefined || tracks.length === 0) return width;
      return tracksWidth(tracks, { first: placed.column, span: placed.span, gap: columnGap, room: width }) ?? width;
    },
  };
}

/** How an item fills the cell that it stands in. */
export interface ItemTables {
  /** Whether it stands where an alignment puts it, and not at the top of what it fills. */
  readonly isAligned: boolean;
  /** Whether what is painted of it reaches over the whole height of its row. */
  readonly isTall: boolean;
  /** A table of its own in the cell; null where the cell itself is the item. */
  readonly tables: OutNode[] | null;
}

export function itemTables(item: Box, { box, flows }: GridPlan, inner: Room): ItemTables {
  const sides = inStates(item).map((own) => sideIn(box, own));
  const shrinks = sides.some((side) => side !== 'stretch');
  const isAligned = inStates(item).some((own) => cellAlignment(box, own) !== 'top') || startsAtTop(box, item);
  const isSized = item.kind !== 'picture' && item.kind !== 'native' && item.styles.some(hasOwnWidth);
  const hasTable = shrinks || isSized || (isAligned && isPainted(item));
  // Paint that is not aligned reaches over the whole height of its row.
  const isTall = hasTable && !isAligned && (isPainted(item) || fillsFrame(item));
  const isFlexItem = inStates(box).map(laysOutItems);
  const tables = (): OutNode[] =>
    inner.make.table(
      item,
      inner,
      shrinks ? { isFlexItem, shrink: sides } : { isFlexItem, ...(isSized ? {} : { fills: flows.map(() => true) }) },
    );
  return { isAligned, isTall, tables: hasTable ? tables() : null };
}

/** Where an item stands in a grid that is laid out anew, if not simply behind the one before it. */
export function placeOf(item: BoxInState, { states, flows }: GridPlan): [string, string | null][] {
  const moved = flows.map((flow, of) => flow === 'regrouped' && !isPlainOrder(states[of], states[0]));
  if (!moved.includes(true)) return [];
  const placed =
    moved[item.state] === true
      ? states[item.state]?.placed.find((candidate) => candidate.item === item.itself)
      : undefined;
  return [
    ['grid-column', placed === undefined ? 'auto' : `${placed.column + 1} / span ${placed.span}`],
    ['grid-row', placed === undefined ? 'auto' : `${placed.row + 1}${placed.rows > 1 ? ` / span ${placed.rows}` : ''}`],
  ];
}

function isPlainOrder(state: GridState | undefined, desktop: GridState | undefined): boolean {
  const count = Math.max(1, state?.tracks.length ?? 1);
  return (
    state?.placed.every(
      ({ item, row, rows, column, span }, index) =>
        span === 1 &&
        rows === 1 &&
        row === Math.floor(index / count) &&
        column === index % count &&
        desktop?.placed.filter((other) => state.placed.some((one) => one.item === other.item))[index]?.item === item,
    ) === true
  );
}

/** What `justify-items` and `justify-self` do to an item: it fills its columns, or shrinks to its content at one side. */
function sideIn(box: GridBox, item: BoxInState): 'stretch' | 'left' | 'center' | 'right' {
  const own = item.style.take('justify-self');
  const grid = item.of(box).style;
  const value = own === 'auto' ? grid.take('justify-items') : own;
  const isRightToLeft = grid.take('direction') === 'rtl';
  if (value === 'center') return 'center';
  if (/^(?:flex-|self-)?start$|^left$/.test(value)) return isRightToLeft ? 'right' : 'left';
  if (/^(?:flex-|self-)?end$|^right$/.test(value)) return isRightToLeft ? 'left' : 'right';
  return 'stretch';
}

function startsAtTop(box: GridBox, item: Box): boolean {
  return [
    ...box.styles.map((own) => own.take('align-items')),
    ...item.styles.map((own) => own.take('align-self')),
  ].some((value) => /^(?:flex-)?start$/.test(value));
}
