import { percentage } from './cell-widths.js';
import type { TreeNode } from '../../html/tree.js';
import { sides, type Side } from '../../css/values/properties.js';
import { borderLine, outerLength, shortPixels } from '../boxes/box-style.js';
import { anyState, hidesAnywhere, isPainted, type Box } from '../boxes/boxes.js';
import { inState, inStates, type BoxInState } from '../boxes/box-in-state.js';
import { phrasingTags } from '../boxes/element-kinds.js';
import { laysOutItems } from '../boxes/margins.js';
import { desktopWidth, forStates, type EmitContext, type Room } from '../content/room.js';
import {
  element,
  filler,
  hiddenFromWord,
  onBaseline,
  style,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { withHeldHeight, withTallPhrase } from './held-height.js';
import { cellAlignment, isStretched, tableDirection, type RowPlan } from './row-plan.js';

export function stackedTop(plan: RowPlan, index: number, state: number): number {
  const item = plan.items[index];
  return index === 0 || item === undefined ? 0 : plan.above(inState(item, state));
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
export interface CellRules {
  /** The CSS width of a column in a state; null for `auto`. */
  readonly width: (state: number, index: number) => string | null;
  /** Whether a column's content is pushed to the end of its cell. */
  readonly pushed?: (state: number, index: number) => boolean;
  /** In which states cells share what the columns leave, so that no gap cell is needed and each may be wider than its column. */
  readonly spread?: readonly boolean[];
  /**
   * Whether the table has an auto layout in which one cell takes all that is left: widths are then held by `min-width`,
   * and cells without one keep their text on a line.
   */
  readonly fills?: boolean;
  /** In a state, the shares of what the columns leave that stand before each of them and behind the last one; none for nothing. */
  readonly spaces?: (state: number) => readonly number[];
  /** Cells that stand before a column and the gap that goes with it; behind all columns for their count. */
  readonly before?: (index: number) => readonly OutElement[];
  /** The number of table columns that a cell takes. */
  readonly span?: (index: number) => number;
  /** Whether links and other phrases with paint are as high as the row. */
  readonly stretchesPhrases?: boolean;
  /** Whether what is at the sides of a column stands in cells of its own, so that percentages share only the rest. */
  readonly splitsEdges?: (index: number) => boolean;
}

/** Emits the columns of a row as cells, with cells for the gaps between them. */
export function columnCells(plan: RowPlan, room: Room, rules: CellRules): OutNode[] {
  const cells = plan.items.flatMap((_, index): OutNode[] => {
    const before = [...spaceCell(index, room, rules), ...(rules.before?.(index) ?? [])];
    return [...before, ...columnWithGap(plan, index, room, rules)];
  });
  const last = plan.items.length;
  return [...cells, ...spaceCell(last, room, rules), ...(rules.before?.(last) ?? [])];
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
  const wider = forStates(room, (state) => rules.spread?.[state] === true);
  const filled = withCellStyles(paintedCell(plan, item, inner, { pushed, wider }), plan, item, {
    width: (state) => rules.width(state, index),
    pushed,
    fills: rules.fills === true,
  });
  const shrunk = { ...filled, children: filled.children.map((child) => shrunkPhrase(child, { pushed, wider })) };
  const isTall = rules.stretchesPhrases === true && isStretched(plan, item);
  const cell = isTall ? withTallPhrase(shrunk, item, plan) : shrunk;
  const span = rules.span?.(index) ?? 1;
  if (span > 1) cell.attributes.set('colspan', String(span));
  const width = rules.width(0, index) === null && rules.spread !== undefined ? null : Math.round(desktopWidth(inner));
  const splits = rules.splitsEdges?.(index) === true;
  const desktop = inState(item, 0);
  const padding = splits ? desktop.sideEdges : 0;
  const main = splits ? withoutSideEdges(cell, plan, item) : cell;
  const column: OutNode[] =
    width === null || desktop.isHidden
      ? [main]
      : [{ kind: 'dual-cell', cell: main, width: Math.round(width - padding) }];
  const [start, end] = tableDirection(plan) === 'ltr' ? (['left', 'right'] as const) : (['right', 'left'] as const);
  const cells = splits ? [...edgeCell(plan, item, start), ...column, ...edgeCell(plan, item, end)] : column;
  const twin = desktop.isHidden ? hiddenFromWord(cells) : cells;
  if (index === 0 || !hasGaps(plan)) return twin;
  const gap = gapCell(plan, index, room, rules.fills === true);
  return desktop.isHidden ? [...hiddenFromWord([gap]), ...twin] : [gap, ...twin];
}

/** Whether columns are apart in any state, side by side or one below the other. */
export function hasGaps({ columnGap, rowGap, items, modes, above }: RowPlan): boolean {
  const isApart = (item: Box): boolean =>
    modes.some((mode, state) => mode === 'stacked' && above(inState(item, state)) > 0);
  return columnGap.concat(rowGap).some((gap) => gap > 0) || items.slice(1).some(isApart);
}

/** Side by side, padding and borders of the sides stand in the cells beside it; stacked, the cell has them back. */
function withoutSideEdges(cell: OutElement, plan: RowPlan, item: Box): OutElement {
  if (item.kind === 'picture') return cell;
  const styles = inStates(item).map((shown, state) => {
    const own = new Map(cell.styles[state]);
    const isBeside = plan.modes[state] !== 'stacked';
    for (const [property, line] of borderLines(shown, isBeside ? ['left', 'right'] : [])) own.set(property, line);
    own.delete('border');
    if (!isBeside) return own;
    const [top = '0', , bottom = top] = (own.get('padding') ?? '0').split(' ');
    return own.set('padding', top === bottom ? (top === '0' ? '0' : `${top} 0`) : `${top} 0 ${bottom}`);
  });
  return { ...cell, styles };
}

/** The borders of a column, each by itself, where it has any in a state; without those of some sides. */
function borderLines(item: BoxInState, without: readonly Side[]): [string, string][] {
  return sides
    .filter((side) => anyState(item.itself, `border-${side}-width`, '0px'))
    .map((side) => [`border-${side}`, without.includes(side) ? '0' : borderLine(item, side)]);
}

/** A cell that shows one side of a column: its padding in the column's colour, and its border. */
function edgeCell(plan: RowPlan, item: Box, side: 'left' | 'right'): OutElement[] {
  const widths = inStates(item).map((own) => own.edge(side));
  if (widths.every((width) => width === 0)) return [];
  const changes = plan.modes.includes('stacked') || hidesAnywhere(item);
  const hasBorder = sides.some((name) => anyState(item, `border-${name}-width`, '0px'));
  const styles = inStates(item).map((shown, state) => {
    const gone = plan.modes[state] === 'stacked' || shown.isHidden;
    const own = style([
      ['display', changes ? (gone ? 'none' : 'table-cell') : null],
      ['width', shortPixels(widths[state] ?? 0)],
      ['padding', '0'],
      ['background-color', shown.style.take('background-color')],
      ...borderLines(shown, [side === 'left' ? 'right' : 'left']),
      ['box-sizing', hasBorder ? 'border-box' : null],
      ['font-size', '0'],
      ['line-height', '0'],
    ]);
    return withoutDesktopDisplay(own, state);
  });
  return [element('td', {}, styles, [filler])];
}

export function withCellStyles(
  cell: OutElement,
  plan: RowPlan,
  item: Box,
  {
    width,
    pushed = [],
    fills = false,
  }: { width: (state: number) => string | null; pushed?: readonly boolean[]; fills?: boolean },
): OutElement {
  const stacks = plan.modes.includes('stacked');
  const hides = hidesAnywhere(item);
  const sized = plan.modes.some((mode, state) => mode === 'side-by-side' && width(state) !== null);
  const desktop = inState(item, 0);
  const styles = inStates(item).map((shown, state): Style => {
    const sideBySide = plan.modes[state] !== 'stacked';
    const display = sideBySide ? 'table-cell' : 'block';
    const own = style([
      ['display', stacks || hides ? (shown.isHidden ? 'none' : display) : null],
      ['width', sized || stacks ? (sideBySide ? (width(state) ?? 'auto') : stackedWidth(shown)) : null],
      ['box-sizing', stacks || sized ? 'border-box' : null],
      ['min-width', fills ? firmWidth(sideBySide ? width(state) : null) : null],
      ['white-space', fills ? (sideBySide && width(state) === null ? 'nowrap' : 'normal') : null],
      ['vertical-align', cellAlignment(plan.box, shown)],
      ['text-align', pushed[state] === true ? endSide(shown) : null],
    ]);
    const merged = new Map([...(cell.styles[state] ?? []), ...own]);
    return desktop.isHidden && state === 0 ? merged.set('mso-hide', 'all') : withoutDesktopDisplay(merged, state);
  });
  if (plan.reversed) cell.attributes.set('dir', desktop.style.take('direction'));
  const children = standsOnBaseline(cell.children, styles);
  return pushed.includes(true) ? { ...cell, children, styles: aligned(styles, item) } : { ...cell, children, styles };
}

/** What a cell holds, where the cell stands on a baseline. */
export function standsOnBaseline(children: readonly OutNode[], styles: readonly Style[]): OutNode[] {
  const states = styles.map((own) => own.get('vertical-align') === 'baseline');
  return states.includes(true) ? children.map((child) => onBaseline(child, states)) : [...children];
}

/** In which states a column is pushed to the end of its cell, and in which its cell may be wider than it was. */
interface Spread {
  readonly pushed: readonly boolean[];
  readonly wider: readonly boolean[];
}

/** A link, or a phrase with paint, that fills its item is only as wide as its text in a cell that is wider than the item was. */
function shrunkPhrase(node: OutNode, { pushed, wider }: Spread): OutNode {
  if (node.kind !== 'element' || !phrasingTags.has(node.tag)) return node;
  const styles = node.styles.map((own, state) => {
    const isPushed = pushed[state] === true && node.tag === 'a';
    const shrinks = isPushed || (wider[state] === true && [...own.keys()].some((property) => paint.test(property)));
    return shrinks && own.get('display') === 'block' ? new Map([...own, ['display', 'inline-block'] as const]) : own;
  });
  return { ...node, styles };
}

const paint = /^(?:background|border|box-shadow)/;

function firmWidth(width: string | null): string {
  return width?.endsWith('px') === true ? width : '0';
}

/** A stacked column is as wide as the row, or as it says itself. */
function stackedWidth(item: BoxInState): string {
  const own = item.itself.kind === 'picture' ? 'auto' : item.style.take('width');
  return own === 'auto' ? '100%' : outerLength(item, own);
}

/** A cell whose text is pushed in one state says how it is aligned in all. */
function aligned(styles: readonly Style[], item: Box): Style[] {
  return styles.map((own, state) =>
    own.has('text-align') ? own : new Map([...own, ['text-align', startSide(inState(item, state))] as const]),
  );
}

function startSide(item: BoxInState): 'left' | 'right' {
  return item.style.take('direction') === 'rtl' ? 'right' : 'left';
}

function endSide(item: BoxInState): 'left' | 'right' {
  return startSide(item) === 'left' ? 'right' : 'left';
}

/** A cell is a cell without saying so; only a class that undoes a stacking has to. */
export function withoutDesktopDisplay(own: Style, state: number): Style {
  if (state > 0 || own.get('display') === 'none') return own;
  return new Map([...own].filter(([property]) => property !== 'display'));
}

/** Paint that is not stretched over the height of the row goes onto a table of its own inside the cell. */
function paintedCell(plan: RowPlan, item: Box, inner: Room, { pushed, wider }: Spread): OutElement {
  const stretched = isStretched(plan, item);
  const isBlock = (pushed.includes(true) && !isOneLine(item)) || (wider.includes(true) && isPainted(item));
  if (!isBlock && (!isPainted(item) || stretched)) {
    const cell = inner.make.cell(item, inner, { extra: [], isFlexItem: itemStates(plan) });
    return stretched ? withHeldHeight(cell, item, plan) : cell;
  }
  const shrink = isBlock
    ? inStates(item).map((own, state) => {
        if (pushed[state] === true) return endSide(own);
        return wider[state] === true ? startSide(own) : 'stretch';
      })
    : null;
  return element(
    'td',
    {},
    forStates(inner, () => style([['padding', '0']])),
    inner.make
      .table(item, inner, {
        isFlexItem: itemStates(plan),
        shrink,
        fills: plan.modes.map((mode) => mode === 'side-by-side'),
      })
      .map((node) => (pushed.includes(true) ? startAligned(node, item) : node)),
  );
}

/** A table in a cell whose text is pushed to the end: its own text begins where it did. */
function startAligned(node: OutNode, item: Box): OutNode {
  if (node.kind !== 'element') return node;
  if (node.tag === 'td') return { ...node, styles: aligned(node.styles, item) };
  return /^(?:table|tr)$/.test(node.tag)
    ? { ...node, children: node.children.map((child) => startAligned(child, item)) }
    : node;
}

/** Text of one line stands the same in a cell that is wider than it; the lines of any other begin below each other. */
function isOneLine(item: Box): boolean {
  return item.kind === 'text' && !item.content.some(holdsBreak);
}

function holdsBreak(node: TreeNode): boolean {
  return node.kind === 'element' && (node.tag === 'br' || node.children.some(holdsBreak));
}

/** In which states columns are items of a flex container. */
export function itemStates({ box }: RowPlan): boolean[] {
  return inStates(box).map(laysOutItems);
}

/** The cell between a column and the one before it; it goes with either of them. */
function gapCell(plan: RowPlan, index: number, context: EmitContext, fills: boolean): OutElement {
  const stacks = plan.modes.includes('stacked');
  const isGone = (state: number): boolean => {
    const item = plan.items[index];
    const hasBefore = plan.items.slice(0, index).some((other) => !inState(other, state).isHidden);
    return !hasBefore || item === undefined || inState(item, state).isHidden;
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
