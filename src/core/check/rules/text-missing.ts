import type { Rule } from '../facts/rule.js';

export const textMissing: Rule = {
  code: 'text-missing',
  group: 'plain text',
  severity: 'note',
  sentence: 'There is no plain-text version of this page',
  remedy: 'Write one: inscriba text makes it.',
  why: 'A mail has two versions (RFC 2046, 5.1.4). Watches, some readers and most filters look at the plain one.',
  bad: { html: '<p>Soon</p>', text: '' },
  good: { html: '<p>Soon</p>', text: 'Soon\n' },
  needs: ['text'],
  *find(page) {
    const { text } = page.input;
    if (text !== undefined && (text ?? '').trim() === '') yield { place: page.place(null) };
  },
};
