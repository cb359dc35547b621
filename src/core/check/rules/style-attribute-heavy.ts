import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const styleAttributeHeavy: Rule = {
  code: 'style-attribute-heavy',
  group: 'weight',
  severity: 'note',
  sentence: 'The style of this element has {size} KB',
  remedy: 'Say less of it there.',
  why: 'Every such element is written into each of the mails, and counts for where web mail cuts them off.',
  bad: { html: `<p style="${'color: #223344; '.repeat(160)}">Soon</p>` },
  good: '<p style="color: #223344">Soon</p>',
  needs: ['finished'],
  *find(page) {
    for (const element of page.elements) {
      const size = attribute(element, 'style')?.length ?? 0;
      if (size > MOST) yield { place: page.placeOf(element), data: { size: (size / 1024).toFixed(1) } };
    }
  },
};

const MOST = 2048;
