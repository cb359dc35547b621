import { thousands } from '../../text/amounts.js';
import type { Rule } from '../facts/rule.js';

export const linkLong: Rule = {
  code: 'link-long',
  group: 'links',
  severity: 'warning',
  sentence: 'The address of this link has {count} characters',
  remedy: 'Shorten it: tracking parameters are what makes addresses long.',
  why: 'Some mail programs and servers cut addresses at about 2,000 characters, and platforms add their own to each.',
  bad: { html: `<p><a href="https://alderlane.example/?q=${'hammer+'.repeat(300)}">Found</a></p>` },
  good: '<p><a href="https://alderlane.example/?q=hammer">Found</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links)
      if (href !== null && href.length > MOST_CHARACTERS)
        yield { place: page.placeOfAttribute(element, 'href'), data: { count: thousands(href.length) } };
  },
};

const MOST_CHARACTERS = 2000;
