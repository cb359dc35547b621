import { corners } from '../../css/values/properties.js';
import { formatNumber } from '../../css/values/value.js';
import { hasUnequalSides, shortPixels } from '../boxes/box-style.js';
import { isPainted, type Box } from '../boxes/boxes.js';
import { inState } from '../boxes/box-in-state.js';
import { isStretched, tableDirection, type RowPlan } from './row-plan.js';
import { innerEdges, type ColumnWidth } from './row-widths.js';

/** Why cells cannot share the width of a row as its columns do. */
export type ImpossibleWidths = 'unequal edges' | 'unequal weights' | 'edges beside shares';

/** How the cells of a row share its width. */
export interface CellWidths {
  readonly widths: readonly (string | null)[];
  /** The number of table columns of each cell. */
  readonly spans: readonly number[];
  readonly leavesRoom: boolean;
  /**
   * Whether padding and borders of a column stand in cells of their own: percentages alone would share out those of growing
   * columns, and hold those of columns in percent.
   */
  readonly splitsEdges: readonly boolean[];
}

/**
 * In a table of fixed layout, px columns get their px and percentages that add up to 100 share the rest; columns without
 * a width share what is left equally, so that beside percentages a weight of 2 is a cell over two of them.
 */
export function cssWidths(
  plan: RowPlan,
  columns: readonly ColumnWidth[],
  state: number,
): CellWidths | ImpossibleWidths {
  const isGrowing = (column: ColumnWidth): boolean => column.kind === 'weight' || column.kind === 'rest';
  const growing = columns.filter(isGrowing);
  const total = growing.reduce((sum, column) => sum + column.weight, 0);
  const weighted = plan.items.filter((_, index) => columns[index]?.kind === 'weight');
  const items = weighted.map((item) => inState(item, state));
  const edges = new Set(items.map((item) => Math.round((item.sideEdges + innerEdges(item)) * 100)));
  const hasPercent = columns.some((column) => column.kind === 'percent' && column.share > 0);
  const unequal = edges.size > 1 || (!edges.has(0) && new Set(growing.map(({ weight }) => weight)).size > 1);
  const splitsGrowing = (growing.length > 1 && unequal) || weighted.some((item) => isTurned(item, plan));
  const inner = new Set(
    items.map((item, index) => Math.round((innerEdges(item) / (growing[index]?.weight ?? 1)) * 100)),
  );
  if (splitsGrowing && (inner.size > 1 || weighted.some((item) => !isPlainPaint(item, plan)))) return 'unequal edges';
  const splitsEdges = columns.map(({ kind, pixels }) =>
    kind === 'weight' ? splitsGrowing : kind === 'percent' && Math.abs(pixels) > 0.01,
  );
  const isSplit = (index: number): boolean => splitsEdges[index] === true && columns[index]?.kind === 'percent';
  if (plan.items.some((item, index) => isSplit(index) && !isPlainPaint(item, plan))) return 'edges beside shares';
  const spans = growing.length > 1 && hasPercent ? wholeWeights(growing.map(({ weight }) => weight)) : null;
  if (growing.length > 1 && hasPercent && spans === null) return 'unequal weights';
  const share = columns.reduce((sum, column) => sum + (isGrowing(column) ? 0 : column.share), 0);
  const pixels = columns.reduce((sum, column) => sum + (isGrowing(column) ? 0 : Math.abs(column.pixels)), 0);
  return {
    widths: columns.map((column) => {
      if (column.kind === 'fixed') return shortPixels(column.pixels);
      if (column.kind === 'percent') return percentage(column.share);
      return growing.length === 1 || spans !== null ? null : percentage(column.weight / total);
    }),
    spans: columns.map((column) => (isGrowing(column) ? (spans?.[growing.indexOf(column)] ?? 1) : 1)),
    splitsEdges,
    leavesRoom: growing.length === 0 && (share < 0.999 || pixels > 0),
  };
}

/**
 * Whether a column has another border at its left than at its right, and runs against its row: browsers take the sides of a
 * cell's border as its table runs.
 */
function isTurned(item: Box, plan: RowPlan): boolean {
  return hasUnequalSides(item) && item.styles[0]?.get('direction') !== tableDirection(plan);
}

/** Whether a column shows no more than a colour and borders over the height of the row, which cells side by side can share. */
function isPlainPaint(item: Box, plan: RowPlan): boolean {
  if (isPainted(item) && !isStretched(plan, item)) return false;
  return item.styles.every(
    (own) =>
      own.get('background-image') === 'none' &&
      own.get('box-shadow') === 'none' &&
      corners.every((corner) => own.get(`border-${corner}-radius`) === '0px'),
  );
}

/** The most table columns that one cell may take. */
const MOST_SPANNED = 12;

/** Weights as whole numbers, as small as can be; null where that takes too many table columns. */
function wholeWeights(weights: readonly number[]): number[] | null {
  const least = Math.min(...weights);
  for (let factor = 1; factor <= MOST_SPANNED; factor += 1) {
    const scaled = weights.map((weight) => (weight / least) * factor);
    if (scaled.every((weight) => Math.abs(weight - Math.round(weight)) < 1e-6 && weight <= MOST_SPANNED))
      return scaled.map(Math.round);
  }
  return null;
}

/** A share of the row in percent. */
export function percentage(share: number): string {
  return `${formatNumber(share * 100, 6)}%`;
}
