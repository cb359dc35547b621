import type { Rule } from '../facts/rule.js';
import { schemeOf, scriptSchemes } from '../page/links.js';

export const linkScript: Rule = {
  code: 'link-script',
  group: 'links',
  severity: 'error',
  sentence: 'This link runs a script',
  remedy: 'Link to a page that does it.',
  why: 'Mail programs run no scripts: the link does nothing, and filters take such mails for an attack.',
  bad: '<p><a href="javascript:void(0)">Show all</a></p>',
  good: '<p><a href="https://alderlane.example/all">Show all</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links)
      if (href !== null && scriptSchemes.includes(schemeOf(href) ?? ''))
        yield { place: page.placeOfAttribute(element, 'href') };
  },
};
