import type { Outline } from './view.js';

/**
 * The style sheet that outlines regions and slices in a page of a view.
 * @param slices the addresses of pictures that are slices
 */
export function outlineCss(outlines: readonly Outline[], slices: readonly string[]): string {
  const rules = outlines.includes('regions') ? ['[data-region]{outline:2px dashed #5b4b9a;outline-offset:-2px}'] : [];
  const shown = outlines.includes('slices') ? slices : [];
  return [
    ...rules,
    ...shown.map(
      (slice) => `img[src="${slice.replace(/["\\]/g, '\\$&')}"]{outline:2px dotted #0b6e6e;outline-offset:-2px}`,
    ),
  ].join('\n');
}
