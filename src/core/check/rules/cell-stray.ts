import type { Rule } from '../facts/rule.js';

export const cellStray: Rule = {
  code: 'cell-stray',
  group: 'structure',
  severity: 'error',
  sentence: 'This <{tag}> stands in no {parent}',
  remedy: 'Put it into one.',
  why: 'Browsers drop the tag and keep what is in it (HTML standard, 13.2.6.4.7): the columns fall apart. Other engines show something else again.',
  bad: '<div><td>Saw</td></div>',
  good: '<table role="presentation"><tr><td>Saw</td></tr></table>',
  needs: [],
  *find(page) {
    const claimed = new Set(page.elements.map(({ startTag }) => startTag?.start));
    for (const { tag, span } of page.frameTags)
      if (/^t[drh]$/.test(tag) && !claimed.has(span.start))
        yield { place: page.place(span), data: { tag, parent: tag === 'tr' ? '<table>' : '<tr>' } };
  },
};
