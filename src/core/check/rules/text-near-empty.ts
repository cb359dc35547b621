import type { Rule } from '../facts/rule.js';

export const textNearEmpty: Rule = {
  code: 'text-near-empty',
  group: 'plain text',
  severity: 'warning',
  sentence: 'The plain-text version has {count} words, and the page {more}',
  remedy: 'Write all of it there, too: inscriba text makes it.',
  why: '"Your program shows no HTML" is what readers of plain text see then, and filters compare the two.',
  bad: {
    html: `<p>${'The shed is open on Saturday for repairs. '.repeat(12)}</p>`,
    text: 'Your program shows no HTML.',
  },
  good: { html: '<p>Soon</p>', text: 'Soon' },
  needs: ['text'],
  *find(page) {
    const { text } = page.input;
    if (text === undefined || text === null || text.trim() === '') return;
    const [count, more] = [
      text.split(/\s+/).length,
      page.texts('desk').reduce((sum, { words }) => sum + words.split(' ').length, 0),
    ];
    if (more > 40 && count < more / 5)
      yield { place: page.place(null), data: { count: String(count), more: String(more) } };
  },
};
