import { naturalDisplay, type OutElement, type OutNode, type Style } from './output.js';

/**
 * Adds to each element of one tree the styles that its counterpart in another has: the same message, emitted for other
 * circumstances.
 * @returns false where the trees are not built alike, so that styles alone do not make one of the other
 */
export function mergeVariant(base: readonly OutNode[], other: readonly OutNode[]): boolean {
  if (base.length !== other.length) return false;
  return base.every((node, index) => {
    const twin = other[index];
    return twin !== undefined && mergeNode(node, twin);
  });
}

function mergeNode(node: OutNode, other: OutNode): boolean {
  switch (node.kind) {
    case 'element':
      return other.kind === 'element' && mergeElement(node, other);
    case 'dual-cell':
      return other.kind === 'dual-cell' && mergeElement(node.cell, other.cell);
    case 'backdrop':
      return other.kind === 'backdrop' && mergeVariant(node.content, other.content);
    case 'round-link':
      return other.kind === 'round-link' && mergeElement(node.link, other.link);
    case 'text':
      return other.kind === 'text' && node.value === other.value;
    case 'raw':
      return other.kind === 'raw';
  }
}

function mergeElement(node: OutElement, other: OutElement): boolean {
  if (node.tag !== other.tag) return false;
  const hides = [...node.styles, ...other.styles].some((own) => own.get('display') === 'none');
  addVariant(node, hides ? other.styles.map((own) => stated(own, node.tag)) : other.styles);
  return mergeVariant(node.children, other.children);
}

/** Where one tree hides an element, the other has to say that it shows. */
function stated(own: Style, tag: string): Style {
  return own.has('display') ? own : new Map([...own, ['display', naturalDisplay(tag)] as const]);
}

/** Remembers an element's styles in further circumstances. */
export function addVariant(node: OutElement, styles: readonly Style[]): void {
  node.variants.push(styles);
}
