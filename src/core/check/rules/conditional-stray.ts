import type { Rule } from '../facts/rule.js';
import { commentsOf } from '../facts/metas.js';

export const conditionalStray: Rule = {
  code: 'conditional-stray',
  group: 'structure',
  severity: 'error',
  sentence: 'This <![endif] ends no conditional comment',
  remedy: 'Take it out, or write the [if …] that is missing before it.',
  why: 'Some programs show it as text, and it tells of a beginning that was lost.',
  bad: '<p>Soon</p><!--<![endif]-->',
  good: '<!--[if !mso]><!--><p>Soon</p><!--<![endif]-->',
  needs: [],
  *find(page) {
    let isOpen = false;
    for (const { value, span } of commentsOf(page)) {
      if (/^\[if [^\]]*\]><!-*$/i.test(value)) isOpen = true;
      else if (/^\s*<!\[endif\]$/i.test(value)) {
        if (!isOpen) yield { place: page.place(span) };
        isOpen = false;
      }
    }
  },
};
