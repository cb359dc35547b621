import type { Rule } from '../facts/rule.js';
import { elementsOf } from '../../html/tree.js';

export const tableInLink: Rule = {
  code: 'table-in-link',
  group: 'structure',
  severity: 'warning',
  sentence: 'A whole table stands in a link',
  remedy: 'Put a link into each of its cells.',
  why: 'The word engine opens no table from within a link: what is in it cannot be tapped there.',
  bad: '<a href="https://alderlane.example/"><table role="presentation"><tr><td>Saw</td></tr></table></a>',
  good: '<table role="presentation"><tr><td><a href="https://alderlane.example/">Saw</a></td></tr></table>',
  needs: ['finished'],
  *find(page) {
    for (const { element, href } of page.links) {
      const table = href === null ? undefined : [...elementsOf(element)].find(({ tag }) => tag === 'table');
      if (table !== undefined) yield { place: page.placeOf(table) };
    }
  },
};
