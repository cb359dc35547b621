import type { Rule } from '../facts/rule.js';
import { nameOf } from '../page/links.js';
import { linksUnderHeadings } from '../facts/link-places.js';

export const linkWordsSame: Rule = {
  code: 'link-words-same',
  group: 'links',
  severity: 'note',
  sentence: 'Two links say "{words}" under one heading, and lead to different addresses',
  remedy: 'Say in each what is behind it.',
  why: 'Who hears the links of a mail one after the other cannot tell the two apart (WCAG 2.2, 2.4.4).',
  bad: '<h2>News</h2><p><a href="https://alderlane.example/saw">Reserve it</a> <a href="https://alderlane.example/drill">Reserve it</a></p>',
  good: '<h2>News</h2><p><a href="https://alderlane.example/saw">Reserve the saw</a> <a href="https://alderlane.example/drill">Reserve the drill</a></p>',
  needs: [],
  *find(page) {
    const seen = new Map<string, string>();
    for (const { link, heading } of linksUnderHeadings(page)) {
      const name = nameOf(link).toLowerCase();
      if (link.href === null || !/^https?:/i.test(link.href) || name === '' || link.hasTag) continue;
      const key = `${heading} ${name}`;
      const before = seen.get(key);
      if (before !== undefined && before !== link.href)
        yield { place: page.placeOf(link.element), data: { words: nameOf(link) } };
      else seen.set(key, link.href);
    }
  },
};
