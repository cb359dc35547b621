import type { Place } from '../../findings/finding.js';
import type { ElementNode } from '../../html/tree.js';
import { wordsIn, type Link } from '../page/links.js';
import type { Page } from '../page/page.js';
import { percentDecoded } from '../../text/percent-decoded.js';

/** Links to places of the page itself, by their names. */
export function anchorsOf(page: Page): { readonly element: ElementNode; readonly name: string }[] {
  return page.links.flatMap(({ element, href, hasTag }) => {
    const name = href?.startsWith('#') === true && !hasTag ? percentDecoded(href.slice(1)) : '';
    return name === '' || name === 'top' || name === '!' ? [] : [{ element, name }];
  });
}

/** The web addresses that a page leads to, where they stand; one with a template tag in it is another for each reader. */
export function webAddresses(page: Page): { readonly url: string; readonly place: Place }[] {
  return page.links.flatMap(({ element, href, hasTag }) =>
    href !== null && !hasTag && /^https?:\/\/[^/]/i.test(href)
      ? [{ url: href, place: page.placeOfAttribute(element, 'href') }]
      : [],
  );
}

/** Links, each with the heading that it stands under. */
export function linksUnderHeadings(page: Page): { readonly link: Link; readonly heading: string }[] {
  const links = new Map(page.links.map((link) => [link.element, link]));
  const found: { link: Link; heading: string }[] = [];
  let heading = '';
  let count = 0;
  for (const element of page.elements) {
    if (/^h[1-6]$/.test(element.tag)) {
      count += 1;
      heading = `${count} ${wordsIn(element)}`;
    }
    const link = links.get(element);
    if (link !== undefined) found.push({ link, heading });
  }
  return found;
}
