import type { Rule } from '../facts/rule.js';
import { hasHeaders, holdsBlocks, isLayout, rowsOf } from '../facts/tables.js';
import { wordsIn } from '../page/links.js';

export const tableHeadersMissing: Rule = {
  code: 'table-headers-missing',
  group: 'reading',
  severity: 'note',
  sentence: 'This table of data has no headings for its columns',
  remedy: 'Make the cells of its first row <th>.',
  why: 'Who hears the table hears numbers without what they are of (WCAG 2.2, 1.3.1).',
  bad: '<table><tr><td>Tool</td><td>Day</td><td>Fee</td></tr><tr><td>Saw</td><td>2 May</td><td>£1.00</td></tr><tr><td>Drill</td><td>3 May</td><td>£2.00</td></tr></table>',
  good: '<table><tr><th>Tool</th><th>Day</th><th>Fee</th></tr><tr><td>Saw</td><td>2 May</td><td>£1.00</td></tr><tr><td>Drill</td><td>3 May</td><td>£2.00</td></tr></table>',
  needs: [],
  *find(page) {
    for (const element of page.withTag('table')) {
      if (isLayout(element) || hasHeaders(element) || holdsBlocks(element)) continue;
      const rows = rowsOf(element).filter((cells) => cells.length > 0);
      const columns = rows[0]?.length ?? 0;
      const isGrid = rows.length >= 3 && columns >= 3 && rows.every((cells) => cells.length === columns);
      const hasNumbers = rows.slice(1).some((cells) => cells.some((cell) => /\d/.test(wordsIn(cell))));
      if (isGrid && hasNumbers && rows.every((cells) => cells.every((cell) => wordsIn(cell).length < 60)))
        yield { place: page.placeOf(element) };
    }
  },
};
