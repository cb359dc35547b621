import { attribute } from '../html/tree.js';
import { pictureReferences } from '../pictures/references.js';
import { isElsewhere } from '../pictures/local-path.js';
import { isPartTag } from '../template/read-template.js';
import { valueSpan } from '../template/read-values.js';
import type { Span } from '../text/span.js';
import { namedIn } from './message-names.js';
import type { MarkupFile } from './markup-file.js';

/** An address in a file that leads to another: a path, or an address on the web. */
export interface FileLink {
  readonly target: string;
  readonly span: Span;
  readonly isElsewhere: boolean;
}

/** The files and web addresses that a message, a part or a frame names. */
export function markupLinks(file: MarkupFile): FileLink[] {
  const { data, editions, files } = namedIn(file);
  const named = [...data, ...(editions === null ? [] : [editions]), ...files].map(({ text, span }) => ({
    target: text,
    span,
  }));
  const pictures = pictureReferences(file.doc).map(({ path, span }) => ({ target: path, span }));
  const passed = file.elements
    .filter(({ tag }) => isPartTag(tag))
    .flatMap(({ attributes }) => [...attributes.values()])
    .filter(({ value }) => /^(?:\.{1,2}\/|https?:)/i.test(value))
    .map((item) => ({ target: item.value, span: valueSpan(file.source, item) }));
  const anchors = file.elements.flatMap((element) => {
    const href = element.attributes.get('href');
    const isLink = href !== undefined && (element.tag === 'a' || element.tag === 'area');
    return isLink && /^https?:/i.test(attribute(element, 'href') ?? '')
      ? [{ target: href.value, span: valueSpan(file.source, href) }]
      : [];
  });
  return [...named, ...pictures, ...passed, ...anchors]
    .filter(({ target, span }) => target !== '' && !/[\uFDD0\ue000-\uf8ff]/.test(target) && span.end > span.start)
    .map((link) => ({ ...link, isElsewhere: isElsewhere(link.target) }))
    .filter((link) => !link.isElsewhere || /^https?:/i.test(link.target));
}
