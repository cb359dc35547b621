import type { IndexedElement, Matcher } from './element-index.js';
import { isTagAlone } from '../../html/tags.js';
import { isLast, placeAmong, typeOf, typePlaces } from './sibling-places.js';
import { type SelectorContext, readingOf, isRoot, never } from './part.js';

/** Pseudo-classes about what a document alone has are as sure as it; those that count depend on what blocks repeat or leave out. */
export function asFilledIn(matches: Matcher, name: string, context: SelectorContext): Matcher {
  const reading = readingOf(context);
  if (reading === 'matches' || !/(?:child|of-type|empty)$/.test(name)) return matches;
  return (element) => {
    const isOpen = name === 'empty' ? isFilledIn(element) : hasOpenSiblings(element, context);
    return isOpen ? reading === 'may' : matches(element);
  };
}

/** Whether template tags between an element and its siblings may add or take away elements. */
export function hasOpenSiblings({ parent }: IndexedElement, { openParents }: SelectorContext): boolean {
  return parent !== null && openParents.has(parent.node);
}

/** Whether nothing but template tags stands in an element. */
export function isFilledIn({ node: { children } }: IndexedElement): boolean {
  const holds = children.filter((child) => child.kind !== 'comment');
  return holds.length > 0 && holds.every((child) => child.kind === 'text' && isTagAlone(child.value));
}

export function siblingsOf(element: IndexedElement): readonly IndexedElement[] {
  return element.parent?.children ?? [element];
}

const isLink: Matcher = ({ node }) => (node.tag === 'a' || node.tag === 'area') && node.attributes.has('href');

/** Pseudo-classes that the document alone decides. `:link` is among them: a mail opens with its links unvisited. */
export const staticPseudoClasses: ReadonlyMap<string, Matcher> = new Map<string, Matcher>([
  ['root', isRoot],
  ['empty', (element) => isEmpty(element)],
  ['first-child', (element) => element.position === 0],
  ['last-child', (element) => element.position === siblingsOf(element).length - 1],
  ['only-child', (element) => siblingsOf(element).length === 1],
  ['first-of-type', (element) => placeAmong(element, typePlaces, typeOf).index === 0],
  ['last-of-type', (element) => isLast(placeAmong(element, typePlaces, typeOf))],
  ['only-of-type', (element) => placeAmong(element, typePlaces, typeOf).count === 1],
  ['link', isLink],
  ['any-link', isLink],
  ['defined', ({ node }) => node.namespace !== 'html' || !node.tag.includes('-')],
  // Nothing of a message stands in a shadow tree.
  ['host', never],
]);

function isEmpty(element: IndexedElement): boolean {
  return element.node.children.every(
    (child) => child.kind === 'comment' || (child.kind === 'text' && child.value === ''),
  );
}
