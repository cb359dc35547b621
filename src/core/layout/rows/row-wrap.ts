import { formatNumber } from '../../css/values/value.js';
import { shortPixels } from '../boxes/box-style.js';
import { isPainted, needsCell } from '../boxes/boxes.js';
import { inState } from '../boxes/box-in-state.js';
import { desktopWidth, forStates, type EmitContext, type Emitted, type Room } from '../content/room.js';
import { columnRoom, hasGaps, itemStates } from './column-cells.js';
import {
  element,
  hiddenFromWord,
  style,
  wordOnly,
  wordTable,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { cellAlignment, type RowPlan } from './row-plan.js';
import type { ColumnWidth } from './row-widths.js';
import { fullText, textStyleOf } from '../print/text-style.js';

/**
 * Emits columns that wrap by themselves: blocks in a line whose width is a switch,
 * `width: calc((threshold - 100%) * 1000)` between `min-width` (the column) and `max-width` (the whole row).
 * Where the row is at least as wide as the threshold the calculation is not positive and each column has its
 * `min-width`; below it is huge and each column takes the whole line. Clients that know media queries get the same by
 * class; the `word` engine gets a table.
 */
export function emitWrappingRow(plan: RowPlan, room: Room): Emitted {
  const threshold = wrappingThreshold(plan, room);
  const nodes = plan.items.flatMap((item, index): OutNode[] => {
    const inner = columnRoom(plan, index, room);
    const column = emitColumn(plan, index, threshold, inner);
    const opening = wordCell(plan, inner, item);
    if (index === 0) return [wordOnly(`${wordTable(desktopWidth(room), '')}${opening}`), column];
    const gap = hasGaps(plan) ? hiddenFromWord([emitGap(plan, index, threshold, room)]) : [];
    return [...gap, wordOnly(`</td>${wordGap(plan)}${opening}`), column];
  });
  nodes.push(wordOnly('</td></tr></table>'));
  return { nodes, lines: forStates(room, () => bareLine) };
}

/** Lines without a height of their own; white space between the columns has no width. */
const bareLine = style([
  ['font-size', '0'],
  ['line-height', '0'],
  ['text-align', 'left'],
]);

/**
 * The width of the row from which on its columns stand side by side: the least that the row measures in any state that
 * is not stacked.
 */
function wrappingThreshold(plan: RowPlan, room: Room): number {
  const widths = room.states.flatMap((state, index) =>
    plan.modes[index] === 'side-by-side' ? [room.widthAt(state.minWidth, index)] : [],
  );
  return Math.min(...widths);
}

function wrapStyle(plan: RowPlan, index: number, minimum: string, width: string, state: number): Map<string, string> {
  const item = plan.items[index];
  const align = item === undefined ? 'top' : cellAlignment(plan.box, inState(item, sideBySideState(plan, state)));
  return new Map([
    ['display', 'inline-block'],
    ['vertical-align', align],
    ['min-width', minimum],
    ['max-width', '100%'],
    ['width', plan.modes[state] === 'stacked' ? '100%' : width],
  ]);
}

/** Stacked columns keep what they say side by side: it shows nowhere. */
function sideBySideState(plan: RowPlan, state: number): number {
  return plan.modes[state] === 'side-by-side' ? state : 0;
}

function switchWidth(threshold: number): string {
  return `calc((${shortPixels(threshold)} - 100%)*1000)`;
}

/** `calc(50% - 12px)`; percentages are rounded down, as columns that are a hair too wide would wrap. */
function columnWidth(column: ColumnWidth): string {
  const percent = Math.floor(column.share * 1e6) / 1e4;
  if (percent === 0) return shortPixels(column.pixels);
  const pixels = Math.floor(column.pixels * 1e3) / 1e3;
  if (pixels === 0) return `${formatNumber(percent)}%`;
  return `calc(${formatNumber(percent)}% ${pixels < 0 ? '-' : '+'} ${formatNumber(Math.abs(pixels), 3)}px)`;
}

function emitColumn(plan: RowPlan, index: number, threshold: number, inner: Room): OutElement {
  const item = plan.items[index];
  if (item === undefined) throw new Error(`The row has no column ${index}.`);
  const content =
    isPainted(item) || needsCell(item)
      ? inner.make.table(item, inner, {
          isFlexItem: itemStates(plan),
          fills: plan.modes.map((mode) => mode === 'side-by-side'),
        })
      : null;
  const cell = content === null ? inner.make.cell(item, inner, { extra: [], isFlexItem: itemStates(plan) }) : null;
  const text = item.styles.map(textStyleOf);
  const styles = forStates(inner, (state): Style => {
    const column = plan.widths[state]?.[index] ?? plan.widths[0]?.[index];
    const minimum = column === undefined ? '100%' : columnWidth(column);
    const own = wrapStyle(plan, index, minimum, switchWidth(threshold), state);
    // What the cell would say of its text holds for the column.
    const said = new Map(cell?.styles[state] ?? []);
    if (said.get('padding') === '0') said.delete('padding');
    return new Map([...own, ...fullText(text[state] ?? new Map()), ...said]);
  });
  return element('div', {}, styles, content ?? cell?.children ?? []);
}

function emitGap(plan: RowPlan, index: number, threshold: number, context: EmitContext): OutElement {
  const styles = forStates(context, (state): Style => {
    const own = wrapStyle(
      plan,
      0,
      shortPixels(plan.columnGap[sideBySideState(plan, state)] ?? 0),
      switchWidth(threshold),
      state,
    );
    const stacked = plan.modes.indexOf('stacked');
    const item = plan.items[index];
    const above = item === undefined ? 0 : plan.above(inState(item, plan.modes[state] === 'stacked' ? state : stacked));
    own.set('height', shortPixels(above));
    return own;
  });
  return element('div', {}, styles, []);
}

function wordCell(plan: RowPlan, inner: Room, item: RowPlan['items'][number]): string {
  const width = Math.round(desktopWidth(inner));
  return `<td width="${width}" valign="${cellAlignment(plan.box, inState(item, 0))}" style="width:${width}px;padding:0">`;
}

function wordGap(plan: RowPlan): string {
  const gap = Math.round(plan.columnGap[0] ?? 0);
  return gap > 0 ? `<td width="${gap}" style="width:${gap}px;padding:0;font-size:0">&nbsp;</td>` : '';
}
