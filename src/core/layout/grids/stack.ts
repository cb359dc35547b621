import { isPainted, needsCell } from '../boxes/boxes.js';
import { inStates } from '../boxes/box-in-state.js';
import { shortPixels } from '../boxes/box-style.js';
import { laysOutItems } from '../boxes/margins.js';
import type { Room } from '../content/room.js';
import {
  asTallAs,
  element,
  filler,
  style,
  toppedTable,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { fullText, textStyleOf } from '../print/text-style.js';
import { cellAlignment } from '../rows/row-plan.js';
import type { Band, BandCell, Placed } from './bands.js';
import { itemRoom, itemTables, placeOf, type GridPlan } from './grid-item.js';
import { growingRows } from './tracks.js';

/**
 * Items below each other beside one that takes all their rows: a column as high as its cell, in which the rows share what
 * the other is higher (CSS Grid Layout 2, 11.5.1). Engines without such columns show blocks below each other.
 */
export function stackedItems(cell: BandCell, band: Band, plan: GridPlan, room: Room): OutElement {
  const { flows } = plan;
  const column = flows.map((flow) =>
    style([
      ['display', flow === 'same' ? 'flex' : flow === 'blocks' ? 'block' : 'contents'],
      ['flex-direction', 'column'],
      ['height', flow === 'same' ? '100%' : 'auto'],
    ]),
  );
  const grows = growthOf(cell, band, plan);
  const children = Array.from({ length: band.rows }, (_, at): OutNode[] => {
    const placed = cell.items.find(({ row }) => row === band.row + at) ?? null;
    const gap = at === 0 ? [] : [gapAbove(placed, plan)];
    return [
      ...gap,
      placed === null ? emptyRow(plan, grows[at] === true) : stackedItem(placed, plan, room, grows[at] === true),
    ];
  });
  return element('div', {}, column, children.flat());
}

/** Which rows take what the item beside them is higher: those that say a share of it, else those without an item, else all. */
function growthOf(cell: BandCell, band: Band, { box }: GridPlan): boolean[] {
  const said = growingRows(box.styles[0]?.take('grid-template-rows') ?? 'none', 'of content') ?? [];
  const rows = Array.from({ length: band.rows }, (_, at) => band.row + at);
  if (rows.some((row) => said[row] === true)) return rows.map((row) => said[row] === true);
  const isEmpty = rows.map((row) => cell.items.every((placed) => placed.row !== row));
  return isEmpty.includes(true) ? isEmpty : rows.map(() => true);
}

function gapAbove(placed: Placed | null, { states, flows }: GridPlan): OutElement {
  const styles = flows.map((flow, state) => {
    const own = states[state];
    const height = flow === 'same' || placed === null ? (own?.rowGap ?? 0) : (own?.above(placed.item) ?? 0);
    const isGone = flow === 'regrouped' || (flow === 'blocks' && placed === null);
    return style([
      ['display', isGone ? 'none' : 'block'],
      ['height', shortPixels(height)],
      ['font-size', '0'],
      ['line-height', '0'],
    ]);
  });
  return element('div', {}, styles, [filler]);
}

function emptyRow({ flows }: GridPlan, grows: boolean): OutElement {
  const styles = flows.map((flow) =>
    style([
      ['display', flow === 'same' ? 'block' : 'none'],
      ['flex', grows ? '1 0 auto' : '0 0 auto'],
      ['font-size', '0'],
      ['line-height', '0'],
    ]),
  );
  return element('div', {}, styles, []);
}

function stackedItem({ item }: Placed, plan: GridPlan, room: Room, grows: boolean): OutElement {
  const { box, flows } = plan;
  const inner = itemRoom(item, plan, room);
  const inCells = flows.map((flow) => flow === 'same');
  const { isAligned, tables } = itemTables(item, plan, inner);
  const isTable = tables !== null || isPainted(item) || needsCell(item);
  const fills = flows.map(() => true);
  const isFlexItem = inStates(box).map(laysOutItems);
  const content = isTable ? (tables ?? inner.make.table(item, inner, { isFlexItem, fills })) : null;
  const cell = content === null ? inner.make.cell(item, inner, { extra: [], isFlexItem }) : null;
  const text = item.styles.map(textStyleOf);
  const styles = inStates(item).map((own, state): Style => {
    const align = isAligned ? cellAlignment(box, own) : 'top';
    const isMoved = align === 'middle' || align === 'bottom';
    const said = new Map(cell?.styles[state] ?? []);
    for (const property of ['padding', 'height']) said.delete(property);
    return new Map([
      ...(cell === null ? [] : fullText(text[state] ?? new Map<string, string>())),
      ...said,
      ...style([
        ['display', own.isHidden ? 'none' : isMoved && inCells[state] === true ? 'flex' : 'block'],
        ['flex', grows ? '1 0 auto' : '0 0 auto'],
        ['flex-direction', isMoved ? 'column' : null],
        ['justify-content', isMoved ? (align === 'middle' ? 'center' : 'flex-end') : null],
        ...placeOf(own, plan),
      ]),
    ]);
  });
  const nodes = content ?? cell?.children ?? [];
  return element('div', {}, styles, isAligned ? nodes : nodes.map((node) => toppedTable(asTallAs(node, inCells))));
}
