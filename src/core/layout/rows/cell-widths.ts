import { sides } from '../../css/values/properties.js';
import { formatNumber } from '../../css/values/value.js';
import { shortPixels } from '../boxes/box-style.js';
import { type Box } from '../boxes/boxes.js';
import { inState } from '../boxes/box-in-state.js';
import type { RowPlan } from './row-plan.js';
import type { ColumnWidth } from './row-widths.js';

/** How the cells of a row share its width. */
export interface CellWidths {
  readonly widths: readonly (string | null)[];
  /** The number of table columns of each cell. */
  readonly spans: readonly number[];
  readonly leavesRoom: boolean;
  /** True where percentages alone would share out padding, too, which growing columns keep for themselves. */
  readonly splitsPadding: boolean;
}

/**
 * In a table of fixed layout, px columns get their px and percentages that add up to 100 share the rest; columns without
 * a width share what is left equally, so that beside percentages a weight of 2 is a cell over two of them.
 */
export function cssWidths(plan: RowPlan, columns: readonly ColumnWidth[], state: number): CellWidths | 'impossible' {
  const isGrowing = (column: ColumnWidth): boolean => column.kind === 'weight' || column.kind === 'rest';
  const growing = columns.filter(isGrowing);
  const total = growing.reduce((sum, column) => sum + column.weight, 0);
  const edges = new Set(
    plan.items
      .filter((_, index) => columns[index]?.kind === 'weight')
      .map((item) => Math.round(inState(item, state).sideEdges * 100)),
  );
  const hasPercent = columns.some((column) => column.kind === 'percent' && column.share > 0);
  const unequal = edges.size > 1 || (!edges.has(0) && new Set(growing.map(({ weight }) => weight)).size > 1);
  const splitsPadding = growing.length > 1 && unequal;
  if (splitsPadding && plan.items.some((item, index) => columns[index]?.kind === 'weight' && !isPlainPaint(item)))
    return 'impossible';
  const spans = growing.length > 1 && hasPercent ? wholeWeights(growing.map(({ weight }) => weight)) : null;
  if (growing.length > 1 && hasPercent && spans === null) return 'impossible';
  const share = columns.reduce((sum, column) => sum + (isGrowing(column) ? 0 : column.share), 0);
  const pixels = columns.reduce((sum, column) => sum + (isGrowing(column) ? 0 : Math.abs(column.pixels)), 0);
  return {
    widths: columns.map((column) => {
      if (column.kind === 'fixed') return shortPixels(column.pixels);
      if (column.kind === 'percent') return percentage(column.share);
      return growing.length === 1 || spans !== null ? null : percentage(column.weight / total);
    }),
    spans: columns.map((column) => (isGrowing(column) ? (spans?.[growing.indexOf(column)] ?? 1) : 1)),
    splitsPadding,
    leavesRoom: growing.length === 0 && (share < 0.999 || pixels > 0),
  };
}

/** Whether a box shows no more than a colour, which cells side by side can share. */
function isPlainPaint(item: Box): boolean {
  return item.styles.every(
    (own) =>
      own.get('background-image') === 'none' &&
      sides.every((side) => own.pixels(`border-${side}-width`) === 0) &&
      own.get('border-top-left-radius') === '0px',
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
