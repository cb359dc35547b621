/**
 * One interval of viewport widths in which every element has one style. The first state is the widest, the desktop:
 * it is what is inlined and what the `word` engine gets. Each further state is narrower than the one before it.
 */
export interface WidthState {
  /** The widest viewport of the interval, in CSS px; null for the desktop, which has no end. */
  readonly maxWidth: number | null;
  /** The narrowest whole viewport width of the interval. */
  readonly minWidth: number;
}

/**
 * Cuts the range of widths at thresholds: a threshold of 600 ends one state at 600 and begins another at 601.
 */
export function statesBetween(thresholds: Iterable<number>): WidthState[] {
  const limits = [...new Set(thresholds)].filter((limit) => limit > 0).sort((a, b) => b - a);
  const bounds = [null, ...limits];
  return bounds.map((maxWidth, index) => ({ maxWidth, minWidth: (limits[index] ?? 0) + 1 }));
}
