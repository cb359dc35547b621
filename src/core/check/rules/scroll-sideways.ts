import type { Rule } from '../facts/rule.js';
import type { Page } from '../page/page.js';
import { attribute, type ElementNode } from '../../html/tree.js';

export const scrollSideways: Rule = {
  code: 'scroll-sideways',
  group: 'reading',
  severity: 'warning',
  sentence: 'This is {width} px wide on a phone too',
  remedy: 'Give it a width of 100 %, and a max-width of {width}px.',
  why: 'A phone shows 320 to 430 px: readers have to push every line from side to side, or the whole mail shrinks until nobody reads it.',
  bad: '<table role="presentation" width="600"><tr><td>Soon</td></tr></table>',
  good: '<table role="presentation" width="100%" style="max-width: 600px"><tr><td>Soon</td></tr></table>',
  needs: ['finished'],
  *find(page) {
    const wide = page.elements.find(
      (element) => /^(?:table|div|img|p)$/.test(element.tag) && widthOf(page, element) > NARROW,
    );
    if (wide !== undefined) yield { place: page.placeOf(wide), data: { width: String(widthOf(page, wide)) } };
  },
};

/** The widest that fits on most phones, in px. */
const NARROW = 430;

/** How wide an element is at least on a phone, in px; 0 where it gives way. */
function widthOf(page: Page, element: ElementNode): number {
  const style = page.styleOf(element, 'phone');
  if (style === null || style.get('display') === 'none') return 0;
  const most = style.get('max-width');
  const least = style.pixels('min-width') ?? 0;
  const own = style.get('width');
  const written = attribute(element, 'width')?.trim() ?? '';
  const width =
    style.pixels('width') ?? (/^(?:|auto)$/.test(own) && /^\d+(?:px)?$/.test(written) ? parseInt(written, 10) : 0);
  if (most.endsWith('%') || (style.pixels('max-width') ?? Infinity) <= NARROW) return least;
  return Math.max(width, least);
}
