import { takeBasis } from '../used/flex-basis.js';
import { layoutAdvice } from '../../findings/wording/layout.js';
import { shortPixels } from '../boxes/box-style.js';
import { withoutFrame, type Box, type RowBox } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { textContent } from '../../html/tree.js';
import { narrowestWidth, type Room } from '../content/room.js';
import { columnCells } from './column-cells.js';
import { stretchesPhrases } from './held-height.js';
import { layoutTable, style, tableRow, type OutNode } from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { modeIn, rowProblems, stackedGaps, type RowPlan } from './row-plan.js';
import { widthProperty, type ColumnWidth } from './row-widths.js';
import { stretchedPictures } from './stretched-pictures.js';
import { breaksAnywhere, estimatedWidth, intrinsicWidth } from './text-width.js';

/** A row in which nothing grows, and the columns are as wide as their content, or do not begin at the start of the row. */
export function isPacked(box: RowBox): boolean {
  return inStates(box).some((row) => {
    if (modeIn(row) !== 'side-by-side') return false;
    const items = row.children.filter((item) => !item.isHidden);
    const growing = items.filter(grows).length;
    if (growing > 0) return growing === 1 && items.some((item) => !grows(item) && isContentSized(item));
    // Shares of the row are cells of shares, whatever stands between them.
    if (!items.some(isContentSized) && items.some(isShare)) return false;
    const justified = !/^(?:normal|flex-start|start|left|stretch)$/.test(row.style.take('justify-content'));
    return justified || items.some((item) => isContentSized(item) || hasAutoSide(item));
  });
}

function grows(item: BoxInState): boolean {
  return Number(item.style.take('flex-grow')) > 0;
}

function isContentSized(item: BoxInState): boolean {
  const basis = takeBasis(item.style);
  return withoutFrame(item.itself)?.kind !== 'picture' && basis.quantity === null;
}

function isShare(item: BoxInState): boolean {
  return takeBasis(item.style).quantity?.unit === '%';
}

function hasAutoSide(item: BoxInState): boolean {
  return ['margin-left', 'margin-right'].some((side) => item.style.take(side) === 'auto');
}

/**
 * How the space that a row's items leave is shared out: before each item and behind the last one, as weights (CSS Flexible
 * Box Layout 1, 8.1 and 8.2). Automatic margins take all of it.
 */
function spaceWeights(box: BoxInState<RowBox>): number[] {
  const { children } = box;
  const weights = [...children.map(() => 0), 0];
  const shown = children.flatMap((item, index) => (item.isHidden ? [] : [{ item, index }]));
  if (modeIn(box) !== 'side-by-side' || shown.some(({ item }) => grows(item))) return weights;
  const add = (index: number, weight: number): number => (weights[index] = (weights[index] ?? 0) + weight);
  if (shown.some(({ item }) => hasAutoSide(item))) {
    shown.forEach(({ item: { style }, index }, place) => {
      if (style.take('margin-left') === 'auto') add(index, 1);
      if (style.take('margin-right') === 'auto') add(shown[place + 1]?.index ?? children.length, 1);
    });
    return weights;
  }
  const justify = box.style.take('justify-content');
  const [first = 0, ...others] = shown.map(({ index }) => index);
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
  const rows = inStates(box);
  const spaces = rows.map(spaceWeights);
  const spaced = spaces.map((weights) => weights.some((weight) => weight > 0));
  const filled = rows.map(fillsRow);
  const fills = rows.map((_, state) => filled[state] === true || spaced[state] === true);
  const spread = rows.map(
    (row, state) =>
      plan.modes[state] === 'side-by-side' &&
      row.style.take('justify-content') === 'space-between' &&
      fills[state] !== true,
  );
  const cells = columnCells(plan, room, {
    fills: fills.includes(true),
    spaces: (state) => (spaced[state] === true ? (spaces[state] ?? []) : []),
    width: (state, index) => {
      const column = plan.widths[state]?.[index];
      const item = plan.items[index];
      if (filled[state] === true && item !== undefined && grows(inState(item, state))) return '100%';
      return column?.kind === 'fixed' ? shortPixels(column.pixels) : null;
    },
    pushed: (state, index) => spread[state] === true && index === plan.items.length - 1,
    spread,
    // What is as wide as its content has its text in one line.
    stretchesPhrases: stretchesPhrases(plan, room, () => Infinity),
  });
  const tableSides = rows.map(sideOf);
  const tables = tableSides.map((side, state) => {
    return style([
      ['width', plan.modes[state] === 'stacked' || spread[state] === true || fills[state] === true ? '100%' : 'auto'],
      ['margin', side === 'center' ? '0 auto' : side === 'right' ? '0 0 0 auto' : '0'],
    ]);
  });
  const [side = 'left'] = tableSides;
  const attributes: Record<string, string> =
    spread[0] === true || fills[0] === true ? { width: '100%' } : side === 'left' ? {} : { align: side };
  return [layoutTable(tables, [tableRow(cells)], attributes)];
}

/** A row in which one column takes what the others leave. */
function fillsRow(row: BoxInState<RowBox>): boolean {
  return modeIn(row) === 'side-by-side' && row.children.some(grows);
}

function planPacked(box: RowBox, room: Room): RowPlan | null {
  const items = box.children;
  const rows = inStates(box);
  const modes = rows.map(modeIn);
  const ownWidths = rows.map((row) => row.children.map((item) => ownWidth(item, room)));
  const rest = (state: number): number =>
    (ownWidths[state] ?? []).reduce((left, { pixels }) => left - pixels, narrowestWidth(room, state));
  const problems = [
    ...rowProblems(box, items, modes),
    ...rows.flatMap((row) => packedProblems(row, room)),
    ...stretchedPictures(box, modes, room, (_, state) => Math.max(1, rest(state))),
  ];
  reportProblems(problems, room);
  if (problems.length > 0) return null;
  const rowGap = rows.map((row) => (row.style.take('display') === 'flex' ? row.takeLength('row-gap') : 0));
  return {
    box,
    items,
    modes,
    widths: modes.map((mode, state) => (mode === 'side-by-side' ? (ownWidths[state] ?? []) : null)),
    columnGap: rows.map((row) => row.takeLength('column-gap')),
    rowGap,
    above: stackedGaps(box, rowGap),
    reversed: false,
  };
}

function ownWidth(item: BoxInState, room: Room): ColumnWidth {
  const own = item.style;
  const stated = takeBasis(own).pixels;
  const isBorderBox = own.take('box-sizing') === 'border-box';
  const edges = isBorderBox ? 0 : item.sideEdges;
  const pixels = intrinsicWidth(item.itself, room) ?? (stated === null ? 0 : stated + edges);
  // What a column as wide as its content offers to it is known to no more than the row's width.
  if (pixels === 0) return { kind: 'rest', share: 1, pixels: 0, weight: 0 };
  return { kind: 'fixed', share: 0, pixels, weight: 0 };
}

function packedProblems(row: BoxInState<RowBox>, room: Room): LayoutProblem[] {
  if (modeIn(row) !== 'side-by-side') return [];
  const problems: LayoutProblem[] = [];
  const say = (box: BoxInState, property: string, advice: string): number =>
    problems.push(problemIn(box, property, advice));
  const visible = row.children.filter((item) => !item.isHidden);
  const growing = visible.filter(grows);
  const [grower] = growing;
  if (grower !== undefined && (growing.length > 1 || Number(grower.style.take('flex-grow')) < 1))
    say(grower, 'flex-grow', layoutAdvice.oneGrows);
  if (row.style.take('flex-direction') === 'row-reverse') say(row, 'flex-direction', layoutAdvice.columnDirection);
  if (row.style.take('flex-wrap') !== 'nowrap') say(row, 'flex-wrap', layoutAdvice.wrapEverywhere);
  const gaps = row.takeLength('column-gap') * Math.max(0, visible.length - 1);
  // A column that grows breaks its text; the others must leave it some room.
  const need = visible.reduce(
    (sum, item) => sum + (grows(item) ? LEAST_GROWING_WIDTH : estimatedWidth(item, room)),
    gaps,
  );
  const contentSized = visible.filter(
    (item) => isContentSized(item) && !grows(item) && !(isOneWord(item.itself) && visible.length > 1),
  );
  const [widest] = contentSized;
  // One text alone takes what pictures and columns that do not shrink leave, as a cell does.
  const isOnly =
    contentSized.length === 1 &&
    growing.length === 0 &&
    Number(widest?.style.take('flex-shrink')) !== 0 &&
    spaceWeights(row).every((weight) => weight === 0) &&
    visible.every((item) => item === widest || isFirm(item));
  if (need > narrowestWidth(room, row.state) && widest !== undefined && !isOnly)
    say(widest, 'width', layoutAdvice.widthOfLongText);
  const sized = visible.filter((item) => ownWidth(item, room).kind === 'fixed');
  const [shrinking] = sized.filter((item) => intrinsicWidth(item.itself, room) === null);
  const stated = sized.reduce((sum, item) => sum + ownWidth(item, room).pixels, gaps);
  if (stated > narrowestWidth(room, row.state) + 1 && shrinking !== undefined && problems.length === 0)
    say(shrinking, widthProperty(shrinking), layoutAdvice.columnsLeast);
  return problems;
}

/** Whether a column keeps its width where there is too little room: pictures do, and what says so. */
function isFirm(item: BoxInState): boolean {
  const inner = withoutFrame(item.itself);
  return (
    (inner?.kind === 'picture' && !item.of(inner).style.take('width').endsWith('%')) ||
    Number(item.style.take('flex-shrink')) === 0 ||
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

function sideOf(box: BoxInState<RowBox>): 'left' | 'center' | 'right' {
  const own = box.style;
  const rightToLeft = own.take('direction') === 'rtl';
  const justify = own.take('justify-content');
  if (justify === 'center') return 'center';
  if (/^(?:flex-)?end$/.test(justify)) return rightToLeft ? 'left' : 'right';
  if (justify === 'right' || justify === 'left') return justify;
  return rightToLeft ? 'right' : 'left';
}
