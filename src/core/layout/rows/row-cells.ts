import { layoutAdvice } from '../../findings/wording/layout.js';
import { finding } from '../../findings/finding.js';
import { longestWord } from './text-width.js';
import { cssWidths, percentage, type CellWidths } from './cell-widths.js';
import { noExtra, shortPixels, type ExtraPadding } from '../boxes/box-style.js';
import { edgeIn, hidesAnywhere, isHidden, isPainted, styleIn, type Box } from '../boxes/boxes.js';
import { outerLength } from '../boxes/box-style.js';
import { laysOutItems } from '../boxes/margins.js';
import { desktopWidth, forStates, type EmitContext, type Room } from '../content/room.js';
import {
  element,
  filler,
  hiddenFromWord,
  layoutTable,
  style,
  tableRow,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { problemIn, reportProblems } from '../content/problems.js';
import { sharesHeight } from './column.js';
import { cellAlignment, modeIn, restPlace, type RowPlan } from './row-plan.js';

/**
 * Emits a row as cells of one table. Where the columns show no paint, the gaps are padding of the cells, so that
 * percentages alone are exact in every engine; else gaps are cells, and the `word` engine gets widths in px.
 */
export function emitCellsRow(plan: RowPlan, room: Room): OutNode[] {
  const shared = sharedGaps(plan);
  const cells = shared === null ? cellsWithGapCells(plan, room) : cellsWithSharedGaps(plan, shared, room);
  if (cells === null) return [];
  reportSqueezed(plan, room);
  const backwards = forStates(room, (state) => stacksBackwards(plan, state));
  const isBackwards = backwards.includes(true);
  const styles = forStates(room, (state) =>
    style([
      ['display', isBackwards ? (backwards[state] === true ? 'block' : 'table') : null],
      ['width', '100%'],
      ['table-layout', 'fixed'],
    ]),
  );
  const direction = styleIn(plan.box, 0).get('direction') === 'rtl' ? 'ltr' : 'rtl';
  const isRightToLeft = direction === 'ltr' && !plan.reversed;
  const attributes: Record<string, string> = {
    width: '100%',
    ...(plan.reversed ? { dir: direction } : isRightToLeft ? { dir: 'rtl' } : {}),
  };
  if (!isBackwards) return [layoutTable(styles, [tableRow(cells)], attributes)];
  return [layoutTable(styles.map(withoutDesktopDisplay), [backwardsBody(cells, backwards)], attributes)];
}

/** A phone, on which a client may drop the head: rows of cells then stay side by side. */
const PHONE_VIEWPORT = 375;

/** Warns of columns that would be narrower on a phone than their longest word, where the condition that stacks them is lost. */
function reportSqueezed(plan: RowPlan, room: Room): void {
  if (!plan.modes.includes('stacked')) return;
  plan.items.forEach((item, index) => {
    const available =
      columnRoom(plan, index, room).widthAt(PHONE_VIEWPORT, 0) - edgeIn(item, 0, 'left') - edgeIn(item, 0, 'right');
    const need = longestWord(item, 0, room);
    const span = item.element?.node.startTag ?? null;
    if (need <= available || span === null) return;
    const data = { room: `${Math.max(0, Math.round(available))}px`, need: `${Math.round(need)}px` };
    room.report(finding('column-squeezed', { source: room.doc.source, span }, data));
  });
}

function stacksBackwards(plan: RowPlan, state: number): boolean {
  return plan.modes[state] === 'stacked' && styleIn(plan.box, state).get('flex-direction') === 'column-reverse';
}

/** Rows and cells keep their order in the document; a class turns it round where they are stacked. */
function backwardsBody(cells: OutNode[], backwards: readonly boolean[]): OutElement {
  const body = backwards.map((is) =>
    style([
      ['display', is ? 'block' : 'table-row-group'],
      ['width', is ? '100%' : 'auto'],
    ]),
  );
  const row = backwards.map((is) =>
    style([
      ['display', is ? 'flex' : 'table-row'],
      ['flex-direction', is ? 'column-reverse' : 'row'],
    ]),
  );
  const onDesktop = (styles: Style[]): Style[] => styles.map((own, state) => (state === 0 ? new Map() : own));
  return element('tbody', {}, onDesktop(body), [element('tr', {}, onDesktop(row), cells)]);
}

/**
 * Gaps as padding: a cell that takes exactly its share of the row leaves its column the right width if what the column
 * lacks is padding. Null where that does not work: paint would show in the padding, or a padding would be negative.
 */
function sharedGaps(plan: RowPlan): ExtraPadding[][] | null {
  const weightsOnly = plan.widths.every(
    (columns) => columns === null || columns.every((column) => column.kind === 'weight' || column.kind === 'rest'),
  );
  const complete = plan.items.every((item) => item.styles.every((_, state) => !isHidden(item, state)));
  const backwards = plan.modes.some((_, state) => stacksBackwards(plan, state));
  if (!weightsOnly || plan.reversed || backwards || !complete || plan.items.some(isPainted)) return null;
  const paddings = plan.items.map((_, index) => plan.modes.map((_mode, state) => sharedGap(plan, index, state)));
  const sound = paddings.every((states) => states.every(({ left, right }) => left >= -0.01 && right >= -0.01));
  return sound ? paddings.map((states) => states.map(clamped)) : null;
}

function sharedGap(plan: RowPlan, index: number, state: number): ExtraPadding {
  const columns = plan.widths[state];
  if (columns === null || columns === undefined) return { ...noExtra, top: stackedTop(plan, index, state) };
  const gap = plan.columnGap[state] ?? 0;
  const left = columns.slice(0, index).reduce((sum, column) => sum + column.pixels, 0) + index * gap;
  return { ...noExtra, left, right: -(left + (columns[index]?.pixels ?? 0)) };
}

function stackedTop(plan: RowPlan, index: number, state: number): number {
  const item = plan.items[index];
  return index === 0 || item === undefined ? 0 : plan.above(item, state);
}

function clamped(padding: ExtraPadding): ExtraPadding {
  return { ...padding, left: Math.max(0, padding.left), right: Math.max(0, padding.right) };
}

function cellsWithSharedGaps(plan: RowPlan, gaps: readonly ExtraPadding[][], room: Room): OutNode[] {
  return plan.items.map((item, index) => {
    const cell = room.make.cell(item, columnRoom(plan, index, room), {
      extra: gaps[index] ?? [],
      isFlexItem: itemStates(plan),
    });
    return withCellStyles(cell, plan, item, room, {
      width: (state) => percentage(plan.widths[state]?.[index]?.share ?? 1),
    });
  });
}

/** What a column offers: its own width side by side, the whole row once stacked. */
export function columnRoom(plan: RowPlan, index: number, room: Room): Room {
  return {
    ...room,
    text: null,
    widthAt: (viewport, state) => {
      const column = plan.widths[state]?.[index];
      const row = room.widthAt(viewport, state);
      return column === undefined ? row : column.share * row + column.pixels;
    },
  };
}

/** What a row's cells have beside their plan. */
interface CellRules {
  /** The CSS width of a column in a state; null for `auto`. */
  readonly width: (state: number, index: number) => string | null;
  /** Whether a column's content is pushed to the end of its cell. */
  readonly pushed?: (state: number, index: number) => boolean;
  /** True where the space between the columns takes what is left, so that no gap cell is needed. */
  readonly spread?: boolean;
  /**
   * Whether the table has an auto layout in which one cell takes all that is left: widths are then held by `min-width`,
   * and cells without one keep their text on a line.
   */
  readonly fills?: boolean;
  /** In a state, the shares of what the columns leave that stand before each of them and behind the last one; none for nothing. */
  readonly spaces?: (state: number) => readonly number[];
  /** The number of table columns that a cell takes. */
  readonly span?: (index: number) => number;
  /** Whether a column's side padding stands in cells of its own, so that percentages share only the rest. */
  readonly splitsPadding?: (index: number) => boolean;
}

/** Emits the columns of a row as cells, with cells for the gaps between them. */
export function columnCells(plan: RowPlan, room: Room, rules: CellRules): OutNode[] {
  const cells = plan.items.flatMap((_, index): OutNode[] => {
    const space = spaceCell(index, room, rules);
    return [...space, ...columnWithGap(plan, index, room, rules)];
  });
  return [...cells, ...spaceCell(plan.items.length, room, rules)];
}

/** A cell that takes a share of what the columns leave, where there is one in any state. */
function spaceCell(index: number, context: EmitContext, { spaces }: CellRules): OutElement[] {
  const shares = forStates(context, (state) => {
    const weights = spaces?.(state) ?? [];
    const total = weights.reduce((sum, weight) => sum + weight, 0);
    return total === 0 ? 0 : (weights[index] ?? 0) / total;
  });
  if (shares.every((share) => share === 0)) return [];
  const changes = shares.includes(0);
  const styles = shares.map((share, state) =>
    withoutDesktopDisplay(
      style([
        ['display', changes ? (share === 0 ? 'none' : 'table-cell') : null],
        ['width', share === 0 ? 'auto' : percentage(share)],
        ['padding', '0'],
        ['font-size', '0'],
        ['line-height', '0'],
      ]),
      state,
    ),
  );
  return [element('td', {}, styles, [filler])];
}

function columnWithGap(plan: RowPlan, index: number, room: Room, rules: CellRules): OutNode[] {
  const item = plan.items[index];
  if (item === undefined) return [];
  const inner = columnRoom(plan, index, room);
  const pushed = forStates(room, (state) => rules.pushed?.(state, index) === true);
  const cell = withCellStyles(paintedCell(plan, item, inner, pushed), plan, item, room, {
    width: (state) => rules.width(state, index),
    pushed,
    fills: rules.fills === true,
  });
  const span = rules.span?.(index) ?? 1;
  if (span > 1) cell.attributes.set('colspan', String(span));
  const width = rules.width(0, index) === null && rules.spread !== undefined ? null : Math.round(desktopWidth(inner));
  const splits = rules.splitsPadding?.(index) === true;
  const padding = splits ? sidePadding(item, 0, 'left') + sidePadding(item, 0, 'right') : 0;
  const main = splits ? withoutSidePadding(cell, plan, item) : cell;
  const column: OutNode[] =
    width === null || isHidden(item, 0)
      ? [main]
      : [{ kind: 'dual-cell', cell: main, width: Math.round(width - padding) }];
  const cells = splits
    ? [...paddingCell(plan, item, 'left', room), ...column, ...paddingCell(plan, item, 'right', room)]
    : column;
  const twin = isHidden(item, 0) ? hiddenFromWord(cells) : cells;
  if (index === 0 || !hasGaps(plan)) return twin;
  const gap = gapCell(plan, index, room, rules.fills === true);
  return isHidden(item, 0) ? [...hiddenFromWord([gap]), ...twin] : [gap, ...twin];
}

/** Whether columns are apart in any state, side by side or one below the other. */
export function hasGaps({ columnGap, rowGap, items, modes, above }: RowPlan): boolean {
  const isApart = (item: Box): boolean => modes.some((mode, state) => mode === 'stacked' && above(item, state) > 0);
  return columnGap.concat(rowGap).some((gap) => gap > 0) || items.slice(1).some(isApart);
}

function sidePadding(item: Box, state: number, side: 'left' | 'right'): number {
  return edgeIn(item, state, side);
}

/** Side by side, the padding stands in the cells beside it; stacked, the cell has it back. */
function withoutSidePadding(cell: OutElement, plan: RowPlan, item: Box): OutElement {
  const styles = cell.styles.map((own, state) => {
    if (plan.modes[state] === 'stacked') return own;
    const [top = '0', , bottom = top] = (own.get('padding') ?? '0').split(' ');
    return new Map([
      ...own,
      ['padding', top === bottom ? (top === '0' ? '0' : `${top} 0`) : `${top} 0 ${bottom}`] as const,
    ]);
  });
  return item.kind === 'picture' ? cell : { ...cell, styles };
}

/** A cell that shows one side of a column's padding, in the column's colour. */
function paddingCell(plan: RowPlan, item: Box, side: 'left' | 'right', context: EmitContext): OutElement[] {
  const widths = forStates(context, (state) => sidePadding(item, state, side));
  if (widths.every((width) => width === 0)) return [];
  const changes = plan.modes.includes('stacked') || hidesAnywhere(item);
  const styles = forStates(context, (state) => {
    const gone = plan.modes[state] === 'stacked' || isHidden(item, state);
    const own = style([
      ['display', changes ? (gone ? 'none' : 'table-cell') : null],
      ['width', shortPixels(widths[state] ?? 0)],
      ['padding', '0'],
      ['background-color', styleIn(item, state).get('background-color')],
      ['font-size', '0'],
      ['line-height', '0'],
    ]);
    return withoutDesktopDisplay(own, state);
  });
  return [element('td', {}, styles, [filler])];
}

function withCellStyles(
  cell: OutElement,
  plan: RowPlan,
  item: Box,
  context: EmitContext,
  {
    width,
    pushed = [],
    fills = false,
  }: { width: (state: number) => string | null; pushed?: readonly boolean[]; fills?: boolean },
): OutElement {
  const stacks = plan.modes.includes('stacked');
  const hides = hidesAnywhere(item);
  const sized = plan.modes.some((mode, state) => mode === 'side-by-side' && width(state) !== null);
  const styles = forStates(context, (state): Style => {
    const sideBySide = plan.modes[state] !== 'stacked';
    const shown = sideBySide ? 'table-cell' : 'block';
    const own = style([
      ['display', stacks || hides ? (isHidden(item, state) ? 'none' : shown) : null],
      ['width', sized || stacks ? (sideBySide ? (width(state) ?? 'auto') : stackedWidth(item, state)) : null],
      ['box-sizing', stacks || sized ? 'border-box' : null],
      ['min-width', fills ? firmWidth(sideBySide ? width(state) : null) : null],
      ['white-space', fills ? (sideBySide && width(state) === null ? 'nowrap' : 'normal') : null],
      ['vertical-align', cellAlignment(plan.box, item, state)],
      ['text-align', pushed[state] === true ? endSide(item, state) : null],
    ]);
    const merged = new Map([...(cell.styles[state] ?? []), ...own]);
    return isHidden(item, 0) && state === 0 ? merged.set('mso-hide', 'all') : withoutDesktopDisplay(merged, state);
  });
  if (plan.reversed) cell.attributes.set('dir', styleIn(item, 0).get('direction'));
  return pushed.includes(true)
    ? { ...cell, styles: aligned(styles, item), children: cell.children.map((child) => shrunkLink(child, pushed)) }
    : { ...cell, styles };
}

/** A link that fills its item is only as wide as its text in a cell that is wider than the item was. */
function shrunkLink(node: OutNode, pushed: readonly boolean[]): OutNode {
  if (node.kind !== 'element' || node.tag !== 'a') return node;
  const styles = node.styles.map((own, state) =>
    pushed[state] === true && own.get('display') === 'block'
      ? new Map([...own, ['display', 'inline-block'] as const])
      : own,
  );
  return { ...node, styles };
}

function firmWidth(width: string | null): string {
  return width?.endsWith('px') === true ? width : '0';
}

/** A stacked column is as wide as the row, or as it says itself. */
function stackedWidth(item: Box, state: number): string {
  const own = item.kind === 'picture' ? 'auto' : styleIn(item, state).get('width');
  return own === 'auto' ? '100%' : outerLength(item, state, own);
}

/** A cell whose text is pushed in one state says how it is aligned in all. */
function aligned(styles: readonly Style[], item: Box): Style[] {
  return styles.map((own, state) =>
    own.has('text-align') ? own : new Map([...own, ['text-align', startSide(item, state)] as const]),
  );
}

function startSide(item: Box, state: number): string {
  return styleIn(item, state).get('direction') === 'rtl' ? 'right' : 'left';
}

function endSide(item: Box, state: number): string {
  return startSide(item, state) === 'left' ? 'right' : 'left';
}

/** A cell is a cell without saying so; only a class that undoes a stacking has to. */
function withoutDesktopDisplay(own: Style, state: number): Style {
  if (state > 0 || own.get('display') === 'none') return own;
  return new Map([...own].filter(([property]) => property !== 'display'));
}

function cellsWithGapCells(plan: RowPlan, room: Room): OutNode[] | null {
  const layouts = plan.widths.map((columns, state) => (columns === null ? null : cssWidths(plan, columns, state)));
  if (layouts.some((layout) => layout === 'impossible')) {
    const state = layouts.indexOf('impossible');
    const advice = layoutAdvice.equalBorders;
    reportProblems([problemIn(plan.items[0] ?? plan.box, state, 'flex-grow', advice)], room);
    return null;
  }
  const layoutIn = (state: number): CellWidths | null => {
    const layout = layouts[state];
    return layout === 'impossible' || layout === undefined ? null : layout;
  };
  const desktop = layoutIn(0);
  const rules: CellRules = {
    width: (state, index) => layoutIn(state)?.widths[index] ?? null,
    span: (index) => desktop?.spans[index] ?? 1,
    splitsPadding: (index) =>
      plan.widths.some((_, state) => layoutIn(state)?.splitsPadding === true) &&
      plan.widths[0]?.[index]?.kind === 'weight',
  };
  const cells = columnCells(plan, room, rules);
  if (desktop?.leavesRoom !== true) return cells;
  const place = restPlace(plan.box, plan.modes.indexOf('side-by-side'));
  const last = plan.items.length;
  if (place === null || place === last) return [...cells, restCell(plan, room)];
  // The space stands where it is left: before the cell of its column, and the gap that goes with that.
  const before = columnCells({ ...plan, items: plan.items.slice(0, place) }, room, rules).length;
  return [...cells.slice(0, before), restCell(plan, room), ...cells.slice(before)];
}

/** Where no column grows, an empty cell takes what is left of the row. */
function restCell(plan: RowPlan, context: EmitContext): OutElement {
  const stacks = plan.modes.includes('stacked');
  const styles = forStates(context, (state) =>
    style([
      ['display', stacks && state > 0 ? (plan.modes[state] === 'stacked' ? 'none' : 'table-cell') : null],
      ['padding', '0'],
      ['font-size', '0'],
      ['line-height', '0'],
    ]),
  );
  return element('td', {}, styles, [filler]);
}

/** Paint that is not stretched over the height of the row goes onto a table of its own inside the cell. */
function paintedCell(plan: RowPlan, item: Box, inner: Room, pushed: readonly boolean[]): OutElement {
  const stretched = plan.modes.every(
    (mode, state) => mode !== 'side-by-side' || cellAlignment(plan.box, item, state) === 'top',
  );
  const startsAtTop =
    item.styles.some((own) => /^(?:flex-start|start)$/.test(own.get('align-self'))) ||
    plan.box.styles.some((own) => /^(?:flex-start|start)$/.test(own.get('align-items')));
  const isBlock = pushed.includes(true) && item.kind !== 'text';
  if (!isBlock && (!isPainted(item) || (stretched && !startsAtTop))) {
    const cell = inner.make.cell(item, inner, { extra: [], isFlexItem: itemStates(plan) });
    return stretched && !startsAtTop ? withHeldHeight(cell, item, plan) : cell;
  }
  const shrink = isBlock
    ? forStates(inner, (state) => (pushed[state] === true ? endSide(item, state) : 'stretch') as 'right' | 'stretch')
    : null;
  return element(
    'td',
    {},
    forStates(inner, () => style([['padding', '0']])),
    inner.make.table(item, inner, {
      isFlexItem: itemStates(plan),
      shrink,
      fills: plan.modes.map((mode) => mode === 'side-by-side'),
    }),
  );
}

/**
 * What fills the height of a column refers to that of its cell, which is as tall as its row: browsers know it where the cell
 * has a height of its own, however small.
 */
export function withHeldHeight(cell: OutElement, item: Box, plan: Pick<RowPlan, 'modes'>): OutElement {
  if (!item.styles.some((_, state) => fillsItsHeight(item, state))) return cell;
  const styles = cell.styles.map((own, state) => {
    if (own.has('height') && own.get('height') !== '1px') return own;
    return new Map([...own, ['height', plan.modes[state] === 'side-by-side' ? '1px' : 'auto'] as const]);
  });
  return { ...cell, styles };
}

function fillsItsHeight(item: Box, state: number): boolean {
  if (item.kind === 'row') return modeIn(item, state) === 'stacked' && sharesHeight(item, state);
  return item.kind === 'flow' && item.isFrame === true && item.children.some(isPainted);
}

/** In which states columns are items of a flex container. */
export function itemStates({ box }: RowPlan): boolean[] {
  return box.styles.map((_, state) => laysOutItems(box, state));
}

/** The cell between a column and the one before it; it goes with either of them. */
function gapCell(plan: RowPlan, index: number, context: EmitContext, fills: boolean): OutElement {
  const stacks = plan.modes.includes('stacked');
  const isGone = (state: number): boolean => {
    const item = plan.items[index];
    const hasBefore = plan.items.slice(0, index).some((other) => !isHidden(other, state));
    return !hasBefore || item === undefined || isHidden(item, state);
  };
  const hides = forStates(context, isGone).includes(true);
  const styles = forStates(context, (state) => {
    const sideBySide = plan.modes[state] !== 'stacked';
    const shown = sideBySide ? 'table-cell' : 'block';
    const own = style([
      ['display', stacks || hides ? (isGone(state) ? 'none' : shown) : null],
      ['width', sideBySide ? shortPixels(plan.columnGap[state] ?? 0) : '100%'],
      ['min-width', fills ? (sideBySide ? shortPixels(plan.columnGap[state] ?? 0) : '0') : null],
      ['height', stacks ? (sideBySide ? 'auto' : shortPixels(stackedTop(plan, index, state))) : null],
      ['padding', '0'],
      ['font-size', '0'],
      ['line-height', '0'],
    ]);
    return withoutDesktopDisplay(own, state);
  });
  return element('td', {}, styles, [filler]);
}
