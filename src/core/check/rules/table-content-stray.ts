import type { Rule } from '../facts/rule.js';
import { strayBefore } from '../facts/tables.js';

export const tableContentStray: Rule = {
  code: 'table-content-stray',
  group: 'structure',
  severity: 'error',
  sentence: 'This stands in a table, but in none of its cells',
  remedy: 'Put it into a <td>.',
  why: 'Browsers move it out, in front of the table (HTML standard, 13.2.6.1, foster parenting): it shows above everything.',
  bad: '<table role="presentation"><p>Soon</p><tr><td>Saw</td></tr></table>',
  good: '<table role="presentation"><tr><td><p>Soon</p></td></tr></table>',
  needs: [],
  *find(page) {
    const tables = page.withTag('table').filter(({ endTag }) => endTag !== null);
    for (const node of strayBefore(tables)) yield { place: page.place(node.span) };
  },
};
