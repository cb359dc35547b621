import type { Rule } from '../facts/rule.js';
import { tagsByStart } from '../facts/tag-facts.js';

export const tagPlace: Rule = {
  code: 'tag-place',
  group: 'merge tags',
  severity: 'warning',
  sentence: 'A merge tag stands in {where}, where platforms may not fill it in',
  remedy: 'Move it into the text or an attribute.',
  why: 'Platforms look for tags in what is shown; some leave style sheets and comments as they are.',
  bad: '<style>p { color: @{branch} }</style><p>Soon</p>',
  good: '<p style="color: #223344">Soon @{branch}</p>',
  needs: ['finished'],
  *find(page) {
    for (const span of page.doc.tags) {
      const { kind } = page.contexts(span.start);
      if (kind !== 'style' && kind !== 'comment') continue;
      const tag = tagsByStart(page).get(span.start) ?? null;
      if (tag?.kind === 'output')
        yield { place: page.place(span), data: { where: kind === 'style' ? 'a style sheet' : 'a comment' } };
    }
  },
};
