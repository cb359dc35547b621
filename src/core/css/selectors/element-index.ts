import { attribute, elementsOf, maskedValue, type Doc, type ElementNode } from '../../html/tree.js';

/** An element with what selectors ask of it at hand. */
export interface IndexedElement {
  readonly node: ElementNode;
  /** Place in document order, from 0. */
  readonly order: number;
  readonly parent: IndexedElement | null;
  readonly previous: IndexedElement | null;
  readonly children: readonly IndexedElement[];
  /** Place among the element children of its parent, from 0. */
  readonly position: number;
  readonly id: string | null;
  readonly classes: ReadonlySet<string>;
}

/** All elements of a document, in order, indexed for matching. */
export interface ElementIndex {
  readonly doc: Doc;
  readonly elements: readonly IndexedElement[];
  readonly of: ReadonlyMap<ElementNode, IndexedElement>;
}

/** An element whose children are still to come. */
interface GrowingElement extends IndexedElement {
  readonly children: IndexedElement[];
}

const noClasses: ReadonlySet<string> = new Set();

/** Indexes a document. In quirks mode classes and ids are folded to lower case, as they then match without case. */
export function indexElements(doc: Doc): ElementIndex {
  const elements: IndexedElement[] = [];
  const of = new Map<ElementNode, GrowingElement>();
  for (const node of elementsOf(doc.root)) {
    const parent = node.parent === null ? null : (of.get(node.parent) ?? null);
    const siblings = parent === null ? [] : parent.children;
    const indexed: GrowingElement = {
      node,
      order: elements.length,
      parent,
      previous: siblings[siblings.length - 1] ?? null,
      children: [],
      position: siblings.length,
      id: named(doc, node, 'id'),
      classes: classesOf(doc, node),
    };
    siblings.push(indexed);
    elements.push(indexed);
    of.set(node, indexed);
  }
  return { doc, elements, of };
}

function classesOf(doc: Doc, node: ElementNode): ReadonlySet<string> {
  const value = named(doc, node, 'class');
  if (value === null) return noClasses;
  return new Set(value.split(/[ \t\n\f\r]+/).filter((name) => name !== ''));
}

/** The value of an attribute that holds names; filler stands in it in place of template tags. */
function named(doc: Doc, node: ElementNode, name: 'id' | 'class'): string | null {
  const value = attribute(node, name);
  if (value === null) return null;
  const masked = maskedValue(doc, value);
  return doc.quirks ? masked.toLowerCase() : masked;
}

/** Decides whether an element matches. States (`:hover`) are taken as possible, so as true. */
export type Matcher = (element: IndexedElement) => boolean;
