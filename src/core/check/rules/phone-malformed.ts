import type { Rule } from '../facts/rule.js';
import { percentDecoded } from '../../text/percent-decoded.js';

export const phoneMalformed: Rule = {
  code: 'phone-malformed',
  group: 'links',
  severity: 'warning',
  sentence: '"{number}" is no telephone number',
  remedy: 'Write the digits with the country code: tel:+441632960000.',
  why: 'A telephone dials what stands there (RFC 3966): letters and spaces stop it, and without a country code it reaches nobody abroad.',
  bad: '<p><a href="tel:call us">Ring us</a></p>',
  good: '<p><a href="tel:+441632960123">Ring us</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href, hasTag } of page.links) {
      const number = /^(?:tel|sms):([^?;]*)/i.exec(href ?? '')?.[1];
      if (number === undefined || hasTag) continue;
      const plain = percentDecoded(number).replace(/[\s().\-/]/g, '');
      if (!/^\+?[\d*#]{3,17}$/.test(plain))
        yield { place: page.placeOfAttribute(element, 'href'), data: { number: percentDecoded(number) } };
    }
  },
};
