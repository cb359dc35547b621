import type { Rule } from '../facts/rule.js';
import { knownSchemes, schemeOf, scriptSchemes } from '../page/links.js';
import { nearestName } from '../../text/nearest.js';

export const linkSchemeUnknown: Rule = {
  code: 'link-scheme-unknown',
  group: 'links',
  severity: 'error',
  sentence: 'No program knows "{scheme}:" as the beginning of an address',
  remedy: '{advice}',
  why: 'Mail programs drop links whose scheme they do not know, or warn of them.',
  bad: '<p><a href="htp://alderlane.example/">Our page</a></p>',
  good: '<p><a href="https://alderlane.example/">Our page</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, beginsWithTag } of page.links) {
      const scheme = href === null || beginsWithTag ? null : schemeOf(href);
      if (scheme === null || scheme.length === 1 || knownSchemes.includes(scheme) || scriptSchemes.includes(scheme))
        continue;
      const near = nearestName(scheme, knownSchemes);
      const advice =
        near === null
          ? 'Write https: for a page, mailto: for an address, tel: for a number.'
          : `Did you mean "${near}:"?`;
      yield { place: page.placeOfAttribute(element, 'href'), data: { scheme, advice } };
    }
  },
};
