import type { Rule } from '../facts/rule.js';
import { splitAtSentinels } from '../../html/tags.js';
import { bareField, tagNumbered } from '../facts/tag-facts.js';
import { attribute } from '../../html/tree.js';

export const tagAddress: Rule = {
  code: 'tag-address',
  group: 'merge tags',
  severity: 'note',
  sentence: 'Whether this link works depends on what {field} holds: nothing stands before it',
  remedy: 'Write https:// before it, if the data hold none; else make sure that all of them do.',
  why: 'Data hold "www.alderlane.example" as often as the whole address, and such a link is dead.',
  bad: '<p><a href="@{website}">Your page</a></p>',
  good: '<p><a href="https://@{website}">Your page</a></p>',
  needs: [],
  *find(page) {
    for (const { element } of page.links) {
      const [first, second] = splitAtSentinels(attribute(element, 'href')?.trim() ?? '');
      const number = typeof first === 'number' ? first : first === '' && typeof second === 'number' ? second : null;
      const field = number === null ? null : bareField(tagNumbered(page, number));
      if (field !== null && !isAddress.test(field))
        yield { place: page.placeOfAttribute(element, 'href'), data: { field } };
    }
  },
};

/** Names of what holds a whole address by its nature. */
const isAddress = /(?:^|[._])(?:url|uri|href|link)s?$|unsubscribe|opt_?out/i;
