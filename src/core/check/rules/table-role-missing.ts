import type { Rule } from '../facts/rule.js';
import { hasHeaders, holdsBlocks, isLayout, rowsOf } from '../facts/tables.js';
import { attribute, type ElementNode } from '../../html/tree.js';

export const tableRoleMissing: Rule = {
  code: 'table-role-missing',
  group: 'reading',
  severity: 'note',
  sentence: 'This table lays out, and does not say so',
  remedy: 'Write role="presentation" on it.',
  why: 'Who hears the mail is told of rows and columns that mean nothing (WCAG 2.2, 1.3.1).',
  bad: '<table><tr><td><p>Soon</p><p>On Saturday</p></td></tr></table>',
  good: '<table role="presentation"><tr><td><p>Soon</p><p>On Saturday</p></td></tr></table>',
  needs: ['finished'],
  *find(page) {
    for (const element of page.withTag('table'))
      if (!isLayout(element) && attribute(element, 'role') === null && !hasHeaders(element) && looksLikeLayout(element))
        yield { place: page.placeOf(element) };
  },
};

function looksLikeLayout(table: ElementNode): boolean {
  return holdsBlocks(table) || rowsOf(table).every((cells) => cells.length < 2);
}
