import type { Rule } from '../facts/rule.js';
import { contrastOf } from '../page/grounds.js';
import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { ElementNode } from '../../html/tree.js';

export const linkByColor: Rule = {
  code: 'link-by-color',
  group: 'reading',
  severity: 'warning',
  sentence: 'Only its colour marks this link, and it has a contrast of {contrast} to 1 with the text around it',
  remedy: 'Underline it, or make it bold.',
  why: 'Who does not see the colour does not see the link (WCAG 2.2, 1.4.1; 3 to 1 is the least where colour is all).',
  bad: '<p style="color: #333333">See the <a href="https://alderlane.example/" style="color: #224444; text-decoration: none">opening hours</a> of the shed.</p>',
  good: '<p style="color: #333333">See the <a href="https://alderlane.example/" style="color: #224444">opening hours</a> of the shed.</p>',
  needs: [],
  *find(page) {
    const texts = page.texts('desk');
    for (const { element, href, pictures, words } of page.links) {
      if (href === null || pictures.length > 0 || words === '' || element.parent === null) continue;
      const [style, around] = [page.styleOf(element, 'desk'), page.styleOf(element.parent, 'desk')];
      const own = texts.find((text) => text.element === element);
      if (style === null || around === null || own === undefined || isMarked(style, around) || !standsInText(element))
        continue;
      const { beneath, inkOn } = page.grounds('desk');
      const ground = beneath(element);
      const colors = ground === null ? [] : [inkOn(ground, own.style), inkOn(ground, around)];
      const [color, other] = colors;
      const contrast = color && other ? contrastOf(color, other) : null;
      if (contrast !== null && contrast < LEAST)
        yield { place: page.placeOf(element), data: { contrast: contrast.toFixed(1) } };
    }
  },
};

const LEAST = 3;

/** Whether something else than its colour sets a link apart. */
function isMarked(style: ComputedStyle, around: ComputedStyle): boolean {
  const differs = (property: string): boolean => style.get(property) !== around.get(property);
  if (/underline|overline|line-through/.test(style.get('text-decoration'))) return true;
  if (differs('font-weight') || differs('font-style') || differs('font-size') || differs('text-transform')) return true;
  if (!/^(?:|transparent)$/.test(style.get('background-color'))) return true;
  return style.get('border-bottom-style') !== 'none' && style.get('border-bottom-style') !== '';
}

/** Whether other words stand before or behind a link, in the same text. */
function standsInText(element: ElementNode): boolean {
  return (element.parent?.children ?? []).some((node) => node.kind === 'text' && /\p{L}{2}/u.test(node.value));
}
