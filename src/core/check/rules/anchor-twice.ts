import type { Rule } from '../facts/rule.js';
import { anchorsOf } from '../facts/link-places.js';

export const anchorTwice: Rule = {
  code: 'anchor-twice',
  group: 'links',
  severity: 'warning',
  sentence: 'Two places are called "{name}", and a link leads there',
  remedy: 'Give each a name of its own.',
  why: 'Readers come to the first of the two, whichever was meant.',
  bad: '<p><a href="#hours">Hours</a></p><h2 id="hours">Week</h2><h2 id="hours">Weekend</h2>',
  good: '<p><a href="#hours">Hours</a></p><h2 id="hours">Week</h2><h2 id="weekend">Weekend</h2>',
  needs: [],
  *find(page) {
    const linked = new Set(anchorsOf(page).map(({ name }) => name));
    for (const [name, elements] of page.targets) {
      const [, second] = elements;
      if (second !== undefined && linked.has(name)) yield { place: page.placeOf(second), data: { name } };
    }
  },
};
