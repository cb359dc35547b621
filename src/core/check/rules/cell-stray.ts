import type { Rule } from '../facts/rule.js';
import { commentsOf } from '../facts/metas.js';

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
    const hidden = commentsOf(page).map(({ span }) => span);
    for (const { tag, span } of page.startTags) {
      if (!/^(?:td|th|tr)$/.test(tag) || claimed.has(span.start)) continue;
      if (hidden.some(({ start, end }) => start <= span.start && span.start < end)) continue;
      yield { place: page.place(span), data: { tag, parent: tag === 'tr' ? '<table>' : '<tr>' } };
    }
  },
};
