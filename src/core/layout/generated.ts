import { declaredBy, RuleIndex, type Declared } from '../css/cascade/cascade.js';
import type { DeclaredByOrder } from '../css/cascade/document-cascade.js';
import type { ComputedStyle } from '../css/cascade/computed-style.js';
import type { StyleRule } from '../css/cascade/rules.js';
import type { ElementIndex, IndexedElement } from '../css/selectors/element-index.js';
import { sides } from '../css/values/properties.js';
import { finding, type Report } from '../findings/finding.js';
import { elementsOf, type ElementNode, type TextNode, type TreeNode } from '../html/tree.js';
import { CLOSED_SIDES } from './boxes/boxes.js';
import { generatedTexts } from './generated-text.js';

/** A box that a rule makes before or behind what an element holds (CSS Pseudo-Elements 4, 4.1). */
export interface GeneratedBox {
  readonly element: IndexedElement;
  readonly part: '::before' | '::after';
  /** Its text is put in once it is known. */
  readonly children: TreeNode[];
}

/** A document with its generated boxes as elements of it, and what applies to all of them. */
export interface WithGenerated {
  readonly index: ElementIndex;
  readonly declared: DeclaredByOrder;
  readonly boxes: readonly GeneratedBox[];
}

interface GrowingElement extends ElementNode {
  parent: ElementNode | null;
  children: TreeNode[];
}

const parts = ['::before', '::after'] as const;

/**
 * Adds the boxes that `::before` and `::after` generate as elements, so that everything that is true of elements is true of
 * them. Selectors have been matched before: they do not see such boxes.
 */
export function withGeneratedBoxes(
  index: ElementIndex,
  declared: DeclaredByOrder,
  rules: readonly StyleRule[],
): WithGenerated {
  const generating = rules.filter(({ selectors }) =>
    selectors.some(({ pseudoElement }) => parts.some((part) => part === pseudoElement)),
  );
  const byElement = generating.some(hasContent) ? generatedDeclarations(index, generating) : [];
  if (byElement.length === 0) return { index, declared, boxes: [] };
  const copies = new Map<ElementNode, GrowingElement>();
  for (const { node } of index.elements) copies.set(node, { ...node, children: [] });
  const copyOf = (node: ElementNode | null): GrowingElement | null =>
    node === null ? null : (copies.get(node) ?? null);
  for (const [node, copy] of copies) {
    copy.parent = copyOf(node.parent);
    copy.children = node.children.map((child) =>
      child.kind === 'element' ? (copyOf(child) ?? child) : { ...child, parent: copy },
    );
  }
  const elements = copiedElements(index, (node) => copyOf(node) ?? node);
  const boxes = byElement.map(({ order, part }, number): GeneratedBox => {
    const parent = elements[order] as IndexedElement;
    const made = madeElement(parent, index.elements.length + number);
    const around = parent.node as GrowingElement;
    if (part === '::before') around.children.unshift(made.node);
    else around.children.push(made.node);
    return { element: made, part, children: made.node.children as TreeNode[] };
  });
  const all = [...elements, ...boxes.map(({ element }) => element)];
  const root = copyOf(index.doc.root) ?? index.doc.root;
  return {
    index: { doc: { ...index.doc, root }, elements: all, of: new Map(all.map((element) => [element.node, element])) },
    declared: [...declared, ...byElement.map(({ list }) => list)],
    boxes,
  };
}

function hasContent({ declarations }: StyleRule): boolean {
  return declarations.some(({ property, value }) => property === 'content' && !/^(?:none|normal)$/i.test(value.trim()));
}

interface GeneratedDeclarations {
  readonly order: number;
  readonly part: (typeof parts)[number];
  readonly list: readonly Declared[];
}

function generatedDeclarations(index: ElementIndex, rules: readonly StyleRule[]): GeneratedDeclarations[] {
  const candidates = new RuleIndex(rules);
  return index.elements.flatMap((element) =>
    parts.flatMap((part): GeneratedDeclarations[] => {
      const list = declaredBy(candidates.matchingPart(element, part), 'author').map((item) => ({
        ...item,
        stateful: /:(?:hover|active|focus|visited|target|checked)/.test(item.selector),
      }));
      const says = list.some(({ declaration }) => declaration.property === 'content');
      return says ? [{ order: element.order, part, list }] : [];
    }),
  );
}

/** The same elements over the nodes of a copied tree. */
function copiedElements({ elements }: ElementIndex, copyOf: (node: ElementNode) => ElementNode): IndexedElement[] {
  const copied: IndexedElement[] = [];
  const lists: IndexedElement[][] = [];
  for (const element of elements) {
    const children: IndexedElement[] = [];
    const parent = element.parent === null ? null : (copied[element.parent.order] ?? null);
    const previous = element.previous === null ? null : (copied[element.previous.order] ?? null);
    const copy: IndexedElement = { ...element, node: copyOf(element.node), parent, previous, children };
    if (parent !== null) lists[parent.order]?.push(copy);
    lists.push(children);
    copied.push(copy);
  }
  return copied;
}

function madeElement(parent: IndexedElement, order: number): IndexedElement {
  const node: ElementNode = {
    ...{ kind: 'element', tag: 'span', namespace: 'html', attributes: new Map(), parent: parent.node, children: [] },
    ...{ span: null, startTag: null, endTag: null, tagId: -1 },
  };
  return { node, order, parent, previous: null, children: [], position: -1, id: null, classes: new Set() };
}

/** A box without text, size or paint, such as those that clear floats. */
function showsNothing(style: ComputedStyle, text: string): boolean {
  const isBlank = style.get('display') === 'inline' ? text === '' : text.trim() === '';
  return (
    isBlank &&
    style.get('background-color') === 'transparent' &&
    style.get('background-image') === 'none' &&
    sides.every((side) =>
      [`padding-${side}`, `border-${side}-width`, `margin-${side}`].every((property) => style.get(property) === '0px'),
    ) &&
    ['width', 'height', 'min-height'].every((property) => /^(?:auto|0px)$/.test(style.get(property)))
  );
}

/**
 * Empty boxes that show nothing and keep margins apart nonetheless: a table, a flex or grid container at an end of an element
 * holds the margins of what is in it (CSS 2.2, 8.3.1), as those that clear floats do.
 * @returns by the order of an element the sides that are closed so
 */
function closedByEmptyBoxes(
  boxes: readonly GeneratedBox[],
  styles: readonly ComputedStyle[],
  texts: ReadonlyMap<number, string | null>,
): ReadonlyMap<number, string> {
  const closed = new Map<number, string>();
  for (const { element, part } of boxes) {
    const style = styles[element.order];
    const around = element.parent?.order;
    if (style === undefined || around === undefined || texts.get(element.order)?.trim() !== '') continue;
    if (!/^(?:table|flex|grid|flow-root)$/.test(style.get('display'))) continue;
    closed.set(around, `${closed.get(around) ?? ''} ${part === '::before' ? 'top' : 'bottom'}`.trim());
  }
  return closed;
}

/**
 * Puts the texts of generated boxes in, and hides each where it has no content. What has no one text is reported.
 * @param styleSets the computed styles of each variant of the message, in each state
 */
export function fillGeneratedBoxes(
  { index, boxes }: WithGenerated,
  styleSets: readonly (readonly (readonly ComputedStyle[])[])[],
  report: Report,
): (readonly (readonly ComputedStyle[])[])[] {
  if (boxes.length === 0) return [...styleSets];
  const inOrder = [...elementsOf(index.doc.root)].flatMap((node) => index.of.get(node) ?? []);
  const made = new Map(boxes.map(({ element }) => [element.order, null as string | null]));
  const refused = new Set<number>();
  const filled = styleSets.map((states) =>
    states.map((styles) => {
      const texts = generatedTexts(inOrder, (element) => styles[element.order] ?? null, made);
      const closed = closedByEmptyBoxes(boxes, styles, texts);
      return styles.map((style, order) => {
        const sidesOf = closed.get(order);
        if (sidesOf !== undefined) return style.with(new Map([[CLOSED_SIDES, sidesOf]]));
        if (!made.has(order)) return style;
        const text = texts.get(order);
        if (text === undefined || (text !== null && showsNothing(style, text)))
          return style.with(new Map([['display', 'none']]));
        const known = made.get(order) ?? null;
        if (text === null || (known !== null && known !== text)) refused.add(order);
        else made.set(order, text);
        return style;
      });
    }),
  );
  for (const { element, children, part } of boxes) {
    const text = made.get(element.order) ?? '';
    const node: TextNode = { kind: 'text', value: text, parent: element.node, span: null };
    if (text !== '') children.push(node);
    if (!refused.has(element.order)) continue;
    const declared = styleSets
      .flat()
      .map((styles) => styles[element.order]?.declaredBy('content') ?? null)
      .find((found) => found !== null);
    report(
      finding('css-generated-box', declared?.declaration.place ?? null, {
        name: part,
        selector: declared?.selector ?? part,
      }),
    );
  }
  return filled;
}
