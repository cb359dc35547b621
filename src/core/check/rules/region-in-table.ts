import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const regionInTable: Rule = {
  code: 'region-in-table',
  group: 'regions',
  severity: 'warning',
  sentence: 'The region "{name}" is half a table: a <{tag}>',
  remedy: 'Make the whole <table> the region, or what stands in one of its cells.',
  why: 'What a user puts in the place of a row without its table breaks the mail.',
  bad: '<table><tr region="row"><td>Saw</td></tr></table>',
  good: '<table role="presentation"><tr><td><p region="row">Saw</p></td></tr></table>',
  needs: [],
  *find(page) {
    for (const element of page.elements) {
      const name = attribute(element, 'region');
      if (
        name !== null &&
        /^(?:tr|tbody|thead|tfoot|col|colgroup)$/.test(element.tag) &&
        !element.attributes.has('region-repeat')
      )
        yield { place: page.placeOfAttribute(element, 'region'), data: { name, tag: element.tag } };
    }
  },
};
