import { takeBasis } from '../used/flex-basis.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { shortPixels } from '../boxes/box-style.js';
import { edgeIn, isHidden, styleIn, type Box, type RowBox } from '../boxes/boxes.js';
import { textContent } from '../../html/tree.js';
import { narrowestWidth, forStates, type Room } from '../content/room.js';
import { columnCells } from './column-cells.js';
import { layoutTable, style, tableRow, type OutNode } from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { modeIn, rowProblems, stackedGaps, type RowMode, type RowPlan } from './row-plan.js';
import { gapIn, type ColumnWidth } from './row-widths.js';
import { stretchedPictures } from './stretched-pictures.js';
import { breaksAnywhere, estimatedWidth, intrinsicWidth } from './text-width.js';

/** A row in which nothing grows, and the columns are as wide as their content, or do not begin at the start of the row. */
export function isPacked(box: RowBox): boolean {
  return box.styles.some((own, state) => {
    if (modeIn(box, state) !== 'side-by-side') return false;
    const items = box.children.filter((item) => !isHidden(item, state));
    const growing = items.filter((item) => grows(item, state)).length;
    if (growing > 0) return growing === 1 && items.some((item) => !grows(item, state) && isContentSized(item, state));
    // Shares of the row are cells of shares, whatever stands between them.
    if (items.every((item) => !isContentSized(item, state)) && items.some((item) => isShare(item, state))) return false;
    const justified = !/^(?:normal|flex-start|start|left|stretch)$/.test(own.take('justify-content'));
    return justified || items.some((item) => isContentSized(item, state) || hasAutoSide(item, state));
  });
}

function grows(item: Box, state: number): boolean {
  return Number(styleIn(item, state).take('flex-grow')) > 0;
}

function isContentSized(item: Box, state: number): boolean {
  const basis = takeBasis(styleIn(item, state));
  const inner = item.kind === 'flow' && item.isFrame === true ? item.children[0] : item;
  return inner?.kind !== 'picture' && basis.quantity === null;
}

function isShare(item: Box, state: number): boolean {
  return takeBasis(styleIn(item, state)).quantity?.unit === '%';
}

function hasAutoSide(item: Box, state: number): boolean {
  return ['margin-left', 'margin-right'].some((side) => styleIn(item, state).take(side) === 'auto');
}

/**
 * How the space that a row's items leave is shared out: before each item and behind the last one, as weights (CSS Flexible
 * Box Layout 1, 8.1 and 8.2). Automatic margins take all of it.
 */
function spaceWeights(box: RowBox, state: number): number[] {
  const { children } = box;
  const none = [...children.map(() => 0), 0];
  if (modeIn(box, state) !== 'side-by-side') return none;
  const shown = children.flatMap((item, index) => (isHidden(item, state) ? [] : [index]));
  if (shown.some((index) => grows(children[index] as Box, state))) return none;
  const weights = [...none];
  const add = (index: number, weight: number): number => (weights[index] = (weights[index] ?? 0) + weight);
  const autos = shown.filter((index) => hasAutoSide(children[index] as Box, state));
  if (autos.length > 0) {
    for (const index of autos) {
      const style = styleIn(children[index] as Box, state);
      if (style.take('margin-left') === 'auto') add(index, 1);
      if (style.take('margin-right') === 'auto') add(shown[shown.indexOf(index) + 1] ?? children.length, 1);
    }
    return weights;
  }
  const justify = styleIn(box, state).take('justify-content');
  const [first = 0, ...others] = shown;
  if (justify === 'space-between' && shown.length > 2) for (const index of others) add(index, 1);
  const [ends, middle] = justify === 'space-around' ? [1, 2] : justify === 'space-evenly' ? [1, 1] : [0, 0];
  if (ends > 0) {
    add(first, ends);
    for (const index of others) add(index, middle);
    add(children.length, ends);
  }
  return weights;
}

/** What a column that grows beside others as wide as their content needs at the least, in px. */
const LEAST_GROWING_WIDTH = 80;

/**
 * Emits a row as a table that is as wide as its cells, at the side that `justify-content` says; with
 * `space-between`, as a table as wide as the row, whose last cell is pushed to the end.
 */
export function emitPackedRow(box: RowBox, room: Room): OutNode[] {
  const plan = planPacked(box, room);
  if (plan === null) return [];
  const spread = forStates(
    room,
    (state) =>
      plan.modes[state] === 'side-by-side' &&
      styleIn(box, state).take('justify-content') === 'space-between' &&
      !fillsRow(plan, state) &&
      spaceWeights(box, state).every((weight) => weight === 0),
  );
  const spaces = forStates(room, (state) => spaceWeights(box, state));
  const spaced = spaces.map((weights) => weights.some((weight) => weight > 0));
  const fills = forStates(room, (state) => fillsRow(plan, state) || spaced[state] === true);
  const cells = columnCells(plan, room, {
    fills: fills.includes(true),
    spaces: (state) => (spaced[state] === true ? (spaces[state] ?? []) : []),
    width: (state, index) => {
      const column = plan.widths[state]?.[index];
      const item = plan.items[index];
      if (fillsRow(plan, state) && item !== undefined && grows(item, state)) return '100%';
      return column?.kind === 'fixed' ? shortPixels(column.pixels) : null;
    },
    pushed: (state, index) => spread[state] === true && index === plan.items.length - 1,
    spread,
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
  const fixed = (state: number): number => items.reduce((sum, item) => sum + ownWidth(item, state, room).pixels, 0);
  const problems = [
    ...rowProblems(box, items, modes),
    ...packedProblems(box, items, modes, room),
    ...stretchedPictures(box, modes, room, (_, state) => Math.max(1, narrowestWidth(room, state) - fixed(state))),
  ];
  reportProblems(problems, room);
  if (problems.length > 0) return null;
  const widths = modes.map((mode, state) =>
    mode === 'side-by-side' ? items.map((item) => ownWidth(item, state, room)) : null,
  );
  const gaps = (axis: 'column-gap' | 'row-gap'): number[] => box.styles.map((_, state) => gapIn(box, state, axis));
  const rowGap = gaps('row-gap').map((gap, state) => (styleIn(box, state).take('display') === 'flex' ? gap : 0));
  return {
    box,
    items,
    modes,
    widths,
    columnGap: gaps('column-gap'),
    rowGap,
    above: stackedGaps(box, rowGap),
    reversed: false,
  };
}

function ownWidth(item: Box, state: number, room: Room): ColumnWidth {
  const own = styleIn(item, state);
  const stated = takeBasis(own).pixels;
  const isBorderBox = own.take('box-sizing') === 'border-box';
  const edges = isBorderBox ? 0 : edgeIn(item, state, 'left') + edgeIn(item, state, 'right');
  const pixels = intrinsicWidth(item, room) ?? (stated === null ? 0 : stated + edges);
  // What a column as wide as its content offers to it is known to no more than the row's width.
  if (pixels === 0) return { kind: 'rest', share: 1, pixels: 0, weight: 0 };
  return { kind: 'fixed', share: 0, pixels, weight: 0 };
}

function packedProblems(box: RowBox, items: readonly Box[], modes: readonly RowMode[], room: Room): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  modes.forEach((mode, state) => {
    if (mode !== 'side-by-side') return;
    const visible = items.filter((item) => !isHidden(item, state));
    const say = (property: string, advice: string): number => problems.push(problemIn(box, state, property, advice));
    const growing = visible.filter((item) => grows(item, state));
    const [grower] = growing;
    if (grower !== undefined && (growing.length > 1 || Number(styleIn(grower, state).take('flex-grow')) < 1))
      problems.push(problemIn(grower, state, 'flex-grow', layoutAdvice.oneGrows));
    if (styleIn(box, state).take('flex-direction') === 'row-reverse')
      say('flex-direction', layoutAdvice.columnDirection);
    if (styleIn(box, state).take('flex-wrap') !== 'nowrap') say('flex-wrap', layoutAdvice.wrapEverywhere);
    const available = narrowestWidth(room, state);
    const gaps = gapIn(box, state, 'column-gap') * Math.max(0, visible.length - 1);
    // A column that grows breaks its text; the others must leave it some room.
    const widthOf = (item: Box): number =>
      grows(item, state) ? LEAST_GROWING_WIDTH : estimatedWidth(item, state, room);
    const need = gaps + visible.reduce((sum, item) => sum + widthOf(item), 0);
    const contentSized = visible.filter(
      (item) => isContentSized(item, state) && !grows(item, state) && !(isOneWord(item) && visible.length > 1),
    );
    const [widest] = contentSized;
    // One text alone takes what pictures and columns that do not shrink leave, as a cell does.
    const isOnly =
      contentSized.length === 1 &&
      growing.length === 0 &&
      spaceWeights(box, state).every((weight) => weight === 0) &&
      visible.every((item) => item === widest || isFirm(item, state));
    if (need > available && widest !== undefined && !isOnly)
      problems.push(problemIn(widest, state, 'width', layoutAdvice.widthOfLongText));
  });
  return problems;
}

/** Whether a column keeps its width where there is too little room: pictures do, and what says so. */
function isFirm(item: Box, state: number): boolean {
  const inner = item.kind === 'flow' && item.isFrame === true ? item.children[0] : item;
  return (
    (inner?.kind === 'picture' && !styleIn(inner, state).take('width').endsWith('%')) ||
    Number(styleIn(item, state).take('flex-shrink')) === 0 ||
    (inner !== undefined && isOneWord(inner))
  );
}

/** Text that has no place to break at. */
function isOneWord(box: Box): boolean {
  if (box.kind === 'flow') return box.children.length === 1 && box.children.every(isOneWord);
  if (box.kind !== 'text' || box.styles.some(breaksAnywhere)) return false;
  return !/\S\s+\S/.test(
    box.content
      .map((node) => (node.kind === 'text' ? node.value : node.kind === 'element' ? textContent(node) : ''))
      .join(''),
  );
}

function sideOf(box: RowBox, state: number): 'left' | 'center' | 'right' {
  const own = styleIn(box, state);
  const rightToLeft = own.take('direction') === 'rtl';
  const justify = own.take('justify-content');
  if (justify === 'center') return 'center';
  if (/^(?:flex-)?end$/.test(justify)) return rightToLeft ? 'left' : 'right';
  if (justify === 'right' || justify === 'left') return justify;
  return rightToLeft ? 'right' : 'left';
}
