import type { Rule } from '../facts/rule.js';
import { firstElement } from '../../html/tree.js';

export const titleMissing: Rule = {
  code: 'title-missing',
  group: 'reading',
  severity: 'warning',
  sentence: 'The page has no title',
  remedy: 'Write <title> into its head: the subject does well.',
  why: 'The mail seen as a page, and programs that read aloud, are named by it (WCAG 2.2, 2.4.2).',
  bad: { html: '<!doctype html><html lang="en"><head><meta charset="utf-8"></head><body><p>Soon</p></body></html>' },
  good: '<p>Soon</p>',
  needs: ['finished'],
  *find(page) {
    if (page.title === '') yield { place: page.place(firstElement(page.doc.root, 'head')?.startTag ?? null) };
  },
};
