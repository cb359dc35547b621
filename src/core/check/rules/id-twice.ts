import type { Rule } from '../facts/rule.js';
import { anchorsOf } from '../facts/link-places.js';
import { holdsTag } from '../../html/tags.js';

export const idTwice: Rule = {
  code: 'id-twice',
  group: 'structure',
  severity: 'warning',
  sentence: 'Two elements have the id "{name}"',
  remedy: 'Give each its own, or use a class.',
  why: 'An id is the name of one element (HTML standard, 3.2.6). Styles take both, links and labels the first.',
  bad: '<p id="hours">Week</p><p id="hours">Weekend</p>',
  good: '<p id="week">Week</p><p id="weekend">Weekend</p>',
  needs: [],
  *find(page) {
    const linked = new Set(anchorsOf(page).map(({ name }) => name));
    for (const [name, elements] of page.targets) {
      const [, second] = elements;
      if (second !== undefined && !linked.has(name) && !holdsTag(name))
        yield { place: page.placeOf(second), data: { name } };
    }
  },
};
