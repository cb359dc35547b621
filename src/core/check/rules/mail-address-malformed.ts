import type { Rule } from '../facts/rule.js';
import { percentDecoded } from '../../text/percent-decoded.js';

export const mailAddressMalformed: Rule = {
  code: 'mail-address-malformed',
  group: 'links',
  severity: 'error',
  sentence: '"{address}" is no mail address',
  remedy: 'Correct it: a mail address is name@host.',
  why: 'The reader’s program opens a mail that cannot be sent (RFC 6068; RFC 5322, 3.4.1).',
  bad: '<p><a href="mailto:desk.alderlane.example">Write to us</a></p>',
  good: '<p><a href="mailto:desk@alderlane.example">Write to us</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, hasTag } of page.links) {
      const written = /^mailto:([^?]*)/i.exec(href ?? '')?.[1];
      if (written === undefined || hasTag) continue;
      const hasOthers = /[?&](?:to|bcc|cc|subject|body)=/i.test(href ?? '');
      for (const address of written.split(',').map(percentDecoded))
        if (!(address === '' && hasOthers) && !/^[^\s@<>]+@[^\s@<>]+\.[^\s@<>.]+$/.test(address))
          yield { place: page.placeOfAttribute(element, 'href'), data: { address } };
    }
  },
};
