import { layoutAdvice } from '../../findings/wording/layout.js';
import { pixelsOf, readQuantity } from '../../css/values/value.js';
import { shortPixels } from '../boxes/box-style.js';
import { isHidden, styleIn, type Box, type RowBox } from '../boxes/boxes.js';
import { forStates, type Room } from '../content/room.js';
import { columnCells } from './row-cells.js';
import { layoutTable, style, tableRow, type OutNode } from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { intrinsicWidth, modeIn, rowProblems, type RowMode, type RowPlan } from './row-plan.js';
import { gapIn, type ColumnWidth } from './row-widths.js';
import { estimatedWidth } from './text-width.js';

/** A row in which nothing grows, and the columns are as wide as their content, or do not begin at the start of the row. */
export function isPacked(box: RowBox): boolean {
  return box.styles.some((own, state) => {
    if (modeIn(box, state) !== 'side-by-side') return false;
    const items = box.children.filter((item) => !isHidden(item, state));
    const growing = items.filter((item) => grows(item, state)).length;
    if (growing > 0) return growing === 1 && items.some((item) => !grows(item, state) && isContentSized(item, state));
    const justified = !/^(?:normal|flex-start|start|left)$/.test(own.get('justify-content'));
    return justified || items.some((item) => isContentSized(item, state));
  });
}

function grows(item: Box, state: number): boolean {
  return Number(styleIn(item, state).get('flex-grow')) > 0;
}

function isContentSized(item: Box, state: number): boolean {
  const own = styleIn(item, state);
  const basis = own.get('flex-basis') === 'auto' ? own.get('width') : own.get('flex-basis');
  return item.kind !== 'picture' && readQuantity(basis) === null;
}

/** What a column that grows beside others as wide as their content needs at the least, in px. */
const LEAST_GROWING_WIDTH = 80;

/** The narrowest viewport that layouts are made for, in px. */
const NARROWEST_VIEWPORT = 320;

/**
 * Emits a row as a table that is as wide as its cells, at the side that `justify-content` says; with
 * `space-between`, as a table as wide as the row, whose last cell is pushed to the end.
 */
export function emitPackedRow(box: RowBox, room: Room): OutNode[] {
  const plan = planPacked(box, room);
  if (plan === null) return [];
  const spread = forStates(
    room,
    (state) => styleIn(box, state).get('justify-content') === 'space-between' && !fillsRow(plan, state),
  );
  const fills = forStates(room, (state) => fillsRow(plan, state));
  const cells = columnCells(plan, room, {
    fills: fills.includes(true),
    width: (state, index) => {
      const column = plan.widths[state]?.[index];
      const item = plan.items[index];
      if (fills[state] === true && item !== undefined && grows(item, state)) return '100%';
      return column?.kind === 'fixed' ? shortPixels(column.pixels) : null;
    },
    pushed: (state, index) => spread[state] === true && index === plan.items.length - 1,
    spread: spread.includes(true),
  });
  const tables = forStates(room, (state) => {
    const side = sideOf(box, state);
    return style([
      ['width', plan.modes[state] === 'stacked' || spread[state] === true || fills[state] === true ? '100%' : 'auto'],
      ['margin', side === 'center' ? '0 auto' : side === 'right' ? '0 0 0 auto' : '0'],
    ]);
  });
  const side = sideOf(box, 0);
  const attributes: Record<string, string> =
    spread[0] === true || fills[0] === true ? { width: '100%' } : side === 'left' ? {} : { align: side };
  return [layoutTable(tables, [tableRow(cells)], attributes)];
}

/** A row in which one column takes what the others leave. */
function fillsRow(plan: RowPlan, state: number): boolean {
  return plan.modes[state] === 'side-by-side' && plan.items.some((item) => grows(item, state));
}

function planPacked(box: RowBox, room: Room): RowPlan | null {
  const items = box.children;
  const modes = box.styles.map((_, state) => modeIn(box, state));
  const problems = [...rowProblems(box, items, modes), ...packedProblems(box, items, modes, room)];
  reportProblems(problems, room);
  if (problems.length > 0) return null;
  const widths = modes.map((mode, state) =>
    mode === 'side-by-side' ? items.map((item) => ownWidth(item, state, room)) : null,
  );
  const gaps = (axis: 'column-gap' | 'row-gap'): number[] => box.styles.map((_, state) => gapIn(box, state, axis));
  const rowGap = gaps('row-gap').map((gap, state) => (styleIn(box, state).get('display') === 'flex' ? gap : 0));
  return { box, items, modes, widths, columnGap: gaps('column-gap'), rowGap, reversed: false };
}

function ownWidth(item: Box, state: number, room: Room): ColumnWidth {
  const own = styleIn(item, state);
  const basis = own.get('flex-basis') === 'auto' ? own.get('width') : own.get('flex-basis');
  const pixels = item.kind === 'picture' ? (intrinsicWidth(item, room) ?? 0) : (pixelsOf(basis) ?? 0);
  // What a column as wide as its content offers to it is known to no more than the row's width.
  if (pixels === 0) return { kind: 'rest', share: 1, pixels: 0, weight: 0 };
  return { kind: 'fixed', share: 0, pixels, weight: 0 };
}

function packedProblems(box: RowBox, items: readonly Box[], modes: readonly RowMode[], room: Room): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  modes.forEach((mode, state) => {
    if (mode !== 'side-by-side') return;
    const justify = styleIn(box, state).get('justify-content');
    const visible = items.filter((item) => !isHidden(item, state));
    const say = (property: string, advice: string): number => problems.push(problemIn(box, state, property, advice));
    const growing = visible.filter((item) => grows(item, state));
    const [grower] = growing;
    if (grower !== undefined && (growing.length > 1 || Number(styleIn(grower, state).get('flex-grow')) < 1))
      problems.push(problemIn(grower, state, 'flex-grow', layoutAdvice.oneGrows));
    if (/space-(?:around|evenly)/.test(justify)) say('justify-content', layoutAdvice.centerOrBetween);
    if (growing.length === 0 && justify === 'space-between' && visible.length !== 2)
      say('justify-content', layoutAdvice.middleGrows);
    if (styleIn(box, state).get('flex-direction') === 'row-reverse')
      say('flex-direction', layoutAdvice.columnDirection);
    if (styleIn(box, state).get('flex-wrap') !== 'nowrap') say('flex-wrap', layoutAdvice.wrapEverywhere);
    const viewport = Math.max(NARROWEST_VIEWPORT, room.states[state]?.minWidth ?? 0);
    const available = room.widthAt(viewport, state);
    const gaps = gapIn(box, state, 'column-gap') * Math.max(0, visible.length - 1);
    // A column that grows breaks its text; the others must leave it some room.
    const widthOf = (item: Box): number =>
      grows(item, state) ? LEAST_GROWING_WIDTH : estimatedWidth(item, state, room);
    const need = gaps + visible.reduce((sum, item) => sum + widthOf(item), 0);
    const widest = visible.find((item) => isContentSized(item, state) && !grows(item, state));
    if (need > available && widest !== undefined)
      problems.push(problemIn(widest, state, 'width', layoutAdvice.widthOfLongText));
  });
  return problems;
}

function sideOf(box: RowBox, state: number): 'left' | 'center' | 'right' {
  const own = styleIn(box, state);
  const rightToLeft = own.get('direction') === 'rtl';
  const justify = own.get('justify-content');
  if (justify === 'center') return 'center';
  if (/^(?:flex-)?end$/.test(justify)) return rightToLeft ? 'left' : 'right';
  if (justify === 'right' || justify === 'left') return justify;
  return rightToLeft ? 'right' : 'left';
}
