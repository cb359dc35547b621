import type { Rule } from '../facts/rule.js';
import { pixelsOf } from '../../css/values/value.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementNode } from '../../html/tree.js';

export const targetSmall: Rule = {
  code: 'target-small',
  group: 'reading',
  severity: 'note',
  sentence: 'This button is about {height} px high on a phone',
  remedy: 'Give it more padding: {least} px is what a thumb needs.',
  why: 'Who taps beside it opens something else, or nothing (WCAG 2.2, 2.5.8; 2.5.5 for the larger size).',
  bad: '<p><a href="https://alderlane.example/" style="display: inline-block; padding: 4px 10px; background-color: #225533; color: #ffffff; line-height: 18px; font-size: 15px">Reserve it</a></p>',
  good: '<p><a href="https://alderlane.example/" style="display: inline-block; padding: 13px 20px; background-color: #225533; color: #ffffff; line-height: 20px; font-size: 16px">Reserve it</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, words, pictures } of page.links) {
      const style = href === null || words === '' || pictures.length > 0 ? null : page.styleOf(element, 'phone');
      const height = style === null ? null : buttonHeight(element, style);
      if (height !== null && height < LEAST)
        yield { place: page.placeOf(element), data: { height: String(Math.round(height)), least: String(LEAST) } };
    }
  },
};

const LEAST = 44;

/** How high a link is that looks like a button, in px; null for one that stands in a text. */
function buttonHeight({ tag }: ElementNode, style: ComputedStyle): number | null {
  const isPainted = !/^(?:|transparent|none)$/.test(style.get('background-color'));
  if (tag !== 'a' || !isPainted || !/^(?:inline-)?block$/.test(style.get('display'))) return null;
  const sides = ['padding-top', 'padding-bottom', 'border-top-width', 'border-bottom-width'];
  const size = parseFloat(style.get('font-size')) || 16;
  const line = pixelsOf(style.get('line-height')) ?? (Number(style.get('line-height')) || 1.2) * size;
  return sides.reduce((sum, side) => sum + (pixelsOf(style.get(side)) ?? 0), line);
}
