import type { Rule } from '../facts/rule.js';

export const altMissing: Rule = {
  code: 'alt-missing',
  group: 'pictures',
  severity: 'warning',
  sentence: 'This picture has no alt',
  remedy: 'Say in alt what it shows; alt="" for one that only decorates.',
  why: 'Many programs show no pictures until they are asked to, and who hears a mail hears the name of the file (WCAG 2.2, 1.1.1; HTML standard, 4.8.4.4).',
  bad: '<p><img src="saw.png" width="300" height="200"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: [],
  *find(page) {
    for (const { element, alt, isSpacer } of page.pictures)
      if (alt === null && !isSpacer) yield { place: page.placeOf(element) };
  },
};
