import { layoutAdvice } from '../../findings/wording/layout.js';
import { shortPixels } from '../boxes/box-style.js';
import type { Box, GridBox } from '../boxes/boxes.js';
import { inState, inStates } from '../boxes/box-in-state.js';
import { laysOutItems } from '../boxes/margins.js';
import { desktopWidth, narrowestWidth, type Room } from '../content/room.js';
import { formatNumber } from '../../css/values/value.js';
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
import { problemIn, reportProblems } from '../content/problems.js';
import { cellAlignment, type RowMode } from '../rows/row-plan.js';
import { standsOnBaseline, withoutDesktopDisplay } from '../rows/column-cells.js';
import { stretchesPhrases, withHeldHeight, withTallPhrase } from '../rows/held-height.js';
import { bandsOf, misplaced, type Band, type BandCell, type Placed } from './bands.js';
import { itemRoom, itemTables, placeOf, type GridPlan } from './grid-item.js';
import { printTrack } from './tracks.js';
import {
  type GridState,
  type Flow,
  gridProblems,
  readState,
  flowOf,
  hasContentTracks,
  placeProperty,
} from './grid-state.js';
import { stackedItems } from './stack.js';

/**
 * Emits a grid as one table: the columns of the desktop as cells, with cells and rows for the gaps. Where a narrower state
 * has one column, the cells become blocks; where it has several others, the same cells are laid out as a grid by class.
 */
export function emitGrid(box: GridBox, room: Room): OutNode[] {
  const items = box.children;
  const problems = gridProblems(box, items);
  const states = inStates(box).map((own) => readState(own, room, problems));
  reportProblems(problems, room);
  const desktop = states[0];
  if (problems.length > 0 || desktop === undefined || items.length === 0) return [];
  // What is no grid on the desktop is a column of blocks there.
  const count = Math.max(1, desktop.tracks.length);
  const flows = states.map((state) => flowOf(state, desktop));
  const widthOf = (item: number, state: number): number => {
    const of = items[item];
    return of === undefined ? Infinity : narrowestWidth(itemRoom(of, { states }, room), state);
  };
  const stretches = stretchesPhrases({ items, modes: modesOf({ flows }) }, room, widthOf);
  const plan: GridPlan = { box, states, flows, stretchesPhrases: stretches };
  const bands = bandsOf(desktop.placed);
  const odd = misplaced(bands);
  if (odd !== null) {
    const item = inState(odd.item, 0);
    reportProblems([problemIn(item, placeProperty(item), layoutAdvice.rowsBeside)], room);
    return [];
  }
  const columns = hasSpans(desktop) ? [columnGroup(count, plan)] : [];
  const rows: OutNode[] = [];
  bands.forEach((band, index) => {
    const items = band.cells.map(({ items: [first] }) => first);
    const isApart = (state: GridState): boolean => items.some(({ item }) => state.above(item) > 0);
    if (index > 0 && states.some(isApart)) rows.push(spacerRow(2 * count - 1, items, plan));
    rows.push(gridRow(band, count, plan, room));
  });
  const styles = flows.map((flow, state) =>
    withoutDesktopDisplay(
      style([
        ['display', flows.includes('regrouped') ? (flow === 'regrouped' ? 'block' : 'table') : null],
        ['width', '100%'],
        ['table-layout', hasContentTracks(states[0]) ? null : 'fixed'],
      ]),
      state,
    ),
  );
  const direction: Record<string, string> = box.styles[0]?.take('direction') === 'rtl' ? { dir: 'rtl' } : {};
  return [layoutTable(styles, [...columns, ...regrouped(rows, plan)], { width: '100%', ...direction })];
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
  // As blocks, or laid out anew, cells are in no column of the table.
  const shown = plan.flows.every((flow) => flow === 'same')
    ? []
    : plan.flows.map((flow) => style([['display', flow === 'same' ? 'table-column-group' : 'none']]));
  return element('colgroup', {}, shown.map(withoutDesktopDisplay), columns.flat());
}

function gridRow(band: Band, count: number, plan: GridPlan, room: Room): OutElement {
  const cells: OutNode[] = [];
  for (let column = 0; column < count;) {
    const found = band.cells.find((candidate) => candidate.column === column);
    const first = found?.items[0];
    if (column > 0) cells.push(gapCell(first?.item ?? null, plan));
    if (found === undefined || first === undefined) cells.push(emptyCell(column, plan));
    else if (first.rows < band.rows) cells.push(stackCell(found, band, plan, room));
    else cells.push(gridCell(first, plan, room));
    column += found?.span ?? 1;
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
  const inner = itemRoom(item, plan, room);
  const { isAligned, isTall, tables } = itemTables(item, plan, inner);
  const inCells = flows.map((flow) => flow === 'same');
  const made =
    tables !== null
      ? element(
          'td',
          {},
          flows.map((_, state) =>
            style([
              ['padding', '0'],
              ['height', isTall ? (inCells[state] === true ? '1px' : 'auto') : null],
            ]),
          ),
          isTall ? tables.map((node) => toppedTable(asTallAs(node, inCells))) : tables,
        )
      : inner.make.cell(item, inner, {
          extra: [],
          isFlexItem: inStates(box).map(laysOutItems),
        });
  const modes = modesOf(plan);
  const tall = plan.stretchesPhrases ? withTallPhrase(made, item, { modes }) : made;
  const cell = isAligned ? made : withHeldHeight(tall, item, { modes });
  if (span > 1) cell.attributes.set('colspan', String(2 * span - 1));
  const isContent = states.some((state) => state.tracks[column]?.kind === 'content');
  const styles = flows.map((flow, state) => {
    const own = inState(item, state);
    return withoutDesktopDisplay(
      new Map([
        ...(cell.styles[state] ?? []),
        ...style([
          ['display', own.isHidden ? 'none' : cellDisplay(flows, flow)],
          ['width', cellWidthIn(plan, state, { column, span })],
          ['white-space', isContent ? (flow === 'same' ? 'nowrap' : 'normal') : null],
          ['box-sizing', 'border-box'],
          ['vertical-align', cellAlignment(box, own)],
          ['align-self', alignsAnew(item, plan) ? gridAlignment(flow, cellAlignment(box, own)) : null],
          ...placeOf(own, plan),
        ]),
      ]),
      state,
    );
  });
  return {
    kind: 'dual-cell',
    cell: { ...cell, styles, children: standsOnBaseline(cell.children, styles) },
    width: Math.round(isContent ? 0 : desktopWidth(inner)),
  };
}

/** Whether cells that are laid out anew stand anywhere but at the top there, which to a cell of a grid is said otherwise. */
function alignsAnew(item: Box, { box, flows }: GridPlan): boolean {
  return inStates(item).some((own) => flows[own.state] === 'regrouped' && cellAlignment(box, own) !== 'top');
}

function gridAlignment(flow: Flow, aligned: string): string {
  if (flow !== 'regrouped') return 'auto';
  return { middle: 'center', bottom: 'end', baseline: 'baseline' }[aligned] ?? 'auto';
}

/** In which states cells stand beside each other as they do on the desktop. */
function modesOf({ flows }: Pick<GridPlan, 'flows'>): RowMode[] {
  return flows.map((flow) => (flow === 'same' ? 'side-by-side' : 'stacked'));
}

/** The width that a cell says: that of its column, or of all where it is a block. */
function cellWidthIn(
  { states, flows }: GridPlan,
  state: number,
  { column, span }: Pick<Placed, 'column' | 'span'>,
): string | null {
  if (flows[state] === 'blocks') return '100%';
  if (flows[state] !== 'same') return 'auto';
  return span > 1 ? null : cellWidth(states[state], column);
}

/** A cell of items below each other, which beside an item over several rows are as high together as that. */
function stackCell(cell: BandCell, band: Band, plan: GridPlan, room: Room): OutNode {
  const { flows } = plan;
  const [first] = cell.items;
  const styles = flows.map((flow, state) =>
    withoutDesktopDisplay(
      style([
        ['padding', '0'],
        ['display', flow === 'regrouped' ? 'contents' : cellDisplay(flows, flow)],
        ['width', cellWidthIn(plan, state, cell)],
        ['height', flow === 'same' ? '1px' : 'auto'],
        ['vertical-align', 'top'],
      ]),
      state,
    ),
  );
  const made = element('td', cell.span > 1 ? { colspan: String(2 * cell.span - 1) } : {}, styles, [
    stackedItems(cell, band, plan, room),
  ]);
  return { kind: 'dual-cell', cell: made, width: Math.round(desktopWidth(itemRoom(first.item, plan, room))) };
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
    return withoutDesktopDisplay(
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
    withoutDesktopDisplay(
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
    withoutDesktopDisplay(
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
