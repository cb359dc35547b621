import type { Rule } from '../facts/rule.js';
import { attribute, type ElementNode } from '../../html/tree.js';

export const regionNested: Rule = {
  code: 'region-nested',
  group: 'regions',
  severity: 'note',
  sentence: 'The region "{name}" stands within the region "{outer}"',
  remedy: 'Let the outer one end before it begins, or leave one of the two out.',
  why: 'Who edits the outer one on the platform edits the inner one away.',
  bad: '<div region="news"><p region="lead">Soon</p></div>',
  good: '<div><p region="lead">Soon</p></div>',
  needs: [],
  *find(page) {
    for (const element of page.elements) {
      const name = attribute(element, 'region');
      const outer = name === null || element.attributes.has('region-repeat') ? null : regionAround(element.parent);
      if (name !== null && outer !== null)
        yield { place: page.placeOfAttribute(element, 'region'), data: { name, outer } };
    }
  },
};

/** The region that holds an element; what repeats holds others by its nature. */
function regionAround(parent: ElementNode | null): string | null {
  for (let element = parent; element !== null; element = element.parent) {
    const name = attribute(element, 'region');
    if (name !== null)
      return element.attributes.has('region-repeat') || element.attributes.has('region-choice') ? null : name;
  }
  return null;
}
