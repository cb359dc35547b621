import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const sizeMissing: Rule = {
  code: 'size-missing',
  group: 'pictures',
  severity: 'warning',
  sentence: 'Nothing says how wide this picture is shown',
  remedy: 'Give it a width, and a height where its kind is known.',
  why: 'The word engine shows it in its own size, however large that is, and while it loads the page jumps.',
  bad: '<p><img src="saw.png" alt="A saw on the bench"></p>',
  good: '<p><img src="saw.png" width="300" height="200" alt="A saw on the bench"></p>',
  needs: ['finished'],
  *find(page) {
    for (const { element, shownWidth } of page.pictures)
      if (shownWidth === null && !/%/.test(attribute(element, 'width') ?? '')) yield { place: page.placeOf(element) };
  },
};
