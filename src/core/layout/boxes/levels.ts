import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { TreeNode } from '../../html/tree.js';
import { phrasingTags } from './element-kinds.js';
import type { BoxReader } from './boxes.js';

/** Whether blocks stand in a phrase that is a block itself, so that it is laid out as any block. */
export function holdsBlocks({ node }: IndexedElement, reader: BoxReader): boolean {
  return node.children.some((child) => {
    const element = reader.lookup(child);
    return (
      element !== null &&
      !phrasingTags.has(element.node.tag) &&
      element.node.tag !== 'img' &&
      isBlockLevel(child, reader)
    );
  });
}

export function isBlockLevel(node: TreeNode, reader: BoxReader): boolean {
  const element = reader.lookup(node);
  const display = element === null ? null : reader.shownDisplay(element);
  if (element !== null && display !== null && isFloat(element, reader)) return true;
  const isFloatingPicture =
    element?.node.tag === 'img' && reader.styles(element).some((style) => style.get('float') !== 'none');
  return display !== null && !isFloatingPicture && !/^(?:inline|inline-block)$/.test(display);
}

/** A box that floats in any state; pictures stay in the line in which they stand. */
export function isFloat(element: IndexedElement, reader: BoxReader): boolean {
  const styles = reader.styles(element);
  const isInText = phrasingTags.has(element.node.tag) && styles.every((style) => style.get('width') === 'auto');
  return element.node.tag !== 'img' && !isInText && styles.some((style) => style.get('float') !== 'none');
}
