import type { Rule } from '../facts/rule.js';

export const commentNested: Rule = {
  code: 'comment-nested',
  group: 'structure',
  severity: 'warning',
  sentence: 'A comment begins within a comment',
  remedy: 'End the first before the second begins.',
  why: 'Comments do not nest (HTML standard, 13.1.6): the first --> ends both, and what follows shows.',
  bad: '<!-- one <!-- two --><p>Soon</p>',
  good: '<!-- one --><!-- two --><p>Soon</p>',
  needs: [],
  *find(page) {
    for (const { code, span } of page.input.errors) if (code === 'nested-comment') yield { place: page.place(span) };
  },
};
