import { attribute, type TreeNode } from '../../html/tree.js';
import { splitAtSentinels } from '../../html/tags.js';
import type { BoxInState } from '../boxes/box-in-state.js';
import type { PictureBox, Styled } from '../boxes/boxes.js';
import { lineHeightOf } from '../print/text-style.js';
import { shownSize } from './picture.js';
import type { Room } from './room.js';

/** The width of a character in the mean, in font sizes. */
const CHARACTER_WIDTH = 0.48;

/** Line heights that no style says are about this many font sizes. */
const NORMAL_LINE = 1.15;

/**
 * A guess at how high the content of a box is in a width, in px. Only to tell a text that fits a height from one that runs
 * over it: nothing is measured here.
 * @param isItem whether it is an item of a row or a grid, which holds the margins of what stands at its ends
 */
export function guessedHeight(box: BoxInState, room: Room, width: number, isItem = false): number {
  const { itself } = box;
  if (box.isHidden || itself.kind === 'comment') return 0;
  const edges = box.edge('top') + box.edge('bottom');
  const inner = Math.max(1, width - box.sideEdges);
  const of = (child: BoxInState, available: number): number =>
    guessedHeight(child, room, available, true) +
    Math.max(child.length('margin-top'), 0) +
    Math.max(child.length('margin-bottom'), 0);
  switch (itself.kind) {
    case 'picture':
      return (
        shownSize(box.of(itself), room.pictureSize(attribute(itself.element.node, 'src') ?? ''), width)?.height ?? 0
      );
    case 'text':
      return edges + linesHeight(itself.content, box, inner, room);
    case 'native':
      return edges + linesHeight(itself.element.node.children, box, inner, room);
    case 'flow':
      return edges + stackedHeight(box, room, inner, isItem);
    case 'row':
    case 'grid': {
      const isColumn = box.style.get('flex-direction').startsWith('column');
      const heights = box.children.map((child) => of(child, isColumn ? inner : inner / itself.children.length));
      return edges + (isColumn ? heights.reduce((sum, height) => sum + height, 0) : Math.max(0, ...heights));
    }
  }
}

/** Blocks below each other, with the larger of the margins that meet; those at the ends stand outside, if they are not held. */
function stackedHeight(box: BoxInState, room: Room, width: number, holdsEnds: boolean): number {
  const shown = box.children.filter((child) => child.itself.kind !== 'comment' && !child.isHidden);
  const ends = [shown[0]?.length('margin-top') ?? 0, shown.at(-1)?.length('margin-bottom') ?? 0];
  const held = holdsEnds ? ends.reduce((sum, margin) => sum + Math.max(0, margin), 0) : 0;
  return shown.reduce((sum, child, index) => {
    const before = shown[index - 1];
    const gap = before === undefined ? 0 : Math.max(before.length('margin-bottom'), child.length('margin-top'), 0);
    return sum + gap + guessedHeight(child, room, width);
  }, held);
}

function linesHeight(nodes: readonly TreeNode[], box: BoxInState, width: number, room: Room): number {
  const style = box.style;
  const size = style.pixels('font-size') ?? 16;
  const line = lineHeightOf(style) ?? size * NORMAL_LINE;
  const text = textOf(nodes).split('\n');
  const lines = text.map((part) => Math.ceil((part.trim().length * size * CHARACTER_WIDTH) / width));
  const count = lines.reduce((sum, own) => sum + own, 0);
  const picture = tallestPicture(nodes, box, width, room);
  return picture === 0 ? line * count : Math.max(picture, line) + line * Math.max(0, count - 1);
}

/** How high the tallest picture in lines is. */
function tallestPicture(nodes: readonly TreeNode[], box: BoxInState<Styled>, width: number, room: Room): number {
  const heights = nodes.map((node) => {
    const element = node.kind === 'element' ? room.lookup(node) : null;
    if (node.kind !== 'element' || element === null) return 0;
    const inner = box.of({ styles: room.styles(element) });
    if (inner.isHidden) return 0;
    if (node.tag !== 'img') return tallestPicture(node.children, inner, width, room);
    const picture = box.of<PictureBox>({ kind: 'picture', element, styles: room.styles(element) });
    return shownSize(picture, room.pictureSize(attribute(node, 'src') ?? ''), width)?.height ?? 0;
  });
  return Math.max(0, ...heights);
}

/** The text of nodes, with a line for each break and each item. */
function textOf(nodes: readonly TreeNode[]): string {
  return nodes
    .map((node) => {
      if (node.kind === 'comment') return '';
      if (node.kind === 'text')
        return splitAtSentinels(node.value.replace(/\s+/g, ' '))
          .map((part) => (typeof part === 'number' ? 'x'.repeat(8) : part))
          .join('');
      if (node.tag === 'br') return '\n';
      return /^(?:li|dt|dd|tr|p|div|h[1-6])$/.test(node.tag) ? `\n${textOf(node.children)}\n` : textOf(node.children);
    })
    .join('');
}
