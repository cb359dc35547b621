import { finding } from '../finding.js';
import { formatNumber } from '../css/value.js';
import { noExtra, shortPixels, type ExtraPadding } from './box-style.js';
import { edgeIn, isPainted, type Box } from './boxes.js';
import { emitBoxTable, emitCell } from './emit-cell.js';
import { desktopWidth, forStates, type EmitContext, type Surroundings } from './emit.js';
import { cellAlignment, type RowPlan } from './emit-row.js';
import { element, filler, layoutTable, style, tableRow, type OutElement, type OutNode, type Style } from './output.js';
import type { ColumnWidth } from './row-widths.js';

/**
 * Emits a row as cells of one table. Where the columns show no paint, the gaps are padding of the cells, so that
 * percentages alone are exact in every engine; else gaps are cells, and the `word` engine gets widths in px.
 */
export function emitCellsRow(plan: RowPlan, context: EmitContext, around: Surroundings): OutNode[] {
  const shared = sharedGaps(plan);
  const cells =
    shared === null ? cellsWithGapCells(plan, context, around) : cellsWithSharedGaps(plan, shared, context, around);
  if (cells === null) return [];
  const styles = forStates(context, () =>
    style([
      ['width', '100%'],
      ['table-layout', 'fixed'],
    ]),
  );
  return [layoutTable(styles, [tableRow(cells)], { width: '100%' })];
}

/**
 * Gaps as padding: a cell that takes exactly its share of the row leaves its column the right width if what the column
 * lacks is padding. Null where that does not work: paint would show in the padding, or a padding would be negative.
 */
function sharedGaps(plan: RowPlan): ExtraPadding[][] | null {
  const weightsOnly = plan.widths.every(
    (columns) => columns === null || columns.every((column) => column.kind === 'weight' || column.kind === 'rest'),
  );
  if (!weightsOnly || plan.items.some(isPainted)) return null;
  const paddings = plan.items.map((_, index) => plan.modes.map((_mode, state) => sharedGap(plan, index, state)));
  const sound = paddings.every((states) => states.every(({ left, right }) => left >= -0.01 && right >= -0.01));
  return sound ? paddings.map((states) => states.map(clamped)) : null;
}

function sharedGap(plan: RowPlan, index: number, state: number): ExtraPadding {
  const columns = plan.widths[state];
  if (columns === null || columns === undefined) return { ...noExtra, top: index > 0 ? (plan.rowGap[state] ?? 0) : 0 };
  const gap = plan.columnGap[state] ?? 0;
  const left = columns.slice(0, index).reduce((sum, column) => sum + column.pixels, 0) + index * gap;
  return { ...noExtra, left, right: -(left + (columns[index]?.pixels ?? 0)) };
}

function clamped(padding: ExtraPadding): ExtraPadding {
  return { ...padding, left: Math.max(0, padding.left), right: Math.max(0, padding.right) };
}

function cellsWithSharedGaps(
  plan: RowPlan,
  gaps: readonly ExtraPadding[][],
  context: EmitContext,
  around: Surroundings,
): OutNode[] {
  return plan.items.map((item, index) => {
    const cell = emitCell(item, context, columnSurroundings(plan, index, around), {
      extra: gaps[index] ?? [],
      isFlexItem: true,
    });
    return withCellStyles(cell, plan, item, context, (state) => percentage(plan.widths[state]?.[index]?.share ?? 1));
  });
}

/** What a column offers: its own width side by side, the whole row once stacked. */
export function columnSurroundings(plan: RowPlan, index: number, around: Surroundings): Surroundings {
  return {
    text: null,
    widthAt: (viewport, state) => {
      const column = plan.widths[state]?.[index];
      const row = around.widthAt(viewport, state);
      return column === undefined ? row : column.share * row + column.pixels;
    },
  };
}

function percentage(share: number): string {
  return `${formatNumber(share * 100, 6)}%`;
}

function withCellStyles(
  cell: OutElement,
  plan: RowPlan,
  item: Box,
  context: EmitContext,
  width: (state: number) => string | null,
): OutElement {
  const stacks = plan.modes.includes('stacked');
  const sized = plan.modes.some((mode, state) => mode === 'side-by-side' && width(state) !== null);
  const styles = forStates(context, (state): Style => {
    const sideBySide = plan.modes[state] !== 'stacked';
    const own = style([
      ['display', stacks ? (sideBySide ? 'table-cell' : 'block') : null],
      ['width', sized || stacks ? (sideBySide ? (width(state) ?? 'auto') : '100%') : null],
      ['box-sizing', stacks || sized ? 'border-box' : null],
      ['vertical-align', cellAlignment(plan.box, item, state)],
    ]);
    const merged = new Map([...(cell.styles[state] ?? []), ...own]);
    return withoutDesktopDisplay(merged, state);
  });
  return { ...cell, styles };
}

/** A cell is a cell without saying so; only a class that undoes a stacking has to. */
function withoutDesktopDisplay(own: Map<string, string>, state: number): Style {
  if (state === 0) own.delete('display');
  return own;
}

function cellsWithGapCells(plan: RowPlan, context: EmitContext, around: Surroundings): OutNode[] | null {
  const widths = plan.widths.map((columns, state) => (columns === null ? null : cssWidths(plan, columns, state)));
  if (widths.some((columns) => columns === 'impossible')) return reportPadding(plan, context);
  const width = (state: number, index: number): string | null => {
    const columns = widths[state];
    return columns === null || columns === undefined || columns === 'impossible' ? null : (columns[index] ?? null);
  };
  return plan.items.flatMap((item, index): OutNode[] => {
    const inner = columnSurroundings(plan, index, around);
    const cell = withCellStyles(paintedCell(plan, item, context, inner), plan, item, context, (state) =>
      width(state, index),
    );
    const twin: OutNode = { kind: 'twin', cell, width: Math.round(desktopWidth(inner)) };
    return index === 0 ? [twin] : [gapCell(plan, context), twin];
  });
}

/** Paint that is not stretched over the height of the row goes onto a table of its own inside the cell. */
function paintedCell(plan: RowPlan, item: Box, context: EmitContext, inner: Surroundings): OutElement {
  const stretched = plan.modes.every(
    (mode, state) => mode !== 'side-by-side' || cellAlignment(plan.box, item, state) === 'top',
  );
  const aligned =
    item.styles.some((own) => /^(?:flex-start|start)$/.test(own.get('align-self'))) ||
    plan.box.styles.some((own) => /^(?:flex-start|start)$/.test(own.get('align-items')));
  if (!isPainted(item) || (stretched && !aligned))
    return emitCell(item, context, inner, { extra: [], isFlexItem: true });
  return element(
    'td',
    {},
    forStates(context, () => style([['padding', '0']])),
    emitBoxTable(item, context, inner, true),
  );
}

function gapCell(plan: RowPlan, context: EmitContext): OutElement {
  const stacks = plan.modes.includes('stacked');
  const styles = forStates(context, (state) => {
    const sideBySide = plan.modes[state] !== 'stacked';
    return style([
      ['display', stacks && state > 0 ? (sideBySide ? 'table-cell' : 'block') : null],
      ['width', sideBySide ? shortPixels(plan.columnGap[state] ?? 0) : '100%'],
      ['height', stacks ? (sideBySide ? 'auto' : shortPixels(plan.rowGap[state] ?? 0)) : null],
      ['padding', '0'],
      ['font-size', '0'],
      ['line-height', '0'],
    ]);
  });
  return element('td', {}, styles, [filler]);
}

/**
 * In a table of fixed layout, px columns get their px and percentages that add up to 100 share the rest; a column
 * without a width takes what is left.
 */
function cssWidths(plan: RowPlan, columns: readonly ColumnWidth[], state: number): (string | null)[] | 'impossible' {
  const growing = columns.filter((column) => column.kind === 'weight' || column.kind === 'rest');
  const total = growing.reduce((sum, column) => sum + column.weight, 0);
  const edges = new Set(
    plan.items
      .filter((_, index) => columns[index]?.kind === 'weight')
      .map((item) => edgeIn(item, state, 'left') + edgeIn(item, state, 'right')),
  );
  const hasPercent = columns.some((column) => column.kind === 'percent');
  if (growing.length > 1 && (edges.size > 1 || hasPercent)) return 'impossible';
  return columns.map((column) => {
    if (column.kind === 'fixed') return shortPixels(column.pixels);
    if (column.kind === 'percent') return percentage(column.share);
    return growing.length === 1 ? null : percentage(column.weight / total);
  });
}

function reportPadding(plan: RowPlan, context: EmitContext): null {
  const span = plan.box.element?.node.startTag ?? null;
  const place = span === null ? null : { source: context.doc.source, span };
  const advice =
    'Give all growing columns of a painted row the same side padding, and no percentage widths beside them.';
  context.report(
    finding('css-unsupported', place, {
      property: 'flex',
      value: 'with unequal columns',
      selector: plan.box.element?.node.tag ?? '',
      advice,
    }),
  );
  return null;
}
