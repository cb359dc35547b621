import { shortPixels } from '../boxes/box-style.js';
import { hasOwnWidth, isHidden, styleIn, type Box, type GridBox } from '../boxes/boxes.js';
import { laysOutItems } from '../boxes/margins.js';
import { desktopWidth, forStates, type Room } from '../content/room.js';
import { formatNumber } from '../../css/values/value.js';
import { isPainted } from '../boxes/boxes.js';
import {
  asTallAs,
  toppedTable,
  element,
  filler,
  layoutTable,
  style,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { reportProblems } from '../content/problems.js';
import { cellAlignment } from '../rows/row-plan.js';
import { withHeldHeight } from '../rows/column-cells.js';
import { type Placed } from './placement.js';
import { printTrack, tracksWidth } from './tracks.js';
import { type GridState, type Flow, gridProblems, readState, flowOf, hasContentTracks } from './grid-state.js';

/** A grid, in each state, and how each shows the cells of the desktop. */
interface GridPlan {
  readonly box: GridBox;
  readonly states: readonly GridState[];
  readonly flows: readonly Flow[];
}

/**
 * Emits a grid as one table: the columns of the desktop as cells, with cells and rows for the gaps. Where a narrower state
 * has one column, the cells become blocks; where it has several others, the same cells are laid out as a grid by class.
 */
export function emitGrid(box: GridBox, room: Room): OutNode[] {
  const items = box.children;
  const problems = gridProblems(box, items);
  const states = forStates(room, (state) => readState(box, state, room, problems));
  reportProblems(problems, room);
  const desktop = states[0];
  if (problems.length > 0 || desktop === undefined || items.length === 0) return [];
  // What is no grid on the desktop is a column of blocks there.
  const count = Math.max(1, desktop.tracks.length);
  const flows = states.map((state) => flowOf(state, desktop));
  const plan: GridPlan = { box, states, flows };
  const last = Math.max(0, ...desktop.placed.map(({ row }) => row));
  const rows: OutNode[] = hasSpans(desktop) ? [columnGroup(count, plan)] : [];
  for (let row = 0; row <= last; row += 1) {
    const line = desktop.placed.filter((placed) => placed.row === row);
    const isApart = (state: GridState): boolean => line.some(({ item }) => state.above(item) > 0);
    if (row > 0 && states.some(isApart)) rows.push(spacerRow(2 * count - 1, line, plan));
    rows.push(gridRow(line, count, plan, room));
  }
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      style([
        ['display', flows.includes('regrouped') ? (flow === 'regrouped' ? 'block' : 'table') : null],
        ['width', '100%'],
        ['table-layout', hasContentTracks(states[0]) ? null : 'fixed'],
      ]),
      state,
    ),
  );
  const direction: Record<string, string> = styleIn(box, 0).take('direction') === 'rtl' ? { dir: 'rtl' } : {};
  return [layoutTable(styles, regrouped(rows, plan), { width: '100%', ...direction })];
}

function hasSpans({ placed }: GridState): boolean {
  return placed.some(({ span }) => span > 1);
}

/** A table whose first row has cells over several columns says the widths of its columns by themselves. */
function columnGroup(count: number, plan: GridPlan): OutElement {
  const column = (widthIn: (state: GridState) => string): OutElement =>
    element(
      'col',
      {},
      plan.states.map((state) => style([['width', widthIn(state)]])),
      [],
    );
  const columns = Array.from({ length: count }, (_, index) => [
    ...(index === 0 ? [] : [column(({ columnGap }) => shortPixels(columnGap))]),
    column((state) => cellWidth(state, index)),
  ]);
  return element('colgroup', {}, [], columns.flat());
}

function gridRow(line: readonly Placed[], count: number, plan: GridPlan, room: Room): OutElement {
  const cells: OutNode[] = [];
  for (let column = 0; column < count;) {
    const placed = line.find((candidate) => candidate.column === column);
    if (column > 0) cells.push(gapCell(placed?.item ?? null, plan));
    cells.push(placed === undefined ? emptyCell(column, plan) : gridCell(placed, plan, room));
    column += placed?.span ?? 1;
  }
  return element('tr', {}, rowStyles(plan.flows), cells);
}

function rowStyles(flows: readonly Flow[]): Style[] {
  if (!flows.includes('regrouped')) return [];
  return flows.map((flow, state) =>
    state === 0 ? new Map() : style([['display', flow === 'regrouped' ? 'contents' : 'table-row']]),
  );
}

/** The rows, in a body of their own where a state lays the cells out anew. */
function regrouped(rows: OutNode[], plan: GridPlan): OutNode[] {
  const { states, flows } = plan;
  if (!flows.includes('regrouped')) return rows;
  const styles = flows.map((flow, state) => {
    if (state === 0) return new Map<string, string>();
    const { tracks = [], rowGap = 0, columnGap = 0 } = states[state] ?? {};
    return style([
      ['display', flow === 'regrouped' ? 'grid' : 'table-row-group'],
      ['grid-template-columns', flow === 'regrouped' ? tracks.map(printTrack).join(' ') : 'none'],
      ['gap', flow === 'regrouped' ? `${shortPixels(rowGap)} ${shortPixels(columnGap)}` : '0'],
    ]);
  });
  return [element('tbody', {}, styles, rows)];
}

function gridCell({ item, column, span }: Placed, plan: GridPlan, room: Room): OutNode {
  const { box, states, flows } = plan;
  const inner: Room = {
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
  const sides = flows.map((_, state) => sideIn(box, item, state));
  const shrinks = sides.some((side) => side !== 'stretch');
  const aligned = flows.some((_, state) => cellAlignment(box, item, state) !== 'top') || startsAtTop(box, item);
  const isSized = item.kind !== 'picture' && item.kind !== 'native' && item.styles.some(hasOwnWidth);
  const ownTable = shrinks || isSized || (aligned && isPainted(item));
  const inCells = flows.map((flow) => flow === 'same');
  // Paint that is not aligned reaches over the whole height of its row.
  const isTall = ownTable && !aligned && isPainted(item);
  const nodes = (): OutNode[] =>
    inner.make.table(
      item,
      inner,
      shrinks
        ? { isFlexItem: true, shrink: sides }
        : { isFlexItem: true, ...(isSized ? {} : { fills: flows.map(() => true) }) },
    );
  const made = ownTable
    ? element(
        'td',
        {},
        flows.map((_, state) =>
          style([
            ['padding', '0'],
            ['height', isTall ? (inCells[state] === true ? '1px' : 'auto') : null],
          ]),
        ),
        isTall ? nodes().map((node) => toppedTable(asTallAs(node, inCells))) : nodes(),
      )
    : inner.make.cell(item, inner, { extra: [], isFlexItem: box.styles.map((_, state) => laysOutItems(box, state)) });
  const modes = flows.map((flow) => (flow === 'same' ? ('side-by-side' as const) : ('stacked' as const)));
  const cell = aligned ? made : withHeldHeight(made, item, { modes });
  if (span > 1) cell.attributes.set('colspan', String(2 * span - 1));
  const isContent = states.some((state) => state.tracks[column]?.kind === 'content');
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      new Map([
        ...(cell.styles[state] ?? []),
        ...style([
          ['display', isHidden(item, state) ? 'none' : cellDisplay(flows, flow)],
          [
            'width',
            flow === 'same'
              ? span > 1
                ? null
                : cellWidth(states[state], column)
              : flow === 'blocks'
                ? '100%'
                : 'auto',
          ],
          ['white-space', isContent ? (flow === 'same' ? 'nowrap' : 'normal') : null],
          ['box-sizing', 'border-box'],
          ['vertical-align', cellAlignment(box, item, state)],
          ...placeOf(item, plan, state),
        ]),
      ]),
      state,
    ),
  );
  return {
    kind: 'dual-cell',
    cell: { ...cell, styles },
    width: Math.round(isContent ? 0 : desktopWidth(inner)),
  };
}

/** Where an item stands in a grid that is laid out anew, if not simply behind the one before it. */
function placeOf(item: Box, { states, flows }: GridPlan, state: number): [string, string | null][] {
  const moved = flows.map((flow, of) => flow === 'regrouped' && !isPlainOrder(states[of], states[0]));
  if (!moved.includes(true)) return [];
  const placed = moved[state] === true ? states[state]?.placed.find((candidate) => candidate.item === item) : undefined;
  return [
    ['grid-column', placed === undefined ? 'auto' : `${placed.column + 1} / span ${placed.span}`],
    ['grid-row', placed === undefined ? 'auto' : String(placed.row + 1)],
  ];
}

function isPlainOrder(state: GridState | undefined, desktop: GridState | undefined): boolean {
  const count = Math.max(1, state?.tracks.length ?? 1);
  return (
    state?.placed.every(
      ({ item, row, column, span }, index) =>
        span === 1 &&
        row === Math.floor(index / count) &&
        column === index % count &&
        desktop?.placed.filter((other) => state.placed.some((one) => one.item === other.item))[index]?.item === item,
    ) === true
  );
}

/** What `justify-items` and `justify-self` do to an item: it fills its columns, or shrinks to its content at one side. */
function sideIn(box: GridBox, item: Box, state: number): 'stretch' | 'left' | 'center' | 'right' {
  const own = styleIn(item, state).take('justify-self');
  const value = own === 'auto' ? styleIn(box, state).take('justify-items') : own;
  const isRightToLeft = styleIn(box, state).take('direction') === 'rtl';
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

/** In a table of fixed layout, px columns get their px, and percentages that add up to 100 share the rest. */
function cellWidth(grid: GridState | undefined, column: number): string {
  const tracks = grid?.tracks ?? [];
  const track = tracks[column];
  if (track === undefined || track.kind === 'content') return 'auto';
  if (track.kind === 'pixels') return shortPixels(track.size);
  if (track.kind === 'percent') return `${formatNumber(track.size, 6)}%`;
  const growing = tracks.filter(({ kind }) => kind === 'fraction');
  const total = growing.reduce((sum, { size }) => sum + size, 0);
  // Beside columns as wide as their content, in a table of automatic layout, percentages take all that is left.
  if (growing.length === 1) return hasContentTracks(grid) ? '100%' : 'auto';
  return `${formatNumber((track.size / total) * 100, 6)}%`;
}

/** The cell between an item and the one before it in its row. */
function gapCell(item: Box | null, plan: GridPlan): OutElement {
  const { states, flows } = plan;
  const styles = flows.map((flow, state) => {
    const gone = flow === 'regrouped' || (flow === 'blocks' && item === null);
    return withoutDesktop(
      style([
        ['display', gone ? 'none' : cellDisplay(flows, flow)],
        ['width', flow === 'blocks' ? '100%' : shortPixels(states[state]?.columnGap ?? 0)],
        [
          'min-width',
          hasContentTracks(states[0]) ? (flow === 'same' ? shortPixels(states[state]?.columnGap ?? 0) : '0') : null,
        ],
        [
          'height',
          flow === 'blocks' ? shortPixels(spaceAbove(item, states[state])) : flows.includes('blocks') ? 'auto' : null,
        ],
        ...blank,
      ]),
      state,
    );
  });
  return element('td', {}, styles, [filler]);
}

function emptyCell(column: number, plan: GridPlan): OutElement {
  const { states, flows } = plan;
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      style([
        ['display', flow === 'same' ? cellDisplay(flows, flow) : 'none'],
        ['width', cellWidth(states[state], column)],
        ...blank,
      ]),
      state,
    ),
  );
  return element('td', {}, styles, [filler]);
}

function spaceAbove(item: Box | null, state: GridState | undefined): number {
  return item === null || state === undefined ? 0 : state.above(item);
}

function spacerRow(span: number, line: readonly Placed[], plan: GridPlan): OutElement {
  const { states, flows } = plan;
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      style([
        ['display', flow === 'regrouped' ? 'none' : cellDisplay(flows, flow)],
        ['height', shortPixels(spaceAbove(line[0]?.item ?? null, states[state]))],
        ...blank,
      ]),
      state,
    ),
  );
  return element('tr', {}, rowStyles(flows), [element('td', { colspan: String(span) }, styles, [filler])]);
}

const blank = [
  ['padding', '0'],
  ['font-size', '0'],
  ['line-height', '0'],
] as const;

/** Cells say how they are shown only where some state shows them otherwise. */
function cellDisplay(flows: readonly Flow[], flow: Flow): string | null {
  if (flows.every((other) => other === 'same')) return null;
  return flow === 'same' ? 'table-cell' : 'block';
}

function withoutDesktop(own: Style, state: number): Style {
  return state > 0 ? own : new Map([...own].filter(([property]) => property !== 'display'));
}
