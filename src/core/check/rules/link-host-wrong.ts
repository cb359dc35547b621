import type { Rule } from '../facts/rule.js';
import { isPlaceholder } from '../page/links.js';

export const linkHostWrong: Rule = {
  code: 'link-host-wrong',
  group: 'links',
  severity: 'error',
  sentence: '"{address}" names no place on the web: {detail}',
  remedy: 'Correct the address.',
  why: 'A slip in the first part of an address leaves nothing that could be asked.',
  bad: '<p><a href="https://https://alderlane.example/">Our page</a></p>',
  good: '<p><a href="https://alderlane.example/">Our page</a></p>',
  needs: [],
  *find(page) {
    for (const { element, href } of page.links) {
      const rest = /^https?:(.*)$/is.exec(href ?? '')?.[1];
      const detail = rest === undefined || isPlaceholder(href ?? '') ? null : faultOf(rest);
      if (detail !== null)
        yield { place: page.placeOfAttribute(element, 'href'), data: { address: (href ?? '').slice(0, 80), detail } };
    }
  },
};

/** What is wrong with what follows the scheme; null where nothing is, or a template tag says it. */
function faultOf(rest: string): string | null {
  if (!rest.startsWith('//')) return 'two slashes are missing behind the colon';
  const host = /^\/\/([^/?#]*)/.exec(rest)?.[1] ?? '';
  if (/^https?:?$/i.test(host)) return 'it begins twice';
  if (/[{}\[\]%$@*|]/.test(host)) return null;
  if (/\s/.test(host)) return 'a space stands in the name of its host';
  if (/,/.test(host)) return 'a comma stands where a dot should';
  if (/\.\.|^\.|\.$/.test(host.replace(/\.$/, ''))) return 'a part of the name of its host is empty';
  return null;
}
