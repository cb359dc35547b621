import { layoutAdvice } from '../../findings/wording/layout.js';
import { finding } from '../../findings/finding.js';
import { edgeIn, isHidden, lengthIn, styleIn, type Box, type GridBox, type RowBox } from '../boxes/boxes.js';
import { blockGaps, laysOutItems } from '../boxes/margins.js';
import { spillsAt } from '../content/spill.js';
import { narrowestWidth, desktopWidth, type Room } from '../content/room.js';
import { problemIn, pushesColumn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { gapIn, rowWidths, type ColumnWidth } from './row-widths.js';
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
  /** In each state, the space above a column that stands below another. */
  readonly above: (item: Box, state: number) => number;
  /** True where the columns stand against the direction of text: `row-reverse`. */
  readonly reversed: boolean;
}

/** How a flex container stands in a state. */
export function modeIn(box: Box, state: number): RowMode {
  const style = styleIn(box, state);
  const display = style.take('display');
  if (display === 'none') return 'hidden';
  return display === 'flex' && style.take('flex-direction').startsWith('row') ? 'side-by-side' : 'stacked';
}

/** Reads a row of columns whose widths can be computed; null where findings say why not. */
export function planRow(box: RowBox, room: Room): RowPlan | null {
  const items = box.children;
  const modes = box.styles.map((_, state) => modeIn(box, state));
  const columnGap = box.styles.map((_, state) => gapIn(box, state, 'column-gap'));
  // Stacked by display: block, items have no gap.
  const rowGap = box.styles.map((style, state) =>
    style.take('display') === 'flex' ? gapIn(box, state, 'row-gap') : 0,
  );
  const problems = [...rowProblems(box, items, modes), ...flexProblems(box, modes)];
  const intrinsic = (item: Box): number | null => intrinsicWidth(item, room);
  const widths = modes.map((mode, state) => {
    if (mode !== 'side-by-side') return null;
    const visible = items.filter((item) => !isHidden(item, state));
    const columns = rowWidths(visible, { state, gap: columnGap[state] ?? 0 }, intrinsic, (problem) => {
      problems.push(problem);
      return null;
    });
    return columns === null ? null : items.map((item) => columns[visible.indexOf(item)] ?? noColumn);
  });
  if (problems.length === 0) problems.push(...spillingColumns({ box, items, modes, widths }, room));
  const widthOf = (item: number, state: number): number => {
    const { share = 1, pixels = 0 } = widths[state]?.[item] ?? {};
    return share * narrowestWidth(room, state) + pixels;
  };
  if (problems.length === 0) problems.push(...stretchedPictures(box, modes, room, widthOf));
  if (problems.length === 0) problems.push(...squeezedColumns({ items, modes, widths, columnGap }, room));
  reportProblems(problems, room);
  const reversed = isReversed(box, modes);
  const plan = { box, items, modes, widths, columnGap, rowGap, above: stackedGaps(box, rowGap), reversed };
  return problems.length === 0 && fits(plan, room) ? plan : null;
}

/** Columns that something in them would push wider than they are: text that does not wrap, a picture without a bound. */
function spillingColumns(plan: Pick<RowPlan, 'box' | 'items' | 'modes' | 'widths'>, room: Room): LayoutProblem[] {
  return plan.items.flatMap((item, index): LayoutProblem[] => {
    const innerWidths = plan.modes.map((mode, of) => {
      const column = plan.widths[of]?.[index];
      const isMeasured = mode === 'side-by-side' && column !== undefined && column.kind !== 'rest';
      if (!isMeasured || isHidden(item, of) || !holdsItsWidth(item, of)) return Infinity;
      const edges = edgeIn(item, of, 'left') + edgeIn(item, of, 'right');
      return column.share * narrowestWidth(room, of) + column.pixels - edges;
    });
    const spilled = innerWidths.findIndex((inner, of) => spillsAt(item, room, of, inner));
    if (spilled >= 0) return [pushesColumn(item, spilled)];
    const worded = innerWidths.findIndex((inner, of) => longestWord(item, of, room) > inner);
    return worded < 0 ? [] : [problemIn(item, worded, 'flex-basis', layoutAdvice.longWord)];
  });
}

/** Columns whose stated widths leave no room for each other on a narrow window: they would shrink, or run over the edge. */
function squeezedColumns(
  { items, modes, widths, columnGap }: Pick<RowPlan, 'items' | 'modes' | 'widths' | 'columnGap'>,
  room: Room,
): LayoutProblem[] {
  const state = modes.findIndex((mode, of) => {
    if (mode !== 'side-by-side') return false;
    const shown = (widths[of] ?? []).filter((_, index) => items[index] !== undefined && !isHidden(items[index], of));
    const stated = shown.filter(({ kind }) => kind === 'fixed' || kind === 'percent');
    const available = narrowestWidth(room, of);
    const gaps = (columnGap[of] ?? 0) * (shown.length - 1);
    return stated.reduce((sum, { share, pixels }) => sum + share * available + pixels, gaps) > available + 1;
  });
  const item = items.find((candidate) => state >= 0 && !isHidden(candidate, state));
  if (item === undefined) return [];
  const property = styleIn(item, state).get('flex-basis') === 'auto' ? 'width' : 'flex-basis';
  return [problemIn(item, state, property, layoutAdvice.columnsLeast)];
}

/** Whether a column is at least as wide as its content: what does not shrink below it, or would have to scroll. */
function holdsItsWidth(item: Box, state: number): boolean {
  const own = styleIn(item, state);
  return own.get('min-width') === 'auto' && !/hidden|clip/.test(own.get('overflow')) && item.kind !== 'picture';
}

/** The space above a column once columns stand below each other: the gap, or in a plain block margins that collapse. */
export function stackedGaps(box: RowBox, rowGap: readonly number[]): RowPlan['above'] {
  const margins = box.styles.map((_, state) => (laysOutItems(box, state) ? null : blockGaps(box.children, state)));
  return (item, state) => {
    const own = margins[state] ?? null;
    return own === null ? (rowGap[state] ?? 0) : Math.max(0, own.get(item) ?? 0);
  };
}

const noColumn: ColumnWidth = { kind: 'fixed', share: 0, pixels: 0, weight: 0 };

function isReversed(box: RowBox, modes: readonly RowMode[]): boolean {
  const state = modes.indexOf('side-by-side');
  return state >= 0 && styleIn(box, state).take('flex-direction') === 'row-reverse';
}

/** What no row of tables can do. */
export function rowProblems(box: RowBox | GridBox, items: readonly Box[], modes: readonly RowMode[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  modes.forEach((mode, state) => {
    const style = styleIn(box, state);
    const isFlex = style.take('display') === 'flex';
    if (mode === 'stacked' && isFlex && !/^(?:normal|stretch)$/.test(style.take('align-items')))
      problems.push(problemIn(box, state, 'align-items', layoutAdvice.stretchStacked));
    if (modes[0] !== 'side-by-side' && mode === 'side-by-side')
      problems.push(problemIn(box, state, 'flex-direction', layoutAdvice.wideSideBySide));
    for (const item of items) problems.push(...itemProblems(item, state, mode, isFlex));
  });
  return problems;
}

function flexProblems(box: RowBox, modes: readonly RowMode[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  const directions = new Set(
    modes.flatMap((mode, state) => (mode === 'side-by-side' ? [styleIn(box, state).take('flex-direction')] : [])),
  );
  modes.forEach((mode, state) => {
    const style = styleIn(box, state);
    if (mode !== 'side-by-side') return;
    if (directions.size > 1) problems.push(problemIn(box, state, 'flex-direction', layoutAdvice.oneDirection));
    if (style.take('flex-wrap') !== 'nowrap')
      problems.push(problemIn(box, state, 'flex-wrap', layoutAdvice.stackInsteadOfWrap));
    if (!isFull(box, state) && String(restPlaces(box, state)) !== String(restPlaces(box, modes.indexOf(mode))))
      problems.push(problemIn(box, state, 'justify-content', layoutAdvice.oneDistribution));
  });
  return problems;
}

/**
 * Where the space stands that columns with widths of their own leave, in equal shares: before the columns of these numbers,
 * and behind all for their count (CSS Flexible Box Layout 1, 8.1 and 8.2).
 */
export function restPlaces(box: RowBox | GridBox, state: number): number[] {
  const shown = box.children.flatMap((item, index) => (isHidden(item, state) ? [] : [index]));
  const end = box.children.length;
  const isAuto = (index: number, side: string): boolean =>
    styleIn(box.children[index] as Box, state).take(`margin-${side}`) === 'auto';
  const byMargins = shown.flatMap((index, place) => [
    ...(isAuto(index, 'left') ? [index] : []),
    ...(isAuto(index, 'right') ? [shown[place + 1] ?? end] : []),
  ]);
  if (byMargins.length > 0) return byMargins;
  const [first = 0, ...others] = shown;
  switch (styleIn(box, state).take('justify-content').replace('flex-', '')) {
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
function isFull(box: RowBox, state: number): boolean {
  return box.children.some((item) => !isHidden(item, state) && Number(styleIn(item, state).take('flex-grow')) > 0);
}

function itemProblems(item: Box, state: number, mode: RowMode, isFlex: boolean): LayoutProblem[] {
  const style = styleIn(item, state);
  const problems: LayoutProblem[] = [];
  for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left']) {
    const isAcross = side === 'margin-top' || side === 'margin-bottom';
    if (mode === 'stacked' && !isFlex && isAcross) continue;
    if ((mode === 'side-by-side' && isAcross && style.take(side) === 'auto') || lengthIn(item, state, side) !== 0)
      problems.push(problemIn(item, state, side, layoutAdvice.columnGap));
  }
  if (style.take('order') !== styleIn(item, 0).take('order') && mode !== 'hidden')
    problems.push(problemIn(item, state, 'order', layoutAdvice.columnOrder));
  const isHeight = mode === 'stacked' && isFlex && !/^(?:auto|0px|0%|content)$/.test(style.take('flex-basis'));
  if (isHeight && style.take('display') !== 'none')
    problems.push(problemIn(item, state, 'flex-basis', layoutAdvice.basisOnceStacked));
  return problems;
}

/** Whether the widths that are stated leave room for each other on the desktop. */
export function fits(plan: RowPlan, room: Room): boolean {
  const columns = plan.widths[0] ?? [];
  const stated = columns.filter(({ kind }) => kind === 'percent' || kind === 'fixed');
  const available = desktopWidth(room);
  const gaps = (plan.columnGap[0] ?? 0) * (plan.items.filter((item) => !isHidden(item, 0)).length - 1);
  const need = stated.reduce((sum, column) => sum + column.share * available + column.pixels, 0) + gaps;
  const span = plan.box.element?.node.startTag ?? null;
  if (need <= available + 0.01 || span === null) return true;
  const data = { need: `${Math.round(need)}px`, room: `${Math.round(available)}px` };
  room.report(finding('row-too-wide', { source: room.doc.source, span }, data));
  return false;
}

/** The vertical alignment of cells that does what `align-items` does. */
export function cellAlignment(box: Box, item: Box, state: number): string {
  const own = styleIn(item, state).take('align-self');
  const value = own === 'auto' ? styleIn(box, state).take('align-items') : own;
  return verticalAlignments.get(value) ?? 'top';
}

const verticalAlignments: ReadonlyMap<string, string> = new Map([
  ['center', 'middle'],
  ['end', 'bottom'],
  ['flex-end', 'bottom'],
  ['baseline', 'baseline'],
]);
