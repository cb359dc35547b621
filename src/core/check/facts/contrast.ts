import { printColor } from '../../css/values/mixed-color.js';
import type { Place } from '../../findings/finding.js';
import type { ElementNode } from '../../html/tree.js';
import { contrastOf, isLarge, type Shades } from '../page/grounds.js';
import type { Page } from '../page/page.js';
import type { ViewName } from '../page/styled-page.js';
import { plainWords } from '../page/texts.js';

/** A text that stands out too little. */
export interface FaintText {
  readonly place: Place;
  readonly data: {
    readonly color: string;
    readonly ground: string;
    readonly contrast: string;
    readonly least: string;
  };
}

/**
 * Texts whose contrast is below what WCAG 2.2 asks for (1.4.3): 4.5, and 3 where they are large. One over a picture is not
 * judged; of an element with several texts the first is told.
 */
export function faintTexts(page: Page, view: ViewName, shades: Shades = 'own'): FaintText[] {
  const grounds = page.grounds(view, shades);
  const told = new Set<ElementNode>();
  const found: FaintText[] = [];
  for (const { element, style, words } of page.texts(view)) {
    const ground = grounds.beneath(element);
    const color = ground === null ? null : grounds.inkOn(ground, style);
    if (ground === null || color === null) continue;
    const least = isLarge(style) ? 3 : 4.5;
    const contrast = contrastOf(color, ground);
    // What is shown with one decimal must not look like enough.
    if (contrast >= least - 0.005) continue;
    if (told.has(element) || !/[\p{L}\p{N}]/u.test(plainWords(words) || 'x')) continue;
    told.add(element);
    const data = {
      color: printColor(color),
      ground: printColor(ground),
      contrast: (Math.floor(contrast * 10) / 10).toFixed(1),
      least: String(least),
    };
    found.push({ place: page.placeOf(element), data });
  }
  return found;
}
