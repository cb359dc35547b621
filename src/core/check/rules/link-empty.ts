import type { Rule } from '../facts/rule.js';

export const linkEmpty: Rule = {
  code: 'link-empty',
  group: 'links',
  severity: 'error',
  sentence: 'This link leads nowhere: its address is empty',
  remedy: 'Give it an address, or write the words without a link.',
  why: 'A reader who taps it sees the same mail again, or an empty page. An empty href stands for the address of the page itself (HTML standard, 4.6.1), which a mail does not have.',
  bad: '<p><a href="">Read on</a></p>',
  good: '<p><a href="https://alderlane.example/news">Read on</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, isUnsubscribe } of page.links)
      if (href === '' && !isUnsubscribe) yield { place: page.placeOfAttribute(element, 'href') };
  },
};
