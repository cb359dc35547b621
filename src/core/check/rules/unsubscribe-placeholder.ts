import type { Rule } from '../facts/rule.js';
import { isPlaceholder } from '../page/links.js';

export const unsubscribePlaceholder: Rule = {
  code: 'unsubscribe-placeholder',
  group: 'footer',
  severity: 'error',
  sentence: 'The link "{words}" leads nowhere',
  remedy: 'Put the platform’s tag for it there, or the address of a page that does it.',
  why: 'Whoever cannot leave marks the mail as unwanted. Law asks for a way that works (in the EU Directive 2002/58, article 13; RFC 8058 for the button of mail programs).',
  bad: '<p><a href="#">Unsubscribe</a></p>',
  good: '<p><a href="https://alderlane.example/leave">Unsubscribe</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, words, isUnsubscribe } of page.links)
      if (href !== null && isUnsubscribe && (href === '' || href.startsWith('#') || isPlaceholder(href)))
        yield { place: page.placeOfAttribute(element, 'href'), data: { words } };
  },
};
