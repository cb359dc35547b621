import { layoutAdvice } from '../../findings/wording/layout.js';
import { readQuantity, splitValue } from '../../css/values/value.js';
import { shortPixels } from '../boxes/box-style.js';
import { isHidden, lengthIn, styleIn, type Box, type GridBox } from '../boxes/boxes.js';
import { desktopWidth, forStates, type Room } from '../content/room.js';
import { formatNumber } from '../../css/values/value.js';
import { isPainted } from '../boxes/boxes.js';
import { element, filler, layoutTable, style, type OutElement, type OutNode, type Style } from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { cellAlignment } from '../rows/row-plan.js';
import { gapIn } from '../rows/row-widths.js';

/** A column of a grid: a share of what px columns leave, or px. */
interface Track {
  readonly fraction: number;
  readonly pixels: number;
}

/** The grid in one state; no tracks where it is shown as blocks. */
interface GridState {
  readonly tracks: readonly Track[];
  readonly columnGap: number;
  readonly rowGap: number;
}

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
  const states = forStates(room, (state) => readState(box, state, problems));
  reportProblems(problems, room);
  const desktop = states[0];
  if (problems.length > 0 || desktop === undefined || items.length === 0) return [];
  // What is no grid on the desktop is a column of blocks there.
  const count = Math.max(1, desktop.tracks.length);
  const flows = states.map((state) => flowOf(state, desktop));
  const plan: GridPlan = { box, states, flows };
  const rows: OutNode[] = [];
  for (let first = 0; first < items.length; first += count) {
    if (first > 0 && states.some(({ rowGap }) => rowGap > 0)) rows.push(spacerRow(2 * count - 1, plan));
    const line = Array.from({ length: count }, (_, column) => items[first + column] ?? null);
    rows.push(gridRow(line, plan, room));
  }
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      style([
        ['display', flows.includes('regrouped') ? (flow === 'regrouped' ? 'block' : 'table') : null],
        ['width', '100%'],
        ['table-layout', 'fixed'],
      ]),
      state,
    ),
  );
  return [layoutTable(styles, regrouped(rows, plan), { width: '100%' })];
}

/** How a state shows the cells of the desktop: as they are, as blocks, or in another number of columns. */
type Flow = 'same' | 'blocks' | 'regrouped';

function flowOf(state: GridState, desktop: GridState): Flow {
  if (state.tracks.length <= 1) return desktop.tracks.length <= 1 ? 'same' : 'blocks';
  return state.tracks.length === desktop.tracks.length ? 'same' : 'regrouped';
}

function readState(box: GridBox, state: number, problems: LayoutProblem[]): GridState {
  const own = styleIn(box, state);
  if (own.get('display') !== 'grid') return { tracks: [], columnGap: 0, rowGap: 0 };
  const gaps = { columnGap: gapIn(box, state, 'column-gap'), rowGap: gapIn(box, state, 'row-gap') };
  const tracks = readTracks(own.get('grid-template-columns'));
  if (tracks === null) {
    problems.push(problemIn(box, state, 'grid-template-columns', layoutAdvice.tracks));
    return { tracks: [], ...gaps };
  }
  return { tracks, ...gaps };
}

/** `repeat(3, 1fr)`, `1fr 2fr`, `160px 1fr`; null for what has no equal in a table. */
function readTracks(value: string): Track[] | null {
  if (value === 'none') return [{ fraction: 1, pixels: 0 }];
  const tracks: Track[] = [];
  for (const part of splitValue(value)) {
    const repeat = /^repeat\(\s*(\d+)\s*,(.*)\)$/.exec(part);
    if (repeat !== null) {
      const inner = readTracks((repeat[2] ?? '').trim());
      const times = Number(repeat[1]);
      if (inner === null || times < 1 || times * inner.length > 24) return null;
      for (let time = 0; time < times; time += 1) tracks.push(...inner);
      continue;
    }
    const quantity = readQuantity(part === 'minmax(0,1fr)' || part === 'minmax(0, 1fr)' ? '1fr' : part);
    if (quantity?.unit === 'fr' && quantity.number > 0) tracks.push({ fraction: quantity.number, pixels: 0 });
    else if (quantity?.unit === 'px') tracks.push({ fraction: 0, pixels: quantity.number });
    else return null;
  }
  return tracks.some(({ fraction }) => fraction > 0) ? tracks : null;
}

function gridProblems(box: GridBox, items: readonly Box[]): LayoutProblem[] {
  const problems: LayoutProblem[] = [];
  box.styles.forEach((own, state) => {
    const say = (of: Box, property: string, advice: string): number =>
      problems.push(problemIn(of, state, property, advice));
    if (own.get('display') === 'flex') say(box, 'display', layoutAdvice.gridEverywhere);
    if (own.get('grid-auto-flow') !== 'row') say(box, 'grid-auto-flow', layoutAdvice.gridFlow);
    if (!/^(?:none|auto)$/.test(own.get('grid-template-rows'))) say(box, 'grid-template-rows', layoutAdvice.gridRows);
    if (!/^(?:normal|stretch)$/.test(own.get('justify-items'))) say(box, 'justify-items', layoutAdvice.alignCells);
    if (!/^(?:normal|start|stretch)$/.test(own.get('justify-content')))
      say(box, 'justify-content', layoutAdvice.fillRow);
    for (const item of items) {
      const style = styleIn(item, state);
      const advice = layoutAdvice.oneCell;
      if (style.get('grid-column') !== 'auto') say(item, 'grid-column', advice);
      if (style.get('grid-row') !== 'auto') say(item, 'grid-row', advice);
      if (style.get('order') !== '0') say(item, 'order', layoutAdvice.cellOrder);
      if (!/^(?:auto|normal|stretch)$/.test(style.get('justify-self')))
        say(item, 'justify-self', layoutAdvice.alignCell);
      if (!isHidden(box, state) && isHidden(item, state)) say(item, 'display', layoutAdvice.hideGrid);
      for (const side of ['margin-top', 'margin-right', 'margin-bottom', 'margin-left'])
        if (style.get(side) === 'auto' || lengthIn(item, state, side) !== 0) say(item, side, layoutAdvice.gridGap);
    }
  });
  return problems;
}

function gridRow(line: readonly (Box | null)[], plan: GridPlan, room: Room): OutElement {
  const cells = line.flatMap((item, column): OutNode[] => {
    const cell = item === null ? emptyCell(column, plan) : gridCell(item, column, plan, room);
    if (column === 0) return [cell];
    return [gapCell(item === null, plan), cell];
  });
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

function printTrack({ fraction, pixels }: Track): string {
  return fraction > 0 ? `${formatNumber(fraction)}fr` : shortPixels(pixels);
}

function gridCell(item: Box, column: number, plan: GridPlan, room: Room): OutNode {
  const { box, states, flows } = plan;
  const inner: Room = {
    ...room,
    text: null,
    widthAt: (viewport, state) => trackWidth(states[state], column, room.widthAt(viewport, state)),
  };
  const aligned = flows.some((_, state) => cellAlignment(box, item, state) !== 'top') || startsAtTop(box, item);
  const cell =
    aligned && isPainted(item)
      ? element(
          'td',
          {},
          flows.map(() => style([['padding', '0']])),
          inner.make.table(item, inner, { isFlexItem: true, fills: flows.map(() => true) }),
        )
      : inner.make.cell(item, inner, { extra: [], isFlexItem: true });
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      new Map([
        ...(cell.styles[state] ?? []),
        ...style([
          ['display', cellDisplay(flows, flow)],
          ['width', flow === 'same' ? cellWidth(states[state], column) : flow === 'blocks' ? '100%' : 'auto'],
          ['box-sizing', 'border-box'],
          ['vertical-align', cellAlignment(box, item, state)],
        ]),
      ]),
      state,
    ),
  );
  return { kind: 'dual-cell', cell: { ...cell, styles }, width: Math.round(desktopWidth(inner)) };
}

function startsAtTop(box: GridBox, item: Box): boolean {
  return [...box.styles.map((own) => own.get('align-items')), ...item.styles.map((own) => own.get('align-self'))].some(
    (value) => /^(?:flex-)?start$/.test(value),
  );
}

/** In a table of fixed layout, px columns get their px, and percentages that add up to 100 share the rest. */
function cellWidth(grid: GridState | undefined, column: number): string {
  const tracks = grid?.tracks ?? [];
  const track = tracks[column];
  if (track === undefined) return 'auto';
  if (track.fraction === 0) return shortPixels(track.pixels);
  const total = tracks.reduce((sum, { fraction }) => sum + fraction, 0);
  const growing = tracks.filter(({ fraction }) => fraction > 0);
  return growing.length === 1 ? 'auto' : `${formatNumber((track.fraction / total) * 100, 6)}%`;
}

function trackWidth(grid: GridState | undefined, column: number, room: number): number {
  const tracks = grid?.tracks ?? [];
  const track = tracks[column];
  if (track === undefined || grid === undefined) return room;
  if (track.fraction === 0) return track.pixels;
  const taken = tracks.reduce((sum, { pixels }) => sum + pixels, 0) + grid.columnGap * (tracks.length - 1);
  return ((room - taken) * track.fraction) / tracks.reduce((sum, { fraction }) => sum + fraction, 0);
}

function gapCell(isLast: boolean, plan: GridPlan): OutElement {
  const { states, flows } = plan;
  const styles = flows.map((flow, state) => {
    const gone = flow === 'regrouped' || (flow === 'blocks' && isLast);
    return withoutDesktop(
      style([
        ['display', gone ? 'none' : cellDisplay(flows, flow)],
        ['width', flow === 'blocks' ? '100%' : shortPixels(states[state]?.columnGap ?? 0)],
        [
          'height',
          flow === 'blocks' ? shortPixels(states[state]?.rowGap ?? 0) : flows.includes('blocks') ? 'auto' : null,
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

function spacerRow(span: number, plan: GridPlan): OutElement {
  const { states, flows } = plan;
  const styles = flows.map((flow, state) =>
    withoutDesktop(
      style([
        ['display', flow === 'regrouped' ? 'none' : cellDisplay(flows, flow)],
        ['height', shortPixels(states[state]?.rowGap ?? 0)],
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
