import type { Rule } from '../facts/rule.js';
import { attribute } from '../../html/tree.js';

export const regionEmpty: Rule = {
  code: 'region-empty',
  group: 'regions',
  severity: 'note',
  sentence: 'The region "{name}" holds nothing',
  remedy: 'Put into it what its users are to change.',
  why: 'Its users see no place to click on.',
  bad: '<div region="news"></div>',
  good: '<div region="news"><p>Soon</p></div>',
  needs: [],
  *find(page) {
    for (const element of page.elements) {
      const name = attribute(element, 'region');
      const isBlank = element.children.every(
        (node) => node.kind === 'comment' || (node.kind === 'text' && node.value.trim() === ''),
      );
      if (name !== null && isBlank && !/^(?:img|br|hr)$/.test(element.tag))
        yield { place: page.placeOfAttribute(element, 'region'), data: { name } };
    }
  },
};
