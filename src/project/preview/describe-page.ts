import type { Place } from '../../core/findings/finding.js';
import { replaceSentinels } from '../../core/html/tags.js';
import { attribute, elementsOf, textContent, type Doc } from '../../core/html/tree.js';
import type { PreviewLink } from '../../core/views/model.js';

/** Where links of a document lead: each address once, with the words of the first link and how often it is there. */
export function linksOf(doc: Doc): PreviewLink[] {
  const links = new Map<string, PreviewLink>();
  const written = (text: string): string =>
    replaceSentinels(text, (index) => {
      const span = doc.tags[index];
      return span === undefined ? '' : doc.source.slice(span);
    });
  let mark = -1;
  for (const element of elementsOf(doc.root)) {
    mark += 1;
    const href = element.tag === 'a' || element.tag === 'area' ? attribute(element, 'href') : null;
    if (href === null) continue;
    const address = written(href).trim();
    const before = links.get(address);
    const picture = [...elementsOf(element)].find(({ tag }) => tag === 'img');
    const alt = picture === undefined ? '' : (attribute(picture, 'alt') ?? '');
    const words = written(textContent(element)).replace(/\s+/g, ' ').trim() || written(alt);
    links.set(
      address,
      before === undefined ? { address, words, count: 1, mark } : { ...before, count: before.count + 1 },
    );
  }
  return [...links.values()];
}

/** Places as they are shown, in the order of the marks. */
export function placeNames(places: readonly (Place | null)[], nameOf: (name: string) => string): (string | null)[] {
  return places.map((place) =>
    place === null ? null : `${nameOf(place.source.name)}:${place.source.lineColumn(place.span.start).line}`,
  );
}
