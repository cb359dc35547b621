import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const headingNone: Rule = {
  code: 'heading-none',
  group: 'reading',
  severity: 'note',
  sentence: 'A mail of {count} words has no heading',
  remedy: 'Make headings of what stands large: <h1>, <h2>.',
  why: 'Who hears it has nothing to go by but the text from first to last (WCAG 2.2, 2.4.6).',
  bad: { html: `<p>${'The shed is open on Saturday. '.repeat(60)}</p>` },
  good: '<h1>Repair Day</h1><p>The shed is open on Saturday.</p>',
  needs: [],
  *find(page) {
    const count = page.texts('desk').reduce((sum, { words }) => sum + words.split(' ').length, 0);
    const hasHeading = page.elements.some(
      (element) => /^h[1-6]$/.test(element.tag) || attribute(element, 'role')?.toLowerCase() === 'heading',
    );
    if (count > LEAST_WORDS && !hasHeading)
      yield { place: page.place(page.body?.startTag ?? null), data: { count: String(count) } };
  },
};

const LEAST_WORDS = 250;
