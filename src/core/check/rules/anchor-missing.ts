import type { Rule } from '../facts/rule.js';
import { anchorsOf } from '../facts/link-places.js';
import { nearestName } from '../../text/nearest.js';

export const anchorMissing: Rule = {
  code: 'anchor-missing',
  group: 'links',
  severity: 'error',
  sentence: 'Nothing on this page is called "{name}"',
  remedy: 'Give the element that is meant this id{advice}.',
  why: 'The link leads to a place in the mail itself, and there is none of that name: tapping it does nothing.',
  bad: '<p><a href="#hours">Opening hours</a></p>',
  good: '<p><a href="#hours">Opening hours</a></p><h2 id="hours">Opening hours</h2>',
  needs: [],
  *find(page) {
    const names = [...page.targets.keys()];
    for (const { element, name } of anchorsOf(page)) {
      if (page.targets.has(name) || names.some((known) => known.toLowerCase() === name.toLowerCase())) continue;
      const near = nearestName(name, names);
      yield {
        place: page.placeOfAttribute(element, 'href'),
        data: { name, advice: near === null ? '' : `, or link to "#${near}"` },
      };
    }
  },
};
