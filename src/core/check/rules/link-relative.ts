import type { Rule } from '../facts/rule.js';
import { isRelative } from '../page/links.js';

export const linkRelative: Rule = {
  code: 'link-relative',
  group: 'links',
  severity: 'error',
  sentence: 'The address "{address}" leads to a file beside the page',
  remedy: 'Write the whole address, from https:// on.',
  why: 'A mail lies in no folder, so there is nothing that the address could count from.',
  bad: '<p><a href="/news/may.html">All news</a></p>',
  good: '<p><a href="https://alderlane.example/news/may.html">All news</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, beginsWithTag } of page.links)
      if (href !== null && !beginsWithTag && isRelative(href))
        yield { place: page.placeOfAttribute(element, 'href'), data: { address: href } };
  },
};
