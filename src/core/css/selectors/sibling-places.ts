import type { IndexedElement } from './element-index.js';

/** An element's type with its namespace, as the `of-type` pseudo-classes compare it. */
export const typeOf = (element: IndexedElement): string => `${element.node.namespace}:${element.node.tag}`;

/** Where an element stands among siblings of one kind. */
export interface PlaceAmong {
  readonly index: number;
  readonly count: number;
}

/** Places by sibling list: each list is counted once, however many of its members are asked about. */
export type PlaceTable = WeakMap<readonly IndexedElement[], ReadonlyMap<IndexedElement, PlaceAmong>>;

/** Places among siblings of the same element type. */
export const typePlaces: PlaceTable = new WeakMap();

/** Where an element stands among those of its siblings that are of one kind with it. */
export function placeAmong(
  element: IndexedElement,
  table: PlaceTable,
  kindOf: (element: IndexedElement) => string,
): PlaceAmong {
  const siblings = element.parent?.children;
  if (siblings === undefined) return { index: 0, count: 1 };
  let places = table.get(siblings);
  if (places === undefined) {
    places = countPlaces(siblings, kindOf);
    table.set(siblings, places);
  }
  return places.get(element) ?? { index: 0, count: 1 };
}

function countPlaces(
  siblings: readonly IndexedElement[],
  kindOf: (element: IndexedElement) => string,
): ReadonlyMap<IndexedElement, PlaceAmong> {
  const kinds = siblings.map(kindOf);
  const counts = new Map<string, number>();
  const indexes = kinds.map((kind) => {
    const index = counts.get(kind) ?? 0;
    counts.set(kind, index + 1);
    return index;
  });
  return new Map(
    siblings.map((sibling, at) => [sibling, { index: indexes[at] ?? 0, count: counts.get(kinds[at] ?? '') ?? 1 }]),
  );
}

/** Whether a place is the last of its kind. */
export function isLast({ index, count }: PlaceAmong): boolean {
  return index === count - 1;
}
