import type { Rule } from '../facts/rule.js';
import type { ElementNode } from '../../html/tree.js';
import { isWithin, plainWords } from '../page/texts.js';

export const textSmall: Rule = {
  code: 'text-small',
  group: 'reading',
  severity: 'warning',
  sentence: 'This text is {size} px high on a phone',
  remedy: 'Make it {least} px or more there.',
  why: 'Phones are held at arm’s length: smaller text is not read, and some programs enlarge it by themselves and break the lines.',
  bad: '<p style="font-size: 10px">Soon on Saturday</p>',
  good: '<p style="font-size: 14px">Soon on Saturday</p>',
  needs: [],
  *find(page) {
    const told = new Set<ElementNode>();
    for (const { element, style, words } of page.texts('phone')) {
      const size = parseFloat(style.get('font-size')) || 16;
      if (size >= LEAST || plainWords(words).length < 4 || isRaised(element) || isWithin(element, told)) continue;
      told.add(element);
      yield { place: page.placeOf(element), data: { size: String(Math.round(size * 10) / 10), least: String(LEAST) } };
    }
  },
};

const LEAST = 13;

/** Footnote signs and the like stand small by themselves. */
function isRaised({ tag, parent }: ElementNode): boolean {
  return /^(?:sup|sub)$/.test(tag) || (parent !== null && /^(?:sup|sub)$/.test(parent.tag));
}
