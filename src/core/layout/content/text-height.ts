import { attribute, type TreeNode } from '../../html/tree.js';
import { splitAtSentinels } from '../../html/tags.js';
import type { BoxInState } from '../boxes/box-in-state.js';
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
 */
export function guessedHeight(box: BoxInState, room: Room, width: number): number {
  const { itself } = box;
  if (box.isHidden || itself.kind === 'comment') return 0;
  const edges = box.edge('top') + box.edge('bottom');
  const inner = Math.max(1, width - box.sideEdges);
  const of = (child: BoxInState, available: number): number =>
    guessedHeight(child, room, available) +
    Math.max(child.length('margin-top'), 0) +
    Math.max(child.length('margin-bottom'), 0);
  switch (itself.kind) {
    case 'picture':
      return (
        shownSize(box.of(itself), room.pictureSize(attribute(itself.element.node, 'src') ?? ''), width)?.height ?? 0
      );
    case 'text':
      return edges + linesHeight(itself.content, box, inner);
    case 'native':
      return edges + linesHeight(itself.element.node.children, box, inner);
    case 'flow':
      return edges + stackedHeight(box, room, inner);
    case 'row':
    case 'grid': {
      const isColumn = box.style.get('flex-direction').startsWith('column');
      const heights = box.children.map((child) => of(child, isColumn ? inner : inner / itself.children.length));
      return edges + (isColumn ? heights.reduce((sum, height) => sum + height, 0) : Math.max(0, ...heights));
    }
  }
}

/** Blocks below each other, with the larger of the margins that meet; those at the ends stand outside. */
function stackedHeight(box: BoxInState, room: Room, width: number): number {
  const shown = box.children.filter((child) => child.itself.kind !== 'comment' && !child.isHidden);
  return shown.reduce((sum, child, index) => {
    const before = shown[index - 1];
    const gap = before === undefined ? 0 : Math.max(before.length('margin-bottom'), child.length('margin-top'), 0);
    return sum + gap + guessedHeight(child, room, width);
  }, 0);
}

function linesHeight(nodes: readonly TreeNode[], box: BoxInState, width: number): number {
  const style = box.style;
  const size = style.pixels('font-size') ?? 16;
  const line = lineHeightOf(style) ?? size * NORMAL_LINE;
  const text = textOf(nodes).split('\n');
  const lines = text.map((part) => Math.ceil((part.trim().length * size * CHARACTER_WIDTH) / width));
  return (
    line *
    Math.max(
      0,
      lines.reduce((sum, count) => sum + count, 0),
    )
  );
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
