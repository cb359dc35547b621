import { layoutAdvice } from '../../findings/wording/layout.js';
import { finding } from '../../findings/finding.js';
import { longestWord } from './text-width.js';
import { cssWidths, percentage, type CellWidths, type ImpossibleWidths } from './cell-widths.js';
import { noExtra, type ExtraPadding } from '../boxes/box-style.js';
import { hidesAnywhere, isPainted, type Box } from '../boxes/boxes.js';
import { inState } from '../boxes/box-in-state.js';
import { forStates, type EmitContext, type Room } from '../content/room.js';
import {
  element,
  filler,
  layoutTable,
  style,
  tableRow,
  type OutElement,
  type OutNode,
  type Style,
} from '../print/output.js';
import { problemIn, reportProblems, type LayoutProblem } from '../content/problems.js';
import { widthProperty } from './row-widths.js';
import { isStretched, narrowColumns, restPlaces, tableDirection, type RowPlan } from './row-plan.js';
import {
  withoutDesktopDisplay,
  columnRoom,
  stackedTop,
  itemStates,
  withCellStyles,
  columnCells,
} from './column-cells.js';
import { stretchesPhrases, withHeldHeight, withTallPhrase } from './held-height.js';

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
  const runs = tableDirection(plan);
  const attributes: Record<string, string> = {
    width: '100%',
    ...(plan.reversed || runs === 'rtl' ? { dir: runs } : {}),
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
    const available = columnRoom(plan, index, room).widthAt(PHONE_VIEWPORT, 0) - inState(item, 0).sideEdges;
    const need = longestWord(inState(item, 0), room);
    const span = item.element?.node.startTag ?? null;
    if (need <= available || span === null) return;
    const data = { room: `${Math.max(0, Math.round(available))}px`, need: `${Math.round(need)}px` };
    room.report(finding('column-squeezed', { source: room.doc.source, span }, data));
  });
}

function stacksBackwards(plan: RowPlan, state: number): boolean {
  return plan.modes[state] === 'stacked' && plan.box.styles[state]?.take('flex-direction') === 'column-reverse';
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
  const complete = !plan.items.some(hidesAnywhere);
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
  const start = columns.slice(0, index).reduce((sum, column) => sum + column.pixels, 0) + index * gap;
  const end = -(start + (columns[index]?.pixels ?? 0));
  return tableDirection(plan) === 'ltr'
    ? { ...noExtra, left: start, right: end }
    : { ...noExtra, left: end, right: start };
}

function clamped(padding: ExtraPadding): ExtraPadding {
  return { ...padding, left: Math.max(0, padding.left), right: Math.max(0, padding.right) };
}

function cellsWithSharedGaps(plan: RowPlan, gaps: readonly ExtraPadding[][], room: Room): OutNode[] {
  const isTall = stretchesPhrases(plan, room, narrowColumns(plan, room));
  const heldCell = (cell: OutElement, item: Box): OutElement =>
    withHeldHeight(isTall ? withTallPhrase(cell, item, plan) : cell, item, plan);
  return plan.items.map((item, index) => {
    const cell = room.make.cell(item, columnRoom(plan, index, room), {
      extra: gaps[index] ?? [],
      isFlexItem: itemStates(plan),
    });
    const held = isStretched(plan, item) ? heldCell(cell, item) : cell;
    return withCellStyles(held, plan, item, {
      width: (state) => percentage(plan.widths[state]?.[index]?.share ?? 1),
    });
  });
}

function cellsWithGapCells(plan: RowPlan, room: Room): OutNode[] | null {
  const layouts = plan.widths.map((columns, state) => (columns === null ? null : cssWidths(plan, columns, state)));
  const state = layouts.findIndex((layout) => typeof layout === 'string');
  if (state >= 0) {
    reportProblems([impossibleIn(plan, state, layouts[state] as ImpossibleWidths)], room);
    return null;
  }
  const layoutIn = (state: number): CellWidths | null => {
    const layout = layouts[state];
    return layout === undefined || typeof layout === 'string' ? null : layout;
  };
  const desktop = layoutIn(0);
  const places = restPlaces(inState(plan.box, plan.modes.indexOf('side-by-side')));
  return columnCells(plan, room, {
    width: (state, index) => layoutIn(state)?.widths[index] ?? null,
    span: (index) => desktop?.spans[index] ?? 1,
    stretchesPhrases: stretchesPhrases(plan, room, narrowColumns(plan, room)),
    splitsEdges: (index) => plan.widths.some((_, state) => layoutIn(state)?.splitsEdges[index] === true),
    before: (index) =>
      desktop?.leavesRoom === true ? places.filter((place) => place === index).map(() => restCell(plan, room)) : [],
  });
}

/** What is told of columns whose widths cells cannot have: at the first of them. */
function impossibleIn({ items, widths, box }: RowPlan, state: number, why: ImpossibleWidths): LayoutProblem {
  const kind = why === 'edges beside shares' ? 'percent' : 'weight';
  const at = items.findIndex((item, index) => {
    const hasEdges = kind === 'weight' || inState(item, state).sideEdges > 0;
    return widths[state]?.[index]?.kind === kind && hasEdges;
  });
  const column = inState(items[at] ?? box, state);
  if (why === 'edges beside shares') return problemIn(column, widthProperty(column), layoutAdvice.borderBox);
  return problemIn(column, 'flex-grow', why === 'unequal edges' ? layoutAdvice.equalEdges : layoutAdvice.wholeWeights);
}

/** Where no column grows, empty cells take what is left of the row, each as much as any other. */
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
