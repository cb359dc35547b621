import type { Rule } from '../facts/rule.js';
import { schemeOf } from '../page/links.js';
import { percentDecoded } from '../../text/percent-decoded.js';

export const parameterTwice: Rule = {
  code: 'parameter-twice',
  group: 'links',
  severity: 'warning',
  sentence: 'The parameter {name} stands twice in the address of this link',
  remedy: 'Take one of the two out.',
  why: 'Servers read the first, the last or both: visits are counted under the wrong name, or the page fails.',
  bad: '<p><a href="https://alderlane.example/?source=mail&amp;source=web">News</a></p>',
  good: '<p><a href="https://alderlane.example/?source=mail">News</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links) {
      const query = /\?([^#]*)/.exec(href ?? '')?.[1] ?? '';
      const names = query
        .split(/[&;]/)
        .map((pair) => percentDecoded(/^[^=]*/.exec(pair)?.[0] ?? ''))
        .filter((name) => name !== '' && !name.endsWith('[]'));
      const twice = names.find((name, index) => names.indexOf(name) < index);
      if (twice !== undefined && schemeOf(href ?? '')?.startsWith('http') === true)
        yield { place: page.placeOfAttribute(element, 'href'), data: { name: twice } };
    }
  },
};
