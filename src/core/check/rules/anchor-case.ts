import type { Rule } from '../facts/rule.js';
import { anchorsOf } from '../facts/link-places.js';

export const anchorCase: Rule = {
  code: 'anchor-case',
  group: 'links',
  severity: 'error',
  sentence: 'The place is called "{found}", not "{name}"',
  remedy: 'Write "#{found}": capitals count in names.',
  why: 'Names of places are compared letter by letter (HTML standard, 7.4.2.3), so browsers and mail programs find none.',
  bad: '<p><a href="#Hours">Opening hours</a></p><h2 id="hours">Opening hours</h2>',
  good: '<p><a href="#hours">Opening hours</a></p><h2 id="hours">Opening hours</h2>',
  needs: [],
  *find(page) {
    for (const { element, name } of anchorsOf(page)) {
      if (page.targets.has(name)) continue;
      const found = [...page.targets.keys()].find((known) => known.toLowerCase() === name.toLowerCase());
      if (found !== undefined) yield { place: page.placeOfAttribute(element, 'href'), data: { name, found } };
    }
  },
};
