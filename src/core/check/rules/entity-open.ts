import type { Rule } from '../facts/rule.js';

export const entityOpen: Rule = {
  code: 'entity-open',
  group: 'structure',
  severity: 'note',
  sentence: 'The end of this character’s name is missing',
  remedy: 'Write a semicolon behind it.',
  why: 'Browsers forgive it (HTML standard, 13.2.5.77), some mail programs and platforms do not.',
  bad: '<p>Tools &amp saws</p>',
  good: '<p>Tools &amp; saws</p>',
  needs: [],
  *find(page) {
    for (const { code, span } of page.input.errors)
      if (code === 'missing-semicolon-after-character-reference') yield { place: page.place(span) };
  },
};
