import type { Rule } from '../facts/rule.js';
import type { ElementNode } from '../../html/tree.js';

export const tablesDeep: Rule = {
  code: 'tables-deep',
  group: 'structure',
  severity: 'warning',
  sentence: 'Tables are nested {count} deep here',
  remedy: 'Take out tables that hold nothing but one table.',
  why: 'Web mail and the word engine give up on deep nesting: columns lose their widths.',
  bad: { html: '<table role="presentation"><tr><td>'.repeat(27) + 'Saw' + '</td></tr></table>'.repeat(27) },
  good: '<table role="presentation"><tr><td>Saw</td></tr></table>',
  needs: ['finished'],
  *find(page) {
    const depths = new Map<ElementNode | null, number>([[null, 0]]);
    let told = false;
    for (const { node: element } of page.index.elements) {
      const depth = (depths.get(element.parent) ?? 0) + (element.tag === 'table' ? 1 : 0);
      depths.set(element, depth);
      if (depth <= MOST_DEEP || told) continue;
      told = true;
      yield { place: page.placeOf(element), data: { count: String(depth) } };
    }
  },
};

const MOST_DEEP = 25;
