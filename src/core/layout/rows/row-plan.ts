import { layoutAdvice } from '../../findings/wording/layout.js';
import { finding } from '../../findings/finding.js';
import type { Box, GridBox, RowBox } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { blockGaps, laysOutItems } from '../boxes/margins.js';
import { spillsAt } from '../content/spill.js';
import { narrowestWidth, desktopWidth, type Room } from '../content/room.js';
import { problemIn, pushesColumn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { rowWidths, widthProperty, type ColumnWidth } from './row-widths.js';
import { stretchedPictures } from './stretched-pictures.js';
import { intrinsicWidth, longestWord } from './text-width.js';

/** How a row stands in a state. */
export type RowMode = 'side-by-side' | 'stacked' | 'hidden';

/** A row, read: what each of its emission patterns needs. */
export interface RowPlan {
  readonly box: RowBox | GridBox;
  readonly items: readonly Box[];
  readonly modes: readonly RowMode[];
  /**
   * Column widths in each state in which the row stands side by side; null where it does not. A column that is hidden
   * in the state has a share of 0.
   */
  readonly widths: readonly (readonly ColumnWidth[] | null)[];
  readonly columnGap: readonly number[];
  readonly rowGap: readonly number[];
  /** The space above a column that stands below another in a state. */
  readonly above: (item: BoxInState) => number;
  /** True where the columns stand against the direction of text: `row-reverse`. */
  readonly reversed: boolean;
}

/** How a flex container stands in a state. */
export function modeIn(box: BoxInState): RowMode {
  const style = box.style;
  const display = style.take('display');
  if (display === 'none') return 'hidden';
  return display === 'flex' && style.take('flex-direction').startsWith('row') ? 'side-by-side' : 'stacked';
}

/** Reads a row of columns whose widths can be computed; null where findings say why not. */
export function planRow(box: RowBox, room: Room): RowPlan | null {
  const items = box.children;
  const states = inStates(box);
  const modes = states.map(modeIn);
  const columnGap = states.map((own) => own.takeLength('column-gap'));
  // Stacked by display: block, items have no gap.
  const rowGap = states.map((own) => (own.style.take('display') === 'flex' ? own.takeLength('row-gap') : 0));
  const problems = [...rowProblems(box, items, modes), ...flexProblems(box, modes)];
  const intrinsic = (item: Box): number | null => intrinsicWidth(item, room);
  const widths = modes.map((mode, state) => {
    if (mode !== 'side-by-side') return null;
    const visible = items.map((item) => inState(item, state)).filter((item) => !item.isHidden);
    const columns = rowWidths(visible, columnGap[state] ?? 0, intrinsic, (problem) => {
      problems.push(problem);
      return null;
    });
    const place = (item: Box): number => visible.findIndex(({ itself }) => itself === item);
    return columns === null ? null : items.map((item) => columns[place(item)] ?? noColumn);
  });
  if (problems.length === 0) problems.push(...spillingColumns({ box, items, modes, widths }, room));
  if (problems.length === 0) problems.push(...stretchedPictures(box, modes, room, narrowColumns({ widths }, room)));
  if (problems.length === 0) problems.push(...squeezedColumns({ items, modes, widths, columnGap }, room));
  reportProblems(problems, room);
  const reversed = isReversed(box, modes);
  const plan = { box, items, modes, widths, columnGap, rowGap, above: stackedGaps(box, rowGap), reversed };
  return problems.length === 0 && fits(plan, room) ? plan : null;
}

/** How wide the column of a number is on the narrowest window of a state, in px. */
export function narrowColumns(
  { widths }: Pick<RowPlan, 'widths'>,
  room: Room,
): (column: number, state: number) => number {
  return (column, state) => {
    const { share = 1, pixels = 0 } = widths[state]?.[column] ?? {};
    return share * narrowestWidth(room, state) + pixels;
  };
}

/** Columns that something in them would push wider than they are: text that does not wrap, a picture without a bound. */
function spillingColumns(plan: Pick<RowPlan, 'box' | 'items' | 'modes' | 'widths'>, room: Room): LayoutProblem[] {
  return plan.items.flatMap((item, index): LayoutProblem[] => {
    const measured = inStates(item).map((own, state) => {
      const column = plan.widths[state]?.[index];
      const isMeasured = plan.modes[state] === 'side-by-side' && column !== undefined && column.kind !== 'rest';
      if (!isMeasured || own.isHidden || !holdsItsWidth(own)) return { own, available: Infinity };
      return { own, available: column.share * narrowestWidth(room, state) + column.pixels };
    });
    const spilled = measured.find(({ own, available }) => spillsAt(own, room, available));
    if (spilled !== undefined) return [pushesColumn(spilled.own)];
    const worded = measured.find(({ own, available }) => longestWord(own, room) > available - own.sideEdges);
    return worded === undefined ? [] : [problemIn(worded.own, 'flex-basis', layoutAdvice.longWord)];
  });
}

/** Columns whose stated widths leave no room for each other on a narrow window: they would shrink, or run over the edge. */
function squeezedColumns(
  { items, modes, widths, columnGap }: Pick<RowPlan, 'items' | 'modes' | 'widths' | 'columnGap'>,
  room: Room,
): LayoutProblem[] {
  const state = modes.findIndex((mode, of) => {
    if (mode !== 'side-by-side') return false;
    const shown = (widths[of] ?? []).filter(
      (_, index) => items[index] !== undefined && !inState(items[index], of).isHidden,
    );
    const stated = shown.filter(({ kind }) => kind === 'fixed' || kind === 'percent');
    const available = narrowestWidth(room, of);
    const gaps = (columnGap[of] ?? 0) * (shown.length - 1);
    return stated.reduce((sum, { share, pixels }) => sum + share * available + pixels, gaps) > available + 1;
  });
  const item = state < 0 ? undefined : items.map((one) => inState(one, state)).find((one) => !one.isHidden);
  if (item === undefined) return [];
  return [problemIn(item, widthProperty(item), layoutAdvice.columnsLeast)];
}

/** Whether a column is at least as wide as its content: what does not shrink below it, or would have to scroll. */
export function holdsItsWidth(item: BoxInState): boolean {
  const own = item.style;
  return own.get('min-width') === 'auto' && !/hidden|clip/.test(own.get('overflow')) && item.itself.kind !== 'picture';
}

/** The space above a column once columns stand below each other: the gap, or in a plain block margins that collapse. */
export function stackedGaps(box: RowBox, rowGap: readonly number[]): RowPlan['above'] {
  const margins = inStates(box).map((own) => (laysOutItems(own) ? null : blockGaps(own)));
  return ({ itself, state }) => {
    const own = margins[state] ?? null;
    return own === null ? (rowGap[state] ?? 0) : Math.max(0, own.get(itself) ?? 0);
  };
}

const noColumn: ColumnWidth = { kind: 'fixed', share: 0, pixels: 0, weight: 0 };

function isReversed(box: RowBox, modes: readonly RowMode[]): boolean {
  const state = modes.indexOf('side-by-side');
  return state >= 0 && box.styles[state]?.take('flex-direction') === 'row-reverse';
}

/** Which way the table of a row runs: its first cell is the first column. */
export function tableDirection({ box, reversed }: Pick<RowPlan, 'box' | 'reversed'>): 'ltr' | 'rtl' {
  const isRightToLeft = box.styles[0]?.take('direction') === 'rtl';
  return isRightToLeft === reversed ? 'ltr' : 'rtl';
}

/** What no row of tables can do. */
export function rowProblems(box: RowBox | GridBox, items: readonly Box[], modes: readonly RowMode[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  modes.forEach((mode, state) => {
    const row = inState(box, state);
    const { style } = row;
    const isFlex = style.take('display') === 'flex';
    if (mode === 'stacked' && isFlex && !/^(?:normal|stretch)$/.test(style.take('align-items')))
      problems.push(problemIn(row, 'align-items', layoutAdvice.stretchStacked));
    if (modes[0] !== 'side-by-side' && mode === 'side-by-side')
      problems.push(problemIn(row, 'flex-direction', layoutAdvice.wideSideBySide));
    for (const item of items) problems.push(...itemProblems(inState(item, state), mode, isFlex));
  });
  return problems;
}

function flexProblems(box: RowBox, modes: readonly RowMode[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  const directions = new Set(
    modes.flatMap((mode, state) => (mode === 'side-by-side' ? [box.styles[state]?.take('flex-direction')] : [])),
  );
  modes.forEach((mode, state) => {
    const row = inState(box, state);
    const { style } = row;
    if (mode !== 'side-by-side') return;
    if (directions.size > 1) problems.push(problemIn(row, 'flex-direction', layoutAdvice.oneDirection));
    if (style.take('flex-wrap') !== 'nowrap')
      problems.push(problemIn(row, 'flex-wrap', layoutAdvice.stackInsteadOfWrap));
    if (!isFull(row) && String(restPlaces(row)) !== String(restPlaces(inState(box, modes.indexOf(mode)))))
      problems.push(problemIn(row, 'justify-content', layoutAdvice.oneDistribution));
  });
  return problems;
}

/**
 * Where the space stands that columns with widths of their own leave, in equal shares: before the columns of these numbers,
 * and behind all for their count (CSS Flexible Box Layout 1, 8.1 and 8.2).
 */
export function restPlaces(box: BoxInState<RowBox | GridBox>): number[] {
  const shown = box.children.flatMap((item, index) => (item.isHidden ? [] : [index]));
  const end = box.itself.children.length;
  const isAuto = (index: number, side: string): boolean => box.children[index]?.style.take(`margin-${side}`) === 'auto';
  const byMargins = shown.flatMap((index, place) => [
    ...(isAuto(index, 'left') ? [index] : []),
    ...(isAuto(index, 'right') ? [shown[place + 1] ?? end] : []),
  ]);
  if (byMargins.length > 0) return byMargins;
  const [first = 0, ...others] = shown;
  switch (box.style.take('justify-content').replace('flex-', '')) {
    case 'center':
      return [first, end];
    case 'end':
    case 'right':
      return [first];
    case 'space-between':
      return others.length === 0 ? [end] : others;
    case 'space-around':
      return [first, ...others.flatMap((index) => [index, index]), end];
    case 'space-evenly':
      return [first, ...others, end];
    default:
      return [end];
  }
}

/** Where a column grows there is no space left to be distributed. */
function isFull(box: BoxInState<RowBox>): boolean {
  return box.children.some((item) => !item.isHidden && Number(item.style.take('flex-grow')) > 0);
}

function itemProblems(item: BoxInState, mode: RowMode, isFlex: boolean): LayoutProblem[] {
  const style = item.style;
  const problems: LayoutProblem[] = [];
  for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left']) {
    const isAcross = side === 'margin-top' || side === 'margin-bottom';
    if (mode === 'stacked' && !isFlex && isAcross) continue;
    if ((mode === 'side-by-side' && isAcross && style.take(side) === 'auto') || item.length(side) !== 0)
      problems.push(problemIn(item, side, layoutAdvice.columnGap));
  }
  if (style.take('order') !== item.itself.styles[0]?.take('order') && mode !== 'hidden')
    problems.push(problemIn(item, 'order', layoutAdvice.columnOrder));
  const isHeight = mode === 'stacked' && isFlex && !/^(?:auto|0px|0%|content)$/.test(style.take('flex-basis'));
  if (isHeight && style.take('display') !== 'none')
    problems.push(problemIn(item, 'flex-basis', layoutAdvice.basisOnceStacked));
  return problems;
}

/** Whether the widths that are stated leave room for each other on the desktop. */
export function fits(plan: RowPlan, room: Room): boolean {
  const columns = plan.widths[0] ?? [];
  const stated = columns.filter(({ kind }) => kind === 'percent' || kind === 'fixed');
  const available = desktopWidth(room);
  const gaps = (plan.columnGap[0] ?? 0) * (plan.items.filter((item) => !inState(item, 0).isHidden).length - 1);
  const need = stated.reduce((sum, column) => sum + column.share * available + column.pixels, 0) + gaps;
  const span = plan.box.element?.node.startTag ?? null;
  if (need <= available + 0.01 || span === null) return true;
  const data = { need: `${Math.round(need)}px`, room: `${Math.round(available)}px` };
  room.report(finding('row-too-wide', { source: room.doc.source, span }, data));
  return false;
}

/** The vertical alignment of cells that does what `align-items` does. */
export function cellAlignment(box: Box, item: BoxInState): string {
  const own = item.style.take('align-self');
  const value = own === 'auto' ? item.of(box).style.take('align-items') : own;
  return verticalAlignments.get(value) ?? 'top';
}

/** Whether the paint of a column reaches over the whole height of its row wherever it stands beside others. */
export function isStretched({ box, modes }: Pick<RowPlan, 'box' | 'modes'>, item: Box): boolean {
  const isAtTop = inStates(item).every(
    (own, state) => modes[state] !== 'side-by-side' || cellAlignment(box, own) === 'top',
  );
  const startsAtTop =
    item.styles.some((own) => /^(?:flex-start|start)$/.test(own.take('align-self'))) ||
    box.styles.some((own) => /^(?:flex-start|start)$/.test(own.take('align-items')));
  return isAtTop && !startsAtTop;
}

const verticalAlignments: ReadonlyMap<string, string> = new Map([
  ['center', 'middle'],
  ['end', 'bottom'],
  ['flex-end', 'bottom'],
  ['baseline', 'baseline'],
]);
