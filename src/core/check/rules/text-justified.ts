import type { Rule } from '../facts/rule.js';
import type { ElementNode } from '../../html/tree.js';

export const textJustified: Rule = {
  code: 'text-justified',
  group: 'reading',
  severity: 'note',
  sentence: 'This text is justified',
  remedy: 'Align it to the left.',
  why: 'Mail programs do not hyphenate: in the narrow columns of a phone holes open between the words (WCAG 2.2, 1.4.8).',
  bad: {
    html: '<p style="text-align: justify">On Saturday the shed is open for repairs of all kinds, and there is tea for everybody who comes.</p>',
  },
  good: '<p>On Saturday the shed is open.</p>',
  needs: [],
  *find(page) {
    const told = new Set<ElementNode>();
    for (const { element, style, words } of page.texts('phone')) {
      if (style.get('text-align') !== 'justify' || words.length < 60 || told.has(element)) continue;
      told.add(element);
      yield { place: page.placeOf(element) };
    }
  },
};
