import type { Rule } from '../facts/rule.js';
import { hostOf } from '../page/links.js';
import { isUnfilled } from '../facts/starter-text.js';

export const starterAddress: Rule = {
  code: 'starter-address',
  group: 'links',
  severity: 'warning',
  sentence: 'This link still leads to {host}, an example of the starter',
  remedy: 'Write an address of your own.',
  why: 'No page is there: the starter shows where one belongs.',
  bad: '<p><a href="https://your-domain.example/news">All news</a></p>',
  good: '<p><a href="https://alderlane.example/news">All news</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links) {
      const host = hostOf(href ?? '');
      if (host !== null && isUnfilled(host)) yield { place: page.placeOfAttribute(element, 'href'), data: { host } };
    }
  },
};
