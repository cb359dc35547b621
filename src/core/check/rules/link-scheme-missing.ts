import type { Rule } from '../facts/rule.js';
import { looksLikeHost } from '../page/links.js';

export const linkSchemeMissing: Rule = {
  code: 'link-scheme-missing',
  group: 'links',
  severity: 'error',
  sentence: 'The address "{address}" has no https:// before it',
  remedy: 'Write https:// before it.',
  why: 'Without a scheme it counts as a file beside the page (URL standard, 4.4), and a mail has no folder: the link is dead, or leads into the web mail.',
  bad: '<p><a href="www.alderlane.example">Our page</a></p>',
  good: '<p><a href="https://www.alderlane.example">Our page</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links)
      if (href !== null && looksLikeHost(href))
        yield { place: page.placeOfAttribute(element, 'href'), data: { address: href } };
  },
};
