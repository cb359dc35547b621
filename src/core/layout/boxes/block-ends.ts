import type { ComputedStyle } from '../../css/cascade/computed-style.js';
import type { IndexedElement } from '../../css/selectors/element-index.js';
import type { TreeNode } from '../../html/tree.js';
import { isVisibleNode } from './element-kinds.js';
import type { BlockEnds, BoxReader } from './boxes.js';

/**
 * The margins of a list's first and last items, and of the first and last blocks in those: they collapse with the list's own
 * (CSS 2.2, 8.3.1), so they are taken from the items and counted outside. The same of a table in states in which it is a block.
 */
export function nativeEnds(element: IndexedElement, reader: BoxReader): BlockEnds {
  return endsOf(element.node.children, reader.styles(element), reader);
}

/** The same of lines, for the states in which what stands in them is a block, as an `inline-block` is that stacks on a phone. */
export function lineEnds(
  content: readonly TreeNode[],
  around: readonly ComputedStyle[],
  reader: BoxReader,
): BlockEnds | undefined {
  const holdsBlocks = content.some((node) => {
    const element = reader.lookup(node);
    return element !== null && reader.styles(element).some(isBlock);
  });
  return holdsBlocks ? endsOf(content, around, reader) : undefined;
}

function endsOf(content: readonly TreeNode[], around: readonly ComputedStyle[], reader: BoxReader): BlockEnds {
  const margins = (side: Side): number[] =>
    around.map((style, state) =>
      isBlock(style) && isOpen(style, side) ? takeMargins(content, side, state, reader) : 0,
    );
  return { top: margins('top'), bottom: margins('bottom') };
}

type Side = 'top' | 'bottom';

/** Takes the margins of the blocks at an end in a state, one within the other; gives the largest. */
function takeMargins(content: readonly TreeNode[], side: Side, state: number, reader: BoxReader): number {
  let largest = 0;
  for (let nodes = content; ;) {
    const end = endBlock(nodes, side, state, reader);
    if (end === null) return largest;
    const styles = reader.styles(end);
    const margin = styles[state]?.pixels(`margin-${side}`) ?? 0;
    largest = Math.max(largest, margin);
    if (margin > 0)
      reader.restyle(
        end,
        styles.map((style, at) => (at === state ? style.with(new Map([[`margin-${side}`, '0px']])) : style)),
      );
    if (!isOpen(styles[state], side)) return largest;
    nodes = end.node.children;
  }
}

function isOpen(style: ComputedStyle | undefined, side: Side): boolean {
  return (
    style !== undefined &&
    style.get(`padding-${side}`) === '0px' &&
    style.get(`border-${side}-width`) === '0px' &&
    style.get('overflow') === 'visible' &&
    (side === 'top' || style.get('height') === 'auto')
  );
}

/** The first or last node that shows in a state, where that is a block; null where it is text or anything else. */
function endBlock(content: readonly TreeNode[], side: Side, state: number, reader: BoxReader): IndexedElement | null {
  const shows = (node: TreeNode): boolean => {
    if (node.kind === 'comment' || !isVisibleNode(node)) return false;
    const element = reader.lookup(node);
    return element === null || reader.styles(element)[state]?.get('display') !== 'none';
  };
  const end = side === 'top' ? content.find(shows) : content.findLast(shows);
  const element = end === undefined ? null : reader.lookup(end);
  const style = element === null ? undefined : reader.styles(element)[state];
  return element !== null && style !== undefined && isBlock(style) && element.node.tag !== 'img' ? element : null;
}

function isBlock(style: ComputedStyle): boolean {
  return /^(?:block|list-item)$/.test(style.get('display')) && style.get('float') === 'none';
}
