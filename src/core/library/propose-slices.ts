import { findCuts, isBlank, type Noise } from '../slices/find-cuts.js';
import type { Pixels, Region } from '../slices/pixels.js';
import type { Result } from './result.js';

/** Where a drawn design may be cut. */
export interface ProposedCut {
  readonly region: Region;
  /** `band-2`, or `band-2-1` where the band has several. */
  readonly name: string;
  /** Counted from one, from the top left. */
  readonly number: number;
  /** Whether it shows nothing but ground. */
  readonly isBlank: boolean;
}

/** How a design was drawn. */
export interface ProposeSlicesOptions {
  /** `lossy` for pixels that a lossy format has touched; `none` where this is not said. */
  readonly noise?: Noise;
}

/**
 * Proposes where to cut a drawn design: its bands from top to bottom, and in each its slices from left to right.
 * @example
 * const { value: bands } = proposeSlices({ width, height, data });
 */
export function proposeSlices(
  pixels: Pixels,
  { noise = 'none' }: ProposeSlicesOptions = {},
): Result<readonly (readonly ProposedCut[])[]> {
  let number = 0;
  let top = 0;
  const value = findCuts(pixels, noise).bands.map(({ to, columns }, band) => {
    const lefts = [0, ...columns];
    const slices = columns.map((right, column): ProposedCut => {
      number += 1;
      const region = { left: lefts[column] ?? 0, top, right, bottom: to };
      const name = columns.length === 1 ? `band-${band + 1}` : `band-${band + 1}-${column + 1}`;
      return { region, name, number, isBlank: isBlank(pixels, region, noise) };
    });
    top = to;
    return slices;
  });
  return { value, findings: [] };
}
