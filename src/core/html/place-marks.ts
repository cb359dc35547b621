import type { Edit } from '../text/apply-edits.js';
import { elementsOf, type Attribute, type Doc } from './tree.js';
import { spanAt } from '../text/span.js';

/** A mark on an element, by its number in document order. No author can write such a name, and no destination gets it. */
export const PLACE_MARK = 'place mark';

/** The attribute as which marks are printed where they are asked for. */
export const PLACE_ATTRIBUTE = 'data-place';

/** Marks the elements of a document that was just parsed, so that what is made of them can be led back to them. */
export function markPlaces({ root }: Doc): void {
  let number = 0;
  for (const { attributes } of elementsOf(root)) {
    const mark: Attribute = { name: PLACE_MARK, value: String(number), span: spanAt(0, 0) };
    // The parser made the list of attributes for this document alone.
    (attributes as Map<string, Attribute>).set(PLACE_MARK, mark);
    number += 1;
  }
}

/** Edits that write the marks into the source of a document: each element that has a tag of its own says its number. */
export function printedMarks({ root }: Doc): Edit[] {
  return [...elementsOf(root)].flatMap(({ startTag, tag, tagId }, index): Edit[] => {
    if (startTag === null || tagId !== startTag.start) return [];
    const at = startTag.start + 1 + tag.length;
    return [{ span: { start: at, end: at }, text: ` ${PLACE_ATTRIBUTE}="${index}"` }];
  });
}
