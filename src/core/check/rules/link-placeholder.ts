import type { Rule } from '../facts/rule.js';
import { isPlaceholder } from '../page/links.js';

export const linkPlaceholder: Rule = {
  code: 'link-placeholder',
  group: 'links',
  severity: 'error',
  sentence: 'The address "{address}" is a placeholder',
  remedy: 'Put the real address in.',
  why: 'Placeholders are written while a page is made and forgotten when it is done. Nobody but the reader taps every link.',
  bad: '<p><a href="#">The opening hours</a></p>',
  good: '<p><a href="https://alderlane.example/hours">The opening hours</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, isUnsubscribe } of page.links)
      if (href !== null && !isUnsubscribe && isPlaceholder(href))
        yield { place: page.placeOfAttribute(element, 'href'), data: { address: href } };
  },
};
